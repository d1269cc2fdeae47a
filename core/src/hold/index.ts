export {
  type Held,
  type HoldReading,
  holdReadingSchema,
  instrumentsSchema,
  MOST_STEP_PA,
  tightAt,
  tightPa,
} from "./held.ts";
export { holdPolicy, HOLD_VERDICTS, type HoldVerdict, judgeHold } from "./judge.ts";
export { type SimulatedHold, simulatedHold } from "./simulate.ts";
export { isVented, pressedCells, pressureSources, shutForTest } from "./bound.ts";
export { type Joint, jointsIn } from "./joints.ts";
export { type Hunt, narrowed, nextSplit, testSections } from "./find.ts";
export {
  planTest,
  TEST_HOUSE,
  TEST_WAYS,
  type TestHouse,
  type TestPlan,
  type TestRequest,
  type TestTarget,
  type TestWay,
  WAY_LABELS,
} from "./plan.ts";
export {
  addToTest,
  concludedOf,
  judgedTest,
  outcomeOf,
  type OutcomeName,
  type PressureTest,
  openHoldPoints,
  PUMP_ANSWERS,
  pumpRunInWords,
  SOAPED,
  suspectsOf,
  type TestAstray,
  type TestBody,
  testBodySchema,
  type TestEntry,
  testInWords,
  testNow,
} from "./record.ts";
