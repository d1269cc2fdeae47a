import { PSI_PA, US_GALLON_M3 } from "../quantity/index.ts";

/** House settings where nobody has said otherwise: winter low −18 °C, 5 K in hand, half-and-half antifreeze in 5 L jugs. */
export const HOUSE_SETTINGS = {
  winterLowC: -18,
  marginC: 5,
  basis: "by-part",
  product: { name: "Propylene glycol antifreeze", strength: 0.5, jugM3: 0.005 },
  // Common practice, no source: half a litre a trap.
  trapDoseM3: 0.0005,
} as const;

/** What else a plan goes by that the house decides. */
export interface HouseLimits {
  /** A heater is opened at this temperature or below, °C. */
  readonly openAtC: number;
  /** Share of a vessel that must have come out before it counts as drained. */
  readonly recoveredMin: number;
  /** No outlet is signed without its strength. */
  readonly strengthEverywhere: boolean;
  /** What an outlet reads at least, whatever the winter low; 0 where the winter low alone decides. */
  readonly leastStrength?: number | undefined;
  /** Carried over the nine-in-ten figure, as a share of it. */
  readonly reserve: number;
  /** How waste gates stand through the winter; shut where nobody said otherwise. */
  readonly wasteGates?: "shut-dosed" | "open" | undefined;
  /** How air is let in; as it was shipped where nobody said otherwise. */
  readonly air?: AirLimits | undefined;
}

export interface AirLimits {
  /** What the regulator is set to, or half of what the weakest pipe bears, whichever is less, Pa. */
  readonly pa: number;
  /** Never above this, Pa. */
  readonly ceilingPa: number;
  /** Rounds with mist only before an outlet counts as blown. */
  readonly rounds: number;
  /** Where an empty heater is while air is on; bypassed where nobody said otherwise. */
  readonly heater?: "bypassed" | "receiver" | undefined;
  /** What the compressor's own vessel holds, m3; undefined where the kit does not say. */
  readonly compressorM3?: number | undefined;
}

/** A compressor with less than this behind it, 6 US gal, gains by a heater in line (common practice, no source), m3. */
export const RECEIVER_BELOW_M3 = 6 * US_GALLON_M3;

/** 40 psi, never over 50, two rounds of mist (common practice, no source). */
export const AIR_LIMITS: AirLimits = { pa: 40 * PSI_PA, ceilingPa: 50 * PSI_PA, rounds: 2 };

/** The limits where nobody has said otherwise (house policy; 40 °C and 85 % are common practice, no source). */
export const HOUSE_LIMITS: HouseLimits = {
  openAtC: 40,
  recoveredMin: 0.85,
  strengthEverywhere: false,
  reserve: 0,
};
