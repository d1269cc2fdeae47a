export { believedLevel, LEVEL_METHODS, type LevelMethod, type LevelReading } from "./level.ts";
export { KNOWN_LOOKS, type Look, lookFor, type LookReading } from "./looks.ts";
export { type SupplyVerdict, supplyVerdict, weakestOf } from "./supply.ts";
export { type InspectionPoint, type InspectionStop, walkRound } from "./walk.ts";
export { type Rod, type RodReading, type RodVerdict, rodVerdict } from "./wear.ts";
