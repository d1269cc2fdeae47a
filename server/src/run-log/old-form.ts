import {
  complete,
  type Refused as RefusedEntry,
  engineSpeaks,
  type RunEvent,
  type RunState,
  type UnreadEntry,
} from "@uppershed/core/procedure";
import { beside } from "../beside.ts";
import { Refused } from "../errors.ts";
import { mapDocumentAt } from "../register/maps.ts";
import type { Scope } from "../scope.ts";
import { frozenPlanner, type OldEvent, thaw, thawByBest } from "./frozen.ts";
import type { RunRow } from "./entries.ts";
import type { PlanTask, Ready } from "./plan.worker.ts";

const asNow = (state: RunState, event: RunEvent): Ready => {
  const whole = complete(state, event);
  return whole.ok ? { ok: true, events: [whole.event] } : whole;
};

/** So that nobody who works on the run waits for the worker to be ready: called before its row is taken. */
export const readyToPlan = (sent: readonly { body: RunEvent["body"] }[], form: number) =>
  form < KEEPS_PLANS && sent.some((e) => PLANNED_AFTER.has(e.body.type) || engineSpeaks(e.body))
    ? workers.run(undefined)
    : Promise.resolve();

const workers = beside<PlanTask | undefined, Ready>(new URL("plan.worker.ts", import.meta.url));
export const endPlanWorkers = workers.end;

/** The same for a device that makes no plans: the plan that its entry calls for is made here, beside the server. */
const planningHere =
  (run: RunRow, unread: readonly UnreadEntry[]) =>
  (state: RunState, event: RunEvent): Ready | Promise<Ready> =>
    PLANNED_AFTER.has(event.body.type) || engineSpeaks(event.body)
      ? workers.run({
          map: state.network.map,
          setup: run.setup,
          begins: run.begins ?? undefined,
          unread,
          events: state.events,
          entry: event,
        })
      : asNow(state, event);

/** What a plan is made after. */
const PLANNED_AFTER: ReadonlySet<string> = new Set(["as-found", "step-cannot"]);
// Nobody finds a unit, or says that something cannot be done, so often between two signals.
const MOST_PLANNED = 20;

// Devices whose application keeps plans send this form or a later one.
const KEEPS_PLANS = 2;
const LAST_FROZEN = "2";
const LAST_FROZEN_MAP = 2;

/** Whether a run was begun before this database kept plans. */
const begunBefore = async (scope: Scope, run: RunRow): Promise<boolean> =>
  run.startedAt < (await scope.keptPlansSince());

/**
 * How entries of a run are made whole. A device of the version before sends no plans and follows the planner of then: its entries are done
 * by that planner, as they would have been, so that nothing that it put aside is lost.
 */
export const readyFor = async (
  scope: Scope,
  run: RunRow,
  before: { readonly state: RunState; readonly unread: readonly UnreadEntry[] },
  sent: readonly RunEvent[],
  form: number,
): Promise<(state: RunState, event: RunEvent) => Ready | Promise<Ready>> => {
  const { planner } = before.state;
  if (
    form < KEEPS_PLANS &&
    sent.filter((e) => PLANNED_AFTER.has(e.body.type)).length > MOST_PLANNED
  )
    throw new Refused(
      "too-large",
      `More than ${MOST_PLANNED} entries that are to be planned after came at once. Send them in several requests. Nothing was changed.`,
    );
  // A run that this version began is planned by this version, also where the device is not so far.
  const old =
    form < KEEPS_PLANS &&
    (planner === "1" ||
      planner === LAST_FROZEN ||
      (planner === undefined && (await begunBefore(scope, run))));
  if (!old) return form < KEEPS_PLANS ? planningHere(run, before.unread) : asNow;
  const known = before.state.events.filter((e) => e.body.type !== "planned");
  const kept = new Set(known.map((e) => e.id));
  const log: OldEvent[] = [...known, ...sent.filter((e) => !kept.has(e.id))].map(
    ({ said: _said, ...e }) => e,
  );
  const document = await mapDocumentAt(scope, run.unitId, run.mapRevision);
  // A map drawn by this version was never before that planner.
  if (((document as { version?: number }).version ?? 0) > LAST_FROZEN_MAP)
    return planningHere(run, before.unread);
  const done = new Map(
    (planner === undefined
      ? await thawByBest(document, run.setup, log)
      : thaw(await frozenPlanner(planner), planner, document, run.setup, log)
    ).map((t) => [t.event.id, t] as const),
  );
  return (state, event) => {
    const found = done.get(event.id);
    if (!found) return asNow(state, event);
    if (found.refused)
      return {
        ok: false,
        code: found.refused.code as RefusedEntry["code"],
        problem: found.refused.problem,
      };
    return {
      ok: true,
      events: [
        { ...event, ...(found.said ? { said: found.said } : {}) },
        ...(found.planned ? [{ ...found.planned, by: event.by }] : []),
      ],
    };
  };
};
