import type { TookElsewhere, Unit, UnitList, UnitRun, UnitSearch } from "@uppershed/contract";
import { HERE_STATES } from "@uppershed/core/inspection";
import { type UnitStateKept } from "@uppershed/core/procedure";
import { and, eq, inArray, isNotNull, isNull, type SQL, sql } from "drizzle-orm";
import { notFound } from "../errors.ts";
import { customers, findings, places, runs, units, visits } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { allIn, nearest } from "../search.ts";
import { namesOf } from "../people/names.ts";
import { wire } from "./run-lines.ts";
import { familyOf } from "./family.ts";

type UnitRow = typeof units.$inferSelect;
type RunRow = typeof runs.$inferSelect;

/** How a unit stands that nobody has worked on yet. */
export const IN_USE: UnitStateKept = {
  kind: "in-use",
  holdsToC: 0,
  weakestPart: null,
  cannotTell: [],
  at: null,
  runId: null,
  since: [],
};

const stateOf = (unit: UnitRow, open: RunRow | undefined): Unit["state"] => {
  if (open) {
    const { holdsToC, weakestPart, cannotTell } = wire(open.summary);
    return {
      kind: "in-work",
      holdsToC,
      weakestPart,
      cannotTell,
      at: open.startedAt.toISOString(),
      runId: open.id,
      since: [],
    };
  }
  return unit.state ?? IN_USE;
};

/** What stands on a unit's sheets: the condition that core's staysOnSheets says. */
export const ON_SHEETS: SQL = sql`(${findings.state} = 'open' or (${findings.severity} = 'unsafe' and ${findings.state} <> 'mended'))`;

const complete = async (scope: Scope, rows: readonly UnitRow[]): Promise<Unit[]> => {
  if (rows.length === 0) return [];
  const ids = rows.map((u) => u.id);
  const ownerIds = [...new Set(rows.map((u) => u.customerId))];
  const sisterIds = rows.flatMap((u) => u.siblingOf ?? []);
  // One after another: within a transaction there is but one connection.
  const doubles = await scope.pick(
    units,
    { id: units.id, into: units.mergedInto },
    inArray(units.mergedInto, ids),
  );
  const whose = await scope.pick(
    customers,
    { id: customers.id, name: customers.name, phone: customers.phone },
    inArray(customers.id, ownerIds),
  );
  const sisterRows =
    sisterIds.length > 0
      ? await scope.pick(units, { id: units.id, name: units.name }, inArray(units.id, sisterIds))
      : [];
  const into = new Map(doubles.map((d) => [d.id, d.into as string]));
  const familyIds = [...ids, ...into.keys()];
  const inWork = await scope.find(
    runs,
    and(inArray(runs.unitId, familyIds), isNull(runs.closedAt), isNull(runs.setAsideAt)),
    { order: sql`${runs.startedAt}` },
  );
  const open = await scope.pick(
    findings,
    { unitId: findings.unitId, severity: findings.severity },
    and(inArray(findings.unitId, familyIds), ON_SHEETS),
  );
  const placeIds = rows.flatMap((u) => u.placeId ?? []);
  const placeRows =
    placeIds.length > 0 ? await scope.find(places, inArray(places.id, placeIds)) : [];
  const placeOf = new Map(
    placeRows.map((p) => [p.id, { placeId: p.id, name: p.name, winterLowC: p.winterLowC }]),
  );
  const owners = new Map(whose.map((c) => [c.id, c]));
  const sisters = new Map(sisterRows.map((u) => [u.id, u.name]));
  const latest = new Map<string, RunRow>();
  for (const run of inWork) latest.set(into.get(run.unitId) ?? run.unitId, run);
  return rows.map((unit) => {
    const own = open.filter((f) => (into.get(f.unitId) ?? f.unitId) === unit.id);
    const owner = owners.get(unit.customerId);
    return {
      id: unit.id,
      name: unit.name,
      craft: unit.craft,
      customerId: unit.customerId,
      owner: owner?.name ?? "",
      phone: owner?.phone ?? "",
      plate: unit.plate,
      hull: unit.hull,
      berth: unit.berth,
      place: (unit.placeId && placeOf.get(unit.placeId)) || null,
      accessNote: unit.accessNote,
      mapRevision: unit.mapRevision,
      siblingOf:
        unit.siblingOf === null
          ? null
          : {
              unitId: unit.siblingOf,
              name: sisters.get(unit.siblingOf) ?? "",
              revision: unit.siblingRevision ?? 1,
            },
      state: stateOf(unit, latest.get(unit.id)),
      openFindings: own.length,
      unsafe: own.some((f) => f.severity === "unsafe"),
    };
  });
};

// A register is looked through by page; further than this nobody counts.
const COUNT_AT_MOST = 1000;

const onlyWhere = (only: UnitSearch["only"]): SQL | undefined => {
  const finding = (more: SQL): SQL =>
    sql`exists (select 1 from ${findings} where ${findings.workshopId} = ${units.workshopId} and ${findings.unitId} = ${units.id} and ${ON_SHEETS} and ${more})`;
  if (only === "findings") return finding(sql`true`);
  if (only === "unsafe") return finding(sql`${findings.severity} = 'unsafe'`);
  if (only === "here")
    return sql`exists (select 1 from ${visits} where ${visits.workshopId} = ${units.workshopId} and ${visits.unitId} = ${units.id} and ${inArray(visits.state, [...HERE_STATES])})`;
  return undefined;
};

/** The register, a page at a time. Doubles that were put together with another are found by their own words, as that other. */
export const findUnits = async (scope: Scope, search: UnitSearch): Promise<UnitList> => {
  const where = and(
    isNull(units.mergedInto),
    allIn(units.search, search.find),
    onlyWhere(search.only),
    search.customer ? eq(units.customerId, search.customer) : undefined,
  );
  const found = await scope.count(units, where, COUNT_AT_MOST);
  // What fits very many is not put in order by how near it is: the register's own order is at hand, and is looked through as it is.
  const order =
    search.sort === "cold"
      ? sql`${units.holdsToC} desc nulls last, ${units.name}, ${units.id}`
      : search.find && found < COUNT_AT_MOST
        ? sql`${nearest(units.name, search.find, [units.plate, units.hull])}, ${units.name}, ${units.id}`
        : sql`${units.name}, ${units.id}`;
  const rows = await scope.find(units, where, {
    order,
    limit: Number(search.limit ?? 50),
    skip: Number(search.skip ?? 0),
  });
  return { units: await complete(scope, rows), found, atLeast: found >= COUNT_AT_MOST };
};

export const getUnit = async (scope: Scope, id: string): Promise<Unit> => {
  const [unit] = await complete(scope, await scope.find(units, eq(units.id, id)));
  if (!unit) throw notFound("unit");
  return unit;
};

export const listUnitRuns = async (scope: Scope, unitId: string): Promise<UnitRun[]> => {
  const rows = await scope.find(runs, inArray(runs.unitId, await familyOf(scope, unitId)), {
    order: sql`${runs.startedAt} desc, ${runs.id}`,
    limit: 500,
  });
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
    method: run.setup.method,
    summary: wire(run.summary),
  }));
};

// The last so many say how this workshop works now.
const MOST_OTHERS = 200;

/** What the workshop's other units took of antifreeze where it was measured, the last of them first. */
export const tookElsewhere = async (
  scope: Scope,
  unitId: string,
): Promise<TookElsewhere["others"]> => {
  const unit = await getUnit(scope, unitId);
  const mine = new Set(await familyOf(scope, unitId));
  const rows = await scope.find(
    runs,
    and(
      isNotNull(runs.closedAt),
      isNull(runs.setAsideAt),
      sql`(${runs.summary} ->> 'measuredUseM3') is not null`,
    ),
    { order: sql`${runs.startedAt} desc, ${runs.id}`, limit: MOST_OTHERS },
  );
  return rows.flatMap(({ unitId: of, craft, setup, summary }) => {
    const usedM3 = summary.measuredUseM3 ?? 0;
    const workedM3 = wire(summary).workedOutM3 ?? 0;
    return mine.has(of) || usedM3 <= 0 || workedM3 <= 0
      ? []
      : [
          {
            method: setup.method,
            sameKind: craft === unit.craft,
            workedM3,
            usedM3,
          },
        ];
  });
};
