import { inUseLineup, type Network } from "../../watermap/index.ts";
import { rowsOf, type Step } from "../step.ts";
import { startRun } from "./begin-run.ts";
import { afterSteps, type Body, NOT_WHOLE, notInHand, said } from "./entry-checks.ts";
import type { RunBegins, RunEvent, RunEventBody, RunSetup, UnreadEntry } from "./events.ts";
import { signed } from "./sign.ts";
import {
  type Applied,
  type Astray,
  refuse,
  type Replayed,
  type RunReading,
  type RunState,
  type Signature,
} from "./state.ts";

/**
 * The fold of a run over its kept plans and entries. It never plans and never asks the engine: what was planned is an entry, and what
 * the engine said stands with the entry that it was said of. Whether an entry makes sense on today's map is asked when it is entered
 * (`admit`), never here: what was taken once stays taken.
 */

const found = (
  state: RunState,
  event: RunEvent,
  body: Body<"as-found">,
  by: Signature,
): Applied => {
  if (state.done.length > 0 || state.cannot.length > 0)
    return refuse(
      "out-of-order",
      "Work has begun: the lineup as found can no longer be changed. Add a note instead.",
    );
  if (!event.said) return refuse("not-whole", NOT_WHOLE);
  const lineup = { ...inUseLineup(state.network), ...state.begins?.lineup, ...body.lineup };
  const asFound = {
    lineup,
    by,
    turns: event.said.turns ?? [],
    ...(body.note ? { note: body.note } : {}),
  };
  const fresh: RunState = {
    ...state,
    unit: undefined,
    plan: undefined,
    firstPlan: undefined,
    todo: [],
    ticked: [],
  };
  return {
    ok: true,
    state: { ...said(fresh, event.said), asFound, phase: "to-plan", planAfter: event.id },
  };
};

const planned = (state: RunState, body: Body<"planned">): Applied => {
  if (body.because !== state.planAfter)
    return refuse(
      "out-of-order",
      "This plan was made for another state of the work; more has been done since.",
    );
  const taken = new Set(state.done.map((d) => d.step.id));
  for (const { id } of body.plan.steps) {
    if (taken.has(id))
      return refuse(
        "unknown-step",
        `The plan has a step twice, or one that is signed already: ${id}.`,
      );
    taken.add(id);
  }
  const { plan } = body;
  return {
    ok: true,
    state: {
      ...state,
      plan,
      firstPlan: state.firstPlan ?? plan,
      planner: body.planner,
      todo: plan.steps,
      ticked: [],
      phase: afterSteps(plan.steps),
      // One plan for one state of the work.
      planAfter: undefined,
    },
  };
};

const read = (state: RunState, event: RunEvent, body: Body<"reading">, by: Signature): Applied => {
  const step = [...state.done.map((d) => d.step), ...state.todo].find((s) => s.id === body.stepId);
  const ask = step?.asks.find((a) => a.key === body.ask);
  if (!ask) return refuse("unknown-step", "No step of this plan asks for that reading.");
  if (state.done.some((d) => d.step.id === body.stepId))
    return refuse(
      "already-signed",
      "That step is signed. Correct the reading instead, with a reason.",
    );
  const reading: RunReading = {
    event: event.id,
    stepId: body.stepId,
    ask: body.ask,
    kind: ask.kind,
    label: ask.label,
    ...(ask.cell === undefined ? {} : { cell: ask.cell }),
    si: body.si,
    typed: body.typed,
    ...(body.instrument ? { instrument: body.instrument } : {}),
    by,
    ...(ask.expected === undefined ? {} : { expected: ask.expected }),
    earlier: [],
  };
  return { ok: true, state: { ...state, readings: [...state.readings, reading] } };
};

const cannot = (
  state: RunState,
  event: RunEvent,
  body: Body<"step-cannot">,
  by: Signature,
): Applied => {
  const wrong = notInHand(state, body.stepId);
  if (wrong) return wrong;
  const entry = {
    stepId: body.stepId,
    parts: body.parts,
    reason: body.reason,
    title: state.todo[0]?.title ?? "",
    by,
  };
  return {
    ok: true,
    state: {
      ...state,
      cannot: [...state.cannot, entry],
      ticked: [],
      phase: "to-plan",
      planAfter: event.id,
    },
  };
};

const correct = (state: RunState, event: RunEvent, body: Body<"corrected">): Applied => {
  const old = state.readings.find((r) => r.event === body.event);
  if (!old) return refuse("unknown-event", "Only a reading of this run can be corrected.");
  const corrected = {
    ...old,
    si: body.si,
    typed: body.typed,
    earlier: [...old.earlier, { typed: old.typed, reason: body.reason }],
  };
  const readings = state.readings.map((r) => (r === old ? corrected : r));
  const next = { ...state, readings };
  return { ok: true, state: event.said ? said(next, event.said) : next };
};

const left = (state: RunState, event: RunEvent, body: Body<"as-left">, by: Signature): Applied => {
  if (state.phase !== "as-left" && state.phase !== "sign-off")
    return refuse(
      "out-of-order",
      state.phase === "to-plan"
        ? "What is left must be planned again first."
        : `First: ${state.todo[0]?.title ?? "how the valves were found"}.`,
    );
  if (!event.said) return refuse("not-whole", NOT_WHOLE);
  const next = said(state, event.said);
  const asLeft = {
    lineup: next.physical.lineup,
    tagged: body.tagged,
    by,
    turns: event.said.turns ?? [],
    ends: event.said.ends ?? [],
    ...(body.note ? { note: body.note } : {}),
  };
  return { ok: true, state: { ...next, phase: "sign-off", asLeft } };
};

const brought = (state: RunState, body: Body<"step-brought">): Applied => {
  const [inHand] = state.todo;
  const wrong = inHand ? notInHand(state, inHand.id) : undefined;
  if (wrong) return wrong;
  const step = state.todo.find((s) => s.id === body.stepId);
  if (!step) return notInHand(state, body.stepId) ?? refuse("unknown-step", "No such step.");
  if (step === inHand) return { ok: true, state };
  if (state.ticked.length > 0)
    return refuse(
      "out-of-order",
      "Rows of the step in hand are ticked: finish it, or take them back first.",
    );
  return { ok: true, state: { ...state, todo: [step, ...state.todo.filter((s) => s !== step)] } };
};

const ticked = (state: RunState, body: Body<"row-ticked">): Applied => {
  const wrong = notInHand(state, body.stepId);
  if (wrong) return wrong;
  if (!rowsOf(state.todo[0] as Step).some((r) => r.key === body.row))
    return refuse("unknown-step", "The step has no such row.");
  const others = state.ticked.filter((key) => key !== body.row);
  return { ok: true, state: { ...state, ticked: body.done ? [...others, body.row] : others } };
};

const AFTER_CLOSING: ReadonlySet<RunEventBody["type"]> = new Set([
  "countersigned",
  "note",
  "corrected",
]);

const applyBody = (state: RunState, event: RunEvent): Applied => {
  const { body } = event;
  const by: Signature = { name: event.by.name, role: event.by.role, at: event.at };
  if (state.phase === "closed" && !AFTER_CLOSING.has(body.type))
    return refuse("closed", "This sheet is closed. Add a note or a correction instead.");
  switch (body.type) {
    case "as-found":
      return found(state, event, body, by);
    case "planned":
      return planned(state, body);
    case "step-brought":
      return brought(state, body);
    case "row-ticked":
      return ticked(state, body);
    case "reading":
      return read(state, event, body, by);
    case "step-signed":
      return signed(state, event, body, by);
    case "step-cannot":
      return cannot(state, event, body, by);
    case "note":
    case "noticed": {
      const { type: _type, ...rest } = body;
      return { ok: true, state: { ...state, notes: [...state.notes, { ...rest, by }] } };
    }
    case "corrected":
      return correct(state, event, body);
    case "as-left":
      return left(state, event, body, by);
    case "closed":
      return state.phase === "sign-off"
        ? { ok: true, state: { ...state, phase: "closed", closed: signature(by, body.name) } }
        : refuse("out-of-order", "Write down how the valves are left first.");
    case "countersigned":
      if (event.by.role === "apprentice")
        return refuse("not-allowed", "An apprentice's work is countersigned by someone else.");
      return state.phase === "closed"
        ? { ok: true, state: { ...state, countersigned: signature(by, body.name) } }
        : refuse("out-of-order", "Only a closed sheet is countersigned.");
  }
};

/** A signature is the person signed in; another name that was given with it is told as such. */
const signature = (by: Signature, given: string): Signature =>
  given === by.name ? by : { ...by, dictated: given };

/** Whether two pieces of plain data say the same, in whatever order their fields stand. */
const alike = (a: unknown, b: unknown): boolean => {
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return a === b;
  const [x, y] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const fields = new Set([...Object.keys(x), ...Object.keys(y)]);
  return (
    Array.isArray(a) === Array.isArray(b) && [...fields].every((field) => alike(x[field], y[field]))
  );
};

/**
 * Adds one entry to a run. The same entry a second time changes nothing and is no error.
 * @returns the run after it, or why it has no effect, in words and as a code
 */
export const applyEvent = (state: RunState, event: RunEvent): Applied => {
  const known = state.events.find((e) => e.id === event.id);
  if (known)
    return alike(known.body, event.body)
      ? { ok: true, state }
      : refuse("unknown-event", "Another entry of this run has that id already.");
  const applied = applyBody(state, event);
  return applied.ok
    ? { ok: true, state: { ...applied.state, events: [...state.events, event] } }
    : applied;
};

/** A run as it is stored: everything that its fold needs. */
export interface StoredRun {
  readonly network: Network;
  readonly setup: RunSetup;
  readonly begins?: RunBegins | undefined;
  readonly events: readonly RunEvent[];
  /** Entries that this version cannot read. */
  readonly unread?: readonly UnreadEntry[];
}

/** Folds a run's entries from the beginning. Entries without effect are named beside the state, never dropped. */
export const replayRun = (run: StoredRun): Replayed => {
  const astray: Astray[] = (run.unread ?? []).map((entry) => ({
    entry,
    code: "unread",
    problem: entry.problem,
  }));
  let state = startRun(run.network, run.setup, run.begins);
  for (const event of run.events) {
    const applied = applyEvent(state, event);
    if (applied.ok) state = applied.state;
    else astray.push({ entry: event, code: applied.code, problem: applied.problem });
  }
  const [first, ...more] = astray;
  return first
    ? { whole: false, stateWithout: state, astray: [first, ...more] }
    : { whole: true, state };
};
