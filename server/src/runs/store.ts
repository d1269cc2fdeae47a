import type { ClockList, NewProcedureRun, ProcedureRun, RunNews } from "@uppershed/contract";
import { beginsFrom, type RunState, startRun, summarize } from "@uppershed/core/procedure";
import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import { notFound, Refused } from "../errors.ts";
import { withRules } from "../house/setup.ts";
import { mapAt } from "../register/maps.ts";
import { runs, units, visits } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { namesOf } from "../people/names.ts";
import { familyOf } from "../register/family.ts";
import { standingOf } from "../standing/standing.ts";
import { moveBy } from "../calendar/move.ts";
import { entriesOf, networkOf } from "../run-log/entries.ts";
import { wire } from "../register/run-lines.ts";

export const getRun = async (scope: Scope, id: string): Promise<ProcedureRun> => {
  const run = await scope.first(runs, eq(runs.id, id));
  if (!run) throw notFound("run");
  const [unit] = await scope.pick(
    units,
    { name: units.name, craft: units.craft, into: units.mergedInto },
    eq(units.id, run.unitId),
  );
  const { map } = await mapAt(scope, run.unitId, run.mapRevision);
  const { events, unread, clocks } = await entriesOf(scope, id);
  const starter = (await namesOf(scope, [run.personId])).get(run.personId) ?? "";
  return {
    id: run.id,
    unitId: unit?.into ?? run.unitId,
    unitName: run.unitName || (unit?.name ?? ""),
    unitNameNow: unit?.name ?? "",
    craft: run.craft || (unit?.craft ?? ""),
    visitId: run.visitId,
    mapRevision: run.mapRevision,
    map,
    setup: run.setup,
    begins: run.begins,
    startedAt: run.startedAt.toISOString(),
    startedBy: starter,
    closedAt: run.closedAt?.toISOString() ?? null,
    setAsideAt: run.setAsideAt?.toISOString() ?? null,
    summary: wire(run.summary),
    events: events as ProcedureRun["events"],
    unread: unread.map((u) => ({ ...u })),
    clocksAheadS: Object.fromEntries(clocks),
  };
};

/** What was added to a run since so many entries were known. */
export const runNews = async (scope: Scope, id: string, after: number): Promise<RunNews> => {
  const [run] = await scope.pick(runs, { id: runs.id }, eq(runs.id, id));
  if (!run) throw notFound("run");
  const { events, unread, count } = await entriesOf(scope, id, after);
  return {
    count: after + count,
    events: unread.length > 0 ? [] : (events as RunNews["events"]),
  };
};

const OPEN = and(isNull(runs.closedAt), isNull(runs.setAsideAt));

/** The clocks of every run that is open, the one that ends first before the others. */
export const openClocks = async (scope: Scope): Promise<ClockList["clocks"]> => {
  const rows = await scope.pick(
    runs,
    { id: runs.id, unitName: runs.unitName, summary: runs.summary },
    and(OPEN, sql`jsonb_array_length(coalesce(${runs.summary} -> 'clocks', '[]'::jsonb)) > 0`),
  );
  return rows
    .flatMap(({ id, unitName, summary }) =>
      summary.clocks.map((c) => ({ runId: id, unitName, label: c.label, endsAt: c.endsAt })),
    )
    .toSorted((a, b) => a.endsAt.localeCompare(b.endsAt));
};

/** Starts a run on a unit. The same run again is no error; a second open run on one unit is. */
export const beginRun = (
  scope: Scope,
  person: { readonly id: string; readonly name: string },
  wanted: NewProcedureRun,
  startedAt = new Date(),
): Promise<ProcedureRun> =>
  scope.together(async (tx) => {
    const same = await tx.first(runs, eq(runs.id, wanted.id));
    if (same) {
      if (same.unitId !== wanted.unitId)
        throw new Refused("conflict", "A run with this id belongs to another unit.");
      return getRun(tx, wanted.id);
    }
    const unit = await tx.first(units, eq(units.id, wanted.unitId));
    if (!unit) throw notFound("unit");
    if (unit.mergedInto)
      throw new Refused("conflict", "This unit was put together with another; work on that one.");
    const family = await familyOf(tx, unit.id);
    if (await tx.first(runs, and(inArray(runs.unitId, family), OPEN) ?? sql`false`))
      throw openAlready();
    if (wanted.visitId) {
      const visit = await tx.first(visits, eq(visits.id, wanted.visitId));
      if (!visit || visit.unitId !== wanted.unitId) throw notFound("visit of this unit");
      await moveBy(tx, visit.id, { to: "run-begun" }, startedAt);
    }
    const network = await networkOf(tx, wanted);
    const begins = beginsFrom((await standingOf(tx, unit.id)).standing);
    const setup = await withRules(tx, wanted.setup, unit.placeId, person.name);
    const state: RunState = startRun(network, setup, begins ?? undefined);
    const summary = summarize(state);
    await tx.addOnce(runs, {
      ...wanted,
      setup,
      begins,
      unitName: unit.name,
      craft: unit.craft,
      summary,
      personId: person.id,
      startedAt,
    });
    // Somebody else may have begun one in the same moment: the database takes only one.
    if (!(await tx.first(runs, eq(runs.id, wanted.id)))) throw openAlready();
    await tx.change(units, { holdsToC: summary.holdsToC }, eq(units.id, wanted.unitId));
    return getRun(tx, wanted.id);
  });

const openAlready = (): Refused =>
  new Refused("conflict", "A run is open on this unit already. Go on with that one, or close it.");
