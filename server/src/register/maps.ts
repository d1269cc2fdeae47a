import type { MapRevision, RevisionLine } from "@uppershed/contract";
import { readWaterMap, type WaterMap } from "@uppershed/core/watermap";
import { and, desc, eq, sql } from "drizzle-orm";
import { notFound, Refused } from "../errors.ts";
import { mapRevisions, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { namesOf } from "../people/names.ts";

/** Reads a document by core's schema; a document that is not sound is refused with every problem named. */
export const soundMap = (document: unknown): WaterMap => {
  const read = readWaterMap(document);
  if (!read.ok)
    throw new Refused(
      "impossible",
      "This is not a sound water map. Nothing was saved.",
      read.problems,
    );
  return read.map;
};

export const getMap = async (
  scope: Scope,
  unitId: string,
  revision?: number,
): Promise<MapRevision & { document: WaterMap }> => {
  const unit = await scope.first(units, eq(units.id, unitId));
  if (!unit) throw notFound("unit");
  const row = await scope.first(
    mapRevisions,
    and(eq(mapRevisions.unitId, unitId), eq(mapRevisions.revision, revision ?? unit.mapRevision)) ??
      sql`false`,
  );
  if (!row) throw notFound("map revision");
  const names = await namesOf(scope, [row.personId]);
  return {
    unitId,
    revision: row.revision,
    at: row.at.toISOString(),
    by: names.get(row.personId) ?? "",
    why: row.why,
    document: soundMap(row.document),
  };
};

/** The document of a revision as it was saved. */
export const mapDocumentAt = async (
  scope: Scope,
  unitId: string,
  revision: number,
): Promise<unknown> => {
  const row = await scope.first(
    mapRevisions,
    and(eq(mapRevisions.unitId, unitId), eq(mapRevisions.revision, revision)) ?? sql`false`,
  );
  if (!row) throw notFound("map revision");
  return row.document;
};

/** The map of a unit at a revision, for reckoning on it. */
export const mapAt = async (
  scope: Scope,
  unitId: string,
  revision: number,
): Promise<{ map: WaterMap; revision: number }> => ({
  map: soundMap(await mapDocumentAt(scope, unitId, revision)),
  revision,
});

/** Every revision of a unit's map, newest first, without the documents. */
export const listRevisions = async (scope: Scope, unitId: string): Promise<RevisionLine[]> => {
  if (!(await scope.first(units, eq(units.id, unitId)))) throw notFound("unit");
  const rows = await scope.find(mapRevisions, eq(mapRevisions.unitId, unitId), {
    order: desc(mapRevisions.revision),
  });
  const names = await namesOf(
    scope,
    rows.map((row) => row.personId),
  );
  return rows.map((row) => ({
    unitId,
    revision: row.revision,
    at: row.at.toISOString(),
    by: names.get(row.personId) ?? "",
    why: row.why,
    parts: (row.document as Partial<WaterMap>).parts?.length ?? 0,
  }));
};
