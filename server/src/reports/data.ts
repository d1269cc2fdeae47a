import type { ReportData } from "@uppershed/contract";
import { buildReport, keptReport } from "@uppershed/core/inspection";
import { jobOf, stateOf, tellRun } from "@uppershed/core/procedure";
import { handoverOf } from "@uppershed/core/survey";
import { buildNetwork } from "@uppershed/core/watermap";
import { and, eq, isNotNull, lte, sql } from "drizzle-orm";
import { testsOfVisit } from "../tests-of-pressure/store.ts";
import { findingsOfUnit } from "../findings/store.ts";
import { looksOfVisit } from "../looks/store.ts";
import { rulesInForce } from "../house/rules.ts";
import { mapAt, soundMap } from "../register/maps.ts";
import { listPictures } from "../pictures/store.ts";
import { entriesOf, networkOf, replayOf, type RunRow } from "../run-log/entries.ts";
import { runs, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { standingOf } from "../standing/standing.ts";
import { getUnit, IN_USE } from "../register/units.ts";
import { getVisit, listSnapshots } from "../calendar/read.ts";
import { houseOf } from "./house.ts";

/** How the unit stood, as the report says it. */
const stateThen = async (
  scope: Scope,
  unitId: string,
  asOf: Date | undefined,
): Promise<{ state: ReportData["unit"]["state"]; mapRevision: number }> => {
  const { standing, mapRevision } = await standingOf(scope, unitId, asOf);
  const unit = await getUnit(scope, unitId);
  // While a run is open the unit is in work; a report of a day before does not know that.
  if (asOf === undefined && unit.state.kind === "in-work")
    return { state: unit.state, mapRevision };
  const state = stateOf(standing);
  const kept = state.kind === "in-use" ? { ...IN_USE, at: state.at } : state;
  return {
    state: { ...kept, cannotTell: [...kept.cannotTell], since: [...kept.since] },
    mapRevision,
  };
};

/** Under which it stands who took the unit back though it does not hold the winter low. */
export const ACCEPTED_TITLE = "Accepted as it is";

const MOST_RUNS = 20;

/** The runs that were closed on a visit, as it was known at a moment, the last one first. */
const runsOf = (scope: Scope, visitId: string, asOf: Date | undefined): Promise<RunRow[]> =>
  scope.find(
    runs,
    and(
      eq(runs.visitId, visitId),
      isNotNull(runs.closedAt),
      asOf === undefined ? undefined : lte(runs.closedAt, asOf),
    ),
    { order: sql`${runs.closedAt} desc`, limit: MOST_RUNS },
  );

/** The last de-winterizing and the last sanitizing of a visit, in the order in which they were done. */
const waterWorkOf = async (
  scope: Scope,
  closed: readonly RunRow[],
): Promise<{ runIds: string[]; told: ReportData["waterWork"] }> => {
  const told: ReportData["waterWork"] = [];
  const runIds: string[] = [];
  for (const job of ["sanitize", "spring"] as const) {
    const run = closed.find((r) => r.setup.job === job);
    if (!run) continue;
    const replayed = replayOf(await networkOf(scope, run), run, await entriesOf(scope, run.id));
    const says = tellRun(replayed.whole ? replayed.state : replayed.stateWithout);
    if (!says) continue;
    told.unshift({ job, at: says.at, sections: [...says.sections] });
    runIds.push(run.id);
  }
  return { runIds, told };
};

/** The last winterizing that was closed on a visit. */
const winterizingOf = async (
  scope: Scope,
  visitId: string,
  closed: readonly RunRow[],
): Promise<{ runId: string; told: NonNullable<ReportData["winterizing"]> } | null> => {
  const run = closed.find((r) => jobOf(r.setup) === "winterize");
  if (!run) return null;
  const replayed = replayOf(await networkOf(scope, run), run, await entriesOf(scope, run.id));
  const told = tellRun(replayed.whole ? replayed.state : replayed.stateWithout);
  if (!told) return null;
  const { accepted } = await getVisit(scope, visitId);
  return {
    runId: run.id,
    told: {
      ...told,
      sections: [
        ...told.sections,
        ...(accepted
          ? [{ title: ACCEPTED_TITLE, lines: [`By ${accepted.who}: ${accepted.why}.`] }]
          : []),
      ],
    },
  };
};

/**
 * Everything a visit's report is made from, as it was known at a moment. A visit that has gone is reported as of its going: nothing that
 * was found or done afterwards stands on it.
 */
export const reportData = async (scope: Scope, visitId: string, at?: Date): Promise<ReportData> => {
  const visit = await getVisit(scope, visitId);
  const gone = visit.goneAt === null ? undefined : new Date(visit.goneAt);
  const asOf = at ?? gone;
  const unit = await getUnit(scope, visit.unitId);
  const { state, mapRevision } = await stateThen(scope, visit.unitId, asOf);
  const { map } = await mapAt(scope, visit.unitId, mapRevision);
  const looks = await looksOfVisit(scope, visitId);
  const findings = await findingsOfUnit(scope, visit.unitId, asOf);
  const snapshots = await listSnapshots(scope, visitId);
  const closed = await runsOf(scope, visitId, asOf);
  const done = await winterizingOf(scope, visitId, closed);
  const water = await waterWorkOf(scope, closed);
  const shown = new Set([
    ...looks.map((l) => l.id),
    ...findings.map((f) => f.id),
    ...snapshots.map((s) => s.id),
    ...(done ? [done.runId] : []),
    ...water.runIds,
  ]);
  const pictures = (await listPictures(scope, visit.unitId)).filter((p) => shown.has(p.aboutId));
  return {
    workshop: await houseOf(scope),
    unit: { name: unit.name, craft: unit.craft, plate: unit.plate, owner: unit.owner, state },
    visit: {
      id: visit.id,
      startsAt: visit.startsAt,
      arrivedAt: visit.arrivedAt,
      goneAt: visit.goneAt,
      asked: visit.asked,
      ownerSaid: visit.ownerSaid,
    },
    asOf: (asOf ?? new Date()).toISOString(),
    mapRevision,
    map,
    looks,
    findings,
    report: keptReport(buildReport(map, visit.id, looks, findings)),
    winterizing: done && done.told,
    waterWork: water.told,
    handover:
      water.told.length === 0
        ? []
        : handoverOf(buildNetwork(soundMap(map)), (await rulesInForce(scope)).values).map(
            ({ title, lines }) => ({ title, lines: [...lines] }),
          ),
    tests: await testsOfVisit(scope, visitId, asOf),
    snapshots,
    pictures: asOf === undefined ? pictures : pictures.filter((p) => p.at <= asOf.toISOString()),
    edition: null,
    expiresAt: null,
  };
};

/** Whose a unit is now. */
export const ownerOfUnit = async (scope: Scope, unitId: string): Promise<string> => {
  const [unit] = await scope.pick(units, { customerId: units.customerId }, eq(units.id, unitId));
  return unit?.customerId ?? "";
};
