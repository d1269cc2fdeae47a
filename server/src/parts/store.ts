import type { ChangeLife, PartSearch, RegisteredPart } from "@uppershed/contract";
import { dueOn, itemsOf, kindOfPart, lifeKey, type Part, paramsOf, type PartLife, type WaterMap } from "@uppershed/core";
import { and, asc, eq, ilike, inArray, isNotNull, lte, or, type SQL, sql } from "drizzle-orm";
import { notFound, Refused } from "../errors.ts";
import { parts, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { refreshSearch } from "../units/search.ts";

type PartRow = typeof parts.$inferSelect;

/** What of a part's parameters is a word worth searching: "steel", "gas burner" where there is one. */
const wordsOf = (part: Part): string => {
  const kind = kindOfPart(part);
  const params = paramsOf(part);
  const said = Object.entries(kind.params).flatMap(([name, spec]) => {
    const value = params[name];
    return value === true ? [spec.label] : typeof value === "string" ? [value] : [];
  });
  return [kind.label, ...(kind.also ?? []), ...said].join(" ").toLowerCase();
};

const identityOf = (part: Part, item: string) => ({
  kind: part.kind,
  name: part.name,
  tag: part.tag ?? "",
  place: part.place ?? "",
  words: [wordsOf(part), item].filter(Boolean).join(" "),
  onMap: true,
});

const lifeOf = (row: PartRow): PartLife => ({
  description: row.description,
  serial: row.serial,
  size: row.size,
  fittedOn: row.fittedOn,
  expectedLifeMonths: row.expectedLifeMonths,
  condition: row.condition,
  lookedAt: row.lookedAt,
  note: row.note,
});

/** What the register keeps of a unit's parts, by part id or "part id/item". */
export const livesOf = async (scope: Scope, unitId: string): Promise<Map<string, PartLife>> =>
  new Map((await scope.find(parts, eq(parts.unitId, unitId))).map((row) => [lifeKey(row.partId, row.item), lifeOf(row)]));

/** Brings the register in step with a map: new parts get a line, parts that are gone keep theirs and are marked. */
export const followMap = async (
  scope: Scope,
  unitId: string,
  map: WaterMap,
  lives: Readonly<Record<string, PartLife>> = {},
): Promise<void> => {
  const there = new Map((await scope.find(parts, eq(parts.unitId, unitId))).map((row) => [lifeKey(row.partId, row.item), row]));
  const wanted = new Map(map.parts.flatMap((part) => itemsOf(part).map((item) => [lifeKey(part.id, item), { part, item }] as const)));
  const astray = Object.keys(lives).find((key) => !wanted.has(key) && !there.has(key));
  if (astray !== undefined)
    throw new Refused("impossible", `The register is told of "${astray}", which this map does not have. Nothing was saved.`);
  await scope.add(
    parts,
    [...wanted].flatMap(([key, { part, item }]) =>
      there.has(key) ? [] : [{ unitId, partId: part.id, item, ...identityOf(part, item), ...lives[key] }],
    ),
  );
  for (const [key, row] of there) {
    const now = wanted.get(key);
    const change = {
      ...(now ? identityOf(now.part, now.item) : { onMap: false }),
      ...lives[key],
    };
    const differs = Object.entries(change).some(([field, value]) => row[field as keyof PartRow] !== value);
    if (differs) await scope.change(parts, change, at(unitId, row.partId, row.item));
  }
  await refreshSearch(scope, [unitId]);
};

const at = (unitId: string, partId: string, item: string): SQL =>
  and(eq(parts.unitId, unitId), eq(parts.partId, partId), eq(parts.item, item)) ?? sql`false`;

/** Units whose parts were never registered, as in a database from before there was a register. */
export const registerMissing = async (scope: Scope, mapOf: (unitId: string) => Promise<WaterMap>): Promise<number> => {
  const missing = await scope.find(units, sql`not exists (select 1 from ${parts} where ${parts.unitId} = ${units.id})`);
  for (const unit of missing) await followMap(scope, unit.id, await mapOf(unit.id));
  return missing.length;
};

const MOST = 500;

/** Text that a LIKE takes as it stands. */
const literal = (word: string): string => `%${word.replaceAll(/[\\%_]/gu, (c) => `\\${c}`)}%`;

/** Finds parts across the workshop's units. */
export const findParts = async (scope: Scope, search: PartSearch): Promise<{ parts: RegisteredPart[]; more: boolean }> => {
  const words = (search.text ?? "").split(/\s+/u).filter(Boolean);
  const conditions: (SQL | undefined)[] = words.map((word) => {
    return or(
      ilike(parts.words, literal(word)),
      ilike(parts.name, literal(word)),
      ilike(parts.place, literal(word)),
      ilike(parts.description, literal(word)),
      ilike(parts.serial, literal(word)),
      ilike(parts.tag, literal(word)),
      sql`exists (select 1 from ${units} where ${units.workshopId} = ${parts.workshopId} and ${units.id} = ${parts.unitId} and lower(${units.name}) like ${literal(word.toLowerCase())})`,
    );
  });
  if (search.unit) conditions.push(eq(parts.unitId, search.unit));
  if (search.kind) conditions.push(eq(parts.kind, search.kind));
  if (search.condition) conditions.push(eq(parts.condition, search.condition));
  if (search.gone !== "yes") conditions.push(eq(parts.onMap, true));
  if (search.fittedMonthsAgo !== undefined)
    conditions.push(
      isNotNull(parts.fittedOn),
      lte(parts.fittedOn, sql`(current_date - make_interval(months => ${Number(search.fittedMonthsAgo)}))::date`),
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
  const named = unitIds.length > 0 ? await scope.pick(units, { id: units.id, name: units.name }, inArray(units.id, unitIds)) : [];
  const names = new Map(named.map((u) => [u.id, u.name]));
  return { parts: rows.slice(0, MOST).map((row) => registered(row, names.get(row.unitId) ?? "")), more: rows.length > MOST };
};

const registered = (row: PartRow, unitName: string): RegisteredPart => {
  const life = lifeOf(row);
  const { unitId, partId, item, kind, name, tag, place, onMap } = row;
  return { unitId, unitName, partId, item, kind, name, tag, place, onMap, life, dueOn: dueOn(life) };
};

/** Changes what the register keeps of one part. */
export const changeLife = async (
  scope: Scope,
  unitId: string,
  partId: string,
  item: string,
  change: ChangeLife,
): Promise<RegisteredPart> => {
  const unit = await scope.first(units, eq(units.id, unitId));
  const row = unit && (await scope.first(parts, at(unitId, partId, item)));
  if (!unit || !row) throw notFound("part");
  if (Object.keys(change).length > 0) await scope.change(parts, change, at(unitId, partId, item));
  await refreshSearch(scope, [unitId]);
  const after = await scope.first(parts, at(unitId, partId, item));
  return registered(after ?? row, unit.name);
};
