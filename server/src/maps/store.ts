import type { MapRevision } from "@uppershed/contract";
import { readWaterMap, type WaterMap } from "@uppershed/core";
import { and, eq, sql } from "drizzle-orm";
import { notFound, Refused } from "../errors.ts";
import { mapRevisions, units } from "../schema.ts";
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

/** Saves a map as the next revision; the one it was made from must still be the newest. */
export const saveMap = (
  scope: Scope,
  unitId: string,
  personId: string,
  basedOn: number,
  why: string,
  document: unknown,
): Promise<MapRevision> =>
  scope.together(async (tx) => {
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
    await tx.change(units, { mapRevision: revision }, eq(units.id, unitId));
    return getMap(tx, unitId, revision);
  });
