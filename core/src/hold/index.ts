export {
  type Held,
  heldSchema,
  type HoldReading,
  holdReadingSchema,
  type Instruments,
  instrumentsSchema,
  tightPa,
} from "./held.ts";
export {
  HOLD_POLICY,
  HOLD_VERDICTS,
  type HoldFigures,
  type HoldPolicy,
  type HoldVerdict,
  type HoldVerdictName,
  judgeHold,
} from "./judge.ts";
export { type SimulatedHold, simulatedHold } from "./simulate.ts";
