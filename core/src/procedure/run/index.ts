export { standardSetup } from "./setup.ts";
export {
  newRunEventSchema,
  type NewRunEvent,
  type RunEvent,
  type RunEventBody,
  runEventBodySchema,
  type RunSetup,
  runSetupSchema,
} from "./events.ts";
export { applyEvent, replayRun, startRun } from "./fold.ts";
export { type LooseEnd, looseEnds } from "./loose-ends.ts";
export type { Applied, CannotEntry, DoneStep, Noticed, Reading, Refusal, RunPhase, RunState, Signature } from "./state.ts";
export { requestOf } from "./state.ts";
export {
  type AntifreezeUse,
  antifreezeUse,
  doubtsNow,
  lineupNow,
  runsMovedNext,
  type RunSummary,
  summarize,
  verdictNow,
} from "./summary.ts";
