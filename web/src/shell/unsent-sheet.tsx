import { usePending } from "../device/outbox.ts";
import { Button } from "../ui/button.tsx";
import { Sheet } from "../ui/sheet.tsx";

/** Asks before somebody signs out with work that the server does not have yet. */
export const UnsentSheet = ({
  unsent,
  onStay,
  onLeave,
}: {
  /** How many entries of theirs are not sent; the sheet is closed at none. */
  unsent: number;
  onStay: () => void;
  onLeave: () => void;
}) => {
  const onlyHere = usePending().filter((e) => e.unsaved || e.saving).length;
  return (
    <Sheet open={unsent > 0} onClose={onStay} title="Not everything is sent yet">
      <p>
        {unsent} {unsent === 1 ? "entry is" : "entries are"} kept on this device and not on the
        server yet. They stay here, and go out when whoever made them signs in again on this device.
      </p>
      {onlyHere > 0 && (
        <p role="alert" className="mt-2 border-l-4 border-rust bg-rust-soft p-2">
          {onlyHere} of them {onlyHere === 1 ? "stands" : "stand"} in this page only, because this
          device is full: signing out loses them.
        </p>
      )}
      <div className="mt-4 flex gap-2">
        <Button look="act" big onClick={onStay}>
          Stay
        </Button>
        <Button big onClick={onLeave}>
          Sign out all the same
        </Button>
      </div>
    </Sheet>
  );
};
