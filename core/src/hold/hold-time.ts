import { type Held, type HoldReading, instrumentsSchema } from "./held.ts";
import { holdPolicy, judgeHold } from "./judge.ts";

/** How long a hold must be, by asking the judge itself. */

export const READINGS = 13;
const LONGEST_WANTED_S = 7200;
// A quarter of an hour, and each time half as long again, to a night.
const LONGER = 1.5;
const LONGEST_HOLD_S = 16 * 3600;

/** The smallest leak that a calm hold of so long would show, m3/s: the judge is asked itself, with readings that do not move. */
const wouldShow = (held: Held, stepPa: number, pressurePa: number, seconds: number): number => {
  const readings: HoldReading[] = Array.from({ length: READINGS }, (_, i) => ({
    atS: (i * seconds) / (READINGS - 1),
    pressurePa,
    temperatureC: 20,
    barometerPa: 101_325,
  }));
  return judgeHold(held, instrumentsSchema.parse({ gauge: { stepPa } }), readings, {
    ...holdPolicy(held.medium),
    leastS: 0,
  }).smallestDetectable;
};

/** How long it must be held to show the leak that matters with this gauge; to the next minute. */
export const longEnough = (
  held: Held,
  stepPa: number,
  pressurePa: number,
  smallestM3S: number,
  leastS: number,
): number => {
  let seconds = leastS;
  while (seconds < LONGEST_HOLD_S && wouldShow(held, stepPa, pressurePa, seconds) > smallestM3S)
    seconds *= LONGER;
  return Math.ceil(Math.min(seconds, LONGEST_HOLD_S) / 60) * 60;
};

/** The coarsest step with which two hours would show it, Pa. */
export const stepFor = (
  held: Held,
  stepPa: number,
  pressurePa: number,
  smallestM3S: number,
): number => {
  const shown = wouldShow(held, stepPa, pressurePa, LONGEST_WANTED_S);
  return shown > 0 ? (stepPa * smallestM3S) / shown : stepPa;
};
