import { WATER_SETTINGS } from "../job.ts";
import type { Step } from "../step.ts";
import { PLANNER_VERSION } from "../version.ts";
import { type Plan } from "../plan.ts";
import { planSanitize, planSpring, type Strips } from "../spring/index.ts";
import { planWinterize, type WinterizeRequest } from "../winterize/index.ts";
import { admit } from "./admit.ts";
import { enterPlain, type Entered, engineSpeaks, type MakeEvent, turnOf } from "./enter-plain.ts";
import type { AskedBody, RunEvent, RunEventBody } from "./events.ts";
import { applyEvent } from "./fold.ts";
import { outOfTurn } from "./out-of-turn.ts";
import { keptPlan } from "./kept-plan.ts";
import type { Said } from "./said.ts";
import { type Refused, type RunState } from "./state.ts";
import { workOut } from "./work-out.ts";

/** Entering: from what a person does to the entries that are kept, with what was planned and what the engine said. */

/** Strips read so far, by dose. */
const stripsOf = (state: RunState): Strips[] => {
  const strips: { startMgL?: number; endMgL?: number }[] = [];
  for (const { ask, si } of state.readings) {
    const [, which, round] = /^chlorine-(start|end):(\d+)$/u.exec(ask) ?? [];
    if (round === undefined) continue;
    const of = (strips[Number(round) - 1] ??= {});
    if (which === "start") of.startMgL = si;
    else of.endMgL = si;
  }
  return Array.from(strips, (s) => s ?? {});
};

// A strip tells no more than this from nothing, and no bottle gives more than so much over its label.
const GIVES: readonly [number, number] = [0.05, 1.5];

/** What the bottle gives by the strips at the start, as a share of what was reckoned. */
const bottleGives = (state: RunState): number => {
  const starts = new Map(
    state.readings
      .filter((r) => r.ask.startsWith("chlorine-start:") && r.expected !== undefined)
      .map((r) => [r.stepId, r]),
  );
  return [...starts.values()].reduce(
    (gives, r) =>
      gives * Math.min(GIVES[1], Math.max(GIVES[0], r.si / Math.max(r.expected ?? 1, 1e-9))),
    1,
  );
};

/** The plan of what a run is for. */
const planFor = (state: RunState, undone: readonly string[]): Plan => {
  const { job, water = WATER_SETTINGS } = state.setup;
  const request = { ...requestOf(state), undone };
  if (job === "spring") return planSpring({ ...request, water });
  return job === "sanitize"
    ? planSanitize({
        ...request,
        water,
        strips: stripsOf(state),
        bottleGives: bottleGives(state),
      })
    : planWinterize(request);
};

const requestOf = (state: RunState): WinterizeRequest => ({
  method: state.setup.method,
  network: state.network,
  start: state.physical,
  winterLowC: state.setup.winterLowC,
  marginC: state.setup.marginC,
  basis: state.setup.basis,
  product: state.setup.product,
  cannot: state.cannot,
  trapDoseM3: state.setup.trapDoseM3,
  ...(state.setup.house ? { house: state.setup.house } : {}),
});

/** A step that comes a second time gets an id of its own, and whatever needs it needs it by that: the first time does not count. */
const withOwnIds = (steps: readonly Step[], done: readonly string[]): Step[] => {
  const used = new Set(done);
  const own = new Map<string, string>();
  return steps.map((step) => {
    let [id, again] = [step.id, 2];
    while (used.has(id)) id = `${step.id}${AGAIN}${again++}`;
    used.add(id);
    own.set(step.id, id);
    return {
      ...step,
      id,
      needs: step.needs.map((need) => own.get(need) ?? need),
      ...(step.after
        ? { after: { ...step.after, step: own.get(step.after.step) ?? step.after.step } }
        : {}),
    };
  });
};

const AGAIN = "~";
/** What the planner calls a step that has come again. */
const asPlanned = (stepId: string): string => stepId.split(AGAIN)[0] ?? stepId;

/** Plans what is left of a run, from the unit as it now stands. */
export const planOf = (
  state: RunState,
  because: string,
): Extract<RunEventBody, { type: "planned" }> => {
  const done = state.done.map((d) => d.step.id);
  const leftUndone = stepsLeftUndone(state);
  const made = (undone: readonly string[]): { plan: Plan; steps: Step[] } => {
    const plan = planFor(state, undone.map(asPlanned));
    return { plan, steps: withOwnIds(plan.steps, done) };
  };
  const first = made(leftUndone);
  // After "can't do this" the planner may know no other way: the step is left undone, with everything that must not be done without it.
  const undone = state.cannot.at(-1)?.stepId;
  // The very same step again, although it cannot be done.
  const answered = state.todo[0]?.id === undone ? state.todo[0] : undefined;
  const again = first.steps.find((s) => s.id === undone);
  const stuck =
    undone !== undefined &&
    answered !== undefined &&
    again !== undefined &&
    JSON.stringify(again.actions) === JSON.stringify(answered.actions);
  const dropped =
    undone !== undefined && !done.includes(undone) && !first.steps.some((s) => s.id === undone);
  const { plan, steps } = stuck || dropped ? made([...leftUndone, undone]) : first;
  // A step that came a second time bears another id here than in the planner.
  return {
    type: "planned",
    because,
    planner: PLANNER_VERSION,
    plan: keptPlan(plan, stuck ? steps.filter((s) => s.id !== undone) : steps),
  };
};

/** Steps that were answered with "can't do this" and that no plan has had since. */
const stepsLeftUndone = (state: RunState): string[] =>
  state.events.flatMap((e) => {
    const { body } = e;
    if (body.type !== "step-cannot") return [];
    const next = state.events.find(
      (p) => p.body.type === "planned" && p.body.because === e.id,
    )?.body;
    return next?.type === "planned" && !next.plan.steps.some((s) => s.id === body.stepId)
      ? [body.stepId]
      : [];
  });

/** The plan that a run waits for, entered; a run that waits for none is left as it is. */
export const enterPlan = (state: RunState, make: MakeEvent): Entered => {
  if (state.phase !== "to-plan" || state.planAfter === undefined)
    return { ok: true, state, events: [] };
  const event = make(planOf(state, state.planAfter), undefined);
  const applied = applyEvent(state, event);
  return applied.ok ? { ok: true, state: applied.state, events: [event] } : applied;
};

/** What only the engine can say of the order in which things are done. */
const turnByEngine = (state: RunState, body: RunEventBody): Refused | undefined =>
  body.type === "step-brought" ? outOfTurn(state, body.stepId) : undefined;

/**
 * Enters what a person does; the plan that it may call for is entered by `enterPlan`.
 * @returns the run after it with its new entry, or why it cannot be, in words and as a code
 */
export const enterAlone = (state: RunState, body: AskedBody, make: MakeEvent): Entered => {
  if (!engineSpeaks(body)) return enterPlain(state, body, make);
  const bare = make(body, undefined);
  // First whether it is its turn, with words in place of what the engine will say; the engine is asked only then.
  const wrong = admit(state, body, bare.by) ?? turnOf(state, bare) ?? turnByEngine(state, body);
  if (wrong) return wrong;
  const said = workOut(state, body);
  const event = said ? { ...bare, said } : bare;
  const applied = applyEvent(state, event);
  return applied.ok ? { ok: true, state: applied.state, events: [event] } : applied;
};

/** Enters what a person does, and the plan that it calls for. */
export const enter = (state: RunState, body: AskedBody, make: MakeEvent): Entered => {
  const alone = enterAlone(state, body, make);
  if (!alone.ok) return alone;
  const planned = enterPlan(alone.state, make);
  return planned.ok ? { ...planned, events: [...alone.events, ...planned.events] } : planned;
};

// Warmer than this, K, and the engine here does not agree with the engine on the device.
const DISAGREES_K = 0.5;

/** Of what a device's engine said and what the engine here says: the device's, unless it promises more cold. */
const decided = (own: Said | undefined, device: Said | undefined): Said | undefined => {
  if (!own || !device || own.engine === device.engine) return own;
  const warmer = (own.holdsToC ?? -Infinity) > (device.holdsToC ?? -Infinity) + DISAGREES_K;
  if (!warmer) return device;
  const { planAgain: _own, ...words } = own;
  return {
    ...words,
    ...(device.planAgain ? { planAgain: true as const } : {}),
    device: { engine: device.engine, holdsToC: device.holdsToC },
  };
};

/**
 * An entry as a device sent it, made whole by whoever keeps it: asked whether it makes sense and is in turn, and given the words that are
 * kept with it. An engine of the same version says the same here as there; of another version, the warmer of the two is kept.
 */
export const complete = (
  state: RunState,
  sent: RunEvent,
): { readonly ok: true; readonly event: RunEvent } | Refused => {
  const { said: device, ...bare } = sent;
  const wrong = admit(state, sent.body, sent.by, { done: true }) ?? turnOf(state, bare);
  if (wrong) return wrong;
  const said = decided(workOut(state, sent.body), device);
  return { ok: true, event: said ? { ...bare, said } : bare };
};
