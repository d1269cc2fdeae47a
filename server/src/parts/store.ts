import type { ChangeLife, PartSearch, RegisteredPart } from "@uppershed/contract";
import { dueOn } from "@uppershed/core/formats";
import { and, asc, eq, inArray, isNotNull, lte, or, type SQL, sql } from "drizzle-orm";
import { notFound } from "../errors.ts";
import { parts, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { refreshSearch } from "../register/search.ts";
import { literal } from "../search.ts";
import { noteSwaps } from "./swaps.ts";
import { lifeOf, partAt, type PartRow, swapOf } from "./register.ts";

const MOST = 500;

// So many units are named one by one; where a word fits more of them, they are looked for with each part: slower, and none is left out.
const MOST_UNITS = 2000;

/** That a word occurs in what is kept of a part, or in its unit's name. */
const has = async (scope: Scope, word: string): Promise<SQL | undefined> => {
  const like = `%${literal(word.toLowerCase())}%`;
  const isNamed = sql`lower(${units.name}) like ${like}`;
  // Looked for first by themselves, so that the parts' own words can be found by their index.
  const named = await scope.pick(units, { id: units.id }, isNamed, { limit: MOST_UNITS + 1 });
  const ids = named.map((u) => u.id);
  const ofUnit =
    ids.length > MOST_UNITS
      ? sql`exists (select 1 from ${units} where ${units.workshopId} = ${parts.workshopId} and ${units.id} = ${parts.unitId} and ${isNamed})`
      : ids.length > 0
        ? inArray(parts.unitId, ids)
        : undefined;
  return or(sql`${parts.search} like ${like}`, ofUnit);
};

/** Finds parts across the workshop's units. */
export const findParts = async (
  scope: Scope,
  search: PartSearch,
): Promise<{ parts: RegisteredPart[]; more: boolean }> => {
  const words = (search.text ?? "").split(/\s+/u).filter(Boolean);
  const conditions: (SQL | undefined)[] = [];
  for (const word of words) conditions.push(await has(scope, word));
  if (search.unit) conditions.push(eq(parts.unitId, search.unit));
  if (search.kind) conditions.push(eq(parts.kind, search.kind));
  if (search.condition) conditions.push(eq(parts.condition, search.condition));
  if (search.gone !== "yes") conditions.push(eq(parts.onMap, true));
  if (search.fittedMonthsAgo !== undefined)
    conditions.push(
      isNotNull(parts.fittedOn),
      lte(
        parts.fittedOn,
        sql`(current_date - make_interval(months => ${Number(search.fittedMonthsAgo)}))::date`,
      ),
    );
  if (search.dueBy)
    conditions.push(
      isNotNull(parts.fittedOn),
      isNotNull(parts.expectedLifeMonths),
      sql`(${parts.fittedOn} + make_interval(months => ${parts.expectedLifeMonths}))::date <= ${search.dueBy}::date`,
    );
  const rows = await scope.find(parts, and(...conditions), {
    order: sql`${parts.fittedOn} asc nulls last, ${asc(parts.name)}, ${asc(parts.partId)}, ${asc(parts.item)}`,
    limit: MOST + 1,
  });
  const unitIds = [...new Set(rows.map((row) => row.unitId))];
  const named =
    unitIds.length > 0
      ? await scope.pick(units, { id: units.id, name: units.name }, inArray(units.id, unitIds))
      : [];
  const names = new Map(named.map((u) => [u.id, u.name]));
  return {
    parts: rows.slice(0, MOST).map((row) => registered(row, names.get(row.unitId) ?? "")),
    more: rows.length > MOST,
  };
};

const registered = (row: PartRow, unitName: string): RegisteredPart => {
  const life = lifeOf(row);
  const { unitId, partId, item, kind, name, tag, place, onMap } = row;
  return {
    unitId,
    unitName,
    partId,
    item,
    kind,
    name,
    tag,
    place,
    onMap,
    life,
    dueOn: dueOn(life),
  };
};

/** Changes what the register keeps of one part; a part that was swapped was opened, and the unit's state knows it. */
export const changeLife = (
  scope: Scope,
  personId: string,
  unitId: string,
  partId: string,
  item: string,
  change: ChangeLife,
): Promise<RegisteredPart> =>
  scope.together(async (tx) => {
    const unit = await tx.first(units, eq(units.id, unitId));
    const row = unit && (await tx.first(parts, partAt(unitId, partId, item)));
    if (!unit || !row) throw notFound("part");
    await tx.change(parts, change, partAt(unitId, partId, item));
    const swap = swapOf(row, change);
    if (swap) await noteSwaps(tx, unitId, personId, [swap]);
    await refreshSearch(tx, [unitId]);
    const after = await tx.first(parts, partAt(unitId, partId, item));
    return registered(after ?? row, unit.name);
  });
