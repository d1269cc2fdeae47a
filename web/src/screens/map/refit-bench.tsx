import { useParams } from "react-router";
import { useRefit, useRefitEntry } from "../../refitting/use-refit.ts";
import { useTitle } from "../../shell/slots.tsx";
import { useUnitQuery } from "../../store/api.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { Bench } from "./map-bench.tsx";

/** A proposal drawn on the map bench: begun from today's map with it in, kept with the refit, the unit's own map untouched. */
export const RefitBench = () => {
  const { unitId = "", refitId = "" } = useParams();
  const { data: unit } = useUnitQuery(unitId);
  const { here, error } = useRefit(unitId, refitId);
  const enter = useRefitEntry(unitId, refitId);
  useTitle(here ? `Proposal: ${here.onFile.name}` : "Proposal");
  if (!unit || !here) return <Waiting error={here ? undefined : error} />;
  const { revision, proposed, onFile } = here;
  return (
    <Bench
      // What was saved a moment ago is what lies on the bench: it is not laid there again.
      key={refitId}
      unit={unit}
      first={proposed}
      firstRevision={revision}
      proposal={{
        name: onFile.name,
        back: `/units/${unitId}/refits/${refitId}`,
        keep: (document, why) => enter({ type: "drawn", document, basedOn: revision, why }),
      }}
    />
  );
};
