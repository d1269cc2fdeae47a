import type { NewLook, PointLook } from "@uppershed/contract";
import { lookFor } from "@uppershed/core/inspection";
import { and, eq, inArray, sql } from "drizzle-orm";
import { idTaken, notFound } from "../errors.ts";
import { idFrom } from "../ids.ts";
import { pointIdOf } from "../readings/old-keys.ts";
import { keepReadings } from "../readings/store.ts";
import { looks, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { familyOf } from "../register/family.ts";
import { namesOf } from "../people/names.ts";
import { visitOfUnit } from "../calendar/read.ts";

type LookRow = typeof looks.$inferSelect;

const MOST_READ = 20_000;

const told = async (scope: Scope, shown: readonly LookRow[]): Promise<PointLook[]> => {
  const names = await namesOf(
    scope,
    shown.map((l) => l.personId),
  );
  return shown.map((l) => ({
    id: l.id,
    key: l.key,
    partId: l.partId,
    pointId: l.pointId,
    point: l.point,
    mark: l.mark,
    note: l.note,
    readings: l.readings,
    at: l.at.toISOString(),
    by: names.get(l.personId) ?? "",
    visitId: l.visitId,
  }));
};

/** The newest look at each point of a unit, or every look at one of them. */
export const newestLooks = async (
  scope: Scope,
  unitId: string,
  key?: string,
): Promise<PointLook[]> => {
  const ids = await familyOf(scope, unitId);
  const where = and(inArray(looks.unitId, ids), key === undefined ? undefined : eq(looks.key, key));
  const rows = await scope.find(looks, where, {
    order: sql`${looks.at} desc, ${looks.id}`,
    limit: MOST_READ,
  });
  if (key !== undefined) return told(scope, rows);
  const newest = new Map<string, LookRow>();
  for (const row of rows) if (!newest.has(row.key)) newest.set(row.key, row);
  return told(scope, [...newest.values()]);
};

/** Every look of a visit, oldest first. */
export const looksOfVisit = async (scope: Scope, visitId: string): Promise<PointLook[]> =>
  told(
    scope,
    await scope.find(looks, eq(looks.visitId, visitId), {
      order: sql`${looks.at}`,
      limit: MOST_READ,
    }),
  );

/** A look of a device of before says its point in words; it hangs from the point's id all the same. */
const withPoint = (l: NewLook): NewLook & { pointId: string } => {
  if (l.pointId !== undefined) return { ...l, pointId: l.pointId };
  const pointId = pointIdOf(l.point);
  return {
    ...l,
    pointId,
    key: l.partId !== null && l.key === `${l.partId}/${l.point}` ? `${l.partId}/${pointId}` : l.key,
  };
};

/** Keeps looks, each once, and the figures taken there among the unit's readings. */
export const addLooks = (
  scope: Scope,
  personId: string,
  unitId: string,
  sentLooks: readonly NewLook[],
): Promise<PointLook[]> =>
  scope.together(async (tx) => {
    if (!(await tx.first(units, eq(units.id, unitId)))) throw notFound("unit");
    const sent = [...new Map(sentLooks.map((l) => [l.id, l])).values()];
    for (const visitId of new Set(sent.map((l) => l.visitId)))
      await visitOfUnit(tx, visitId, unitId);
    const ids = sent.map((l) => l.id);
    const known = new Set(
      (await tx.pick(looks, { id: looks.id }, inArray(looks.id, ids))).map((k) => k.id),
    );
    const fresh = sent
      .filter((l) => !known.has(l.id))
      .map(withPoint)
      .map((l) => ({
        ...l,
        note: l.note ?? "",
        readings: l.readings ?? [],
        at: new Date(l.at),
        unitId,
        personId,
      }));
    await tx.addOnce(looks, fresh);
    if ((await tx.pick(looks, { id: looks.id }, inArray(looks.id, ids))).length < ids.length)
      throw idTaken();
    await keepReadings(
      tx,
      fresh.flatMap((l) => {
        const { reading } = lookFor(l.pointId);
        return l.readings.map((value, i) => ({
          id: idFrom(`reading ${i} of look ${l.id}`),
          unitId,
          personId,
          visitId: l.visitId ?? null,
          partId: l.partId,
          spot: l.pointId,
          kind: reading?.is ?? "fraction",
          label: reading ? `${l.point}, ${reading.label.toLowerCase()}` : l.point,
          dimension: reading?.is ?? "fraction",
          value,
          at: l.at,
        }));
      }),
    );
    return newestLooks(tx, unitId);
  });
