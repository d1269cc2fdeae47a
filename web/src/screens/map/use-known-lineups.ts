import type { Lineup } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { useSnapshotsNow } from "../../sending/on-device.ts";
import { useSendLater } from "../../sending/use-sender.ts";
import { uuid } from "../../device/uuid.ts";
import type { FoundHere } from "../../mapping/lineup-panel.tsx";
import type { KnownLineups } from "../../mapping/lineups.ts";
import { useBegins } from "../../planning/use-begins.ts";
import { useVisitHere } from "../../planning/use-visit-here.ts";
import { nowIso } from "../../ui/words.ts";

const NOTHING: Lineup = {};

/** How the unit was left last, and how the visit that it is here for found it; that is kept with the visit, and lasts. */
export const useKnownLineups = (
  unitId: string,
  revision: number,
): {
  readonly known: KnownLineups;
  readonly leftAt: string | undefined;
  readonly found: FoundHere;
  /** A control as it was found. */
  readonly tap: (key: string, position: string) => void;
} => {
  const [params] = useSearchParams();
  const begins = useBegins(unitId);
  const visit = useVisitHere(unitId, params.get("visit"));
  const snapshots = useSnapshotsNow(unitId, visit?.id ?? "", undefined);
  const kept = snapshots.findLast((s) => s.kind === "as-found");
  const sendLater = useSendLater();
  const [tapped, setTapped] = useState(NOTHING);
  const left = begins?.lineup;
  const known = useMemo<KnownLineups>(
    () => ({
      left,
      found: kept || tapped !== NOTHING ? { ...kept?.lineup, ...tapped } : undefined,
    }),
    [left, kept, tapped],
  );
  const keep = (): void => {
    if (!visit) return;
    const id = uuid();
    const at = nowIso();
    void sendLater({
      id,
      unitId,
      kind: "snapshot",
      url: `/visits/${visit.id}/snapshots`,
      body: {
        id,
        kind: "as-found",
        mapRevision: revision,
        lineup: { ...left, ...known.found },
        note: kept?.note ?? "",
        at,
      },
      what: `as found of ${visit.unitName}`,
      at,
    });
    setTapped(NOTHING);
  };
  return {
    known,
    leftAt: begins?.at,
    found: {
      at: kept?.at,
      by: kept?.by,
      tapped: Object.keys(tapped).length,
      keep: visit ? keep : "The unit is here for no visit: what is tapped is shown and not kept.",
    },
    tap: (key, position) => setTapped((now) => ({ ...now, [key]: position })),
  };
};
