import { sql } from "drizzle-orm";
import type { Tx } from "../db.ts";
import { unitHistory, workshops } from "../schema/index.ts";
import { scopeFor } from "../scope.ts";
import { refreshState } from "../standing/standing.ts";

/** Writes beside every unit that has a history how it stands. */
export const stateUnits = async (tx: Tx): Promise<void> => {
  for (const { id } of await tx.select({ id: workshops.id }).from(workshops)) {
    const scope = scopeFor(tx, id);
    const known = await tx
      .selectDistinct({ unitId: unitHistory.unitId })
      .from(unitHistory)
      .where(sql`${unitHistory.workshopId} = ${id}`);
    for (const { unitId } of known) await refreshState(scope, unitId);
  }
};
