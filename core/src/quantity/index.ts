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
  DISPLAY_UNIT,
  type Dimension,
  UNITS,
  type MeasureUnit,
  UNIT_SYSTEMS,
  type UnitSystem,
} from "./units.ts";
export { parseQuantity } from "./parse.ts";
export { formatParts, formatQuantity, inUnit } from "./format.ts";
export { DAY_MS, DAYS_A_MONTH, dayNumber, dayText, monthsAfter, monthsBetween } from "./day.ts";
export { fillIn } from "./wording.ts";
export { wholeLetters } from "./letters.ts";
