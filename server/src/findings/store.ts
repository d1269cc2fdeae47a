import type { FindingOnFile, FindingSearch } from "@uppershed/contract";
import {
  byUrgency,
  type Finding,
  type FindingAstray,
  findingBodySchema,
  type FindingEntry,
  findingNow,
  touchesOf,
} from "@uppershed/core/inspection";
import { and, eq, inArray, lte, or, sql } from "drizzle-orm";
import { findingEntries, findings, parts, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { familyOf } from "../register/family.ts";
import { ON_SHEETS } from "../register/units.ts";

type FindingRow = typeof findings.$inferSelect;

const MOST = 500;
// Of all units at once: as many as are looked through by eye.
const MOST_OF_ALL = 150;

export interface KeptFinding {
  readonly entries: FindingEntry[];
  /** Entries that this version cannot read. */
  readonly unread: FindingAstray[];
}

/**
 * @param asOf only what was made, or had come to the server, by then
 */
export const entriesOf = async (
  scope: Scope,
  ids: readonly string[],
  asOf?: Date,
): Promise<Map<string, KeptFinding>> => {
  const known = asOf && or(lte(findingEntries.at, asOf), lte(findingEntries.receivedAt, asOf));
  const rows =
    ids.length > 0
      ? await scope.find(findingEntries, and(inArray(findingEntries.findingId, [...ids]), known), {
          order: sql`${findingEntries.position}`,
        })
      : [];
  const of = new Map<string, KeptFinding>(ids.map((id) => [id, { entries: [], unread: [] }]));
  for (const e of rows) {
    const body = findingBodySchema.safeParse(e.body);
    const said = { id: e.id, at: e.at.toISOString(), by: e.byName };
    const own = of.get(e.findingId);
    if (body.success) own?.entries.push({ ...said, body: body.data });
    else
      own?.unread.push({
        ...said,
        type: typeOf(e.body),
        problem: `This version cannot read it: ${body.error.issues[0]?.message ?? ""}.`,
      });
  }
  return of;
};

const typeOf = (body: unknown): string => {
  const { type } = body as { type?: unknown };
  return typeof type === "string" ? type : "unknown";
};

/** What a finding came to when it was last added to, by its own row: for one whose first entry cannot be read. */
const ofRow = (row: FindingRow, foundBy: string): Finding => ({
  what: row.what,
  severity: row.severity,
  partId: row.partId,
  place: row.place,
  cause: row.cause,
  advice: row.advice,
  partsNeeded: row.partsNeeded,
  minutes: row.minutes,
  state: row.state,
  foundAt: row.at.toISOString(),
  foundBy,
});

/** What a finding comes to, with whatever of it has no effect beside it. */
export const nowOf = (
  row: FindingRow,
  { entries, unread }: KeptFinding,
): { finding: Finding; astray: readonly FindingAstray[] } => {
  const now = findingNow(entries, unread);
  return now.whole
    ? { finding: now.finding, astray: [] }
    : { finding: now.findingWithout ?? ofRow(row, now.astray[0]?.by ?? ""), astray: now.astray };
};

export const complete = async (
  scope: Scope,
  rows: readonly FindingRow[],
  asOf?: Date,
): Promise<FindingOnFile[]> => {
  const entries = await entriesOf(
    scope,
    rows.map((f) => f.id),
    asOf,
  );
  const unitIds = [...new Set(rows.map((f) => f.unitId))];
  const names = new Map(
    (unitIds.length > 0
      ? await scope.pick(units, { id: units.id, name: units.name }, inArray(units.id, unitIds))
      : []
    ).map((u) => [u.id, u.name]),
  );
  return rows.flatMap((row) => {
    const own = entries.get(row.id);
    // Nothing was known of it by then.
    if (!own || own.entries.length + own.unread.length === 0) return [];
    const { finding, astray } = nowOf(row, own);
    const { id, unitId, visitId, mapRevision } = row;
    const unitName = names.get(unitId) ?? "";
    return [
      {
        id,
        unitId,
        visitId,
        mapRevision,
        unitName,
        ...finding,
        entries: own.entries,
        ...(astray.length > 0 ? { withoutEffect: [...astray] } : {}),
      },
    ];
  });
};

/** Findings, most urgent first. */
export const findFindings = async (
  scope: Scope,
  search: FindingSearch,
): Promise<{ findings: FindingOnFile[]; more: boolean }> => {
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
  const found = await complete(scope, rows.slice(0, MOST_OF_ALL));
  const kinds = await kindsOf(scope, found);
  return {
    findings: found.map((f) => ({
      ...f,
      touches: [...touchesOf(kinds.get(`${f.unitId} ${f.partId}`), f.severity)],
    })),
    more: rows.length > MOST_OF_ALL,
  };
};

/** What kind of part each finding is of, by the register, by unit and part. */
const kindsOf = async (
  scope: Scope,
  found: readonly FindingOnFile[],
): Promise<ReadonlyMap<string, string>> => {
  const partIds = [...new Set(found.flatMap((f) => f.partId ?? []))];
  if (partIds.length === 0) return new Map();
  const unitIds = [...new Set(found.map((f) => f.unitId))];
  const known = await scope.pick(
    parts,
    { unitId: parts.unitId, partId: parts.partId, kind: parts.kind },
    and(inArray(parts.unitId, unitIds), inArray(parts.partId, partIds), eq(parts.item, "")),
  );
  return new Map(known.map((p) => [`${p.unitId} ${p.partId}`, p.kind]));
};

/** The findings of a unit, those later than a moment left out, and later entries of those before it. */
export const findingsOfUnit = async (
  scope: Scope,
  unitId: string,
  asOf?: Date,
): Promise<FindingOnFile[]> => {
  const rows = await scope.find(findings, inArray(findings.unitId, await familyOf(scope, unitId)), {
    limit: MOST,
  });
  return (await complete(scope, rows, asOf))
    .map((f) => ({ ...f, at: f.foundAt }))
    .toSorted(byUrgency);
};
