import { CALCULATIONS, reckon } from "../reckon/index.ts";
import { UNITS, type MeasureUnit } from "../quantity/index.ts";

/**
 * Worked examples of calculations that stand alone. Each was reckoned by hand from the formula named in the calculation's source;
 * published inputs (IAPWS-95, ASHRAE, CRC, White, ASME B-series sizes) are from memory.
 */
export interface WorkedExample {
  readonly told: string;
  readonly calculation: string;
  readonly given: Readonly<Record<string, number>>;
  /** A figure beside the answer; the answer itself where it is not said. */
  readonly label: string | undefined;
  readonly expected: number;
  /** MeasureUnit of what is expected and of its tolerance; SI where it is not said. */
  readonly unit: MeasureUnit | undefined;
  readonly tolerance: number;
}

const at = (value: number, unit: MeasureUnit): number => value * unit.factor + unit.offset;
const {
  inch,
  foot,
  usGallon,
  psi,
  fahrenheit,
  usGallonPerMinute,
  cubicFootPerMinute,
  minute,
  hour,
  poundForce,
  btu,
  pound,
} = UNITS;
const gallons = (n: number): number => at(n, usGallon);
const f = (n: number): number => at(n, fahrenheit);

type Row = readonly [
  string,
  string,
  Record<string, number>,
  string | undefined,
  number,
  MeasureUnit | undefined,
  number,
];
const DAY = 86_400;
/** 60 US gal at 50 mg/L with a fresh bottle: White's Handbook of Chlorination, its densities from memory. */
const bleachRow = (strength: number, mL: number): Row => [
  `60 US gal at 50 mg/L of ${strength * 100} % by weight: ${mL} mL (White, from memory; density to 1.5 %)`,
  "chlorine-dose",
  { tank: gallons(60), lines: 0, heater: 0, target: 50, strength, age: 0, stored: 25 },
  undefined,
  mL * 1e-6,
  undefined,
  mL * 1e-6 * 0.015,
];
const contactRow = (mgL: number, hours: number, product: number): Row => [
  `${mgL} mg/L for ${hours} h: ${product} mg·min/L`,
  "contact",
  { start: mgL, end: mgL, time: hours * 3600 },
  undefined,
  product,
  undefined,
  1,
];
const ROWS: readonly Row[] = [
  bleachRow(0.0525, 211),
  bleachRow(0.06, 183),
  bleachRow(0.0825, 129),
  contactRow(50, 4, 12_000),
  contactRow(50, 24, 72_000),
  contactRow(200, 3, 36_000),
  [
    "5 % after 365 days at 25 °C: 3.4 % (second order, from memory)",
    "chlorine-dose",
    { strength: 0.05, age: 365 * DAY, stored: 25 },
    "Strength of the bottle now",
    0.034,
    undefined,
    0.0005,
  ],
  [
    "An 80 L tank dosed alone, with 25 L of heater and 6 L of lines: 72 % of 50 mg/L",
    "chlorine-dose",
    { tank: 0.08, lines: 0.006, heater: 0.025, target: 50 },
    "Dosed for the tank alone, it comes to",
    36,
    undefined,
    0.1,
  ],
  [
    "A heel of 5 %: one filling of 50 mg/L leaves 2.5",
    "flush",
    { start: 50, limit: 4, heel: 0.05 },
    "Then it has",
    2.5,
    undefined,
    0.001,
  ],
  [
    "A heel of 5 %: under 1 mg/L takes two fillings, and leaves 0.125",
    "flush",
    { start: 50, limit: 1, heel: 0.05 },
    "Then it has",
    0.125,
    undefined,
    0.0005,
  ],
  [
    "25 L of heater from 50 to 4 mg/L by running it: 63 L (V · ln(50/4), by hand)",
    "flush",
    { start: 50, limit: 4, heater: 0.025 },
    "Through the heater instead of draining it",
    0.0631,
    undefined,
    0.0002,
  ],
  [
    "A rod of 21.3 mm worn to 10.65 in a year has a quarter left (by hand)",
    "anode",
    { new: 0.0213, now: 0.01065, served: 365 * DAY },
    undefined,
    0.25,
    undefined,
    0.0005,
  ],
  [
    "23 L at 7 L/min fill in 3.29 min (by hand)",
    "heater-fill",
    { volume: 0.023, flow: 7e-3 / 60 },
    undefined,
    3.286,
    minute,
    0.01,
  ],
  [
    "1 US gal with 28 psi, 30 to 50 psi, a start every hour: 0.295 gal an hour (Boyle, worked by hand)",
    "pump-rerun",
    {
      volume: gallons(1),
      precharge: at(28, psi),
      cutIn: at(30, psi),
      cutOut: at(50, psi),
      interval: 3600,
    },
    "Water given between two starts",
    0.295,
    usGallon,
    0.001,
  ],
  [
    "1.5 psi at 70 °F reads 1.347 psi at 65 °F (gas law on absolute pressure; on the gauge's figure it would be 1.486)",
    "hold-correction",
    { pressure: at(1.5, psi), temperature: f(70), pressure2: at(1.347, psi), temperature2: f(65) },
    undefined,
    1.347,
    psi,
    0.001,
  ],
  [
    "40 psi at 70 °F reads 39.484 psi at 65 °F",
    "hold-correction",
    { pressure: at(40, psi), temperature: f(70), pressure2: at(39.484, psi), temperature2: f(65) },
    undefined,
    39.484,
    psi,
    0.001,
  ],
  [
    "a barometer that falls 0.10 inHg lifts a sealed gauge by 0.049 psi (NIST SP 811 factors)",
    "hold-correction",
    {
      pressure: at(1.5, psi),
      temperature: 20,
      pressure2: at(1.5, psi),
      temperature2: 20,
      barometer2: 101_325 - 338.6389,
    },
    undefined,
    1.549,
    psi,
    0.0005,
  ],
  [
    "6.0 L of air that lose 2.0 psi in 15 min leak 54.4 mL/min at 14.696 psi",
    "leak-rate",
    { volume: 6e-3, fall: at(2, psi), time: 900 },
    undefined,
    54.4e-6 / 60,
    undefined,
    0.1e-6 / 60,
  ],
  [
    "300 L of air on a gauge of 0.05 psi need two hours to show a litre an hour",
    "hold-time",
    { volume: 0.3, step: at(0.05, psi), leak: 1e-3 / 3600 },
    undefined,
    7348,
    undefined,
    5,
  ],
  [
    "10 US gal of air at 50 psi: 14.57 kJ (ASME PCC-2 article 501, from memory)",
    "stored-energy",
    { volume: gallons(10), pressure: at(50, psi) },
    undefined,
    14_570,
    undefined,
    20,
  ],
  [
    "the same volume of water: about a joule",
    "stored-energy",
    { volume: gallons(10), pressure: at(50, psi) },
    "Water of the same volume",
    1.02,
    undefined,
    0.02,
  ],
  [
    "60 US gal at 1.5 psi: 1.73 kJ by the same formula",
    "stored-energy",
    { volume: gallons(60), pressure: at(1.5, psi) },
    undefined,
    1730,
    undefined,
    10,
  ],
  [
    "a US gallon at 68 °F weighs 8.330 lb (IAPWS-95)",
    "water-weight",
    { volume: gallons(1), temperature: f(68) },
    undefined,
    8.33,
    pound,
    0.002,
  ],
  [
    "758 lb three feet off the middle of 10,000 lb with GM 3 ft: heel 4.3°",
    "water-weight",
    {
      volume: gallons(91),
      temperature: f(68),
      arm: at(3, foot),
      displacement: at(10_000, pound),
      gm: at(3, foot),
    },
    "Heel of a boat",
    4.3,
    undefined,
    0.05,
  ],
  [
    "100 ft of half-inch tube holds 0.921 US gal",
    "pipe-volume",
    { bore: at(0.475, inch), length: at(100, foot) },
    undefined,
    0.921,
    usGallon,
    0.001,
  ],
  [
    "a tank of 48×24×8 in by a half-inch hole: 33.2 min (Torricelli)",
    "tank-drain",
    { length: at(48, inch), width: at(24, inch), depth: at(8, inch), hole: at(0.5, inch) },
    undefined,
    33.2,
    minute,
    0.1,
  ],
  [
    "and 2.41 US gal/min at first",
    "tank-drain",
    { length: at(48, inch), width: at(24, inch), depth: at(8, inch), hole: at(0.5, inch) },
    "Flow at first",
    2.41,
    usGallonPerMinute,
    0.01,
  ],
  [
    "its last inch takes 35.4 % of that",
    "tank-drain",
    { length: at(48, inch), width: at(24, inch), depth: at(1, inch), hole: at(0.5, inch) },
    undefined,
    33.2 * 0.354,
    minute,
    0.1,
  ],
  [
    "60 gal at 3 gal/min: 20.0 min",
    "tank-fill",
    { volume: gallons(60), flow: at(3, usGallonPerMinute) },
    undefined,
    20,
    minute,
    0.01,
  ],
  [
    "and 0.40 ft3/min of air",
    "tank-fill",
    { volume: gallons(60), flow: at(3, usGallonPerMinute) },
    "Air out of the vent",
    0.401,
    cubicFootPerMinute,
    0.002,
  ],
  [
    "2 gal/min in 10 ft of half-inch tube at 60 °F: 0.664 psi (Swamee-Jain)",
    "pipe-loss",
    {
      flow: at(2, usGallonPerMinute),
      bore: at(0.475, inch),
      length: at(10, foot),
      temperature: f(60),
    },
    undefined,
    0.664,
    psi,
    0.005,
  ],
  [
    "at 68 °F 0.645 psi",
    "pipe-loss",
    {
      flow: at(2, usGallonPerMinute),
      bore: at(0.475, inch),
      length: at(10, foot),
      temperature: f(68),
    },
    undefined,
    0.645,
    psi,
    0.005,
  ],
  [
    "an accumulator of 1 gal, precharge 28, 30 to 50 psi: 0.295 gal (Boyle)",
    "accumulator",
    { volume: gallons(1) * 1, precharge: at(28, psi), cutIn: at(30, psi), cutOut: at(50, psi) },
    undefined,
    0.295,
    usGallon,
    0.002,
  ],
  [
    "without precharge 0.102 gal",
    "accumulator",
    { volume: gallons(1), precharge: 0, cutIn: at(30, psi), cutOut: at(50, psi) },
    undefined,
    0.102,
    usGallon,
    0.002,
  ],
  [
    "36 % bears 24 % of water down to 29 %",
    "glycol-mix",
    { product: 0.36, strength: 0.29 },
    "Water that the product bears, of its own volume",
    0.241,
    undefined,
    0.001,
  ],
  [
    "21.6 °Brix is 29.4 % by volume (CRC, ICUMSA, from memory)",
    "brix",
    { brix: 21.6 },
    undefined,
    0.294,
    undefined,
    0.001,
  ],
  [
    "a receiver of 6 gal from 120 to 50 psi at 3 ft3/min: 76 s (Boyle)",
    "receiver",
    { volume: gallons(6), from: at(120, psi), to: at(50, psi), net: at(3, cubicFootPerMinute) },
    undefined,
    76,
    undefined,
    0.7,
  ],
  [
    "which is 3.82 ft3 of free air",
    "receiver",
    { volume: gallons(6), from: at(120, psi), to: at(50, psi), net: at(3, cubicFootPerMinute) },
    "Free air stored between the two",
    3.82 * 0.3048 ** 3,
    undefined,
    0.0003,
  ],
  [
    "half-inch tube at 20 °F, film of 10 outside: 3.41 h from the first ice (Plank)",
    "night",
    {},
    "From the first ice to frozen through",
    3.41,
    hour,
    0.02,
  ],
  ["and 0.26 h from 50 °F to the first ice", "night", {}, undefined, 0.26, hour, 0.01],
  [
    "in wind, a film of 25: 1.50 h",
    "night",
    { film: 25 },
    "From the first ice to frozen through",
    1.5,
    hour,
    0.02,
  ],
  [
    "half an inch of foam at −20 °F, held at 40 °F: 2.41 W/ft",
    "heat-cable",
    {
      outside: at(0.625, inch),
      foam: at(0.5, inch),
      foamConducts: 0.036057,
      hold: f(40),
      air: f(-20),
    },
    "Loss a metre",
    2.41 / 0.3048,
    undefined,
    0.03,
  ],
  [
    "1.5 psi on a hatch of 12 by 18 in: 324 lbf",
    "hatch-force",
    { pressure: at(1.5, psi), length: at(18, inch), width: at(12, inch) },
    undefined,
    324,
    poundForce,
    0.5,
  ],
  [
    "6 gal from 50 to 120 °F: 3,499 Btu",
    "heater",
    { volume: gallons(6), cold: f(50), hot: f(120) },
    undefined,
    3499,
    btu,
    12,
  ],
  [
    "by 1,440 W: 42.7 min",
    "heater",
    { volume: gallons(6), cold: f(50), hot: f(120), power: 1440 },
    "Time",
    42.7,
    minute,
    0.2,
  ],
];

export const WORKED_EXAMPLES: readonly WorkedExample[] = ROWS.map(
  ([told, calculation, given, label, expected, unit, tolerance]) => ({
    told,
    calculation,
    given,
    label,
    expected,
    unit,
    tolerance,
  }),
);

/** What is reckoned for an example, in its own unit. */
export const valueOfExample = ({ calculation, given, label, unit }: WorkedExample): number => {
  const found = CALCULATIONS.find((c) => c.name === calculation);
  const result = found && reckon(found, given);
  if (!result?.ok) throw new Error(`${calculation}: ${result?.problem ?? "not known"}`);
  const value =
    label === undefined
      ? result.answer.value
      : (result.also.find((x) => x.label === label)?.value ?? Number.NaN);
  return unit ? (value - unit.offset) / unit.factor : value;
};
