import type { FindingOnFile, FindingSearch } from "@uppershed/contract";
import { byUrgency, findingBodySchema, type FindingEntry, findingNow } from "@uppershed/core";
import { and, eq, inArray, lte, or, sql } from "drizzle-orm";
import { findingEntries, findings, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { familyOf } from "../units/family.ts";
import { ON_SHEETS } from "../units/store.ts";

type FindingRow = typeof findings.$inferSelect;

const MOST = 500;
// Of all units at once: as many as are looked through by eye.
const MOST_OF_ALL = 150;

/**
 * @param asOf only what was made, or had come to the server, by then
 */
export const entriesOf = async (scope: Scope, ids: readonly string[], asOf?: Date): Promise<Map<string, FindingEntry[]>> => {
  const known = asOf && or(lte(findingEntries.at, asOf), lte(findingEntries.receivedAt, asOf));
  const rows =
    ids.length > 0
      ? await scope.find(findingEntries, and(inArray(findingEntries.findingId, [...ids]), known), {
          order: sql`${findingEntries.position}`,
        })
      : [];
  const of = new Map<string, FindingEntry[]>(ids.map((id) => [id, []]));
  for (const e of rows)
    of.get(e.findingId)?.push({ id: e.id, at: e.at.toISOString(), by: e.byName, body: findingBodySchema.parse(e.body) });
  return of;
};

export const complete = async (scope: Scope, rows: readonly FindingRow[], asOf?: Date): Promise<FindingOnFile[]> => {
  const entries = await entriesOf(
    scope,
    rows.map((f) => f.id),
    asOf,
  );
  const unitIds = [...new Set(rows.map((f) => f.unitId))];
  const names = new Map(
    (unitIds.length > 0 ? await scope.pick(units, { id: units.id, name: units.name }, inArray(units.id, unitIds)) : []).map((u) => [
      u.id,
      u.name,
    ]),
  );
  return rows.flatMap((row) => {
    const own = entries.get(row.id) ?? [];
    const now = findingNow(own);
    if (!now.ok) return [];
    const { id, unitId, visitId, mapRevision } = row;
    return [{ id, unitId, visitId, mapRevision, unitName: names.get(unitId) ?? "", ...now.finding, entries: own }];
  });
};

/** Findings, most urgent first. */
export const findFindings = async (scope: Scope, search: FindingSearch): Promise<{ findings: FindingOnFile[]; more: boolean }> => {
  const text = sql`lower(${findings.what} || ' ' || ${findings.place} || ' ' || ${findings.cause} || ' ' || ${findings.advice})`;
  const words = (search.find ?? "").toLowerCase().split(/\s+/u).filter(Boolean);
  const rows = await scope.find(
    findings,
    and(
      search.unit ? inArray(findings.unitId, await familyOf(scope, search.unit)) : undefined,
      search.severity ? eq(findings.severity, search.severity) : undefined,
      search.state === "open" ? ON_SHEETS : undefined,
      ...words.map((w) => sql`position(${w} in ${text}) > 0`),
    ),
    {
      order: sql`case ${findings.severity} when 'unsafe' then 0 when 'will-fail' then 1 when 'wears' then 2 else 3 end, ${findings.at} desc`,
      limit: MOST_OF_ALL + 1,
    },
  );
  return { findings: await complete(scope, rows.slice(0, MOST_OF_ALL)), more: rows.length > MOST_OF_ALL };
};

/** The findings of a unit, those later than a moment left out, and later entries of those before it. */
export const findingsOfUnit = async (scope: Scope, unitId: string, asOf?: Date): Promise<FindingOnFile[]> => {
  const rows = await scope.find(findings, inArray(findings.unitId, await familyOf(scope, unitId)), { limit: MOST });
  return (await complete(scope, rows, asOf)).map((f) => ({ ...f, at: f.foundAt })).toSorted(byUrgency);
};
