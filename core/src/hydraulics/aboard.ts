import type { Liquid } from "./network.ts";

/** Figures of the pipes, parts and openings met aboard. */

/** Roughness of drawn plastic, m; common textbook value, from memory. */
export const ROUGHNESS_M = 1.5e-6;

/** Entry, exit and a bend at each end of a run: our own estimate from textbook K of 0.5, 1 and 0.9 for full-bore turns, from memory. */
export const END_LOSS_K = 0.6;

/** The way inside a part: 50 mm of 10 mm bore with a turn; our own estimate. */
export const INSIDE = { lengthM: 0.05, boreM: 0.01, lossK: 1 } as const;

/** m3/s at 1 Pa: a tap passes 6 L/min at 2 bar (our own estimate, near what flow-limited outlets are sold at). */
export const TAP_COEFFICIENT = 0.1e-3 / Math.sqrt(200_000);

/** m3/s at 1 Pa: an open 10 mm end with the discharge coefficient 0.6 of a sharp-edged hole (textbook, from memory). */
export const HOLE_COEFFICIENT = 0.6 * (Math.PI / 4) * 0.01 ** 2 * Math.sqrt(2 / 1000);

/** Air at 15 °C (ICAO standard atmosphere, from memory). */
export const AIR: Liquid = { densityKgM3: 1.225, viscosityPaS: 1.8e-5 };
