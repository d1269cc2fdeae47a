import { type PressureTest, simulatedHold } from "@uppershed/core/hold";
import type { HoldReading } from "@uppershed/core/hold";

/** The stand-in for a pressure logger: a seeded trace of the test's own volume, read as time passes. It is marked as simulated everywhere. */

const LONGEST_S = 8 * 3600;
const EVERY_S = 15;
const MOST_A_TIME = 2000;

/** The readings of a stand-in that have been made by now, later than some second of the hold. */
export const loggedBy = (test: PressureTest, now: number, afterS: number): HoldReading[] => {
  const { logger, plan, instruments } = test;
  if (!logger) return [];
  const seconds = Math.min(
    LONGEST_S,
    Math.max(0, ((now - Date.parse(logger.at)) / 1000) * logger.speed),
  );
  const whole = Math.max(plan.holdS, 3600);
  return simulatedHold({
    seed: logger.seed,
    held: plan.held,
    instruments,
    seconds: Math.max(seconds, EVERY_S),
    everyS: EVERY_S,
    startPa: plan.pressurePa,
    leakM3S: logger.leakM3S,
    startC: 18,
    driftK: (logger.driftK * Math.max(seconds, EVERY_S)) / whole,
    swingK: 0,
    lagS: 120,
    barometerPa: 101_100,
    barometerDriftPa: (-60 * Math.max(seconds, EVERY_S)) / whole,
    creepM3: 0,
    creepS: 300,
    pumpedK: 0,
    readsTemperature: true,
    readsBarometer: true,
  })
    .filter((r) => r.atS > afterS && r.atS <= seconds)
    .slice(0, MOST_A_TIME);
};
