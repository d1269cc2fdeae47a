export { compareMaps, type Difference } from "./compare.ts";
export { applyMend } from "./mend.ts";
export { modeLineup, proposeMode } from "./modes.ts";
export type { Mend, Problem, Severity } from "./problem.ts";
export { type Reach, reachOf } from "./reach.ts";
export { bringOver, copyForSibling, siblingDifferences } from "./siblings.ts";
export { handoverOf } from "./handover.ts";
export { type Survey, surveyMap } from "./survey.ts";
export { turnsBetween } from "./turns.ts";
