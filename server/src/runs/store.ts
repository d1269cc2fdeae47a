import type { EventOutcome, NewProcedureRun, ProcedureRun, SentEvents } from "@uppershed/contract";
import {
  applyEvent,
  buildNetwork,
  fillIn,
  type NewRunEvent,
  replayRun,
  type RunEvent,
  runEventBodySchema,
  type RunState,
  startRun,
  summarize,
  type UnitSystem,
} from "@uppershed/core";
import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import { notFound, Refused } from "../errors.ts";
import { getMap } from "../maps/store.ts";
import { people, runEvents, runs, units, visits } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { getUnit } from "../units/store.ts";
import { carryOver } from "./carry.ts";

type RunRow = typeof runs.$inferSelect;

const eventsOf = async (scope: Scope, runId: string): Promise<RunEvent[]> => {
  const rows = await scope.find(runEvents, eq(runEvents.runId, runId), { order: sql`${runEvents.position}` });
  const who = new Map((await scope.find(people)).map((p) => [p.id, { id: p.id, name: p.name, role: p.role }]));
  return rows.map((row) => ({
    id: row.id,
    seq: row.seq,
    at: row.at.toISOString(),
    body: runEventBodySchema.parse(row.body),
    by: who.get(row.personId) ?? { id: row.personId, name: "", role: "technician" },
  }));
};

const wire = (summary: RunRow["summary"]): ProcedureRun["summary"] => ({ ...summary, clocks: [...summary.clocks] });

/** Folded runs, by id and number of events: only a saving of time, made again from the database when it does not fit. */
const folded = new Map<string, { events: number; state: RunState }>();
const FOLDED_AT_MOST = 40;

const remember = (id: string, state: RunState): void => {
  folded.delete(id);
  folded.set(id, { events: state.events.length, state });
  const oldest = folded.size > FOLDED_AT_MOST ? [...folded.keys()][0] : undefined;
  if (oldest !== undefined) folded.delete(oldest);
};

/** The run as its kept events make it, and how many they are. */
const stateOf = async (scope: Scope, run: RunRow): Promise<{ state: RunState; count: number }> => {
  const events = await eventsOf(scope, run.id);
  const known = folded.get(run.id);
  const last = events.at(-1)?.id;
  if (known?.events === events.length && known.state.events.at(-1)?.id === last) return { state: known.state, count: events.length };
  const map = await getMap(scope, run.unitId, run.mapRevision);
  const { state } = replayRun(buildNetwork(map.document), run.setup, events);
  return { state, count: events.length };
};

export const getRun = async (scope: Scope, id: string): Promise<ProcedureRun> => {
  const run = await scope.first(runs, eq(runs.id, id));
  if (!run) throw notFound("run");
  const unit = await getUnit(scope, run.unitId);
  const map = await getMap(scope, run.unitId, run.mapRevision);
  const events = await eventsOf(scope, id);
  const starter = await scope.first(people, eq(people.id, run.personId));
  return {
    id: run.id,
    unitId: run.unitId,
    unitName: unit.name,
    craft: unit.craft,
    mapRevision: run.mapRevision,
    map: map.document,
    setup: run.setup,
    startedAt: run.startedAt.toISOString(),
    startedBy: starter?.name ?? "",
    closedAt: run.closedAt?.toISOString() ?? null,
    summary: wire(run.summary),
    events: events as ProcedureRun["events"],
  };
};

/** Starts a run on a unit. The same run again is no error; a second open run on one unit is. */
export const beginRun = (scope: Scope, personId: string, wanted: NewProcedureRun, startedAt = new Date()): Promise<ProcedureRun> =>
  scope.together(async (tx) => {
    const same = await tx.first(runs, eq(runs.id, wanted.id));
    if (same) {
      if (same.unitId !== wanted.unitId) throw new Refused("conflict", "A run with this id belongs to another unit.");
      return getRun(tx, wanted.id);
    }
    await getUnit(tx, wanted.unitId);
    const map = await getMap(tx, wanted.unitId, wanted.mapRevision);
    const open = await tx.first(runs, and(eq(runs.unitId, wanted.unitId), isNull(runs.closedAt)) ?? sql`false`);
    if (open) throw new Refused("conflict", "A run is open on this unit already. Go on with that one, or close it.");
    if (wanted.visitId) {
      const visit = await tx.first(visits, eq(visits.id, wanted.visitId));
      if (!visit || visit.unitId !== wanted.unitId) throw notFound("visit of this unit");
      const arrived = visit.arrivedAt === null ? { arrivedAt: startedAt } : {};
      await tx.change(visits, { state: "in-work", waitingFor: "", waitingUntil: null, ...arrived }, eq(visits.id, visit.id));
    }
    const state = startRun(buildNetwork(map.document), wanted.setup);
    const summary = summarize(state);
    await tx.add(runs, { ...wanted, summary, personId, startedAt });
    await tx.change(units, { holdsToC: summary.holdsToC }, eq(units.id, wanted.unitId));
    remember(wanted.id, state);
    return getRun(tx, wanted.id);
  });

/**
 * Takes events of a run, in order, until one is refused; those before it are kept, those after it are not looked at.
 * An event that is already kept is taken again without harm. Validated by the same fold that the screen uses.
 */
export const takeEvents = (
  scope: Scope,
  me: RunEvent["by"],
  system: UnitSystem,
  runId: string,
  sent: readonly NewRunEvent[],
): Promise<SentEvents> =>
  scope
    .together(async (tx) => {
      const [run] = await tx.find(runs, eq(runs.id, runId), { lock: true });
      if (!run) throw notFound("run");
      const before = await stateOf(tx, run);
      let { state } = before;
      const kept = new Set(state.events.map((e) => e.id));
      const elsewhere = await tx.find(
        runEvents,
        inArray(
          runEvents.id,
          sent.map((e) => e.id),
        ),
      );
      const outcomes: EventOutcome[] = [];
      const fresh: RunEvent[] = [];
      for (const one of sent) {
        if (kept.has(one.id)) {
          outcomes.push({ id: one.id, outcome: "already kept" });
          continue;
        }
        if (elsewhere.some((e) => e.id === one.id && e.runId !== runId)) {
          outcomes.push({ id: one.id, outcome: "refused", code: "conflict", problem: "An event with this id belongs to another run." });
          break;
        }
        const event: RunEvent = { ...one, by: me };
        const applied = applyEvent(state, event);
        if (!applied.ok) {
          outcomes.push({ id: one.id, outcome: "refused", code: applied.code, problem: fillIn(applied.problem, system) });
          break;
        }
        state = applied.state;
        kept.add(one.id);
        fresh.push(event);
        outcomes.push({ id: one.id, outcome: "kept" });
      }
      const summary = summarize(state);
      if (fresh.length > 0) {
        await tx.add(
          runEvents,
          fresh.map((event, i) => ({
            id: event.id,
            runId,
            position: before.count + i + 1,
            seq: event.seq,
            at: new Date(event.at),
            personId: me.id,
            type: event.body.type,
            body: event.body,
          })),
        );
        const closed = fresh.find((e) => e.body.type === "closed");
        await tx.change(runs, { summary, ...(closed ? { closedAt: new Date(closed.at) } : {}) }, eq(runs.id, runId));
        await tx.change(units, { holdsToC: summary.holdsToC }, eq(units.id, run.unitId));
        await carryOver(tx, run, fresh, state);
        if (closed && run.visitId) await tx.change(visits, { state: "ready" }, eq(visits.id, run.visitId));
      }
      return { state, reply: { outcomes, summary: wire(summary) } };
    })
    .then(({ state, reply }) => {
      // Only after the transaction has gone through.
      remember(runId, state);
      return reply;
    });
