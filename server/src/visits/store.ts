import { HERE_STATES, type NewSnapshot, type NewVisit, type Snapshot, type Visit, type VisitChange } from "@uppershed/contract";
import { readWaterMap } from "@uppershed/core";
import { and, eq, gte, inArray, lt, or, type SQL, sql } from "drizzle-orm";
import { randomUUID } from "node:crypto";
import { notFound, Refused } from "../errors.ts";
import { findings, mapRevisions, runs, snapshots, units, visits } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { familyOf, namesOf } from "../units/store.ts";

type VisitRow = typeof visits.$inferSelect;

const complete = async (scope: Scope, rows: readonly VisitRow[]): Promise<Visit[]> => {
  if (rows.length === 0) return [];
  const unitIds = [...new Set(rows.map((v) => v.unitId))];
  const found = await scope.pick(units, { id: units.id, name: units.name, craft: units.craft }, inArray(units.id, unitIds));
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
    and(inArray(findings.unitId, unitIds), eq(findings.severity, "unsafe"), sql`${findings.state} <> 'mended'`),
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
      unsafe: unsafe.filter((f) => f.unitId === visit.unitId).length,
      run: run ? { id: run.id, summary: { ...run.summary, clocks: [...run.summary.clocks] } } : null,
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
  const unit: SQL | undefined = asked.unit ? inArray(visits.unitId, await familyOf(scope, asked.unit)) : undefined;
  const states = sql.join(
    HERE_STATES.map((s) => sql.raw(`'${s}'`)),
    sql`, `,
  );
  const when = asked.here ? or(between, and(lt(visits.startsAt, asked.from), sql`${visits.state} in (${states})`)) : between;
  return complete(scope, await scope.find(visits, and(when, unit), { order: sql`${visits.startsAt}`, limit: MOST }));
};

export const getVisit = async (scope: Scope, id: string): Promise<Visit> => {
  const [visit] = await complete(scope, await scope.find(visits, eq(visits.id, id)));
  if (!visit) throw notFound("visit");
  return visit;
};

/** A visit named in something that is kept: it must be one of that unit. */
export const visitOfUnit = async (scope: Scope, visitId: string | null | undefined, unitId: string): Promise<void> => {
  if (visitId === null || visitId === undefined) return;
  const [visit] = await scope.pick(visits, { unitId: visits.unitId }, eq(visits.id, visitId));
  if (!visit || visit.unitId !== unitId) throw notFound("visit of this unit");
};

export const bookVisit = async (scope: Scope, asked: NewVisit): Promise<Visit> => {
  if (!(await scope.first(units, eq(units.id, asked.unitId)))) throw notFound("unit");
  const id = randomUUID();
  await scope.add(visits, { ...asked, id, startsAt: new Date(asked.startsAt), state: "booked" });
  return getVisit(scope, id);
};

export const changeVisit = async (scope: Scope, id: string, change: VisitChange, now: Date): Promise<Visit> => {
  const before = await getVisit(scope, id);
  const { startsAt, waitingFor, waitingUntil, state, ...rest } = change;
  if (state === "waiting" && waitingFor === undefined)
    throw new Refused("bad-request", "Say what it waits for: soaking, holding, draining, parts or the owner.");
  await scope.change(
    visits,
    {
      ...rest,
      ...(startsAt ? { startsAt: new Date(startsAt) } : {}),
      ...(state
        ? {
            state,
            waitingFor: state === "waiting" ? (waitingFor ?? "") : "",
            waitingUntil: state === "waiting" && waitingUntil ? new Date(waitingUntil) : null,
            ...(state !== "booked" && before.arrivedAt === null ? { arrivedAt: now } : {}),
            goneAt: state === "gone" ? now : null,
          }
        : {}),
    },
    eq(visits.id, id),
  );
  return getVisit(scope, id);
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
  return told(scope, await scope.find(snapshots, eq(snapshots.visitId, visitId), { order: sql`${snapshots.at}` }));
};

const told = async (scope: Scope, rows: readonly (typeof snapshots.$inferSelect)[]): Promise<Snapshot[]> => {
  const names = await namesOf(
    scope,
    rows.map((s) => s.personId),
  );
  return rows.map(({ id, kind, mapRevision, lineup, note, at, personId }) => ({
    id,
    kind,
    mapRevision,
    lineup: { ...lineup },
    note,
    at: at.toISOString(),
    by: names.get(personId) ?? "",
  }));
};

/** Keeps how everything stood; what is sent twice is kept once. A position that the map does not know is refused. */
export const addSnapshot = (scope: Scope, personId: string, visitId: string, sent: NewSnapshot): Promise<Snapshot[]> =>
  scope.together(async (tx) => {
    const visit = await getVisit(tx, visitId);
    const known = await tx.first(snapshots, eq(snapshots.id, sent.id));
    if (known && known.visitId !== visitId) throw new Refused("conflict", "That id belongs to another visit. Nothing was kept.");
    if (!known) {
      const revision = await tx.first(
        mapRevisions,
        and(eq(mapRevisions.unitId, visit.unitId), eq(mapRevisions.revision, sent.mapRevision)) ?? sql`false`,
      );
      const read = revision && readWaterMap(revision.document);
      if (!read?.ok) throw notFound("map revision");
      const partIds = new Set(read.map.parts.map((p) => p.id));
      const astray = Object.keys(sent.lineup).find((key) => !partIds.has(key.split(":")[0] ?? ""));
      if (astray !== undefined)
        throw new Refused("impossible", `The map has no "${astray}". Nothing was kept.`, [
          { where: `lineup.${astray}`, problem: "is not on the map" },
        ]);
      await tx.add(snapshots, { ...sent, at: new Date(sent.at), visitId, unitId: visit.unitId, personId });
    }
    return listSnapshots(tx, visitId);
  });
