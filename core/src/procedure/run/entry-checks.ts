import type { Step } from "../step.ts";
import type { RunEventBody } from "./events.ts";
import { physicalSaid, type Said, withSaid } from "./said.ts";
import { refuse, type Refused, type RunReading, type RunState } from "./state.ts";

/** What every entry of a run is held against, and what it leaves behind. */

/** The state with what the engine said of the unit. */
export const said = (state: RunState, words: Said): RunState => {
  const unit = withSaid(state.unit, words);
  return { ...state, unit, physical: physicalSaid(state.network, unit) };
};

export const NOT_WHOLE =
  "This entry does not say what the unit held after it. It was made by an application that did not keep that.";

/** Why a step asked for is not the one in hand. */
export const notInHand = (state: RunState, stepId: string): Refused | undefined => {
  if (state.phase === "as-found")
    return refuse("out-of-order", "Write down how the valves were found first.");
  if (state.phase === "to-plan")
    return refuse("out-of-order", "What is left must be planned again first.");
  if (state.todo[0]?.id === stepId) return undefined;
  if (state.done.some((d) => d.step.id === stepId))
    return refuse("already-signed", "This step is signed already. Nothing was changed.");
  return state.todo.some((s) => s.id === stepId)
    ? refuse("out-of-order", `First: ${state.todo[0]?.title ?? "the step in hand"}.`)
    : refuse("unknown-step", "The plan has no such step now; it may have been planned again.");
};

export const afterSteps = (todo: readonly Step[]): RunState["phase"] =>
  todo.length > 0 ? "steps" : "as-left";

export type Body<T extends RunEventBody["type"]> = Extract<RunEventBody, { type: T }>;

/** The newest reading of a step for one of its questions. */
export const latest = (state: RunState, stepId: string, ask: string): RunReading | undefined =>
  state.readings.findLast((r) => r.stepId === stepId && r.ask === ask);
