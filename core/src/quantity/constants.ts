/** Figures of nature and of units that more than one room needs. Source: NIST SP 811 Appendix B; all exact. */

/** Standard gravity, m/s2. */
export const GRAVITY = 9.80665;
/** Standard atmosphere, Pa. */
export const ATMOSPHERE_PA = 101_325;
/** Weight of a metre of water of 1000 kg/m3, Pa. */
export const PA_PER_M = 1000 * GRAVITY;
export const INCH_M = 0.0254;
/** Twelve inches, written out: the product is off in its last figure. */
export const FOOT_M = 0.3048;
/** 231 cubic inches. */
export const US_GALLON_M3 = 231 * INCH_M ** 3;
export const POUND_KG = 0.45359237;
/** A pound of force on a square inch, Pa. */
export const PSI_PA = (POUND_KG * GRAVITY) / INCH_M ** 2;
