import { emptyingTimeS } from "../contents/index.ts";
import { type Cell, kindOfPart, type LiveOpening } from "../watermap/index.ts";

// Bores that liquid leaves by (common practice, no source).
const TANK_DRAIN_BORE_M = 0.012;
const PLUG_BORE_M = 0.019;
const DRAIN_BORE_M = 0.01;

const boreOf = (from: Cell, exit: LiveOpening): number => {
  if (exit.use === "plug") return PLUG_BORE_M;
  return from.part && kindOfPart(from.part).role.vessel === "fresh"
    ? TANK_DRAIN_BORE_M
    : DRAIN_BORE_M;
};

/** Of what could leave a vessel by a hole, what does in so many seconds: the root of the head falls evenly (Torricelli). */
export const torricelli =
  (seconds: number, slowest: { s: number }) =>
  (cell: Cell, exit: LiveOpening, couldM3: number): number => {
    if (cell.form !== "vessel") return couldM3;
    const depth = Math.max(cell.topM - cell.bottomM, 1e-6);
    const level = (couldM3 / Math.max(cell.capacityM3, 1e-12)) * depth;
    const whole = emptyingTimeS(cell.capacityM3, depth, level, boreOf(cell, exit));
    slowest.s = Math.max(slowest.s, whole);
    return seconds >= whole ? couldM3 : couldM3 * (1 - (1 - seconds / whole) ** 2);
  };
