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
}

/** The limits where nobody has said otherwise (house policy; 40 °C and 85 % are common practice, no source). */
export const HOUSE_LIMITS: HouseLimits = {
  openAtC: 40,
  recoveredMin: 0.85,
  strengthEverywhere: false,
  reserve: 0,
};
