import type { NewUnit, Unit, UnitChange } from "@uppershed/contract";
import { and, eq, isNull } from "drizzle-orm";
import { addCustomer, livingCustomer } from "../customers/store.ts";
import { idTaken, notFound } from "../errors.ts";
import { idFrom } from "../ids.ts";
import { soundMap } from "../register/maps.ts";
import { followMap } from "../parts/register.ts";
import { customers, mapRevisions, places, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { refreshSearch } from "../register/search.ts";
import { getUnit } from "../register/units.ts";

/** The customer of a name: one of that name and phone is not made twice. */
const ownerOf = async (tx: Scope, asked: NewUnit): Promise<string> => {
  if (asked.customerId !== undefined) return livingCustomer(tx, asked.customerId);
  const phone = asked.phone ?? "";
  const named = await tx.find(
    customers,
    and(eq(customers.name, asked.owner), isNull(customers.mergedInto)),
  );
  const known = named.find((c) => c.phone === phone || phone === "");
  return (
    known?.id ?? addCustomer(tx, { id: idFrom(`owner of ${asked.id}`), name: asked.owner, phone })
  );
};

const refuseNoPlace = async (tx: Scope, id: string | null | undefined): Promise<void> => {
  if (id && !(await tx.first(places, eq(places.id, id)))) throw notFound("place");
};

/** Takes in a unit: its owner, its first map, its parts in the register. */
export const addUnit = (scope: Scope, personId: string, asked: NewUnit): Promise<Unit> =>
  scope.together(async (tx) => {
    const map = soundMap(asked.document);
    const sister =
      asked.siblingOf === undefined
        ? undefined
        : await tx.first(units, eq(units.id, asked.siblingOf));
    if (asked.siblingOf !== undefined && !sister) throw notFound("sister unit");
    const { id } = asked;
    if (await tx.first(units, eq(units.id, id))) return getUnit(tx, id);
    const customerId = await ownerOf(tx, asked);
    await refuseNoPlace(tx, asked.placeId);
    await tx.addOnce(units, {
      id,
      customerId,
      name: asked.name,
      craft: asked.craft,
      plate: asked.plate ?? "",
      hull: asked.hull ?? "",
      berth: asked.berth ?? "",
      placeId: asked.placeId ?? null,
      mapRevision: 1,
      ...(sister ? { siblingOf: sister.id, siblingRevision: sister.mapRevision } : {}),
    });
    // Sent twice at once: whoever was first has drawn its map.
    const [made] = await tx.find(units, eq(units.id, id), { lock: true });
    if (!made) throw idTaken();
    if (await tx.first(mapRevisions, eq(mapRevisions.unitId, id))) return getUnit(tx, id);
    await tx.add(mapRevisions, {
      unitId: id,
      revision: 1,
      document: map,
      personId,
      why: asked.why ?? "Drawn at intake",
    });
    await followMap(tx, id, map);
    return getUnit(tx, id);
  });

/** Changes what is written of a unit beside its map. */
export const changeUnit = (scope: Scope, unitId: string, change: UnitChange): Promise<Unit> =>
  scope.together(async (tx) => {
    await getUnit(tx, unitId);
    await refuseNoPlace(tx, change.placeId);
    const owner =
      change.customerId === undefined
        ? {}
        : { customerId: await livingCustomer(tx, change.customerId) };
    await tx.change(units, { ...change, ...owner }, eq(units.id, unitId));
    await refreshSearch(tx, [unitId]);
    return getUnit(tx, unitId);
  });
