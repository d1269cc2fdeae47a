import type { Unit, UnitRun } from "@uppershed/contract";
import { desc, eq, inArray, sql } from "drizzle-orm";
import { notFound } from "../errors.ts";
import { customers, people, runs, units } from "../schema.ts";
import type { Scope } from "../scope.ts";

type UnitRow = typeof units.$inferSelect;
type RunRow = typeof runs.$inferSelect;

/** The names of people, by id. */
export const namesOf = async (scope: Scope, ids: readonly string[]): Promise<Map<string, string>> => {
  const found = ids.length > 0 ? await scope.find(people, inArray(people.id, [...new Set(ids)])) : [];
  return new Map(found.map((p) => [p.id, p.name]));
};

const stateOf = (unit: UnitRow, run: RunRow | undefined): Unit["state"] => {
  const inUse = {
    kind: "in use" as const,
    holdsToC: 0,
    weakestPart: null,
    cannotTell: [],
    at: unit.inUseSince?.toISOString() ?? null,
    runId: null,
  };
  if (!run) return inUse;
  const { holdsToC, weakestPart } = run.summary;
  // Records from before this was told do not have it.
  const cannotTell = [...((run.summary.cannotTell as readonly string[] | undefined) ?? [])];
  if (!run.closedAt) return { kind: "in work", holdsToC, weakestPart, cannotTell, at: run.startedAt.toISOString(), runId: run.id };
  if (unit.inUseSince && unit.inUseSince > run.closedAt) return inUse;
  return { kind: "as left", holdsToC, weakestPart, cannotTell, at: run.closedAt.toISOString(), runId: run.id };
};

/** Units with owner and state; all, or those named. */
export const listUnits = async (scope: Scope, ids?: readonly string[]): Promise<Unit[]> => {
  const rows = await scope.find(units, ids ? inArray(units.id, [...ids]) : undefined, { order: sql`${units.name}` });
  if (rows.length === 0) return [];
  const owners = new Map((await scope.find(customers)).map((c) => [c.id, c]));
  const latest = new Map<string, RunRow>();
  for (const run of await scope.find(
    runs,
    inArray(
      runs.unitId,
      rows.map((u) => u.id),
    ),
    { order: sql`${runs.startedAt}` },
  ))
    latest.set(run.unitId, run);
  const sisterIds = rows.flatMap((u) => u.siblingOf ?? []);
  const sisters = new Map((sisterIds.length > 0 ? await scope.find(units, inArray(units.id, sisterIds)) : []).map((u) => [u.id, u.name]));
  return rows.map((unit) => ({
    id: unit.id,
    name: unit.name,
    craft: unit.craft,
    owner: owners.get(unit.customerId)?.name ?? "",
    phone: owners.get(unit.customerId)?.phone ?? "",
    mark: unit.mark,
    berth: unit.berth,
    mapRevision: unit.mapRevision,
    siblingOf:
      unit.siblingOf === null
        ? null
        : { unitId: unit.siblingOf, name: sisters.get(unit.siblingOf) ?? "", revision: unit.siblingRevision ?? 1 },
    state: stateOf(unit, latest.get(unit.id)),
  }));
};

export const getUnit = async (scope: Scope, id: string): Promise<Unit> => {
  const [unit] = await listUnits(scope, [id]);
  if (!unit) throw notFound("unit");
  return unit;
};

export const listUnitRuns = async (scope: Scope, unitId: string): Promise<UnitRun[]> => {
  await getUnit(scope, unitId);
  const rows = await scope.find(runs, eq(runs.unitId, unitId), { order: desc(runs.startedAt) });
  const names = await namesOf(
    scope,
    rows.map((r) => r.personId),
  );
  return rows.map((run) => ({
    id: run.id,
    startedAt: run.startedAt.toISOString(),
    closedAt: run.closedAt?.toISOString() ?? null,
    startedBy: names.get(run.personId) ?? "",
    mapRevision: run.mapRevision,
    summary: { ...run.summary, cannotTell: [...(run.summary.cannotTell ?? [])], clocks: [...run.summary.clocks] },
  }));
};
