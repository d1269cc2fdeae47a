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
  holdPolicy,
  HOLD_VERDICTS,
  type HoldFigures,
  type HoldPolicy,
  type HoldVerdict,
  type HoldVerdictName,
  judgeHold,
  SMALLEST_M3S,
} from "./judge.ts";
export { type SimulatedHold, simulatedHold } from "./simulate.ts";
