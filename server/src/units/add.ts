import type { NewUnit, Unit, UnitChange } from "@uppershed/contract";
import { and, eq, isNull } from "drizzle-orm";
import { randomUUID } from "node:crypto";
import { addCustomer, getCustomerRow } from "../customers/store.ts";
import { notFound } from "../errors.ts";
import { soundMap } from "../maps/store.ts";
import { followMap } from "../parts/store.ts";
import { customers, mapRevisions, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { refreshSearch } from "./search.ts";
import { getUnit } from "./store.ts";

/** The customer of a name: one of that name and phone is not made twice. */
const ownerOf = async (tx: Scope, asked: NewUnit): Promise<string> => {
  if (asked.customerId !== undefined) return (await getCustomerRow(tx, asked.customerId)).id;
  const phone = asked.phone ?? "";
  const named = await tx.find(customers, and(eq(customers.name, asked.owner), isNull(customers.mergedInto)));
  const known = named.find((c) => c.phone === phone || phone === "");
  return known?.id ?? addCustomer(tx, { name: asked.owner, phone });
};

/** Takes in a unit: its owner, its first map, its parts in the register. */
export const addUnit = (scope: Scope, personId: string, asked: NewUnit): Promise<Unit> =>
  scope.together(async (tx) => {
    const map = soundMap(asked.document);
    const sister = asked.siblingOf === undefined ? undefined : await tx.first(units, eq(units.id, asked.siblingOf));
    if (asked.siblingOf !== undefined && !sister) throw notFound("sister unit");
    const customerId = await ownerOf(tx, asked);
    const id = randomUUID();
    await tx.add(units, {
      id,
      customerId,
      name: asked.name,
      craft: asked.craft,
      mark: asked.mark ?? "",
      hull: asked.hull ?? "",
      berth: asked.berth ?? "",
      mapRevision: 1,
      ...(sister ? { siblingOf: sister.id, siblingRevision: sister.mapRevision } : {}),
    });
    await tx.add(mapRevisions, { unitId: id, revision: 1, document: map, personId, why: asked.why ?? "Drawn at intake" });
    await followMap(tx, id, map);
    return getUnit(tx, id);
  });

/** Changes what is written of a unit beside its map. */
export const changeUnit = (scope: Scope, unitId: string, change: UnitChange): Promise<Unit> =>
  scope.together(async (tx) => {
    await getUnit(tx, unitId);
    if (change.customerId !== undefined) await getCustomerRow(tx, change.customerId);
    if (Object.keys(change).length > 0) await tx.change(units, change, eq(units.id, unitId));
    await refreshSearch(tx, [unitId]);
    return getUnit(tx, unitId);
  });
