import type { ReactNode } from "react";
import type { FieldValues, UseFormReturn } from "react-hook-form";
import { Button } from "./button.tsx";

/** A small form on a sheet: does its one act, or says why not; closes when it is done. */
export const SheetForm = <V extends FieldValues, T extends FieldValues = V>({
  form,
  act,
  look = "act",
  able = true,
  stays = false,
  onAct,
  onClose,
  children,
}: {
  form: UseFormReturn<V, unknown, T>;
  act: string;
  look?: "act" | "rust";
  /** Whether it can be done as things stand. */
  able?: boolean;
  /** Something follows on the same sheet: it is not closed when this is done. */
  stays?: boolean;
  /** Does it; returns why it cannot be, or nothing. */
  onAct: (values: T) => string | undefined | Promise<string | undefined>;
  onClose: () => void;
  children: ReactNode;
}) => {
  const { errors, isSubmitting } = form.formState;
  const go = form.handleSubmit(async (values) => {
    const no = await onAct(values);
    if (no) form.setError("root", { message: no });
    else if (!stays) onClose();
  });
  return (
    <form onSubmit={(event) => void go(event)} noValidate>
      {children}
      {errors.root && (
        <p role="alert" className="mt-2 text-rust">
          {errors.root.message}
        </p>
      )}
      <div className="mt-4 flex gap-2">
        <Button type="submit" look={look} big disabled={isSubmitting || !able}>
          {act}
        </Button>
        <Button big onClick={onClose}>
          Back
        </Button>
      </div>
    </form>
  );
};
