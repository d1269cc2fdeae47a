import type { NewUnit, Unit } from "@uppershed/contract";
import { eq } from "drizzle-orm";
import { randomUUID } from "node:crypto";
import { notFound } from "../errors.ts";
import { soundMap } from "../maps/store.ts";
import { followMap } from "../parts/store.ts";
import { customers, mapRevisions, units } from "../schema.ts";
import type { Scope } from "../scope.ts";
import { getUnit } from "./store.ts";

/** Takes in a unit: its owner (one of that name and phone is not made twice), its first map, its parts in the register. */
export const addUnit = (scope: Scope, personId: string, asked: NewUnit): Promise<Unit> =>
  scope.together(async (tx) => {
    const map = soundMap(asked.document);
    const sister = asked.siblingOf === undefined ? undefined : await tx.first(units, eq(units.id, asked.siblingOf));
    if (asked.siblingOf !== undefined && !sister) throw notFound("sister unit");
    const phone = asked.phone ?? "";
    const known = (await tx.find(customers, eq(customers.name, asked.owner))).find((c) => c.phone === phone || phone === "");
    const customerId = known?.id ?? randomUUID();
    if (!known) await tx.add(customers, { id: customerId, name: asked.owner, phone });
    const id = randomUUID();
    await tx.add(units, {
      id,
      customerId,
      name: asked.name,
      craft: asked.craft,
      mark: asked.mark ?? "",
      berth: asked.berth ?? "",
      mapRevision: 1,
      ...(sister ? { siblingOf: sister.id, siblingRevision: sister.mapRevision } : {}),
    });
    await tx.add(mapRevisions, { unitId: id, revision: 1, document: map, personId, why: asked.why ?? "Drawn at intake" });
    await followMap(tx, id, map);
    return getUnit(tx, id);
  });
