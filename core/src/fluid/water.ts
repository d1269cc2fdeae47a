import { interpolate, type Property, type Rows } from "./table.ts";

// Source: IAPWS-95 at 101.325 kPa, kg/m3 by °C (also CRC Handbook, "Properties of water").
const DENSITY: Rows = [
  [0, 999.84],
  [4, 999.97],
  [10, 999.7],
  [15, 999.1],
  [20, 998.21],
  [25, 997.05],
  [30, 995.65],
  [40, 992.22],
  [50, 988.03],
  [60, 983.2],
  [80, 971.79],
];

// Source: IAPWS 2008 formulation for viscosity, mPa·s by °C.
const VISCOSITY: Rows = [
  [0, 1.792],
  [4, 1.567],
  [10, 1.306],
  [15, 1.138],
  [20, 1.0016],
  [25, 0.89],
  [30, 0.797],
  [40, 0.653],
  [50, 0.547],
  [60, 0.466],
  [80, 0.354],
];

// Source: IAPWS R10-06, ice Ih at 0 °C and 1 atm.
export const ICE_DENSITY_KG_M3 = 916.7;

/**
 * Density of water at atmospheric pressure.
 * @param temperatureC 0 to 80 °C
 * @returns kg/m3; refuses outside the table. Source: IAPWS-95, straight line between its points.
 */
export const waterDensityKgM3 = (temperatureC: number): Property =>
  interpolate(DENSITY, temperatureC, "Water density, °C");

/**
 * Dynamic viscosity of water.
 * @param temperatureC 0 to 80 °C
 * @returns Pa·s; refuses outside the table. Source: IAPWS 2008; interpolated in the logarithm, which follows the curve closely.
 */
export const waterViscosityPaS = (temperatureC: number): Property => {
  const logs = interpolate(
    VISCOSITY.map(([t, v]) => [t, Math.log(v)] as const),
    temperatureC,
    "Water viscosity, °C",
  );
  return logs.ok ? { ok: true, value: Math.exp(logs.value) * 1e-3 } : logs;
};

/** How much a volume of water grows on freezing, as a fraction (0.0907). Source: IAPWS-95 and IAPWS R10-06. */
export const iceExpansion = (): number => 999.84 / ICE_DENSITY_KG_M3 - 1;
