import { itemsOf, lifeKey, type PartLife } from "@uppershed/core/formats";
import { kindOfPart, type Part, paramsOf, type WaterMap } from "@uppershed/core/watermap";
import { and, eq, type SQL, sql } from "drizzle-orm";
import { Refused } from "../errors.ts";
import { parts, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { refreshSearch } from "../register/search.ts";

export type PartRow = typeof parts.$inferSelect;

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

export const lifeOf = (row: PartRow): PartLife => ({
  description: row.description,
  serial: row.serial,
  size: row.size,
  fittedOn: row.fittedOn,
  expectedLifeMonths: row.expectedLifeMonths,
  condition: row.condition,
  lookedAt: row.lookedAt,
  note: row.note,
});

/** A part that was exchanged for another one. */
export interface Swap {
  readonly partId: string;
  readonly name: string;
  /** Day on which it was fitted, where that is known. */
  readonly fittedOn: string | null;
}

/** Another day of fitting, or another number on it: this is not the part that was there. */
export const swapOf = (
  before: PartRow,
  change: Partial<Pick<PartLife, "fittedOn" | "serial">>,
): Swap | undefined => {
  const refitted =
    change.fittedOn !== undefined &&
    change.fittedOn !== null &&
    change.fittedOn !== before.fittedOn;
  const renumbered =
    change.serial !== undefined && before.serial !== "" && change.serial !== before.serial;
  if (!refitted && !renumbered) return undefined;
  const name = `${before.name}${before.item ? `, ${before.item}` : ""}`;
  return {
    partId: before.partId,
    name,
    fittedOn: change.fittedOn ?? (renumbered ? null : before.fittedOn),
  };
};

/** Brings the register in step with a map: new parts get a line, parts that are gone keep theirs and are marked. Tells what was exchanged. */
export const followMap = async (
  scope: Scope,
  unitId: string,
  map: WaterMap,
  lives: Readonly<Record<string, PartLife>> = {},
): Promise<readonly Swap[]> => {
  const there = new Map(
    (await scope.find(parts, eq(parts.unitId, unitId))).map((row) => [
      lifeKey(row.partId, row.item),
      row,
    ]),
  );
  const wanted = new Map(
    map.parts.flatMap((part) =>
      itemsOf(part).map((item) => [lifeKey(part.id, item), { part, item }] as const),
    ),
  );
  const astray = Object.keys(lives).find((key) => !wanted.has(key) && !there.has(key));
  if (astray !== undefined)
    throw new Refused(
      "impossible",
      `The register is told of "${astray}", which this map does not have. Nothing was saved.`,
    );
  await scope.add(
    parts,
    [...wanted].flatMap(([key, { part, item }]) =>
      there.has(key)
        ? []
        : [{ unitId, partId: part.id, item, ...identityOf(part, item), ...lives[key] }],
    ),
  );
  const swaps: Swap[] = [];
  for (const [key, row] of there) {
    const now = wanted.get(key);
    const swap = lives[key] && swapOf(row, lives[key]);
    if (swap) swaps.push(swap);
    const change = {
      ...(now ? identityOf(now.part, now.item) : { onMap: false }),
      ...lives[key],
    };
    const differs = Object.entries(change).some(
      ([field, value]) => row[field as keyof PartRow] !== value,
    );
    if (differs) await scope.change(parts, change, partAt(unitId, row.partId, row.item));
  }
  await refreshSearch(scope, [unitId]);
  return swaps;
};

export const partAt = (unitId: string, partId: string, item: string): SQL =>
  and(eq(parts.unitId, unitId), eq(parts.partId, partId), eq(parts.item, item)) ?? sql`false`;

/** Units whose parts were never registered, as in a database from before there was a register. */
export const registerMissing = async (
  scope: Scope,
  mapOf: (unitId: string) => Promise<WaterMap>,
): Promise<number> => {
  const missing = await scope.find(
    units,
    sql`not exists (select 1 from ${parts} where ${parts.unitId} = ${units.id})`,
  );
  for (const unit of missing) await followMap(scope, unit.id, await mapOf(unit.id));
  return missing.length;
};
