import { Sheet } from "../ui/sheet.tsx";

const KEYS: readonly (readonly [string, string])[] = [
  ["/", "Find a unit"],
  ["?", "This list"],
  ["g b", "Go to the bench"],
  ["g u", "Go to the units"],
  ["g p", "Go to the parts register"],
  ["g f", "Go to the findings"],
  ["g c", "Go to the customers"],
  ["l", "Lamp or daylight"],
  ["n", "On a run sheet: done, next step"],
  ["a", "On a run sheet: tick the next row"],
  ["1 … 5", "On a walk-round: mark the point, go to the next"],
  ["j, k", "On a walk-round: next point, the one before"],
  ["n, f", "On a walk-round: note, finding"],
  ["a … z", "While a map is drawn: add a part by its first letters"],
  ["t", "While a map is drawn: tag valves one after another"],
  ["Shift arrows", "While a map is drawn: move the chosen part"],
  ["Del", "While a map is drawn: take out what is chosen"],
  ["Ctrl Z, Y", "While a map is drawn: undo, do again"],
  ["Ctrl Z", "While a map is tried: take the last step back"],
  ["Ctrl D", "While a map is drawn: duplicate"],
  ["Ctrl S", "On the map bench: save"],
];

/** Every key that does something, and where. */
export const KeysSheet = ({ open, onClose }: { open: boolean; onClose: () => void }) => (
  <Sheet open={open} onClose={onClose} title="Keys">
    <dl className="grid grid-cols-[8rem_1fr] gap-y-2">
      {KEYS.map(([key, does]) => (
        <div key={`${key} ${does}`} className="contents">
          <dt>
            <kbd className="rounded border border-line bg-raised px-2 py-0.5">{key}</kbd>
          </dt>
          <dd>{does}</dd>
        </div>
      ))}
    </dl>
  </Sheet>
);
