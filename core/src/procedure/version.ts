/**
 * Which planner and which engine made what a run keeps. Raised whenever a plan, or what a step does to a unit, can come out
 * otherwise than before for the same map: `version.test.ts` notices.
 * "1" and "2" are the releases that kept no plans; their planners are kept whole beside the database's migrations.
 */
export const PLANNER_VERSION = "13";
export const ENGINE_VERSION = "11";
