import type { Snapshot, Visit } from "@uppershed/contract";
import { HERE_STATES } from "@uppershed/core/inspection";
import { fallsShort } from "@uppershed/core/procedure";
import { and, eq, gte, inArray, lt, or, type SQL, sql } from "drizzle-orm";
import { notFound } from "../errors.ts";
import { namesOf } from "../people/names.ts";
import { wire } from "../register/run-lines.ts";
import { findings, runs, snapshots, units, visits } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { familyOf } from "../register/family.ts";

type VisitRow = typeof visits.$inferSelect;

const complete = async (scope: Scope, rows: readonly VisitRow[]): Promise<Visit[]> => {
  if (rows.length === 0) return [];
  const unitIds = [...new Set(rows.map((v) => v.unitId))];
  const found = await scope.pick(
    units,
    { id: units.id, name: units.name, craft: units.craft },
    inArray(units.id, unitIds),
  );
  const done = await scope.find(
    runs,
    inArray(
      runs.visitId,
      rows.map((v) => v.id),
    ),
    { order: sql`${runs.startedAt}` },
  );
  const unsafe = await scope.pick(
    findings,
    { unitId: findings.unitId },
    and(
      inArray(findings.unitId, unitIds),
      eq(findings.severity, "unsafe"),
      sql`${findings.state} <> 'mended'`,
    ),
  );
  return rows.map((visit) => {
    const unit = found.find((u) => u.id === visit.unitId);
    const run = done.findLast((r) => r.visitId === visit.id);
    return {
      id: visit.id,
      unitId: visit.unitId,
      unitName: unit?.name ?? "",
      craft: unit?.craft ?? "",
      startsAt: visit.startsAt.toISOString(),
      minutes: visit.minutes,
      bay: visit.bay,
      asked: visit.asked,
      ownerSaid: visit.ownerSaid,
      jobs: visit.jobs,
      state: visit.state,
      waitingFor: visit.waitingFor,
      waitingUntil: visit.waitingUntil?.toISOString() ?? null,
      arrivedAt: visit.arrivedAt?.toISOString() ?? null,
      goneAt: visit.goneAt?.toISOString() ?? null,
      short:
        run && !run.setAsideAt && fallsShort(wire(run.summary), run.setup.winterLowC)
          ? { holdsToC: run.summary.holdsToC, winterLowC: run.setup.winterLowC }
          : null,
      accepted:
        visit.acceptedWho === "" ? null : { who: visit.acceptedWho, why: visit.acceptedWhy },
      unsafe: unsafe.filter((f) => f.unitId === visit.unitId).length,
      run: run ? { id: run.id, summary: wire(run.summary) } : null,
    };
  });
};

const MOST = 1000;

/** Visits between two moments, in working order; with "here", also those begun before that have not gone yet. */
export const listVisits = async (
  scope: Scope,
  asked: { from: Date; to: Date; unit?: string | undefined; here: boolean },
): Promise<Visit[]> => {
  const between = and(gte(visits.startsAt, asked.from), lt(visits.startsAt, asked.to));
  const unit: SQL | undefined = asked.unit
    ? inArray(visits.unitId, await familyOf(scope, asked.unit))
    : undefined;
  const states = sql.join(
    HERE_STATES.map((s) => sql.raw(`'${s}'`)),
    sql`, `,
  );
  const when = asked.here
    ? or(between, and(lt(visits.startsAt, asked.from), sql`${visits.state} in (${states})`))
    : between;
  return complete(
    scope,
    await scope.find(visits, and(when, unit), {
      order: sql`${visits.startsAt}, ${visits.id}`,
      limit: MOST,
    }),
  );
};

export const getVisit = async (scope: Scope, id: string): Promise<Visit> => {
  const [visit] = await complete(scope, await scope.find(visits, eq(visits.id, id)));
  if (!visit) throw notFound("visit");
  return visit;
};

/** A visit named in something that is kept: it must be one of that unit. */
export const visitOfUnit = async (
  scope: Scope,
  visitId: string | null | undefined,
  unitId: string,
): Promise<void> => {
  if (visitId === null || visitId === undefined) return;
  const [visit] = await scope.pick(visits, { unitId: visits.unitId }, eq(visits.id, visitId));
  if (!visit || visit.unitId !== unitId) throw notFound("visit of this unit");
};

const MOST_SNAPSHOTS = 100;

/** How a unit stood on its visits, the newest first. */
export const snapshotsOfUnit = async (scope: Scope, unitId: string): Promise<Snapshot[]> =>
  told(
    scope,
    await scope.find(snapshots, inArray(snapshots.unitId, await familyOf(scope, unitId)), {
      order: sql`${snapshots.at} desc`,
      limit: MOST_SNAPSHOTS,
    }),
  );

export const listSnapshots = async (scope: Scope, visitId: string): Promise<Snapshot[]> => {
  await getVisit(scope, visitId);
  return told(
    scope,
    await scope.find(snapshots, eq(snapshots.visitId, visitId), { order: sql`${snapshots.at}` }),
  );
};

const told = async (
  scope: Scope,
  rows: readonly (typeof snapshots.$inferSelect)[],
): Promise<Snapshot[]> => {
  const names = await namesOf(
    scope,
    rows.map((s) => s.personId),
  );
  return rows.map(({ id, kind, mapRevision, lineup, turns, note, at, personId }) => ({
    id,
    kind,
    mapRevision,
    lineup: { ...lineup },
    turns,
    note,
    at: at.toISOString(),
    by: names.get(personId) ?? "",
  }));
};
