/** What blows where nobody says otherwise: a workshop's compressor at 40 psi (common practice, no source). */
export const USUAL_BLOW = {
  regulatorPa: 275_790,
  receiverM3: 0.024,
  fullPa: 827_371,
  deliveryM3PerS: 0.001416,
};
