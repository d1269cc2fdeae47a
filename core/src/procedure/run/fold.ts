import { frostVerdict, liquidIn, product, volumeOf } from "../../contents/index.ts";
import { inUseLineup, type Lineup, type Network } from "../../watermap/index.ts";
import { act, type Physical, startPhysical, withRecovered } from "../physical.ts";
import { type Ask, rowsOf, type Step } from "../step.ts";
import { planWinterize } from "../winterize/index.ts";
import type { RunEvent, RunEventBody, RunSetup } from "./events.ts";
import { looseEnds } from "./loose-ends.ts";
import { type Applied, type Reading, type Refusal, requestOf, type RunState, type Signature } from "./state.ts";

const refuse = (code: Refusal, problem: string): Applied => ({ ok: false, code, problem });

/** A run before anything has happened: planned from the map's own lineup, waiting for the lineup as found. */
export const startRun = (network: Network, setup: RunSetup): RunState => {
  const physical = startPhysical(network);
  const plan = planWinterize(requestOf(network, setup, physical, []));
  return {
    network,
    setup,
    phase: "as-found",
    physical,
    plan,
    firstPlan: plan,
    todo: plan.steps,
    done: [],
    cannot: [],
    ticked: [],
    readings: [],
    notes: [],
    clocks: [],
    events: [],
  };
};

/** Plans again from the unit as it now stands. A step that comes a second time gets an id of its own. */
const replanned = (state: RunState): RunState => {
  const plan = planWinterize(requestOf(state.network, state.setup, state.physical, state.cannot));
  const used = new Set(state.done.map((d) => d.step.id));
  const todo = plan.steps.map((step) => {
    let [id, again] = [step.id, 2];
    while (used.has(id)) id = `${step.id}~${again++}`;
    used.add(id);
    return id === step.id ? step : { ...step, id };
  });
  return { ...state, plan, todo, ticked: [], phase: todo.length > 0 ? "steps" : "as-left" };
};

const checkLineup = (network: Network, lineup: Lineup): string | undefined => {
  for (const [key, position] of Object.entries(lineup)) {
    const control = network.controls.find((c) => c.key === key);
    if (!control) return `This map has no control "${key}".`;
    if (!control.spec.positions.some((p) => p.name === position)) return `${control.part.name} has no position "${position}".`;
  }
  return undefined;
};

/** Why a step asked for is not the one in hand. */
const notInHand = (state: RunState, stepId: string): Applied | undefined => {
  if (state.phase === "as-found") return refuse("out-of-order", "Write down how the valves were found first.");
  if (state.todo[0]?.id === stepId) return undefined;
  if (state.done.some((d) => d.step.id === stepId)) return refuse("already-signed", "This step is signed already. Nothing was changed.");
  return state.todo.some((s) => s.id === stepId)
    ? refuse("out-of-order", `First: ${state.todo[0]?.title ?? "the step in hand"}.`)
    : refuse("unknown-step", "The plan has no such step now; it may have been planned again.");
};

// A bucket reads no better than this; more than a vessel holds by more than this share is a slip of the pen.
const MEASURE_SLACK = 1.1;

/** Why a reading cannot be, or nothing. */
const impossible = ({ network, readings }: RunState, ask: Ask, si: number): string | undefined => {
  if (!Number.isFinite(si)) return "That is not a number.";
  switch (ask.kind) {
    case "strength":
      return si < 0 || si > 1 ? "A strength lies between 0 and 100 %." : undefined;
    case "temperature":
      return si < -50 || si > 110 ? "Water is not at that temperature." : undefined;
    case "recovered": {
      if (si < 0) return "A volume cannot be negative.";
      const cell = network.cells[network.cellIndex.get(ask.cell ?? "") ?? -1];
      return cell && si > cell.capacityM3 * MEASURE_SLACK ? `It holds only {m3:${cell.capacityM3}}.` : undefined;
    }
    case "antifreeze-left": {
      const brought = readings.findLast((r) => r.kind === "antifreeze-in");
      if (si < 0) return "A volume cannot be negative.";
      return brought && si > brought.si ? `Only ${brought.typed} was brought.` : undefined;
    }
    default:
      return si < 0 ? "A volume cannot be negative." : undefined;
  }
};

const latest = (state: RunState, stepId: string, ask: string): Reading | undefined =>
  state.readings.findLast((r) => r.stepId === stepId && r.ask === ask);

/** Lets what was read replace what was worked out. */
const withReading = (network: Network, before: Physical, now: Physical, ask: Ask, si: number): Physical => {
  const index = network.cellIndex.get(ask.cell ?? "");
  if (index === undefined) return now;
  if (ask.kind === "strength") return { ...now, measured: new Map([...now.measured, [index, si]]) };
  if (ask.kind === "recovered") return withRecovered(network, now, ask.cell ?? "", volumeOf(liquidIn(before.contents[index])), si);
  return now;
};

/** The cells whose reading is too weak for the winter low, thinned in the model to what was read, so that the planner runs them again. */
const thinned = (state: RunState, step: Step): RunState | undefined => {
  const limit = state.setup.winterLowC;
  const verdict = frostVerdict(state.network, state.physical.contents, state.setup.basis, state.physical.measured);
  const weak = step.asks.flatMap((ask) => {
    const index = state.network.cellIndex.get(ask.cell ?? "");
    const read = latest(state, step.id, ask.key);
    const holds = index === undefined ? null : verdict.cells[index]?.holdsToC;
    return ask.kind === "strength" && index !== undefined && read && holds !== null && holds !== undefined && holds > limit
      ? [{ index, strength: read.si }]
      : [];
  });
  if (weak.length === 0) return undefined;
  const contents = state.physical.contents.map((cell, i) => {
    const found = weak.find((w) => w.index === i);
    return found ? { plugs: [product(volumeOf(liquidIn(cell)), found.strength)], source: "measured" as const } : cell;
  });
  return { ...state, physical: { ...state.physical, contents } };
};

const sign = (state: RunState, stepId: string, by: Signature): Applied => {
  const wrong = notInHand(state, stepId);
  if (wrong) return wrong;
  const step = state.todo[0] as Step;
  const open = rowsOf(step).filter((row) => !state.ticked.includes(row.key));
  if (open.length > 0) return refuse("not-ticked", `${open.length} row${open.length > 1 ? "s" : ""} not ticked yet.`);
  for (const ask of step.asks) {
    const read = latest(state, step.id, ask.key);
    if (ask.required && !read) return refuse("reading-missing", `${ask.label}: needed before this step can be signed.`);
    if (read && ask.atMost !== undefined && read.si > ask.atMost)
      return refuse("too-hot", `${ask.label}: ${read.typed} is above {c:${ask.atMost}}. Wait and read again.`);
  }
  let physical = state.physical;
  for (const action of step.actions) {
    const effect = act(state.network, physical, action, state.setup.product.strength);
    physical = effect.physical;
    const swept = effect.push?.swept ?? [];
    if (effect.push && effect.push.drawnM3 > 0 && swept.some((c) => physical.measured.has(c)))
      physical = { ...physical, measured: new Map([...physical.measured].filter(([c]) => !swept.includes(c))) };
  }
  for (const ask of step.asks) {
    const read = latest(state, step.id, ask.key);
    if (read) physical = withReading(state.network, state.physical, physical, ask, read.si);
  }
  const clocks = step.actions.flatMap((a) =>
    a.type === "wait" ? [{ label: step.title, endsAt: new Date(Date.parse(by.at) + a.seconds * 1000).toISOString() }] : [],
  );
  const next: RunState = {
    ...state,
    physical,
    done: [...state.done, { step, signed: by }],
    todo: state.todo.slice(1),
    ticked: [],
    clocks: [...state.clocks, ...clocks],
  };
  const weaker = thinned(next, step);
  if (weaker) return { ok: true, state: replanned(weaker) };
  return { ok: true, state: { ...next, phase: next.todo.length > 0 ? "steps" : "as-left" } };
};

const cannotDo = (state: RunState, body: Extract<RunEventBody, { type: "step-cannot" }>, by: Signature): Applied => {
  const wrong = notInHand(state, body.stepId);
  if (wrong) return wrong;
  const unknown = body.parts.find((id) => !state.network.map.parts.some((p) => p.id === id));
  if (unknown) return refuse("unknown-part", `This map has no part "${unknown}".`);
  const entry = { stepId: body.stepId, parts: body.parts, reason: body.reason, title: state.todo[0]?.title ?? "", by };
  const before = state.todo.map((s) => s.id).join("\n");
  const again = replanned({ ...state, cannot: [...state.cannot, entry] });
  // The planner knows no other way: the step is left undone, so that the work can go on.
  if (again.todo.map((s) => s.id).join("\n") !== before) return { ok: true, state: again };
  const todo = again.todo.slice(1);
  return { ok: true, state: { ...again, todo, phase: todo.length > 0 ? "steps" : "as-left" } };
};

const correct = (state: RunState, body: Extract<RunEventBody, { type: "corrected" }>): Applied => {
  const old = state.readings.find((r) => r.event === body.event);
  if (!old) return refuse("unknown-event", "Only a reading of this run can be corrected.");
  const step = [...state.done.map((d) => d.step), ...state.todo].find((s) => s.id === old.stepId);
  const ask = step?.asks.find((a) => a.key === old.ask);
  if (!ask) return refuse("unknown-event", "The step of that reading is no longer in the plan.");
  const no = impossible(state, ask, body.si);
  if (no) return refuse("reading-impossible", no);
  const corrected = { ...old, si: body.si, typed: body.typed, earlier: [...old.earlier, { typed: old.typed, reason: body.reason }] };
  const readings = state.readings.map((r) => (r === old ? corrected : r));
  const signed = state.done.some((d) => d.step.id === old.stepId);
  const index = state.network.cellIndex.get(ask.cell ?? "");
  let { physical } = state;
  // A reading that a later one at the same place, or more antifreeze, has overtaken says nothing of how the unit stands now.
  const stands = state.readings.findLast((r) => r.ask === old.ask) === old;
  if (signed && stands && index !== undefined && ask.kind === "strength" && physical.measured.has(index))
    physical = { ...physical, measured: new Map([...physical.measured, [index, body.si]]) };
  if (signed && index !== undefined && ask.kind === "recovered") {
    const held = volumeOf(liquidIn(physical.contents[index])) + old.si;
    physical = withRecovered(state.network, physical, ask.cell ?? "", held, body.si);
  }
  return { ok: true, state: { ...state, readings, physical } };
};

const leave = (state: RunState, body: Extract<RunEventBody, { type: "as-left" }>, by: Signature): Applied => {
  if (state.phase !== "as-left" && state.phase !== "sign-off")
    return refuse("out-of-order", `First: ${state.todo[0]?.title ?? "how the valves were found"}.`);
  const wrong = checkLineup(state.network, body.lineup);
  if (wrong) return refuse("unknown-part", wrong);
  const lineup = { ...state.physical.lineup, ...body.lineup };
  const untagged = looseEnds(state.network, state.physical, lineup).filter((e) => e.mustTag && !body.tagged.some((t) => t.id === e.id));
  if (untagged.length > 0) return refuse("loose-end", `Make it good or tag it: ${untagged.map((e) => e.text).join("; ")}.`);
  return {
    ok: true,
    state: {
      ...state,
      phase: "sign-off",
      physical: { ...state.physical, lineup },
      asLeft: { lineup, tagged: body.tagged, by, ...(body.note ? { note: body.note } : {}) },
    },
  };
};

const applyBody = (state: RunState, event: RunEvent): Applied => {
  const { body } = event;
  const by: Signature = { name: event.by.name, role: event.by.role, at: event.at };
  if (state.phase === "closed" && body.type !== "countersigned" && body.type !== "note" && body.type !== "corrected")
    return refuse("closed", "This record is closed. Add a note or a correction instead.");
  switch (body.type) {
    case "as-found": {
      if (state.done.length > 0 || state.cannot.length > 0)
        return refuse("out-of-order", "Work has begun: the lineup as found can no longer be changed. Add a note instead.");
      const wrong = checkLineup(state.network, body.lineup);
      if (wrong) return refuse("unknown-part", wrong);
      const lineup = { ...inUseLineup(state.network), ...body.lineup };
      const asFound = { lineup, by, ...(body.note ? { note: body.note } : {}) };
      const begun = replanned({ ...state, asFound, physical: startPhysical(state.network, body.lineup) });
      return { ok: true, state: { ...begun, firstPlan: begun.plan } };
    }
    case "row-ticked": {
      const wrong = notInHand(state, body.stepId);
      if (wrong) return wrong;
      if (!rowsOf(state.todo[0] as Step).some((r) => r.key === body.row)) return refuse("unknown-step", "The step has no such row.");
      const others = state.ticked.filter((key) => key !== body.row);
      return { ok: true, state: { ...state, ticked: body.done ? [...others, body.row] : others } };
    }
    case "reading": {
      const step = [...state.done.map((d) => d.step), ...state.todo].find((s) => s.id === body.stepId);
      const ask = step?.asks.find((a) => a.key === body.ask);
      if (!ask) return refuse("unknown-step", "No step of this plan asks for that reading.");
      if (state.done.some((d) => d.step.id === body.stepId))
        return refuse("already-signed", "That step is signed. Correct the reading instead, with a reason.");
      const no = impossible(state, ask, body.si);
      if (no) return refuse("reading-impossible", no);
      const reading: Reading = {
        event: event.id,
        stepId: body.stepId,
        ask: body.ask,
        kind: ask.kind,
        label: ask.label,
        si: body.si,
        typed: body.typed,
        by,
        ...(ask.expected === undefined ? {} : { expected: ask.expected }),
        earlier: [],
      };
      return { ok: true, state: { ...state, readings: [...state.readings, reading] } };
    }
    case "step-signed":
      return sign(state, body.stepId, by);
    case "step-cannot":
      return cannotDo(state, body, by);
    case "note":
    case "noticed": {
      const { type: _type, ...rest } = body;
      return { ok: true, state: { ...state, notes: [...state.notes, { ...rest, by }] } };
    }
    case "corrected":
      return correct(state, body);
    case "as-left":
      return leave(state, body, by);
    case "closed":
      return state.phase === "sign-off"
        ? { ok: true, state: { ...state, phase: "closed", closed: { ...by, name: body.name } } }
        : refuse("out-of-order", "Write down how the valves are left first.");
    case "countersigned":
      if (event.by.role === "apprentice") return refuse("not-allowed", "An apprentice's work is countersigned by someone else.");
      return state.phase === "closed"
        ? { ok: true, state: { ...state, countersigned: { ...by, name: body.name } } }
        : refuse("out-of-order", "Only a closed record is countersigned.");
  }
};

/**
 * Adds one event to a run. The same event a second time changes nothing and is no error.
 * @returns the run after it, or why it cannot be, in words and as a code
 */
export const applyEvent = (state: RunState, event: RunEvent): Applied => {
  if (state.events.some((e) => e.id === event.id)) return { ok: true, state };
  const applied = applyBody(state, event);
  return applied.ok ? { ok: true, state: { ...applied.state, events: [...state.events, event] } } : applied;
};

/** Folds a run's events from the beginning; events that cannot be are left out and listed. */
export const replayRun = (
  network: Network,
  setup: RunSetup,
  events: readonly RunEvent[],
): { state: RunState; refused: readonly { event: RunEvent; problem: string }[] } => {
  const refused: { event: RunEvent; problem: string }[] = [];
  let state = startRun(network, setup);
  for (const event of events) {
    const applied = applyEvent(state, event);
    if (applied.ok) state = applied.state;
    else refused.push({ event, problem: applied.problem });
  }
  return { state, refused };
};
