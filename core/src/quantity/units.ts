import {
  ATMOSPHERE_PA,
  FOOT_M,
  GRAVITY,
  INCH_M,
  POUND_KG,
  PSI_PA,
  US_GALLON_M3,
} from "./constants.ts";
import { measuresOf, type UnitBase, type UnitSystem } from "./measures.ts";
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
  | "force"
  | "heat per length"
  /** Of what is dissolved in water, mg/L: strips and labels say nothing else. */
  | "concentration";

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
  usQuart: unit("volume", "US qt", US_GALLON_M3 / 4, ["us qt", "us quart", "us quarts"]),
  usPint: unit("volume", "US pt", US_GALLON_M3 / 8, ["us pt", "us pint", "us pints"]),
  // Kitchen measures, NIST Handbook 44 appendix C: 3 teaspoons a tablespoon, 16 tablespoons a cup.
  usTablespoon: unit("volume", "tbsp", US_GALLON_M3 / 256, ["tbsp", "tablespoon", "tablespoons"]),
  usTeaspoon: unit("volume", "tsp", US_GALLON_M3 / 768, ["tsp", "teaspoon", "teaspoons"]),
  usCup: unit("volume", "cup", US_GALLON_M3 / 16, ["cup", "cups", "us cup", "us cups"]),
  usFluidOunce: unit("volume", "US fl oz", US_GALLON_M3 / 128, ["us fl oz", "us fluid ounces"]),
  centilitre: unit("volume", "cL", 1e-5, ["cl", "centilitre", "centilitres"]),
  decilitre: unit("volume", "dL", 1e-4, ["dl", "decilitre", "decilitres"]),
  cubicCentimetre: unit("volume", "cm³", 1e-6, ["cm3", "cm³", "cc", "ccm"]),
  cubicFoot: unit("volume", "ft³", FOOT_M ** 3, ["ft3", "ft³", "cu ft", "cubic feet"]),
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
  imperialQuart: unit("volume", "imp qt", IMPERIAL_GALLON_M3 / 4, ["imp qt", "imperial quarts"]),
  imperialFluidOunce: unit("volume", "imp fl oz", IMPERIAL_GALLON_M3 / 160, ["imp fl oz"]),
  pascal: unit("pressure", "Pa", 1, ["pa"]),
  kilopascal: unit("pressure", "kPa", 1e3, ["kpa"]),
  bar: unit("pressure", "bar", 1e5, ["bar"]),
  millibar: unit("pressure", "mbar", 100, ["mbar", "millibar", "hpa"]),
  psi: unit("pressure", "psi", PSI_PA, [
    "psi",
    "psig",
    "lb/in2",
    "lbf/in2",
    "pounds per square inch",
  ]),
  // Conventional columns: NIST SP 811 Appendix B, mercury and water of conventional density under standard gravity (from memory).
  inchOfMercury: unit("pressure", "inHg", 3386.389, [
    "inhg",
    "in hg",
    "in of mercury",
    '" hg',
    '"hg',
  ]),
  millimetreOfMercury: unit("pressure", "mmHg", 133.3224, ["mmhg", "mm hg", "torr"]),
  footOfWater: unit("pressure", "ftH₂O", 1000 * GRAVITY * FOOT_M, [
    "ft of water",
    "feet of water",
    "fth2o",
    "ft h2o",
  ]),
  inchOfWater: unit("pressure", "inH₂O", 1000 * GRAVITY * INCH_M, [
    "in of water",
    "inches of water",
    "inh2o",
    "in h2o",
    '" wc',
    "in wc",
  ]),
  metreOfWater: unit("pressure", "mH₂O", 1000 * GRAVITY, ["m of water", "mh2o", "m h2o"]),
  atmosphere: unit("pressure", "atm", ATMOSPHERE_PA, ["atm", "atmosphere", "atmospheres"]),
  celsius: unit("temperature", "°C", 1, ["°c", "c", "degc", "deg c", "celsius", "º c", "ºc"]),
  // Exact: T(°C) = (T(°F) − 32) / 1.8.
  fahrenheit: unit(
    "temperature",
    "°F",
    1 / 1.8,
    ["°f", "f", "degf", "deg f", "fahrenheit", "ºf"],
    -32 / 1.8,
  ),
  metre: unit("length", "m", 1, ["m", "metre", "metres", "meter", "meters"]),
  centimetre: unit("length", "cm", 0.01, ["cm"]),
  millimetre: unit("length", "mm", 1e-3, ["mm"]),
  foot: unit("length", "ft", FOOT_M, ["ft", "foot", "feet", "'", "′", "’"]),
  inch: unit("length", "in", INCH_M, ["in", "inch", "inches", '"', "″", "”", "''"]),
  yard: unit("length", "yd", 3 * FOOT_M, ["yd", "yard", "yards"]),
  second: unit("time", "s", 1, ["s", "sec", "second", "seconds"]),
  minute: unit("time", "min", 60, ["min", "minute", "minutes"]),
  hour: unit("time", "h", 3600, ["h", "hr", "hrs", "hour", "hours"]),
  day: unit("time", "d", 86_400, ["d", "day", "days"]),
  kilogram: unit("mass", "kg", 1, ["kg", "kilo", "kilos", "kilogram", "kilograms"]),
  gram: unit("mass", "g", 1e-3, ["g", "gram", "grams"]),
  tonne: unit("mass", "t", 1000, ["t", "tonne", "tonnes", "metric ton", "metric tons"]),
  // NIST SP 811 Appendix B: 2000 and 2240 pounds.
  shortTon: unit("mass", "short ton", 2000 * POUND_KG, ["short ton", "short tons", "us ton"]),
  longTon: unit("mass", "long ton", 2240 * POUND_KG, ["long ton", "long tons", "imperial ton"]),
  ounce: unit("mass", "oz", POUND_KG / 16, ["oz", "ounce", "ounces"]),
  pound: unit("mass", "lb", POUND_KG, ["lb", "lbs", "pound", "pounds"]),
  litrePerMinute: unit("flow", "L/min", 1e-3 / 60, ["l/min", "lpm"]),
  litrePerHour: unit("flow", "L/h", 1e-3 / 3600, ["l/h", "lph", "l/hr"]),
  litrePerSecond: unit("flow", "L/s", 1e-3, ["l/s", "lps"]),
  cubicMetrePerHour: unit("flow", "m³/h", 1 / 3600, ["m3/h", "m³/h"]),
  usGallonPerHour: unit("flow", "US gal/h", US_GALLON_M3 / 3600, ["us gal/h", "us gph"]),
  usGallonPerMinute: unit("flow", "US gal/min", US_GALLON_M3 / 60, ["us gal/min", "us gpm"]),
  imperialGallonPerMinute: unit("flow", "imp gal/min", IMPERIAL_GALLON_M3 / 60, [
    "imp gal/min",
    "imp gpm",
  ]),
  cubicFootPerMinute: unit("flow", "ft³/min", FOOT_M ** 3 / 60, ["cfm", "scfm", "ft3/min"]),
  watt: unit("power", "W", 1, ["w", "watt", "watts"]),
  kilowatt: unit("power", "kW", 1e3, ["kw"]),
  btuPerHour: unit("power", "Btu/h", BTU_J / 3600, ["btu/h", "btuh", "btu/hr"]),
  horsepower: unit("power", "hp", 745.69987, ["hp"]),
  wattPerMetre: unit("heat per length", "W/m", 1, ["w/m"]),
  wattPerFoot: unit("heat per length", "W/ft", 1 / FOOT_M, ["w/ft"]),
  joule: unit("energy", "J", 1, ["j"]),
  kilojoule: unit("energy", "kJ", 1e3, ["kj"]),
  kilowattHour: unit("energy", "kWh", 3.6e6, ["kwh"]),
  btu: unit("energy", "Btu", BTU_J, ["btu"]),
  newton: unit("force", "N", 1, ["n"]),
  poundForce: unit("force", "lbf", POUND_KG * GRAVITY, ["lbf"]),
  // A litre of water is near enough a kilogram: ppm by weight are mg/L.
  milligramPerLitre: unit("concentration", "mg/L", 1, ["mg/l", "ppm"]),
  percent: unit("fraction", "%", 0.01, ["%", "percent", "per cent", "pct"]),
} as const satisfies Record<string, MeasureUnit>;

/** Spellings whose unit depends on the reader's system; where the system has none of its own, which is meant is asked. */
type BySystem = Readonly<{ us: MeasureUnit; imperial: MeasureUnit; metric?: MeasureUnit }>;
const each = (spellings: readonly string[], of: BySystem): Record<string, BySystem> =>
  Object.fromEntries(spellings.map((spelling) => [spelling, of]));

export const SYSTEM_SPELLINGS: Readonly<Record<string, BySystem>> = {
  ...each(["gal", "gallon", "gallons"], { us: UNITS.usGallon, imperial: UNITS.imperialGallon }),
  ...each(["qt", "quart", "quarts"], { us: UNITS.usQuart, imperial: UNITS.imperialQuart }),
  ...each(["pt", "pint", "pints"], { us: UNITS.usPint, imperial: UNITS.imperialPint }),
  ...each(["fl oz", "fluid ounce", "fluid ounces"], {
    us: UNITS.usFluidOunce,
    imperial: UNITS.imperialFluidOunce,
  }),
  ...each(["gpm", "gal/min"], {
    us: UNITS.usGallonPerMinute,
    imperial: UNITS.imperialGallonPerMinute,
  }),
};

/** Spellings that name several units whoever reads: which is meant is asked. */
export const ASKED_SPELLINGS: Readonly<Record<string, readonly MeasureUnit[]>> = {
  ton: [UNITS.shortTon, UNITS.longTon, UNITS.tonne],
  tons: [UNITS.shortTon, UNITS.longTon, UNITS.tonne],
};

/** The unit in which each system shows a dimension. */
const DISPLAY_UNIT: Record<UnitBase, Record<Dimension, MeasureUnit>> = {
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
    "heat per length": UNITS.wattPerFoot,
    concentration: UNITS.milligramPerLitre,
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
    "heat per length": UNITS.wattPerMetre,
    concentration: UNITS.milligramPerLitre,
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
    "heat per length": UNITS.wattPerFoot,
    concentration: UNITS.milligramPerLitre,
  },
};

/** The unit in which a reader sees a dimension; degrees are chosen apart from the rest. */
export const displayUnit = (system: UnitSystem, dimension: Dimension): MeasureUnit => {
  const { base, degrees } = measuresOf(system);
  if (dimension === "temperature") return degrees === "F" ? UNITS.fahrenheit : UNITS.celsius;
  return DISPLAY_UNIT[base][dimension];
};
