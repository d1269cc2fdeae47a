import {
  applyEvent,
  complete,
  enterPlan,
  type Refused,
  type RunEvent,
  type RunState,
} from "@uppershed/core/procedure";
import { idFrom } from "../ids.ts";
import { mapDocumentAt } from "../register/maps.ts";
import type { Scope } from "../scope.ts";
import { frozenPlanner, type OldEvent, thaw, thawByBest } from "./frozen.ts";
import type { RunRow } from "./entries.ts";

/** An entry made whole for keeping, with a plan after it where one was made. */
export type Ready = { readonly ok: true; readonly events: readonly RunEvent[] } | Refused;

const asNow = (state: RunState, event: RunEvent): Ready => {
  const whole = complete(state, event);
  return whole.ok ? { ok: true, events: [whole.event] } : whole;
};

/** The same for a device that makes no plans: the plan that its entry calls for is made here. */
const planningHere = (state: RunState, event: RunEvent): Ready => {
  const whole = complete(state, event);
  if (!whole.ok) return whole;
  const applied = applyEvent(state, whole.event);
  if (!applied.ok) return applied;
  const planned = enterPlan(applied.state, (body) => ({
    id: idFrom(`plan after ${event.id}`),
    seq: event.seq,
    at: event.at,
    by: event.by,
    body,
  }));
  return planned.ok ? { ok: true, events: [whole.event, ...planned.events] } : planned;
};

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
  before: { readonly state: RunState },
  sent: readonly RunEvent[],
  form: number,
): Promise<(state: RunState, event: RunEvent) => Ready> => {
  const { planner } = before.state;
  // A run that this version began is planned by this version, also where the device is not so far.
  const old =
    form < KEEPS_PLANS &&
    (planner === "1" ||
      planner === LAST_FROZEN ||
      (planner === undefined && (await begunBefore(scope, run))));
  if (!old) return form < KEEPS_PLANS ? planningHere : asNow;
  const known = before.state.events.filter((e) => e.body.type !== "planned");
  const kept = new Set(known.map((e) => e.id));
  const log: OldEvent[] = [...known, ...sent.filter((e) => !kept.has(e.id))].map(
    ({ said: _said, ...e }) => e,
  );
  const document = await mapDocumentAt(scope, run.unitId, run.mapRevision);
  // A map drawn by this version was never before that planner.
  if (((document as { version?: number }).version ?? 0) > LAST_FROZEN_MAP) return planningHere;
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
        code: found.refused.code as Refused["code"],
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
