export {
  canBeFound,
  canBeMissing,
  type Correction,
  foundAnother,
  isFitted,
  notFitted,
} from "./correct.ts";
export { type Estimate, estimateVisit, type Job, JOBS } from "./estimate.ts";
export {
  addToFinding,
  byUrgency,
  type Finding,
  type FindingBody,
  findingBodySchema,
  type FindingEntry,
  findingNow,
  type FindingAstray,
  type FindingNow,
  type FindingResult,
  type PictureMark,
  pictureMarkSchema,
  staysOnSheets,
} from "./finding.ts";
export { believedLevel, LEVEL_METHODS, type LevelMethod, type LevelReading } from "./level.ts";
export { KNOWN_LOOKS, type Look, lookFor, type LookReading } from "./looks.ts";
export {
  type MeterVerdict,
  type PlugKind,
  type PlugVerdict,
  plugVerdict,
  polarityVerdict,
} from "./meter.ts";
export {
  buildReport,
  keptReport,
  type Report,
  reportFrom,
  type ReportKept,
  type ReportFinding,
  type ReportLook,
  stateInWords,
} from "./report.ts";
export { type Served, serviceDue, type ServiceVerdict } from "./service.ts";
export * from "./lists.ts";
export { calendarDay, moment, revisionNumber } from "./moment.ts";
export { type ReadingOf, readingKey } from "./reading.ts";
export { type MovedVisit, moveVisit, USUAL_NEXT, type VisitMove, type VisitNow } from "./visit.ts";
export { SPRING_LIST, type SpringItem } from "./spring-list.ts";
export { heatersInWords } from "./heaters-in-words.ts";
export { type SupplyVerdict, supplyVerdict } from "./supply.ts";
export { type InspectionPoint, type InspectionStop, walkRound } from "./walk.ts";
export {
  ANODE_POINT,
  NEW_ROD_M,
  type Rod,
  type RodReading,
  type RodVerdict,
  rodVerdict,
} from "./wear.ts";
