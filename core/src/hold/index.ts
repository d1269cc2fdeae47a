export { type Certificate, certificateOf, OUTCOME_WORDS } from "./certificate.ts";
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
export { planTest } from "./plan.ts";
export { type JointChoice, jointChoices, testChoices } from "./test-bound.ts";
export {
  TEST_HOUSE,
  TEST_WAYS,
  type TestHouse,
  type TestPlan,
  type TestRequest,
  type TestWay,
  WAY_LABELS,
} from "./test-plan.ts";
export {
  addToTest,
  concludedOf,
  holdEnds,
  isMadeSafe,
  judgedTest,
  outcomeOf,
  type OutcomeName,
  type PressureTest,
  suspectsOf,
  type TestAstray,
  testNow,
} from "./record.ts";
export { heldOpenAt, openHoldPoints } from "./hold-points.ts";
export {
  PUMP_ANSWERS,
  SOAPED,
  type TestBody,
  testBodySchema,
  type TestEntry,
} from "./test-body.ts";
export { pumpRunInWords, testInWords } from "./told.ts";
