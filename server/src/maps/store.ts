import type { MapRevision, NewMapRevision, RevisionLine } from "@uppershed/contract";
import { partLifeSchema, readWaterMap, type WaterMap } from "@uppershed/core";
import { and, desc, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { notFound, Refused } from "../errors.ts";
import { followMap } from "../parts/store.ts";
import { mapRevisions, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { namesOf } from "../units/store.ts";

/** Reads a document by core's schema; a document that is not sound is refused with every problem named. */
export const soundMap = (document: unknown): WaterMap => {
  const read = readWaterMap(document);
  if (!read.ok) throw new Refused("impossible", "This is not a sound water map. Nothing was saved.", read.problems);
  return read.map;
};

export const getMap = async (scope: Scope, unitId: string, revision?: number): Promise<MapRevision & { document: WaterMap }> => {
  const unit = await scope.first(units, eq(units.id, unitId));
  if (!unit) throw notFound("unit");
  const row = await scope.first(
    mapRevisions,
    and(eq(mapRevisions.unitId, unitId), eq(mapRevisions.revision, revision ?? unit.mapRevision)) ?? sql`false`,
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

const livesSchema = z.record(z.string(), partLifeSchema);

/** Every revision of a unit's map, newest first, without the documents. */
export const listRevisions = async (scope: Scope, unitId: string): Promise<RevisionLine[]> => {
  if (!(await scope.first(units, eq(units.id, unitId)))) throw notFound("unit");
  const rows = await scope.find(mapRevisions, eq(mapRevisions.unitId, unitId), { order: desc(mapRevisions.revision) });
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

/** Saves a map as the next revision; the one it was made from must still be the newest. */
export const saveMap = (scope: Scope, unitId: string, personId: string, asked: NewMapRevision): Promise<MapRevision> =>
  scope.together(async (tx) => {
    const { basedOn, why, document, lives, siblingRevision } = asked;
    const map = soundMap(document);
    const [unit] = await tx.find(units, eq(units.id, unitId), { lock: true });
    if (!unit) throw notFound("unit");
    if (unit.mapRevision !== basedOn)
      throw new Refused(
        "conflict",
        `The map has been changed since: it is at revision ${unit.mapRevision}, yours was made from ${basedOn}.`,
      );
    const revision = unit.mapRevision + 1;
    await tx.add(mapRevisions, { unitId, revision, document: map, personId, why });
    const sibling = siblingRevision !== undefined && unit.siblingOf !== null ? { siblingRevision } : {};
    await tx.change(units, { mapRevision: revision, ...sibling }, eq(units.id, unitId));
    await followMap(tx, unitId, map, livesSchema.parse(lives ?? {}));
    return getMap(tx, unitId, revision);
  });
