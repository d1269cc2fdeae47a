/**
 * How long still water lasts in cold air, round a cylinder's axis.
 * Cooling: t = (ρ·c·A·R)·ln((T₀ − T)/(0 − T)); freezing through, from outside in, by Plank: t = (ρ·λ/ΔT)·(d/4h + d²/16k)
 * (textbook, as in Çengel, Heat Transfer; from memory).
 */

/** IAPWS at 0 °C: density of water, kg/m3; latent heat of ice, J/kg; conductivity of ice, W/mK; heat of water, J/kgK, rounded. */
export const FREEZING = {
  waterKgM3: 999.84,
  latentJKg: 333_550,
  iceWmK: 2.22,
  waterJKgK: 4200,
} as const;

export interface Shell {
  readonly boreM: number;
  readonly outsideM: number;
  /** Conductivity of the wall and of the insulation, W/mK. */
  readonly wallWmK: number;
  readonly foamM: number;
  readonly foamWmK: number;
  /** Air film on the outside, W/m2K. */
  readonly filmWm2K: number;
}

/** Resistance to heat from the water's edge outward times π, for one metre, m·K/W: wall, insulation, film. */
export const outwardResistance = ({
  boreM,
  outsideM,
  wallWmK,
  foamM,
  foamWmK,
  filmWm2K,
}: Shell): number => {
  const skin = outsideM + 2 * foamM;
  return (
    Math.log(outsideM / boreM) / (2 * wallWmK) +
    Math.log(skin / outsideM) / (2 * foamWmK) +
    1 / (filmWm2K * skin)
  );
};

/**
 * @param resistance of `outwardResistance` @param beginC of the water, above 0 @param airC below 0
 * @returns seconds to the first ice, and from there until frozen through
 */
export const freezingTimes = (
  boreM: number,
  resistance: number,
  beginC: number,
  airC: number,
): { firstIceS: number; freezingS: number } => {
  const { waterKgM3, latentJKg, iceWmK, waterJKgK } = FREEZING;
  const inward = 1 / (boreM * resistance);
  return {
    firstIceS:
      (waterKgM3 *
        waterJKgK *
        (Math.PI / 4) *
        boreM ** 2 *
        resistance *
        Math.log((beginC - airC) / (0 - airC))) /
      Math.PI,
    freezingS:
      ((waterKgM3 * latentJKg) / (0 - airC)) * (boreM / (4 * inward) + boreM ** 2 / (16 * iceWmK)),
  };
};
