import type { Unit } from "@uppershed/contract";
import { useState } from "react";
import { useParams } from "react-router";
import { type RefitHere, useRefit, useRefitEntry } from "../../refitting/use-refit.ts";
import { useTitle } from "../../shell/slots.tsx";
import { useUnitQuery } from "../../store/api.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { Bench } from "./map-bench.tsx";

const Laid = ({ unit, refitId, here }: { unit: Unit; refitId: string; here: RefitHere }) => {
  const enter = useRefitEntry(unit.id, refitId);
  // What lies on the bench was begun from the unit's map as it was then; what is corrected there meanwhile comes on top, and is not undone.
  const [begun] = useState({ map: here.proposed, revision: here.revision });
  return (
    <Bench
      unit={unit}
      first={begun.map}
      firstRevision={begun.revision}
      proposal={{
        name: here.onFile.name,
        back: `/units/${unit.id}/refits/${refitId}`,
        keep: (document, why) => enter({ type: "drawn", document, basedOn: begun.revision, why }),
      }}
    />
  );
};

/** A proposal drawn on the map bench: begun from today's map with it in, kept with the refit, the unit's own map untouched. */
export const RefitBench = () => {
  const { unitId = "", refitId = "" } = useParams();
  const { data: unit } = useUnitQuery(unitId);
  const { here, error } = useRefit(unitId, refitId);
  useTitle(here ? `Proposal: ${here.onFile.name}` : "Proposal");
  if (!unit || !here) return <Waiting error={here ? undefined : error} />;
  return <Laid key={refitId} unit={unit} refitId={refitId} here={here} />;
};
