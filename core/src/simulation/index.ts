export { simAction, type SimAction, type SimActionInput, simActions } from "./act.ts";
export { USUAL_BLOW } from "./usual-blow.ts";
export { airVerdict, weakestPressed } from "./air-limit.ts";
export type { AirResult } from "./blow.ts";
export { judge } from "./judge.ts";
export { controlNamed, positionNamed } from "./names.ts";
export type { Notice } from "./notice.ts";
export { simDo, simulate } from "./simulate.ts";
export { type SimDone, type SimStep } from "./outcome.ts";
export {
  COMMON_SIM_SETTINGS,
  contentsToStart,
  type SimSettings,
  simStart,
  type SimState,
  type StartContents,
} from "./state.ts";
export { startContents, triedSequence, type TriedSequence } from "./sequence.ts";
export type { SimFrame } from "./tally.ts";
