export { type Doubt, doubtsOf } from "./doubt.ts";
export { act, type Effect, type Physical, startPhysical } from "./physical.ts";
export * from "./run/index.ts";
export { waterInLines, type WetLines } from "./wet.ts";
export {
  type Action,
  type Ask,
  type AskKind,
  type Row,
  rowsOf,
  type Stage,
  STAGES,
  type Step,
  stepSchema,
} from "./step.ts";
export { ENGINE_VERSION, PLANNER_VERSION } from "./version.ts";
export {
  type AntifreezeFigure,
  type AntifreezeLine,
  type Cannot,
  type Plan,
  planWinterize,
  type Product,
  standardRequest,
  targetStrengthFor,
  type Unprotected,
  type WinterizeRequest,
} from "./winterize/index.ts";
export {
  asLeft,
  beginsFrom,
  inUse,
  type LeftRecord,
  type Since,
  sinceInWords,
  sinceLast,
  stateOf,
  UNIT_ENTRY_KINDS,
  type UnitEntry,
  type UnitStanding,
  type UnitStateKept,
} from "./unit-state.ts";
