import type { EventOutcome, SentEvents } from "@uppershed/contract";
import {
  applyEvent,
  fallsShort,
  type NewRunEvent,
  type RunEvent,
  type RunState,
  summarize,
  type UnreadEntry,
} from "@uppershed/core/procedure";
import { fillIn, type UnitSystem } from "@uppershed/core/quantity";
import { eq, inArray } from "drizzle-orm";
import { notFound } from "../errors.ts";
import { runEvents, runs, visits } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { noteEntry } from "../register/history.ts";
import { holdsNow, refreshState } from "../standing/standing.ts";
import { moveBy } from "../calendar/move.ts";
import { carryOver } from "./carry.ts";
import {
  entriesOf,
  networkOf,
  replayOf,
  type RunRow,
  stateOfReplayed,
} from "../run-log/entries.ts";
import { readyFor, readyToPlan } from "../run-log/old-form.ts";
import { wire } from "../register/run-lines.ts";

/** Folded runs, by id and newest entry: only a saving of time, made again from the database when it does not fit. */
const folded = new Map<string, { last: string; count: number; state: RunState }>();
const FOLDED_AT_MOST = 40;

const remember = (id: string, state: RunState, count: number): void => {
  folded.delete(id);
  folded.set(id, { last: state.events.at(-1)?.id ?? "", count, state });
  const oldest = folded.size > FOLDED_AT_MOST ? [...folded.keys()][0] : undefined;
  if (oldest !== undefined) folded.delete(oldest);
};

interface Before {
  readonly state: RunState;
  readonly count: number;
  /** Every id that is kept, in effect or not. */
  readonly kept: ReadonlyMap<string, unknown>;
  readonly unread: readonly UnreadEntry[];
}

const stateOf = async (scope: Scope, run: RunRow): Promise<Before> => {
  const entries = await entriesOf(scope, run.id);
  const kept = new Map<string, unknown>([
    ...entries.events.map((e) => [e.id, e.body] as const),
    ...entries.unread.map((u) => [u.id, undefined] as const),
  ]);
  const known = folded.get(run.id);
  if (known?.count === entries.count && known.last === (entries.events.at(-1)?.id ?? ""))
    return { state: known.state, count: entries.count, kept, unread: entries.unread };
  const state = stateOfReplayed(replayOf(await networkOf(scope, run), run, entries));
  return { state, count: entries.count, kept, unread: entries.unread };
};

/** How an entry was sent: with a form that says whether the device keeps plans, and by which clock. */
export interface SentWith {
  readonly form: number;
  /** How far the device's clock is ahead of the server's, s. */
  readonly clockAheadS: number | null;
}

/**
 * Takes entries of a run in the order in which they were sent. Each is judged on its own: one that cannot be is refused with its reason,
 * those that do not depend on it are kept. An entry that is already kept is taken again without harm. What the engine says of the unit
 * is kept with each.
 */
export const takeEvents = (
  scope: Scope,
  me: RunEvent["by"],
  system: UnitSystem,
  runId: string,
  sent: readonly NewRunEvent[],
  how: SentWith = { form: 2, clockAheadS: null },
): Promise<SentEvents> =>
  readyToPlan(sent, how.form).then(() => takeReady(scope, me, system, runId, sent, how));

const takeReady = (
  scope: Scope,
  me: RunEvent["by"],
  system: UnitSystem,
  runId: string,
  sent: readonly NewRunEvent[],
  how: SentWith,
): Promise<SentEvents> =>
  scope
    .together(async (tx) => {
      const [run] = await tx.find(runs, eq(runs.id, runId), { lock: true });
      if (!run) throw notFound("run");
      const before = await stateOf(tx, run);
      let { state } = before;
      const kept = new Map(before.kept);
      const elsewhere = new Set(
        (
          await tx.find(
            runEvents,
            inArray(
              runEvents.id,
              sent.map((e) => e.id),
            ),
          )
        )
          .filter((e) => e.runId !== runId)
          .map((e) => e.id),
      );
      const outcomes: EventOutcome[] = [];
      const fresh: RunEvent[] = [];
      const refuse = (id: string, code: string, problem: string): void => {
        outcomes.push({ id, outcome: "refused", code, problem: fillIn(problem, system) });
      };
      const add = (event: RunEvent): string | undefined => {
        const applied = applyEvent(state, event);
        if (!applied.ok) return applied.problem;
        state = applied.state;
        kept.set(event.id, event.body);
        fresh.push(event);
        return undefined;
      };
      const ready = await readyFor(
        tx,
        run,
        before,
        sent.map((e) => ({ ...e, by: me })),
        how.form,
      );
      for (const one of sent) {
        const event = { ...one, by: me } as RunEvent;
        if (kept.has(one.id)) {
          const applied = state.events.some((e) => e.id === one.id)
            ? applyEvent(state, event)
            : { ok: true as const };
          if (applied.ok) outcomes.push({ id: one.id, outcome: "already kept" });
          else refuse(one.id, applied.code, applied.problem);
          continue;
        }
        if (elsewhere.has(one.id)) {
          refuse(one.id, "conflict", "An event with this id belongs to another run.");
          continue;
        }
        const made = await ready(state, event);
        const whole = made.ok ? { ok: true as const, events: made.events } : made;
        if (!whole.ok) {
          refuse(one.id, whole.code, whole.problem);
          continue;
        }
        const problem = whole.events.map(add).find((p) => p !== undefined);
        if (problem !== undefined) refuse(one.id, "out-of-order", problem);
        else outcomes.push({ id: one.id, outcome: "kept" });
      }
      const summary = fresh.length > 0 ? summarize(state) : run.summary;
      if (fresh.length > 0) await keep(tx, run, me, state, fresh, before.count, how, summary);
      return {
        state,
        count: before.count + fresh.length,
        reply: { outcomes, summary: wire(summary), count: before.count + fresh.length },
      };
    })
    .then(({ state, count, reply }) => {
      // Only after the transaction has gone through.
      remember(runId, state, count);
      return reply;
    });

/** While what was dosed stands, the visit waits for it, and other work is offered; afterwards it is in work again. */
const waitForStand = async (
  tx: Scope,
  run: RunRow,
  fresh: readonly RunEvent[],
  state: RunState,
): Promise<void> => {
  if (!run.visitId) return;
  // What arrives late, of a visit that has gone by now, is kept all the same.
  const [visit] = await tx.pick(visits, { state: visits.state }, eq(visits.id, run.visitId));
  if (visit?.state !== "in-work" && visit?.state !== "waiting" && visit?.state !== "arrived")
    return;
  for (const { body } of fresh) {
    if (body.type !== "step-signed") continue;
    const step = state.done.find((d) => d.step.id === body.stepId)?.step;
    const stand = step?.actions.find((a) => a.type === "stand");
    const signed = state.done.find((d) => d.step.id === body.stepId)?.signed.at;
    if (stand && signed !== undefined)
      await moveBy(
        tx,
        run.visitId,
        {
          to: "waiting",
          waitingFor: "soaking",
          waitingUntil: new Date(Date.parse(signed) + stand.seconds * 1000).toISOString(),
        },
        new Date(),
      );
    else if (step?.after) await moveBy(tx, run.visitId, { to: "in-work" }, new Date());
  }
};

const keep = async (
  tx: Scope,
  run: RunRow,
  me: RunEvent["by"],
  state: RunState,
  fresh: readonly RunEvent[],
  count: number,
  how: SentWith,
  summary: RunRow["summary"],
): Promise<void> => {
  await tx.add(
    runEvents,
    fresh.map((event, i) => ({
      id: event.id,
      runId: run.id,
      position: count + i + 1,
      seq: event.seq,
      at: new Date(event.at),
      personId: me.id,
      byName: me.name,
      byRole: me.role,
      type: event.body.type,
      body: event.body,
      said: event.said ?? null,
      clockAheadS: how.clockAheadS,
    })),
  );
  const closed = fresh.find((e) => e.body.type === "closed");
  await tx.change(
    runs,
    { summary, ...(closed ? { closedAt: new Date(closed.at) } : {}) },
    eq(runs.id, run.id),
  );
  if (closed)
    await noteEntry(tx, {
      unitId: run.unitId,
      personId: me.id,
      entry: { kind: "run-closed", at: closed.at, runId: run.id },
    });
  await carryOver(tx, run, fresh, state);
  // What falls short is not ready by itself: somebody has to accept that by name.
  // A spring that sanitizing follows is not ready yet.
  const goesOn = run.setup.job === "spring" && run.setup.water?.sanitizeNext === true;
  if (closed && run.visitId && !goesOn && !fallsShort(summary, run.setup.winterLowC))
    await moveBy(tx, run.visitId, { to: "run-closed" }, new Date());
  await waitForStand(tx, run, fresh, state);
  if (state.phase === "closed" || run.setAsideAt) await refreshState(tx, run.unitId);
  else await holdsNow(tx, run.unitId, summary.holdsToC);
};
