export {
  ATMOSPHERE_PA,
  FOOT_M,
  GRAVITY,
  INCH_M,
  PA_PER_M,
  PSI_PA,
  US_GALLON_M3,
} from "./constants.ts";
export {
  measuresOf,
  systemOf,
  UNIT_BASES,
  UNIT_SYSTEMS,
  type UnitBase,
  type UnitSystem,
} from "./measures.ts";
export { type Dimension, displayUnit, UNITS, type MeasureUnit } from "./units.ts";
export { readNumber } from "./numbers.ts";
export { parseQuantity } from "./parse.ts";
export { formatParts, formatQuantity, gaugeText, inMark, inUnit } from "./format.ts";
export { DATE_STYLES, type DateStyle, writtenDay } from "./day.ts";
export { DAY_MS, DAYS_A_MONTH, dayNumber, dayText, monthsAfter, monthsBetween } from "./day.ts";
export { fillIn } from "./wording.ts";
export { wholeLetters } from "./letters.ts";
