import { eq, or } from "drizzle-orm";
import { notFound } from "../errors.ts";
import { units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";

/** A unit and the doubles that were put together with it: their histories are read as one. */
export const familyOf = async (scope: Scope, unitId: string): Promise<string[]> => {
  const found = await scope.pick(
    units,
    { id: units.id },
    or(eq(units.id, unitId), eq(units.mergedInto, unitId)),
  );
  if (!found.some((u) => u.id === unitId)) throw notFound("unit");
  return found.map((u) => u.id);
};
