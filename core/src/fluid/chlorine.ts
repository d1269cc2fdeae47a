import { US_GALLON_M3 } from "../quantity/index.ts";

/** Household bleach: what a bottle gives, what it has lost, and how much of it a volume wants. */

// Cl2 by weight in sodium hypochlorite: molar masses 70.906 and 74.442 (IUPAC, from memory).
const CHLORINE_PER_HYPOCHLORITE = 70.906 / 74.442;
// Density of household bleach by its strength (fitted to White's Handbook of Chlorination, from memory; good to 1.5 %).
const DENSITY_PER_PERCENT = 0.0144;

/**
 * Free chlorine in bleach, g/L.
 * @param strength sodium hypochlorite by weight, 0 to 0.15
 */
export const chlorineGPerL = (strength: number): number => {
  const percent = strength * 100;
  return percent * CHLORINE_PER_HYPOCHLORITE * (1 + DENSITY_PER_PERCENT * percent) * 10;
};

// Loss is nearly of second order: half of 5 % in 790 days and half of 10 % in 220 days at 25 °C, a factor of 3.6 for 10 K (98 kJ/mol;
// The Chlorine Institute's pamphlet on sodium hypochlorite, from memory, middling certain).
const HALF_OF_FIVE_D = 790;
const HALF_OF_TEN_D = 220;
const ACTIVATION_J_PER_MOL = 98_000;
const GAS_J_PER_MOL_K = 8.314;
const AT_K = 298.15;
const ZERO_C_K = 273.15;

/**
 * Strength of bleach after so long, by weight as `strength`. Kept cool and dark; light takes more.
 * @param days since it was filled; where only the opening is known, since then: what it lost before is not counted
 */
export const agedBleach = (strength: number, days: number, temperatureC = 25): number => {
  if (strength <= 0 || days <= 0) return strength;
  const percent = strength * 100;
  const atFive = 1 / (5 * HALF_OF_FIVE_D);
  const grows = Math.log2(1 / (10 * HALF_OF_TEN_D) / atFive);
  const rate =
    atFive *
    (percent / 5) ** grows *
    Math.exp((ACTIVATION_J_PER_MOL / GAS_J_PER_MOL_K) * (1 / AT_K - 1 / (temperatureC + ZERO_C_K)));
  return 1 / (1 / percent + rate * days) / 100;
};

/** Bleach for a volume, m3. @param targetMgL free chlorine wanted @param gPerL of the bottle, above 0 */
export const bleachFor = (volumeM3: number, targetMgL: number, gPerL: number): number =>
  (volumeM3 * targetMgL) / (gPerL * 1000);

/** Free chlorine that bleach gives in a volume, mg/L. */
export const chlorineBy = (bleachM3: number, gPerL: number, volumeM3: number): number =>
  volumeM3 > 0 ? (bleachM3 * gPerL * 1000) / volumeM3 : 0;

/** The trade's rule: a quarter US cup for each 15 US gallons, m3 of bleach for m3 of water (common practice, no source). */
export const QUARTER_CUP_RULE = (0.25 * (US_GALLON_M3 / 16)) / (15 * US_GALLON_M3);
