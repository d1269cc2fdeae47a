import type { Paper } from "@uppershed/contract";
import { eq, inArray, sql } from "drizzle-orm";
import { notFound, Refused } from "../errors.ts";
import { documents, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { familyOf } from "../register/family.ts";
import { namesOf } from "../people/names.ts";

/** Papers of a unit: PDF files, given out as files only. */

const COLUMNS = {
  id: documents.id,
  title: documents.title,
  bytes: documents.bytes,
  at: documents.at,
  personId: documents.personId,
};

const list = async (scope: Scope, where: ReturnType<typeof eq>): Promise<Paper[]> => {
  const rows = await scope.pick(documents, COLUMNS, where, {
    order: sql`${documents.at} desc`,
    limit: 200,
  });
  const names = await namesOf(
    scope,
    rows.map((d) => d.personId),
  );
  return rows.map(({ personId, at, ...row }) => ({
    ...row,
    at: at.toISOString(),
    by: names.get(personId) ?? "",
  }));
};

export const listDocuments = async (scope: Scope, unitId: string): Promise<Paper[]> =>
  list(scope, inArray(documents.unitId, await familyOf(scope, unitId)));

// A PDF begins with its version and ends with its end mark (ISO 32000-2, 7.5.2 and 7.5.5).
const soundPdf = (data: Buffer): boolean =>
  /^%PDF-[12]\.\d/u.test(data.toString("latin1", 0, 8)) && data.subarray(-1024).includes("%%EOF");

export const addDocument = async (
  scope: Scope,
  personId: string,
  unitId: string,
  said: { id: string; title: string },
  data: Buffer,
): Promise<Paper> => {
  if (!(await scope.first(units, eq(units.id, unitId)))) throw notFound("unit");
  if (!soundPdf(data))
    throw new Refused("not-a-paper", "This is no whole PDF file. Nothing was kept.");
  const [known] = await scope.pick(
    documents,
    { unitId: documents.unitId, bytes: documents.bytes },
    eq(documents.id, said.id),
  );
  if (known && (known.unitId !== unitId || known.bytes !== data.length))
    throw new Refused("conflict", "Another paper has that id. Nothing was kept.");
  if (!known)
    await scope.add(documents, {
      ...said,
      unitId,
      personId,
      bytes: data.length,
      at: new Date(),
      data,
    });
  const [paper] = await list(scope, eq(documents.id, said.id));
  if (!paper) throw notFound("paper");
  return paper;
};

/** That a paper is this workshop's, without its bytes. */
export const documentThere = async (scope: Scope, id: string): Promise<void> => {
  if ((await scope.pick(documents, { id: documents.id }, eq(documents.id, id))).length === 0)
    throw notFound("paper");
};

export const documentBytes = async (scope: Scope, id: string): Promise<Buffer> => {
  const row = await scope.first(documents, eq(documents.id, id));
  if (!row) throw notFound("paper");
  return row.data;
};
