export { turnSays } from "./turn-says.ts";
export { rowName, waitsFor } from "./row-order.ts";
export { readingOf } from "./reading-of.ts";
export { standardSetup } from "./setup.ts";
export {
  type Departure,
  departuresFrom,
  departuresKept,
  jobSetupBy,
  type RulesInForce,
  setupBy,
} from "./house-setup.ts";
export { isCountersignWanted, waitsForCountersign } from "./waits.ts";
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
export { complete, enter, enterAlone, enterPlan, planOf } from "./enter.ts";
export { engineSpeaks, type Entered, enterPlain, type MakeEvent } from "./enter-plain.ts";
export { applyEvent, replayRun } from "./fold.ts";
export { startRun } from "./begin-run.ts";
export { type KeptPlan, keptPlanSchema } from "./kept-plan.ts";
export { looseEnds } from "./loose-ends.ts";
export {
  contentsSaid,
  type Said,
  saidSchema,
  turnSaidSchema,
  type TurnSaid,
  type UnitSaid,
} from "./said.ts";
export type { Astray, Refused, Replayed, RunReading, RunState, Signature } from "./state.ts";
export { antifreezeUse, doubtsSaid, linesNow, lineupNow, verdictNow } from "./said-now.ts";
export { doubtsNow, fallsShort, type RunSummary, summarize } from "./summary.ts";
export { runsMovedNext } from "./moved-next.ts";
export { tagWords } from "./tag-words.ts";
export { tellRun } from "./told.ts";
export { flowsSay } from "./told-water.ts";
export { turnsOf } from "./turns.ts";
