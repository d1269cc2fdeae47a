import type { Unit } from "@uppershed/contract";
import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import { notFound, Refused } from "../errors.ts";
import { merges, runs, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { refreshSearch } from "../register/search.ts";
import { refreshState } from "../standing/standing.ts";
import { getUnit } from "../register/units.ts";

/**
 * Puts a double together with the unit that stays. Its map's revisions, runs, visits, looks and findings stay as they were made, under
 * its own id, and are read as part of the other's history; empty fields of the one that stays are filled from it.
 */
export const mergeUnits = (
  scope: Scope,
  personId: string,
  keptId: string,
  doubleId: string,
): Promise<Unit> =>
  scope.together(async (tx) => {
    if (keptId === doubleId) throw new Refused("impossible", "These are one and the same already.");
    // Both are held, always in one order: two mergings at once wait for each other instead of crossing.
    const both = await tx.find(units, inArray(units.id, [keptId, doubleId]), {
      order: sql`${units.id}`,
      lock: true,
    });
    const [kept, gone] = [both.find((u) => u.id === keptId), both.find((u) => u.id === doubleId)];
    if (!kept || !gone) throw notFound("unit");
    if (kept.mergedInto !== null || gone.mergedInto !== null)
      throw new Refused(
        "conflict",
        "One of them was put together with another already. Nothing was changed.",
      );
    const open = await tx.first(
      runs,
      and(eq(runs.unitId, doubleId), isNull(runs.closedAt), isNull(runs.setAsideAt)) ??
        isNull(runs.closedAt),
    );
    if (open) throw new Refused("conflict", `A run is open on ${gone.name}. Close it first.`);
    await tx.change(units, { mergedInto: keptId }, eq(units.id, doubleId));
    await tx.change(units, { mergedInto: keptId }, eq(units.mergedInto, doubleId));
    await tx.change(
      units,
      {
        plate: kept.plate || gone.plate,
        hull: kept.hull || gone.hull,
        berth: kept.berth || gone.berth,
        accessNote: [kept.accessNote, gone.accessNote].filter(Boolean).join("\n"),
      },
      eq(units.id, keptId),
    );
    await tx.add(merges, { what: "unit", keptId, goneId: doubleId, personId, moved: [] });
    await refreshSearch(tx, [keptId]);
    await refreshState(tx, keptId);
    return getUnit(tx, keptId);
  });
