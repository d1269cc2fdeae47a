import { lookFor, readingKey } from "@uppershed/core/inspection";
import { and, eq, sql } from "drizzle-orm";
import type { Tx } from "../db.ts";
import { idFrom } from "../ids.ts";
import { ofOldKey, pointIdOf } from "../readings/old-keys.ts";
import { looks, readings, runEvents } from "../schema/index.ts";

/**
 * Looks and readings were followed by their words: from now on a look hangs from its point's id, and a reading from the part, the place on
 * it and the kind of figure. Nothing that was said or measured changes.
 */
export const giveKeys = async (tx: Tx): Promise<void> => {
  await tx.execute(sql`alter table looks disable trigger looks_append_only`);
  await tx.execute(sql`alter table readings disable trigger readings_append_only`);
  const points = await tx
    .selectDistinct({ key: looks.key, partId: looks.partId, point: looks.point })
    .from(looks)
    .where(eq(looks.pointId, ""));
  for (const { key, partId, point } of points) {
    const whole = key.startsWith("unit/");
    const pointId = whole ? key.split("/").slice(0, 2).join("/") : pointIdOf(point);
    const next = whole || partId === null ? key : `${partId}/${pointId}`;
    await tx
      .update(looks)
      .set({ pointId, key: next })
      .where(and(eq(looks.key, key), eq(looks.point, point), eq(looks.pointId, "")));
  }
  // A look's figures bear ids made of the look's own.
  const measured = await tx
    .select({ id: looks.id, partId: looks.partId, pointId: looks.pointId, figures: looks.readings })
    .from(looks)
    .where(sql`jsonb_array_length(${looks.readings}) > 0`);
  for (const look of measured) {
    const { reading } = lookFor(look.pointId);
    for (const i of look.figures.keys()) {
      const of = { partId: look.partId, spot: look.pointId, kind: reading?.is ?? "fraction" };
      await tx
        .update(readings)
        .set({ spot: of.spot, kind: of.kind, key: readingKey(of) })
        .where(eq(readings.id, idFrom(`reading ${i} of look ${look.id}`)));
    }
  }
  await keysOfRuns(tx);
  const rest = await tx
    .selectDistinct({ key: readings.key, partId: readings.partId })
    .from(readings)
    .where(eq(readings.kind, ""));
  for (const { key, partId } of rest) {
    const of = ofOldKey(key, partId);
    await tx
      .update(readings)
      .set({ ...of, key: readingKey(of) })
      .where(
        and(
          eq(readings.key, key),
          partId === null ? sql`${readings.partId} is null` : eq(readings.partId, partId),
          eq(readings.kind, ""),
        ),
      );
  }
  await tx.execute(sql`alter table looks enable trigger looks_append_only`);
  await tx.execute(sql`alter table readings enable trigger readings_append_only`);
};

/** A run's readings bear the ids of their entries; its plans say which cell each speaks of. */
const keysOfRuns = async (tx: Tx): Promise<void> => {
  const taken = await tx
    .select({ id: readings.id, runId: runEvents.runId, body: runEvents.body })
    .from(readings)
    .innerJoin(runEvents, eq(runEvents.id, readings.id))
    .where(eq(readings.kind, ""));
  const asks = new Map<string, ReadonlyMap<string, { kind: string; cell?: string }>>();
  for (const { id, runId, body } of taken) {
    if (!asks.has(runId)) asks.set(runId, await asksOf(tx, runId));
    const said = body as { stepId?: string; ask?: string };
    const ask = asks.get(runId)?.get(`${said.stepId} ${said.ask}`);
    if (!ask) continue;
    const [partId = null, spot = ""] = ask.cell?.split(":") ?? [];
    const of = { partId, spot, kind: ask.kind };
    await tx
      .update(readings)
      .set({ ...of, key: readingKey(of) })
      .where(eq(readings.id, id));
  }
};

const asksOf = async (
  tx: Tx,
  runId: string,
): Promise<Map<string, { kind: string; cell?: string }>> => {
  const plans = await tx
    .select({ body: runEvents.body })
    .from(runEvents)
    .where(and(eq(runEvents.runId, runId), eq(runEvents.type, "planned")));
  const steps = plans.flatMap(
    (p) =>
      (
        p.body as {
          plan: { steps: { id: string; asks: { key: string; kind: string; cell?: string }[] }[] };
        }
      ).plan.steps,
  );
  return new Map(steps.flatMap((s) => s.asks.map((a) => [`${s.id} ${a.key}`, a] as const)));
};
