export { type Doubt } from "./doubt.ts";
export { type Forecast, forecastOf } from "./forecast.ts";
export { type Figure, type Year, yearOnYear } from "./years.ts";
export { comparedBy, type MethodCompared, type Proposal, proposedOf } from "./compare.ts";
export type { Plan } from "./plan.ts";
export {
  type Job,
  JOB_NAMES,
  jobLabel,
  jobOf,
  jobWork,
  JOBS,
  WATER_SETTINGS,
  type WaterSettings,
} from "./job.ts";
export { perhapsWinterized, planSanitize, planSpring } from "./spring/index.ts";
export { act } from "./act.ts";
export { type Physical, startPhysical } from "./physical.ts";
export { METHOD_NAMES, methodLabel, METHODS, type Method } from "./method.ts";
export { HOUSE_LIMITS } from "./house-settings.ts";
export * from "./run/index.ts";
export { waterInLines, type WetLines } from "./wet.ts";
export { type Action, type Ask, rowsOf, STAGES, type Step } from "./step.ts";
export {
  ANTIFREEZE_TRIALS,
  planWinterize,
  standardRequest,
  type WinterizeRequest,
} from "./winterize/index.ts";
export {
  asLeft,
  beginsFrom,
  inUse,
  type LeftRecord,
  stateOf,
  type UnitStanding,
  type UnitStateKept,
} from "./unit-state.ts";
export { UNIT_ENTRY_KINDS, type UnitEntry } from "./unit-entry.ts";
export { sinceInWords, sinceLast } from "./unit-since.ts";
