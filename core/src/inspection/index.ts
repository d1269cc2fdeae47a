export { canBeFound, canBeMissing, type Correction, foundAnother, isFitted, notFitted } from "./correct.ts";
export { type Estimate, estimateVisit, type Job, JOBS } from "./estimate.ts";
export {
  addToFinding,
  ANSWERS,
  byUrgency,
  type Finding,
  FINDING_STATES,
  type FindingBody,
  findingBodySchema,
  type FindingEntry,
  findingNow,
  type FindingResult,
  type OwnerAnswer,
  type PictureMark,
  pictureMarkSchema,
  SEVERITIES,
  type FindingSeverity,
  staysOnSheets,
} from "./finding.ts";
export { believedLevel, LEVEL_METHODS, type LevelMethod, type LevelReading } from "./level.ts";
export { KNOWN_LOOKS, type Look, lookFor, type LookReading } from "./looks.ts";
export { type MeterVerdict, type PlugKind, type PlugVerdict, plugVerdict, polarityVerdict } from "./meter.ts";
export { buildReport, type Report, type ReportFinding, type ReportLook } from "./report.ts";
export { type Served, serviceDue, type ServiceVerdict } from "./service.ts";
export { SPRING_LIST, SPRING_MARKS, type SpringItem, type SpringMark } from "./spring-list.ts";
export { standing } from "./standing.ts";
export { type SupplyVerdict, supplyVerdict, weakestOf } from "./supply.ts";
export { type InspectionPoint, type InspectionStop, walkRound } from "./walk.ts";
export { NEW_ROD_M, type Rod, type RodReading, type RodVerdict, rodVerdict } from "./wear.ts";
