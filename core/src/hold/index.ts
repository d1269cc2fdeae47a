export {
  type Held,
  heldSchema,
  type HoldReading,
  holdReadingSchema,
  type Instruments,
  instrumentsSchema,
  MOST_STEP_PA,
  tightAt,
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
export { isVented, pressedCells, pressureSources, shutForTest } from "./bound.ts";
export { type Joint, jointsIn } from "./joints.ts";
export {
  type Hunt,
  narrowed,
  nextSplit,
  type Split,
  type TestSection,
  testSections,
} from "./find.ts";
export {
  planTest,
  TEST_HOUSE,
  TEST_WAYS,
  type TestHouse,
  type TestPlan,
  type TestRequest,
  type TestStep,
  type TestTarget,
  type TestWay,
  WAY_LABELS,
} from "./plan.ts";
export {
  addToTest,
  concludedOf,
  JUDGE_VERSION,
  judgedTest,
  outcomeOf,
  type OutcomeName,
  policyOf,
  type PressureTest,
  SOAPED,
  suspectsOf,
  type TestAstray,
  type TestBody,
  testBodySchema,
  type TestEntry,
  testNow,
  testPlanSchema,
} from "./record.ts";
