import { useState } from "react";
import { Button } from "../../ui/button.tsx";
import { Sheet } from "../../ui/sheet.tsx";

/** Every save is a revision with who, when and why. */
export const SaveSheet = ({
  open,
  problem,
  busy,
  onSave,
  onClose,
}: {
  open: boolean;
  problem: string | undefined;
  busy: boolean;
  onSave: (why: string) => void;
  onClose: () => void;
}) => {
  const [why, setWhy] = useState("");
  return (
    <Sheet open={open} onClose={onClose} title="Save the map">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onSave(why.trim());
        }}
      >
        <label className="block text-[15px] font-semibold">
          Why it changes
          <input
            // The sheet was opened to type here.
            // oxlint-disable-next-line jsx-a11y/no-autofocus
            autoFocus
            required
            maxLength={300}
            className="field mt-1 w-full"
            value={why}
            onChange={(e) => setWhy(e.target.value)}
          />
        </label>
        <p className="mt-2 text-[14px] text-muted">
          The map as it was stays as a revision of its own; runs done on it keep it.
        </p>
        {problem && (
          <p role="alert" className="mt-2 text-rust">
            {problem}
          </p>
        )}
        <div className="mt-4 flex gap-2">
          <Button type="submit" look="act" big disabled={busy || why.trim() === ""}>
            Save as the next revision
          </Button>
          <Button big onClick={onClose}>
            Back
          </Button>
        </div>
      </form>
    </Sheet>
  );
};
