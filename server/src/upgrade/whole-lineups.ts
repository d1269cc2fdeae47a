import { turnsOf } from "@uppershed/core/procedure";
import {
  buildNetwork,
  inUseLineup,
  type Lineup,
  type Network,
  readWaterMap,
} from "@uppershed/core/watermap";
import { and, eq, sql } from "drizzle-orm";
import type { Tx } from "../db.ts";
import { mapRevisions, snapshots, unitHistory } from "../schema/index.ts";

/**
 * How a unit was found or left was kept as what differed from its use. From now on it is kept whole, as it stood on the map of its day, so
 * that a later map which says otherwise of a control's use changes nothing of it.
 */
export const wholeLineups = async (tx: Tx): Promise<void> => {
  await tx.execute(sql`alter table snapshots disable trigger snapshots_append_only`);
  await tx.execute(sql`alter table unit_history disable trigger unit_history_append_only`);
  const networks = new Map<string, Network | undefined>();
  for (const row of await tx.select().from(snapshots)) {
    const key = `${row.unitId} ${row.mapRevision}`;
    if (!networks.has(key)) networks.set(key, await networkAt(tx, row.unitId, row.mapRevision));
    const network = networks.get(key);
    if (!network) continue;
    const lineup: Lineup = { ...inUseLineup(network), ...row.lineup };
    await tx
      .update(snapshots)
      .set({ lineup, turns: turnsOf(network, lineup) })
      .where(eq(snapshots.id, row.id));
    if (row.kind !== "as-left") continue;
    await tx
      .update(unitHistory)
      .set({ body: { lineup } })
      .where(
        and(
          eq(unitHistory.kind, "left"),
          eq(unitHistory.ref, row.visitId),
          eq(unitHistory.at, row.at),
        ),
      );
  }
  await tx.execute(sql`alter table snapshots enable trigger snapshots_append_only`);
  await tx.execute(sql`alter table unit_history enable trigger unit_history_append_only`);
};

const networkAt = async (
  tx: Tx,
  unitId: string,
  revision: number,
): Promise<Network | undefined> => {
  const [row] = await tx
    .select({ document: mapRevisions.document })
    .from(mapRevisions)
    .where(and(eq(mapRevisions.unitId, unitId), eq(mapRevisions.revision, revision)));
  const read = row && readWaterMap(row.document);
  return read?.ok ? buildNetwork(read.map) : undefined;
};
