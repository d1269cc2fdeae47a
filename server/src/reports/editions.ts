import {
  type EditionLine,
  type NewEdition,
  type ReportData,
  reportDataSchema,
} from "@uppershed/contract";
import { desc, eq, sql } from "drizzle-orm";
import { createHash } from "node:crypto";
import { idTaken, notFound } from "../errors.ts";
import { idFrom } from "../ids.ts";
import { namesOf } from "../people/names.ts";
import { reportEditions, visits } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { ownerOfUnit, reportData } from "./data.ts";

/** Reports as they were handed over. What one says never changes; a later one is a new edition. */

type Row = typeof reportEditions.$inferSelect;

// What changes without the report saying anything else.
const digestOf = ({
  asOf: _asOf,
  edition: _edition,
  expiresAt: _expires,
  winterizing,
  waterWork,
  handover,
  ...says
}: ReportData): string =>
  createHash("sha256")
    // What reports of before did not have does not make them others.
    .update(
      JSON.stringify({
        ...says,
        ...(winterizing === null ? {} : { winterizing }),
        ...(waterWork.length === 0 ? {} : { waterWork }),
        ...(handover.length === 0 ? {} : { handover }),
      }),
    )
    .digest("hex");

const line = (row: Pick<Row, "id" | "number" | "at" | "how">, by: string): EditionLine => ({
  id: row.id,
  number: row.number,
  at: row.at.toISOString(),
  by,
  how: row.how,
});

export const listEditions = async (scope: Scope, visitId: string): Promise<EditionLine[]> => {
  const { id, number, at, how, personId } = reportEditions;
  const rows = await scope.pick(
    reportEditions,
    { id, number, at, how, personId },
    eq(reportEditions.visitId, visitId),
    {
      order: desc(number),
    },
  );
  const names = await namesOf(
    scope,
    rows.map((r) => r.personId),
  );
  return rows.map((row) => line(row, names.get(row.personId) ?? ""));
};

/**
 * Freezes the report of a visit as it stands. Where nothing has changed since the newest edition that one is told again; the same id sent
 * twice is one.
 */
export const makeEdition = (
  scope: Scope,
  personId: string,
  visitId: string,
  asked: NewEdition,
  now: Date,
): Promise<EditionLine> =>
  scope.together(async (tx) => {
    const [visit] = await tx.find(visits, eq(visits.id, visitId), { lock: true });
    if (!visit) throw notFound("visit");
    const data = await reportData(tx, visitId);
    const digest = digestOf(data);
    const [newest] = await tx.find(reportEditions, eq(reportEditions.visitId, visitId), {
      order: sql`${reportEditions.number} desc`,
      limit: 1,
    });
    const same =
      newest && (newest.id === asked.id || newest.digest === digest) ? newest : undefined;
    if (!same)
      await tx.addOnce(reportEditions, {
        id: asked.id,
        unitId: visit.unitId,
        visitId,
        number: (newest?.number ?? 0) + 1,
        customerId: await ownerOfUnit(tx, visit.unitId),
        personId,
        at: now,
        how: asked.how,
        digest,
        data,
      });
    const kept = same ?? (await tx.first(reportEditions, eq(reportEditions.id, asked.id)));
    if (!kept || kept.visitId !== visitId) throw idTaken();
    return line(kept, (await namesOf(tx, [kept.personId])).get(kept.personId) ?? "");
  });

/** When a unit goes, what its report says is kept, handed over or not. */
export const editionOnLeaving = async (
  scope: Scope,
  personId: string,
  visitId: string,
  now: Date,
): Promise<void> => {
  await makeEdition(
    scope,
    personId,
    visitId,
    { id: idFrom(`gone ${visitId} ${now.toISOString()}`), how: "gone" },
    now,
  );
};

export const getEdition = async (
  scope: Scope,
  id: string,
): Promise<{ row: Row; data: ReportData }> => {
  const row = await scope.first(reportEditions, eq(reportEditions.id, id));
  if (!row) throw notFound("edition");
  const data = reportDataSchema.parse(row.data);
  return {
    row,
    data: { ...data, edition: { id: row.id, number: row.number, at: row.at.toISOString() } },
  };
};

/** The same for its owner's eyes: what was said inside the house about a finding is not theirs, what it came to is. */
export const forOwner = (data: ReportData, expiresAt: Date): ReportData => ({
  ...data,
  findings: data.findings.map(({ withoutEffect: _inHouse, ...f }) => ({ ...f, entries: [] })),
  expiresAt: expiresAt.toISOString(),
});
