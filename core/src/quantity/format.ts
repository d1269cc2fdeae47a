import { measuresOf, type UnitSystem } from "./measures.ts";
import { type Dimension, displayUnit, type MeasureUnit, UNITS } from "./units.ts";

/** Minus sign as printed; a hyphen breaks lines and reads as a dash. */
const MINUS = "−";

const fixed = (value: number, digits: number): string => {
  const rounded = Number(value.toFixed(digits));
  const text = Math.abs(rounded).toFixed(digits);
  return rounded < 0 ? MINUS + text : text;
};

/** A number as a reader writes it: with a decimal comma where that is the custom. */
export const inMark = (number: string, system: UnitSystem): string =>
  measuresOf(system).mark === "comma" ? number.replace(".", ",") : number;

/** SI value in a given unit. */
export const inUnit = (si: number, unit: MeasureUnit): number => (si - unit.offset) / unit.factor;

const digitsFor = (dimension: Dimension, value: number): number => {
  const size = Math.abs(value);
  switch (dimension) {
    case "temperature":
    case "fraction":
      return 0;
    case "pressure":
      return size < 10 ? 1 : 0;
    case "volume":
      return size < 1 ? 2 : size < 100 ? 1 : 0;
    default:
      return size < 10 ? 1 : 0;
  }
};

/** Splits an SI value into the number and unit that a system shows, small volumes in small units. */
export const formatParts = (
  si: number,
  dimension: Dimension,
  system: UnitSystem,
): { value: string; unit: string } => {
  let unit: MeasureUnit = displayUnit(system, dimension);
  // Below a tenth of a litre, litres hide the digits that matter.
  if (
    dimension === "volume" &&
    measuresOf(system).base === "metric" &&
    Math.abs(si) < 1e-4 &&
    si !== 0
  ) {
    unit = UNITS.millilitre;
    return { value: fixed(inUnit(si, unit), 0), unit: unit.symbol };
  }
  // A twentieth of a gallon is measured in ounces.
  if (dimension === "volume" && measuresOf(system).base !== "metric" && si !== 0) {
    const ounce = measuresOf(system).base === "us" ? UNITS.usFluidOunce : UNITS.imperialFluidOunce;
    if (Math.abs(inUnit(si, unit)) < 0.05)
      return { value: inMark(fixed(inUnit(si, ounce), 1), system), unit: ounce.symbol };
  }
  const value = inUnit(si, unit);
  return { value: inMark(fixed(value, digitsFor(dimension, value)), system), unit: unit.symbol };
};

/** Writes an SI value for a reader of a system: 0.0087 m3 as "8.7 L" or "2.3 US gal". */
export const formatQuantity = (si: number, dimension: Dimension, system: UnitSystem): string => {
  const { value, unit } = formatParts(si, dimension, system);
  return `${value} ${unit}`;
};

// Under this a gauge is read in finer units, as for tests of tanks.
const LOW_PA = 40_000;

/** A pressure as it is read on the gauge of a test: low ones in mbar, or in psi to a thousandth. */
export const gaugeText = (si: number, system: UnitSystem): string => {
  if (Math.abs(si) >= LOW_PA) {
    const unit = displayUnit(system, "pressure");
    return `${inMark(fixed(inUnit(si, unit), unit === UNITS.bar ? 2 : 1), system)} ${unit.symbol}`;
  }
  const unit = measuresOf(system).base === "metric" ? UNITS.millibar : UNITS.psi;
  const digits = unit === UNITS.millibar ? 1 : 3;
  return `${inMark(fixed(inUnit(si, unit), digits), system)} ${unit.symbol}`;
};
