import {
  replayRun,
  type Replayed,
  type RunEvent,
  runEventBodySchema,
  type RunState,
  saidSchema,
  type UnreadEntry,
} from "@uppershed/core/procedure";
import { buildNetwork, type Network } from "@uppershed/core/watermap";
import { and, eq, gt, sql } from "drizzle-orm";
import { mapAt } from "../register/maps.ts";
import { runEvents, type runs } from "../schema/index.ts";
import type { Scope } from "../scope.ts";

/** What a run keeps, and what it comes to. */

export type RunRow = typeof runs.$inferSelect;

export interface KeptEntries {
  readonly events: readonly RunEvent[];
  readonly unread: readonly UnreadEntry[];
  /** Of entries sent by a device whose clock was off: by how many seconds it was ahead. */
  readonly clocks: ReadonlyMap<string, number>;
  readonly count: number;
}

/** A run's entries in the server's order, under the names of their days. One that cannot be read is told apart, never left out. */
export const entriesOf = async (scope: Scope, runId: string, after = 0): Promise<KeptEntries> => {
  const own = eq(runEvents.runId, runId);
  const rows = await scope.find(
    runEvents,
    after > 0 ? and(own, gt(runEvents.position, after)) : own,
    { order: sql`${runEvents.position}` },
  );
  const events: RunEvent[] = [];
  const unread: UnreadEntry[] = [];
  const clocks = new Map<string, number>();
  for (const row of rows) {
    const by = { id: row.personId, name: row.byName, role: row.byRole };
    const body = runEventBodySchema.safeParse(row.body);
    const said = row.said === null ? undefined : saidSchema.safeParse(row.said);
    if (row.clockAheadS) clocks.set(row.id, row.clockAheadS);
    if (body.success && said?.success !== false)
      events.push({
        id: row.id,
        seq: row.seq,
        at: row.at.toISOString(),
        body: body.data,
        by,
        ...(said ? { said: said.data } : {}),
      });
    else
      unread.push({
        id: row.id,
        at: row.at.toISOString(),
        type: row.type,
        by,
        problem: `This version cannot read it: ${(body.error ?? said?.error)?.issues[0]?.message ?? "unknown form"}.`,
      });
  }
  return { events, unread, clocks, count: rows.length };
};

/** The map that a run was made on, taken apart. */
export const networkOf = async (
  scope: Scope,
  run: Pick<RunRow, "unitId" | "mapRevision">,
): Promise<Network> => buildNetwork((await mapAt(scope, run.unitId, run.mapRevision)).map);

export const replayOf = (
  network: Network,
  run: RunRow,
  kept: Pick<KeptEntries, "events" | "unread">,
): Replayed =>
  replayRun({
    network,
    setup: run.setup,
    begins: run.begins ?? undefined,
    events: kept.events,
    unread: kept.unread,
  });

/** A run's state with whatever has no effect beside it; for work that goes on from what has effect. */
export const stateOfReplayed = (replayed: Replayed): RunState =>
  replayed.whole ? replayed.state : replayed.stateWithout;
