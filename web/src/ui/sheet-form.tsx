import { type ReactNode, useState } from "react";
import { Button } from "./button.tsx";

/** A small form on a sheet: does its one act, or says why not; closes when it is done. */
export const SheetForm = ({
  act,
  look = "act",
  onAct,
  onClose,
  children,
}: {
  act: string;
  look?: "act" | "rust";
  /** Does it; returns why it cannot be, or nothing. */
  onAct: () => string | undefined | Promise<string | undefined>;
  onClose: () => void;
  children: ReactNode;
}) => {
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const go = async (): Promise<void> => {
    setBusy(true);
    const no = await onAct();
    setBusy(false);
    setProblem(no);
    if (!no) onClose();
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void go();
      }}
    >
      {children}
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
      <div className="mt-4 flex gap-2">
        <Button type="submit" look={look} big disabled={busy}>
          {act}
        </Button>
        <Button big onClick={onClose}>
          Back
        </Button>
      </div>
    </form>
  );
};
