/** What a unit really took replaces what is worked out, next time; both are said. */

/** An earlier run of a unit, as it was closed. */
export interface Took {
  /** When it was begun, ISO. */
  readonly at: string;
  readonly stepsDone: number;
  /** Minutes at work: pauses are not counted. */
  readonly minutes: number | null;
  /** Brought less left, as measured. */
  readonly usedM3: number | null;
  /** Strength of the product, by volume. */
  readonly strength: number;
}

interface Planned {
  readonly steps: number;
  readonly minutes: number;
  readonly p90M3: number;
  readonly jugs: number;
  readonly jugM3: number;
  readonly strength: number;
}

export interface Forecast {
  readonly minutes: number;
  /** Day whose run it is taken from; none where it is worked out. */
  readonly minutesFrom?: string;
  readonly carryM3: number;
  readonly jugs: number;
  readonly carryFrom?: { readonly at: string; readonly usedM3: number };
}

// Another work altogether: half done already, or drawn anew since.
const ALIKE_STEPS = 0.25;
const ALIKE_STRENGTH = 0.02;
// A tenth over what the unit took (our own).
const OVER = 1.1;

/** @param took earlier runs that were closed with every step done, in any order */
export const forecastOf = (planned: Planned, took: readonly Took[]): Forecast => {
  const alike = took
    .filter((t) => Math.abs(t.stepsDone - planned.steps) <= ALIKE_STEPS * planned.steps)
    .toSorted((a, b) => b.at.localeCompare(a.at));
  const timed = alike.find((t) => t.minutes !== null && t.minutes > 0);
  const measured = alike.find(
    (t) =>
      t.usedM3 !== null &&
      t.usedM3 > 0 &&
      Math.abs(t.strength - planned.strength) <= ALIKE_STRENGTH,
  );
  const carryM3 = measured?.usedM3 ? measured.usedM3 * OVER : planned.p90M3;
  return {
    minutes: timed?.minutes ?? planned.minutes,
    ...(timed ? { minutesFrom: timed.at } : {}),
    carryM3,
    jugs: measured ? Math.ceil(carryM3 / planned.jugM3 - 1e-9) : planned.jugs,
    ...(measured?.usedM3 ? { carryFrom: { at: measured.at, usedM3: measured.usedM3 } } : {}),
  };
};

const MINUTE_MS = 60_000;
// Longer between two entries is a pause.
const PAUSE_MINUTES = 30;

/** Minutes at work of a run, from the times of its entries. */
export const minutesAtWork = (times: readonly string[]): number => {
  const at = times.map((t) => Date.parse(t)).toSorted((a, b) => a - b);
  const sum = at.reduce((all, time, i) => {
    const gap = i === 0 ? 0 : (time - (at[i - 1] ?? time)) / MINUTE_MS;
    return all + (gap > PAUSE_MINUTES ? 0 : gap);
  }, 0);
  return Math.round(sum);
};
