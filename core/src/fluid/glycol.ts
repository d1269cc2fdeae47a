import { interpolate, inverted, type Property, type Rows } from "./table.ts";

/**
 * Propylene glycol and water. "Strength" is glycol by volume of the mixture (the figure on tables and labels),
 * as a fraction; mass fraction is said when meant.
 */

// Source: ASHRAE Handbook, Fundamentals, "Physical Properties of Secondary Coolants (Brines)",
// propylene glycol, freezing point of aqueous solutions: mass %, volume %, °C.
const ASHRAE_FREEZING: readonly (readonly [
  massPercent: number,
  volumePercent: number,
  freezingC: number,
])[] = [
  [0, 0, 0],
  [5, 4.8, -1.6],
  [10, 9.6, -3.3],
  [15, 14.5, -5.1],
  [20, 19.4, -7.1],
  [25, 24.4, -9.6],
  [30, 29.4, -12.7],
  [35, 34.4, -16.4],
  [40, 39.6, -21.1],
  [45, 44.7, -26.7],
  [50, 49.9, -33.5],
  [55, 55.0, -41.6],
  [60, 60.0, -51.1],
];

// Source: a manufacturer's engineering guide for propylene glycol, "burst protection", volume % by °F; ASHRAE prints a similar
// table. Its first row is 12 % at 20 °F; the point 0 % at 32 °F is water itself.
const BURST_PERCENT_BY_F: Rows = [
  [-40, 35],
  [-30, 33],
  [-20, 30],
  [-10, 28],
  [0, 24],
  [10, 20],
  [20, 12],
  [32, 0],
];

/** The strongest mixture whose burst point the table tells apart; above it the table only says "−51 °C (−60 °F) or colder". */
const BURST_TABLE_TOP = 0.35;
/** The weakest mixture of the table's own rows, by volume; what is thinner is not called safe from bursting anywhere. */
export const BURST_TABLE_BOTTOM = 0.12;
/** Coldest burst figure of the table, −60 °F. */
const BURST_COLDEST_C = (-60 - 32) / 1.8;

const toC = (f: number): number => (f - 32) / 1.8;
const BURST_C_BY_PERCENT: Rows = BURST_PERCENT_BY_F.map(
  ([f, percent]) => [percent, toC(f)] as const,
).sort((a, b) => a[0] - b[0]);
const FREEZING_C_BY_VOLUME: Rows = ASHRAE_FREEZING.map(([, v, c]) => [v, c] as const);
const VOLUME_BY_MASS: Rows = ASHRAE_FREEZING.map(([m, v]) => [m, v] as const);

// Source: CRC Handbook, "Concentrative Properties of Aqueous Solutions", propylene glycol at 20 °C, g/mL by mass % (±0.002).
const DENSITY_BY_MASS: Rows = [
  [0, 0.9982],
  [10, 1.006],
  [20, 1.014],
  [30, 1.022],
  [40, 1.03],
  [50, 1.036],
  [60, 1.041],
];

// Source: the same CRC table's refractive index put on the ICUMSA sucrose scale: °Brix by mass %.
const BRIX_BY_MASS: Rows = [
  [0, 0],
  [10, 7.3],
  [20, 14.6],
  [30, 21.6],
  [40, 28],
  [50, 34.5],
  [60, 40],
];

// Propylene glycol and water, mPa·s at 0 and at 20 °C by mass %: tables of the kind that makers and the CRC Handbook print, from memory, ±20 %.
const VISCOSITY_BY_MASS: readonly (readonly [massPercent: number, at0C: number, at20C: number])[] =
  [
    [0, 1.792, 1.0016],
    [10, 2.7, 1.5],
    [20, 4.1, 2.2],
    [30, 6.4, 3.0],
    [40, 10.5, 4.4],
    [50, 17, 6.4],
    [60, 28, 9],
  ];

const percentOf = (rows: Rows, x: number, what: string): Property => {
  const found = interpolate(rows, x, what);
  return found.ok ? { ok: true, value: found.value / 100 } : found;
};

/**
 * Freezing point (first crystals) of a mixture.
 * @param strength glycol by volume, 0 to 0.60
 * @returns °C; refuses above 60 %, where the handbook gives only "below −51 °C". Source: ASHRAE Fundamentals.
 */
export const freezingPointC = (strength: number): Property =>
  interpolate(FREEZING_C_BY_VOLUME, strength * 100, "Glycol freezing point, % by volume");

/** Strength by volume whose first crystals form at a temperature from 0 to −51.1 °C. Source: ASHRAE Fundamentals. */
export const strengthForFreezing = (temperatureC: number): Property =>
  percentOf(
    inverted(FREEZING_C_BY_VOLUME),
    temperatureC,
    "Glycol strength for a freezing point, °C",
  );

/**
 * Burst point: slush forms above it, but does not crack pipe that has room to expand and is not pumped.
 * @param strength glycol by volume, 0 to 0.60
 * @returns °C. From 35 % up the table says the same for −40, −50 and −60 °F; then `atOrBelow` is true and the value is −40 °C,
 * the warmest of the three, or the freezing point where that is colder. Between 0 and 12 % it is a straight line to water's own 0 °C (our own, on the safe side).
 */
export const burstPointC = (strength: number): Property & { atOrBelow?: boolean } => {
  if (!(strength >= 0 && strength <= 0.6))
    return {
      ok: false,
      problem: `Glycol burst point: ${(strength * 100).toPrecision(4)} % lies outside the table (0 to 60 %).`,
    };
  if (strength >= BURST_TABLE_TOP) {
    const freezing = freezingPointC(strength);
    return {
      ok: true,
      value: freezing.ok ? Math.min(toC(-40), freezing.value) : toC(-40),
      atOrBelow: true,
    };
  }
  return interpolate(BURST_C_BY_PERCENT, strength * 100, "Glycol burst point, % by volume");
};

/**
 * Strength by volume for a burst point.
 * @param temperatureC 0 to −51.1 °C (−60 °F)
 */
export const strengthForBurst = (temperatureC: number): Property => {
  if (temperatureC < BURST_COLDEST_C || temperatureC > 0)
    return {
      ok: false,
      problem: `Glycol strength for a burst point: ${temperatureC} °C lies outside the table (−51.1 to 0 °C).`,
    };
  if (temperatureC <= toC(-40)) return { ok: true, value: BURST_TABLE_TOP };
  return percentOf(
    inverted(BURST_C_BY_PERCENT),
    temperatureC,
    "Glycol strength for a burst point, °C",
  );
};

/** Strength by volume from a mass fraction, 0 to 0.60. Source: ASHRAE Fundamentals. */
export const strengthFromMassFraction = (massFraction: number): Property =>
  percentOf(VOLUME_BY_MASS, massFraction * 100, "Glycol volume strength, mass %");

/** Mass fraction from strength by volume, 0 to 0.60. Source: ASHRAE Fundamentals. */
export const massFractionFromStrength = (strength: number): Property =>
  percentOf(inverted(VOLUME_BY_MASS), strength * 100, "Glycol mass fraction, % by volume");

/** Density at 20 °C in kg/m3 for a mass fraction from 0 to 0.60. Source: CRC Handbook. Not monotonic above 0.7: no hydrometers. */
export const glycolDensityKgM3 = (massFraction: number): Property => {
  const found = interpolate(DENSITY_BY_MASS, massFraction * 100, "Glycol density, mass %");
  return found.ok ? { ok: true, value: found.value * 1000 } : found;
};

/** Strength by volume from a refractometer's °Brix at 20 °C, 0 to 40. Source: CRC Handbook, ICUMSA sucrose scale. */
export const strengthFromBrix = (brix: number): Property => {
  const mass = interpolate(inverted(BRIX_BY_MASS), brix, "Refractometer reading, °Brix");
  return mass.ok ? strengthFromMassFraction(mass.value / 100) : mass;
};

/** °Brix that a refractometer shows for a strength by volume from 0 to 0.60. */
export const brixFromStrength = (strength: number): Property => {
  const mass = massFractionFromStrength(strength);
  return mass.ok ? interpolate(BRIX_BY_MASS, mass.value * 100, "°Brix, mass %") : mass;
};

/**
 * Dynamic viscosity of a mixture: cold antifreeze is many times as stiff as water.
 * @param massFraction glycol, 0 to 0.60
 * @param temperatureC 0 to 20 °C; in the logarithm between the two
 * @returns Pa·s, good to 20 %. Source: printed tables, from memory.
 */
export const glycolViscosityPaS = (massFraction: number, temperatureC: number): Property => {
  const what = "Viscosity, glycol mass %";
  const cold = interpolate(
    VISCOSITY_BY_MASS.map(([m, v]) => [m, Math.log(v)] as const),
    massFraction * 100,
    what,
  );
  const warm = interpolate(
    VISCOSITY_BY_MASS.map(([m, , v]) => [m, Math.log(v)] as const),
    massFraction * 100,
    what,
  );
  if (!cold.ok) return cold;
  if (!warm.ok) return warm;
  const between = interpolate(
    [
      [0, cold.value],
      [20, warm.value],
    ],
    temperatureC,
    "Viscosity of a glycol mixture, °C",
  );
  return between.ok ? { ok: true, value: Math.exp(between.value) * 1e-3 } : between;
};
