import { BOATS } from "./families/boats.ts";
import { MOTORHOMES } from "./families/motorhomes.ts";
import { TOWABLES } from "./families/towables.ts";
import type { Pattern } from "./pattern.ts";

/** Every family of systems, in the order of its number. */
export const PATTERNS: readonly Pattern[] = [...TOWABLES, ...MOTORHOMES, ...BOATS].sort((a, b) =>
  a.id < b.id ? -1 : 1,
);
export { completed, mapFromPattern, type Pattern, starterMap } from "./pattern.ts";
export { type QuestionId, questionOf, QUESTIONS, UNKNOWN } from "./questions.ts";
