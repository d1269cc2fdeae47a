import type { MapRevision, NewMapRevision } from "@uppershed/contract";
import { partLifeSchema } from "@uppershed/core/formats";
import { eq } from "drizzle-orm";
import { z } from "zod";
import { notFound, Refused } from "../errors.ts";
import { followMap } from "../parts/register.ts";
import { mapRevisions, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { noteEntry } from "../register/history.ts";
import { refreshState } from "../standing/standing.ts";
import { noteSwaps } from "../parts/swaps.ts";
import { getMap, soundMap } from "../register/maps.ts";

const livesSchema = z.record(z.string(), partLifeSchema);

/** Saves a map as the next revision; the one it was made from must still be the newest. */
export const saveMap = (
  scope: Scope,
  unitId: string,
  personId: string,
  asked: NewMapRevision,
): Promise<MapRevision> =>
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
    const sibling =
      siblingRevision !== undefined && unit.siblingOf !== null ? { siblingRevision } : {};
    await tx.change(units, { mapRevision: revision, ...sibling }, eq(units.id, unitId));
    const swaps = await followMap(tx, unitId, map, livesSchema.parse(lives ?? {}));
    await noteEntry(tx, {
      unitId,
      personId,
      entry: { kind: "map-revised", at: new Date().toISOString(), revision, why },
    });
    await refreshState(tx, unitId);
    await noteSwaps(tx, unitId, personId, swaps);
    return getMap(tx, unitId, revision);
  });
