export { MOST_ACTIONS, simAction, type SimAction, type SimActionInput, simActions } from "./act.ts";
export { airVerdict, type AirVerdict } from "./air-limit.ts";
export type { AirResult } from "./blow.ts";
export { judge } from "./judge.ts";
export { cellNamed, controlNamed, type Named, partNamed, positionNamed } from "./names.ts";
export type { Notice, NoticeCode } from "./notice.ts";
export { simDo, type SimDone, type SimStep, simulate, type Simulated } from "./simulate.ts";
export {
  COMMON_SIM_SETTINGS,
  contentsToStart,
  heldM3,
  type Jug,
  type SimSettings,
  simStart,
  type SimState,
  type StartContents,
} from "./state.ts";
export { startContents, triedSequence, type TriedSequence } from "./sequence.ts";
export type { SimFrame, TraceLine } from "./tally.ts";
