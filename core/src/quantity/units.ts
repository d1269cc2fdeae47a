import { FOOT_M, GRAVITY, INCH_M, POUND_KG, PSI_PA, US_GALLON_M3 } from "./constants.ts";
/**
 * Units by dimension, each with its exact factor to SI.
 * SI inside: m3, Pa, K difference as °C, m, s, kg, m3/s, W, J, N, and plain fractions.
 */

export type Dimension =
  | "volume"
  | "pressure"
  | "temperature"
  | "length"
  | "time"
  | "mass"
  | "fraction"
  | "flow"
  | "power"
  | "energy"
  | "force";

export interface MeasureUnit {
  /** Symbol as written on screen. */
  readonly symbol: string;
  readonly dimension: Dimension;
  /** SI value = as-typed value × factor + offset. */
  readonly factor: number;
  readonly offset: number;
  /** Lower-case spellings that are read as this unit. */
  readonly spellings: readonly string[];
}

const unit = (
  dimension: Dimension,
  symbol: string,
  factor: number,
  spellings: string[],
  offset = 0,
): MeasureUnit => ({
  symbol,
  dimension,
  factor,
  offset,
  spellings,
});

// Source: NIST SP 811 Appendix B (UK Weights and Measures Act 1985): 4.546 09 L exactly.
const IMPERIAL_GALLON_M3 = 4.54609e-3;
// Source: NIST SP 811 Appendix B, international table British thermal unit.
const BTU_J = 1055.05585262;

export const UNITS = {
  m3: unit("volume", "m³", 1, ["m3", "m³"]),
  litre: unit("volume", "L", 1e-3, ["l", "litre", "litres", "liter", "liters"]),
  millilitre: unit("volume", "mL", 1e-6, [
    "ml",
    "millilitre",
    "millilitres",
    "milliliter",
    "milliliters",
  ]),
  usGallon: unit("volume", "US gal", US_GALLON_M3, ["us gal", "us gallon", "us gallons", "usgal"]),
  usQuart: unit("volume", "US qt", US_GALLON_M3 / 4, ["us qt", "qt", "quart", "quarts"]),
  usCup: unit("volume", "cup", US_GALLON_M3 / 16, ["cup", "cups", "us cup", "us cups"]),
  usFluidOunce: unit("volume", "US fl oz", US_GALLON_M3 / 128, ["us fl oz"]),
  imperialGallon: unit("volume", "imp gal", IMPERIAL_GALLON_M3, [
    "imp gal",
    "imperial gal",
    "imperial gallon",
    "imperial gallons",
    "uk gal",
  ]),
  imperialPint: unit("volume", "imp pt", IMPERIAL_GALLON_M3 / 8, [
    "imp pt",
    "imperial pint",
    "imperial pints",
  ]),
  imperialFluidOunce: unit("volume", "imp fl oz", IMPERIAL_GALLON_M3 / 160, ["imp fl oz"]),
  pascal: unit("pressure", "Pa", 1, ["pa"]),
  kilopascal: unit("pressure", "kPa", 1e3, ["kpa"]),
  bar: unit("pressure", "bar", 1e5, ["bar"]),
  psi: unit("pressure", "psi", PSI_PA, ["psi", "psig"]),
  celsius: unit("temperature", "°C", 1, ["°c", "c", "degc", "deg c"]),
  // Exact: T(°C) = (T(°F) − 32) / 1.8.
  fahrenheit: unit("temperature", "°F", 1 / 1.8, ["°f", "f", "degf", "deg f"], -32 / 1.8),
  metre: unit("length", "m", 1, ["m", "metre", "metres", "meter", "meters"]),
  centimetre: unit("length", "cm", 0.01, ["cm"]),
  millimetre: unit("length", "mm", 1e-3, ["mm"]),
  foot: unit("length", "ft", FOOT_M, ["ft", "foot", "feet", "'"]),
  inch: unit("length", "in", INCH_M, ["in", "inch", "inches", '"']),
  second: unit("time", "s", 1, ["s", "sec", "second", "seconds"]),
  minute: unit("time", "min", 60, ["min", "minute", "minutes"]),
  hour: unit("time", "h", 3600, ["h", "hr", "hour", "hours"]),
  kilogram: unit("mass", "kg", 1, ["kg"]),
  pound: unit("mass", "lb", POUND_KG, ["lb", "lbs", "pound", "pounds"]),
  litrePerMinute: unit("flow", "L/min", 1e-3 / 60, ["l/min", "lpm"]),
  usGallonPerMinute: unit("flow", "US gal/min", US_GALLON_M3 / 60, ["us gal/min", "gpm", "us gpm"]),
  imperialGallonPerMinute: unit("flow", "imp gal/min", IMPERIAL_GALLON_M3 / 60, [
    "imp gal/min",
    "imp gpm",
  ]),
  cubicFootPerMinute: unit("flow", "ft³/min", FOOT_M ** 3 / 60, ["cfm", "scfm", "ft3/min"]),
  watt: unit("power", "W", 1, ["w", "watt", "watts"]),
  kilowatt: unit("power", "kW", 1e3, ["kw"]),
  btuPerHour: unit("power", "Btu/h", BTU_J / 3600, ["btu/h", "btuh"]),
  joule: unit("energy", "J", 1, ["j"]),
  kilojoule: unit("energy", "kJ", 1e3, ["kj"]),
  kilowattHour: unit("energy", "kWh", 3.6e6, ["kwh"]),
  btu: unit("energy", "Btu", BTU_J, ["btu"]),
  newton: unit("force", "N", 1, ["n"]),
  poundForce: unit("force", "lbf", POUND_KG * GRAVITY, ["lbf"]),
  percent: unit("fraction", "%", 0.01, ["%", "percent", "per cent"]),
} as const satisfies Record<string, MeasureUnit>;

/** Spellings whose unit depends on the reader's system: a bare "gal" is not one volume. */
export const SYSTEM_SPELLINGS: Record<string, Record<UnitSystem, MeasureUnit>> = {
  gal: { us: UNITS.usGallon, imperial: UNITS.imperialGallon, metric: UNITS.usGallon },
  gallon: { us: UNITS.usGallon, imperial: UNITS.imperialGallon, metric: UNITS.usGallon },
  gallons: { us: UNITS.usGallon, imperial: UNITS.imperialGallon, metric: UNITS.usGallon },
  "fl oz": {
    us: UNITS.usFluidOunce,
    imperial: UNITS.imperialFluidOunce,
    metric: UNITS.usFluidOunce,
  },
};

export const UNIT_SYSTEMS = ["us", "metric", "imperial"] as const;
export type UnitSystem = (typeof UNIT_SYSTEMS)[number];

/** The unit in which each system shows a dimension. */
export const DISPLAY_UNIT: Record<UnitSystem, Record<Dimension, MeasureUnit>> = {
  us: {
    volume: UNITS.usGallon,
    pressure: UNITS.psi,
    temperature: UNITS.fahrenheit,
    length: UNITS.foot,
    time: UNITS.minute,
    mass: UNITS.pound,
    fraction: UNITS.percent,
    flow: UNITS.usGallonPerMinute,
    power: UNITS.btuPerHour,
    energy: UNITS.btu,
    force: UNITS.poundForce,
  },
  metric: {
    volume: UNITS.litre,
    pressure: UNITS.bar,
    temperature: UNITS.celsius,
    length: UNITS.metre,
    time: UNITS.minute,
    mass: UNITS.kilogram,
    fraction: UNITS.percent,
    flow: UNITS.litrePerMinute,
    power: UNITS.watt,
    energy: UNITS.kilojoule,
    force: UNITS.newton,
  },
  imperial: {
    volume: UNITS.imperialGallon,
    pressure: UNITS.psi,
    temperature: UNITS.celsius,
    length: UNITS.foot,
    time: UNITS.minute,
    mass: UNITS.pound,
    fraction: UNITS.percent,
    flow: UNITS.imperialGallonPerMinute,
    power: UNITS.watt,
    energy: UNITS.kilojoule,
    force: UNITS.poundForce,
  },
};
