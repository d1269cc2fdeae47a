import { runEventBodySchema } from "@uppershed/core/procedure";
import { and, eq, sql } from "drizzle-orm";
import type { Tx } from "../db.ts";
import { mapRevisions, runEvents, runs } from "../schema/index.ts";
import { frozenPlanner, madeByPlanner, type OldEvent, thaw } from "../run-log/frozen.ts";

// Higher than any run's own count, so that places can be given anew without two rows sharing one on the way.
const ASIDE = 10_000_000;

/** Every run that kept no plan keeps it from now on: what was planned and what was said, by the planner of the version that made it. */
export const freezeRuns = async (tx: Tx): Promise<void> => {
  const open = await tx
    .select({ run: runs, document: mapRevisions.document })
    .from(runs)
    .innerJoin(
      mapRevisions,
      and(eq(mapRevisions.unitId, runs.unitId), eq(mapRevisions.revision, runs.mapRevision)),
    )
    .where(
      sql`not exists (select 1 from ${runEvents} where ${runEvents.runId} = ${runs.id} and (${runEvents.type} = 'planned' or ${runEvents.said} is not null))`,
    );
  if (open.length === 0) return;
  await tx.execute(sql`alter table run_events disable trigger run_events_append_only`);
  for (const { run, document } of open) {
    const rows = await tx
      .select()
      .from(runEvents)
      .where(eq(runEvents.runId, run.id))
      .orderBy(runEvents.position);
    const events = rows.flatMap<OldEvent>((row) => {
      const body = runEventBodySchema.safeParse(row.body);
      const by = { id: row.personId, name: row.byName, role: row.byRole };
      return body.success
        ? [{ id: row.id, seq: row.seq, at: row.at.toISOString(), body: body.data, by }]
        : [];
    });
    if (events.length === 0) continue;
    const version = await madeByPlanner(document, run.setup, events, run.summary);
    const thawed = new Map(
      thaw(await frozenPlanner(version), version, document, run.setup, events).map(
        (t) => [t.event.id, t] as const,
      ),
    );
    await tx
      .update(runEvents)
      .set({ position: sql`${runEvents.position} + ${ASIDE}` })
      .where(eq(runEvents.runId, run.id));
    let position = 0;
    for (const row of rows) {
      const kept = thawed.get(row.id);
      await tx
        .update(runEvents)
        .set({ position: ++position, ...(kept?.said ? { said: kept.said } : {}) })
        .where(eq(runEvents.id, row.id));
      if (kept?.planned)
        await tx.insert(runEvents).values({
          ...row,
          id: kept.planned.id,
          position: ++position,
          type: "planned",
          body: kept.planned.body,
          said: null,
        });
    }
  }
  await tx.execute(sql`alter table run_events enable trigger run_events_append_only`);
};
