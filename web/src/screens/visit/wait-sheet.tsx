import type { Visit } from "@uppershed/contract";
import { type VisitWait, WAIT_LABELS, WAITS } from "@uppershed/core/inspection";
import { addMinutes } from "date-fns";
import { useState } from "react";
import { useChangeVisitMutation } from "../../store/api.ts";
import { SheetForm } from "../../ui/sheet-form.tsx";
import { Sheet } from "../../ui/sheet.tsx";

/** What the unit waits for, and how long where that is known. */
export const WaitSheet = ({ visit, onClose }: { visit: Visit; onClose: () => void }) => {
  const [change] = useChangeVisitMutation();
  const [what, setWhat] = useState<VisitWait>("soaking");
  const [minutes, setMinutes] = useState("");
  const go = (): string | undefined => {
    const time = minutes.trim() === "" ? undefined : Number(minutes);
    if (time !== undefined && !(time > 0 && time < 100_000))
      return "Minutes until it is to be looked at, or nothing.";
    const waitingUntil = time === undefined ? null : addMinutes(new Date(), time).toISOString();
    void change({ id: visit.id, change: { state: "waiting", waitingFor: what, waitingUntil } });
    return undefined;
  };
  return (
    <Sheet open onClose={onClose} title="What does it wait for?">
      <SheetForm act="It waits" onAct={go} onClose={onClose}>
        <fieldset className="flex flex-wrap gap-x-5">
          <legend className="sr-only">What it waits for</legend>
          {WAITS.map((w) => (
            <label key={w} className="flex min-h-11 items-center gap-2">
              <input
                type="radio"
                name="wait"
                className="size-5 accent-[var(--green)]"
                checked={what === w}
                onChange={() => setWhat(w)}
              />
              {WAIT_LABELS[w]}
            </label>
          ))}
        </fieldset>
        <label className="mt-2 block text-[15px] font-semibold">
          Minutes, where they are known
          <input
            className="field mt-1 w-28 font-normal"
            inputMode="numeric"
            value={minutes}
            onChange={(e) => setMinutes(e.target.value)}
          />
        </label>
      </SheetForm>
    </Sheet>
  );
};
