import { ATMOSPHERE_PA } from "../quantity/index.ts";

const ADIABATIC = 1.4;
// Bulk modulus of water, 2.2 GPa (textbook).
export const WATER_BULK_PA = 2.2e9;
// TNT: 4.267 MJ a kilogram, as ASME PCC-2 article 501 counts it (from memory).
const TNT_J_PER_KG = 4.267e6;

/**
 * Energy that air in a vessel sets free when it is let go at once, J: adiabatic, p V / (γ − 1) · (1 − (p0 / p)^((γ − 1) / γ)) with absolute
 * pressures. Source: ASME PCC-2 article 501 (from memory); 10 US gal at 50 psi are 14.57 kJ, 25 L at 40 psi 7.4 kJ.
 * @param gaugePa above the air around
 */
export const storedEnergyJ = (volumeM3: number, gaugePa: number): number => {
  const absolute = gaugePa + ATMOSPHERE_PA;
  const share = 1 - (ATMOSPHERE_PA / absolute) ** ((ADIABATIC - 1) / ADIABATIC);
  return ((absolute * volumeM3) / (ADIABATIC - 1)) * share;
};

/** The same volume of water at the same pressure, J: p² V / 2 K, walls taken as stiff (textbook). */
export const waterEnergyJ = (volumeM3: number, gaugePa: number): number =>
  (gaugePa * gaugePa * volumeM3) / (2 * WATER_BULK_PA);

/** As so much TNT, kg. */
export const asTntKg = (energyJ: number): number => energyJ / TNT_J_PER_KG;
