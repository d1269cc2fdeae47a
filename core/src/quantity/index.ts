export { DISPLAY_UNIT, type Dimension, UNITS, type MeasureUnit, UNIT_SYSTEMS, type UnitSystem } from "./units.ts";
export { type ParseResult, parseQuantity, type Quantity } from "./parse.ts";
export { formatParts, formatQuantity, inUnit } from "./format.ts";
export { fillIn } from "./wording.ts";
export { wholeLetters } from "./letters.ts";
