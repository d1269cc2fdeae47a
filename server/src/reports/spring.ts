import type { NewSpringLook, SpringLook } from "@uppershed/contract";
import { SPRING_LIST } from "@uppershed/core/inspection";
import { eq, inArray, sql } from "drizzle-orm";
import { notFound, Refused } from "../errors.ts";
import { springLooks, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { familyOf } from "../register/family.ts";
import { namesOf } from "../people/names.ts";
import { visitOfUnit } from "../calendar/read.ts";

/** The newest mark of each system; nothing of it enters the water record. */
export const springLooksOf = async (scope: Scope, unitId: string): Promise<SpringLook[]> => {
  const rows = await scope.find(
    springLooks,
    inArray(springLooks.unitId, await familyOf(scope, unitId)),
    {
      order: sql`${springLooks.at} desc`,
      limit: 1000,
    },
  );
  const names = await namesOf(
    scope,
    rows.map((l) => l.personId),
  );
  const newest = new Map<string, SpringLook>();
  for (const { item, mark, note, at, personId } of rows)
    if (!newest.has(item))
      newest.set(item, { item, mark, note, at: at.toISOString(), by: names.get(personId) ?? "" });
  return [...newest.values()];
};

export const addSpringLook = (
  scope: Scope,
  personId: string,
  unitId: string,
  sent: NewSpringLook,
): Promise<SpringLook[]> =>
  scope.together(async (tx) => {
    if (!(await tx.first(units, eq(units.id, unitId)))) throw notFound("unit");
    await visitOfUnit(tx, sent.visitId, unitId);
    if (!SPRING_LIST.some((i) => i.id === sent.item))
      throw new Refused(
        "impossible",
        `"${sent.item}" is not on the spring list. Nothing was kept.`,
      );
    if (!(await tx.first(springLooks, eq(springLooks.id, sent.id))))
      await tx.add(springLooks, { ...sent, at: new Date(sent.at), unitId, personId });
    return springLooksOf(tx, unitId);
  });
