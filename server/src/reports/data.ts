import type { ReportData } from "@uppershed/contract";
import { eq } from "drizzle-orm";
import type { Db } from "../db.ts";
import { findingsOfUnit } from "../findings/store.ts";
import { looksOfVisit } from "../looks/store.ts";
import { getMap } from "../maps/store.ts";
import { listPictures } from "../pictures/store.ts";
import { workshops } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { getUnit } from "../units/store.ts";
import { getVisit, listSnapshots } from "../visits/store.ts";

/** Everything a visit's report is made from. */
export const reportData = async (db: Db, scope: Scope, visitId: string, forOwner?: { expiresAt: Date }): Promise<ReportData> => {
  const visit = await getVisit(scope, visitId);
  const unit = await getUnit(scope, visit.unitId);
  const map = await getMap(scope, visit.unitId);
  const [workshop] = await db
    .select({ name: workshops.name, place: workshops.place, units: workshops.units })
    .from(workshops)
    .where(eq(workshops.id, scope.workshopId));
  const looks = await looksOfVisit(scope, visitId);
  const findings = await findingsOfUnit(scope, visit.unitId);
  const snapshots = await listSnapshots(scope, visitId);
  const shown = new Set([...looks.map((l) => l.id), ...findings.map((f) => f.id), ...snapshots.map((s) => s.id)]);
  return {
    workshop: workshop ?? { name: "", place: "", units: "metric" },
    unit: {
      name: unit.name,
      craft: unit.craft,
      mark: unit.mark,
      owner: unit.owner,
      holdsToC: unit.state.holdsToC,
      stateKind: unit.state.kind,
      stateAt: unit.state.at,
      weakestPart: unit.state.weakestPart,
    },
    visit: {
      id: visit.id,
      startsAt: visit.startsAt,
      arrivedAt: visit.arrivedAt,
      goneAt: visit.goneAt,
      asked: visit.asked,
      ownerSaid: visit.ownerSaid,
    },
    mapRevision: map.revision,
    map: map.document,
    looks,
    // What was said inside the house about a finding is not for its owner; what it came to is.
    findings: forOwner ? findings.map((f) => ({ ...f, entries: [] })) : findings,
    snapshots,
    pictures: (await listPictures(scope, visit.unitId)).filter((p) => shown.has(p.aboutId)),
    expiresAt: forOwner?.expiresAt.toISOString() ?? null,
  };
};
