import type { FindingOnFile, FindingSearch, NewFindingEntry } from "@uppershed/contract";
import { addToFinding, byUrgency, type Finding, type FindingEntry, findingNow } from "@uppershed/core";
import { and, eq, inArray, sql } from "drizzle-orm";
import { notFound, Refused } from "../errors.ts";
import { findingEntries, findings, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { familyOf, namesOf, ON_SHEETS } from "../units/store.ts";
import { visitOfUnit } from "../visits/store.ts";

type FindingRow = typeof findings.$inferSelect;

const MOST = 500;
// Of all units at once: as many as are looked through by eye.
const MOST_OF_ALL = 150;

const entriesOf = async (scope: Scope, ids: readonly string[]): Promise<Map<string, FindingEntry[]>> => {
  const rows =
    ids.length > 0
      ? await scope.find(findingEntries, inArray(findingEntries.findingId, [...ids]), { order: sql`${findingEntries.position}` })
      : [];
  const names = await namesOf(
    scope,
    rows.map((e) => e.personId),
  );
  const of = new Map<string, FindingEntry[]>(ids.map((id) => [id, []]));
  for (const e of rows) of.get(e.findingId)?.push({ id: e.id, at: e.at.toISOString(), by: names.get(e.personId) ?? "", body: e.body });
  return of;
};

const complete = async (scope: Scope, rows: readonly FindingRow[]): Promise<FindingOnFile[]> => {
  const entries = await entriesOf(
    scope,
    rows.map((f) => f.id),
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

export const findingsOfUnit = async (scope: Scope, unitId: string): Promise<FindingOnFile[]> => {
  const rows = await scope.find(findings, inArray(findings.unitId, await familyOf(scope, unitId)), { limit: MOST });
  return (await complete(scope, rows)).map((f) => ({ ...f, at: f.foundAt })).toSorted(byUrgency);
};

const columnsOf = (f: Finding): Partial<FindingRow> => ({
  partId: f.partId,
  place: f.place,
  what: f.what,
  severity: f.severity,
  cause: f.cause,
  advice: f.advice,
  partsNeeded: f.partsNeeded,
  minutes: f.minutes,
  state: f.state,
  answer: f.answer?.answer ?? null,
});

/** Takes an entry about a finding of a unit, the first of which makes it; an entry sent twice is kept once. */
export const takeEntry = (
  scope: Scope,
  person: { id: string; name: string },
  unitId: string,
  findingId: string,
  sent: NewFindingEntry,
): Promise<FindingOnFile> =>
  scope.together(async (tx) => {
    if (!(await tx.first(units, eq(units.id, unitId)))) throw notFound("unit");
    await visitOfUnit(tx, sent.visitId, unitId);
    const [there] = await tx.find(findings, eq(findings.id, findingId), { lock: true });
    if (there && there.unitId !== unitId) throw new Refused("conflict", "That finding belongs to another unit.");
    const known = await tx.first(findingEntries, eq(findingEntries.id, sent.id));
    if (known && known.findingId !== findingId) throw new Refused("conflict", "That entry belongs to another finding.");
    if (!known) {
      const entries = (await entriesOf(tx, [findingId])).get(findingId) ?? [];
      const before = entries.length > 0 ? findingNow(entries) : undefined;
      // The contract's schema has filled in what the body leaves out.
      const entry: FindingEntry = { id: sent.id, at: sent.at, by: person.name, body: sent.body as FindingEntry["body"] };
      const next = addToFinding(before?.ok ? before.finding : undefined, entry);
      if (!next.ok) throw new Refused("conflict", next.problem);
      if (there) await tx.change(findings, columnsOf(next.finding), eq(findings.id, findingId));
      else
        await tx.add(findings, {
          ...(columnsOf(next.finding) as FindingRow),
          id: findingId,
          unitId,
          visitId: sent.visitId ?? null,
          mapRevision: sent.mapRevision,
          at: new Date(sent.at),
        });
      await tx.add(findingEntries, {
        id: sent.id,
        findingId,
        personId: person.id,
        position: entries.length + 1,
        body: entry.body,
        at: new Date(sent.at),
      });
    }
    const [row] = await tx.find(findings, eq(findings.id, findingId));
    const [one] = row ? await complete(tx, [row]) : [];
    if (!one) throw notFound("finding");
    return one;
  });
