export { standardSetup } from "./setup.ts";
export {
  type AskedBody,
  newRunEventSchema,
  type NewRunEvent,
  type RunBegins,
  runBeginsSchema,
  type RunEvent,
  type RunEventBody,
  runEventBodySchema,
  type RunSetup,
  runSetupSchema,
  type UnreadEntry,
} from "./events.ts";
export { atOdds } from "./at-odds.ts";
export { admit } from "./admit.ts";
export { complete, enter, enterAlone, enterPlan, planOf } from "./enter.ts";
export { engineSpeaks, type Entered, enterPlain, type MakeEvent } from "./enter-plain.ts";
export { applyEvent, replayRun, startRun, type StoredRun } from "./fold.ts";
export { type KeptPlan, keptPlanSchema } from "./kept-plan.ts";
export { type LooseEnd, looseEnds } from "./loose-ends.ts";
export {
  contentsSaid,
  type EndSaid,
  type Said,
  saidSchema,
  turnSaidSchema,
  type TurnSaid,
  type UnitSaid,
} from "./said.ts";
export type {
  Applied,
  Astray,
  CannotEntry,
  DoneStep,
  Noticed,
  Refusal,
  Refused,
  Replayed,
  RunPhase,
  RunReading,
  RunState,
  Signature,
} from "./state.ts";
export {
  type AntifreezeUse,
  antifreezeUse,
  doubtsNow,
  linesNow,
  lineupNow,
  runsMovedNext,
  type RunSummary,
  summarize,
  verdictNow,
} from "./summary.ts";
export { turnsOf, workOut } from "./work-out.ts";
