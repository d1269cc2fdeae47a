import { useForm, useWatch } from "react-hook-form";
import { Field } from "../../ui/field.tsx";
import { SheetForm } from "../../ui/sheet-form.tsx";
import { Sheet } from "../../ui/sheet.tsx";

/** Every save is a revision with who, when and why. */
export const SaveSheet = ({
  open,
  proposal,
  onSave,
  onClose,
}: {
  open: boolean;
  /** It is a proposal that is saved: the unit's own map stays as it is. */
  proposal: boolean;
  /** Saves it; returns why it cannot be, or nothing. */
  onSave: (why: string) => Promise<string | undefined>;
  onClose: () => void;
}) => {
  const form = useForm({ defaultValues: { why: "" } });
  const why = useWatch({ control: form.control, name: "why" }).trim();
  return (
    <Sheet open={open} onClose={onClose} title={proposal ? "Save the proposal" : "Save the map"}>
      <SheetForm
        form={form}
        act={proposal ? "Save it with the proposal" : "Save as the next revision"}
        able={why !== ""}
        onAct={() => onSave(why)}
        onClose={onClose}
      >
        <Field
          label="Why it changes"
          // The sheet was opened to type here.
          // oxlint-disable-next-line jsx-a11y/no-autofocus
          autoFocus
          required
          maxLength={300}
          {...form.register("why")}
        />
        <p className="mt-2 text-[14px] text-muted">
          {proposal
            ? "The unit's own map does not change before something of it is installed."
            : "The map as it was stays as a revision of its own; runs done on it keep it."}
        </p>
      </SheetForm>
    </Sheet>
  );
};
