export {
  canBeFound,
  canBeMissing,
  type Correction,
  foundAnother,
  isFitted,
  notFitted,
} from "./correct.ts";
export { estimateVisit, JOBS } from "./estimate.ts";
export {
  addToFinding,
  byUrgency,
  type Finding,
  type FindingBody,
  findingBodySchema,
  type FindingEntry,
  findingNow,
  type FindingAstray,
  type PictureMark,
  pictureMarkSchema,
  staysOnSheets,
} from "./finding.ts";
export { againstHistory, type FromHistory, isComparable } from "./departure.ts";
export { believedLevel, LEVEL_METHODS, type LevelMethod } from "./level.ts";
export { KNOWN_LOOKS, lookFor } from "./looks.ts";
export { plugVerdict, polarityVerdict } from "./meter.ts";
export { TOUCHES, touchesOf } from "./touches.ts";
export {
  buildReport,
  keptReport,
  type Report,
  reportFrom,
  type ReportFinding,
  type ReportLook,
  stateInWords,
} from "./report.ts";
export { serviceDue, type ServiceVerdict } from "./service.ts";
export * from "./lists.ts";
export { calendarDay, moment, revisionNumber } from "./moment.ts";
export { type ReadingOf, readingKey } from "./reading.ts";
export { moveVisit, USUAL_NEXT, type VisitMove, type VisitNow } from "./visit.ts";
export { SPRING_LIST } from "./spring-list.ts";
export { type NightForecast, riskOf, simulatedNights } from "./frost-watch.ts";
export { heatersInWords } from "./heaters-in-words.ts";
export { circuitLoad, type Exposed, stayInFrost } from "./stay.ts";
export { supplyVerdict } from "./supply.ts";
export { type InspectionPoint, type InspectionStop, walkRound } from "./walk.ts";
export { ANODE_POINT, NEW_ROD_M, rodVerdict } from "./wear.ts";
