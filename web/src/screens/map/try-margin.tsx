import { KeepSheet } from "../../trying/keep-sheet.tsx";
import { TryPanel } from "../../trying/try-panel.tsx";
import { useMeQuery } from "../../store/api.ts";
import { useState } from "react";
import type { Desk } from "./desk.ts";
import type { Trying } from "./use-try.ts";

// Where nobody has said what winter comes to, common practice, no source.
const WINTER_LOW_C = -18;

/** Beside the drawing: what is tried, and the sheet that keeps it as a note. */
export const TryMargin = ({ desk, trying }: { desk: Desk; trying: Trying }) => {
  const { data: me } = useMeQuery();
  const [keeping, setKeeping] = useState(false);
  const { sandbox, verdict } = trying;
  if (!verdict) return null;
  const { start, lineup, done } = sandbox.state;
  return (
    <>
      <TryPanel
        network={desk.network}
        sandbox={sandbox}
        verdict={verdict}
        winterLowC={me?.workshop.winterLowC ?? WINTER_LOW_C}
        standing={trying.standing}
        onBegin={trying.begin}
        onKeep={() => setKeeping(true)}
        notKept={desk.changed ? "Save the map first: a note goes with a revision." : undefined}
        recorded={trying.recorded}
        onChoose={desk.select}
        tab={trying.tab}
        onTab={trying.setTab}
      />
      {keeping && (
        <KeepSheet
          unitId={desk.unitId}
          tried={{
            mapRevision: desk.revision,
            start,
            lineup,
            actions: done.map((d) => d.action),
          }}
          onKept={() => {
            setKeeping(false);
            desk.say("Kept as a note on the unit.");
          }}
          onClose={() => setKeeping(false)}
        />
      )}
    </>
  );
};
