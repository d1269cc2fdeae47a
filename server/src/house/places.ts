import type { Place, PlaceChange } from "@uppershed/contract";
import { and, eq, isNotNull, isNull, ne, sql } from "drizzle-orm";
import { idTaken, notFound, Refused } from "../errors.ts";
import { places, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";

/** Where units stand, each place with its own cold. */

export const listPlaces = async (scope: Scope): Promise<Place[]> => {
  const rows = await scope.find(places, undefined, {
    order: sql`${places.givenUp}, lower(${places.name})`,
  });
  const standing = await scope.pick(
    units,
    { placeId: units.placeId },
    and(isNotNull(units.placeId), isNull(units.mergedInto)),
  );
  return rows.map(({ workshopId: _workshop, ...place }) => ({
    ...place,
    id: place.id as Place["id"],
    units: standing.filter((u) => u.placeId === place.id).length,
  }));
};

const refuseSameName = async (scope: Scope, name: string, but: string): Promise<void> => {
  const same = await scope.first(
    places,
    sql`lower(${places.name}) = lower(${name}) and ${ne(places.id, but)}`,
  );
  if (same)
    throw new Refused("conflict", "There is a place of that name already. Nothing was changed.");
};

type NewRow = Omit<typeof places.$inferInsert, "workshopId">;

export const addPlace = (scope: Scope, asked: NewRow): Promise<Place[]> =>
  scope.together(async (tx) => {
    await tx.alone();
    await refuseSameName(tx, asked.name, asked.id);
    await tx.addOnce(places, asked);
    if (!(await tx.first(places, eq(places.id, asked.id)))) throw idTaken();
    return listPlaces(tx);
  });

export const changePlace = (scope: Scope, id: string, change: PlaceChange): Promise<Place[]> =>
  scope.together(async (tx) => {
    await tx.alone();
    if (!(await tx.first(places, eq(places.id, id)))) throw notFound("place");
    if (change.name !== undefined) await refuseSameName(tx, change.name, id);
    await tx.change(places, change, eq(places.id, id));
    return listPlaces(tx);
  });
