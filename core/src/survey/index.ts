export { type Clearing, clearingOf } from "./clearing.ts";
export { compareMaps, type Difference } from "./compare.ts";
export { type DeadLeg, deadLegs } from "./dead-legs.ts";
export { applyMend } from "./mend.ts";
export { modeLineup, proposeMode } from "./modes.ts";
export type { Mend, Problem, ProblemCode, Severity } from "./problem.ts";
export { type Reach, reachOf } from "./reach.ts";
export { type Section, sectionsOf } from "./sections.ts";
export {
  bringOver,
  type BroughtOver,
  type Clash,
  copyForSibling,
  siblingDifferences,
} from "./siblings.ts";
export { type Survey, surveyMap } from "./survey.ts";
export { type Turn, turnsBetween } from "./turns.ts";
