/** House settings where nobody has said otherwise: winter low −18 °C, 5 K in hand, half-and-half antifreeze in 5 L jugs. */
export const HOUSE_SETTINGS = {
  winterLowC: -18,
  marginC: 5,
  basis: "by-part",
  product: { name: "Propylene glycol antifreeze", strength: 0.5, jugM3: 0.005 },
  // Common practice, no source: half a litre a trap.
  trapDoseM3: 0.0005,
} as const;
