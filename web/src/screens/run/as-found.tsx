import { inUseLineup, type Lineup } from "@uppershed/core/watermap";
import { useState } from "react";
import { useSnapshotsNow } from "../../sending/on-device.ts";
import type { LiveRun } from "../../run/use-run.ts";
import { Button } from "../../ui/button.tsx";
import { ageOf, dayOf, timeOf } from "../../ui/words.ts";
import { controlsOf, LineupForm } from "../../lineup/lineup-form.tsx";

/** How everything stood when the unit came: the first thing written down. */
export const AsFound = ({ live }: { live: LiveRun }) => {
  const { network, begins } = live.state;
  const snapshots = useSnapshotsNow(live.run.unitId, live.run.visitId ?? "", network);
  const found = snapshots.findLast((s) => s.kind === "as-found");
  const [typed, setTyped] = useState<Lineup>();
  const lineup = typed ?? { ...inUseLineup(network), ...begins?.lineup, ...found?.lineup };
  const [note, setNote] = useState("");
  const [problem, setProblem] = useState<string>();
  const begin = async (): Promise<void> =>
    setProblem(
      await live.add({
        type: "as-found",
        lineup: controlsOf(network, lineup),
        ...(note.trim() ? { note: note.trim() } : {}),
      }),
    );
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="min-h-0 flex-1 space-y-4 overflow-auto px-4 py-3">
        <div>
          <p className="text-[14px] text-muted">Before the first step</p>
          <h1 className="text-[25px] font-bold leading-tight">How was it found?</h1>
          <p className="mt-1 text-[15px] text-muted">
            Walk round once.{" "}
            {found
              ? `Shown is what this visit wrote down ${dayOf(found.at)} ${timeOf(found.at)}`
              : begins
                ? `Shown is how ${begins.from === "record" ? "its signed sheet" : "its last visit"} left it ${ageOf(begins.at)}`
                : "Shown is how the map expects it in use: nobody has written down how it was left"}
            ; change what stands otherwise. The plan starts from what you write here.
          </p>
        </div>
        <LineupForm
          network={network}
          lineup={lineup}
          against={{ lineup: inUseLineup(network), word: "not as in use" }}
          onChange={setTyped}
        />
        <label className="block text-[15px] font-semibold">
          Note
          <textarea
            maxLength={2000}
            className="field mt-1 min-h-20 w-full py-2 font-normal"
            value={note}
            onChange={(e) => setNote(e.target.value)}
          />
        </label>
      </div>
      <div className="border-t border-line px-4 py-3">
        {problem && (
          <p role="alert" className="mb-2 text-rust">
            {problem}
          </p>
        )}
        <Button look="act" big className="w-full" disabled={live.busy} onClick={() => void begin()}>
          Found so, begin
        </Button>
      </div>
    </div>
  );
};
