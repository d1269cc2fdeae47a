import { amountM3, type Filled, type Guess, type Held, type Instruments, slopeBy } from "./held.ts";

/** A hold as it is fitted: how much is shut in at each reading, against time weighed by how hard the leak is driven. */

// Readings on one step of the gauge, or on two, tell as little as three scattered ones; each further step adds as much again.
const STEP_COUNTS = 3;

const SAME_SHARE = 1e-3;
const NEXT_TO_NOTHING = 0.01;

/** Mean pressure between two readings while a leak lets it down: the logarithmic mean. */
const between = (from: number, to: number): number => {
  const end = Math.max(to, from * NEXT_TO_NOTHING);
  return from <= 0 || Math.abs(from - end) < from * SAME_SHARE
    ? Math.max(0, (from + end) / 2)
    : (from - end) / Math.log(from / end);
};

/** Time weighed by how hard the leak is driven: a leak falls off as the pressure does. */
const driven = (readings: readonly Filled[]): number[] => {
  const start = Math.max(readings[0]?.pressurePa ?? 1, 1);
  let sum = 0;
  return readings.map((r, i) => {
    const before = readings[i - 1];
    if (before) sum += ((r.atS - before.atS) * between(before.pressurePa, r.pressurePa)) / start;
    return sum;
  });
};

export interface Trace {
  readonly readings: readonly Filled[];
  /** m3 by which the amount stands over the first. */
  readonly y: readonly number[];
  readonly x: readonly number[];
  readonly times: readonly number[];
  /** More than this is no settling, m3. */
  readonly mostSettling: number;
  /** What plastic may still take where no curve shows it, m3. */
  readonly stretchM3: number;
  readonly span: number;
  /** One reading's variance, as the fit may count it, m6. */
  readonly variance: number;
}

/** Which of the instruments beside the gauge were read from end to end. */
export interface Read {
  readonly temperature: boolean;
  readonly barometer: boolean;
}

const squared = (n: number): number => n * n;
const UNIFORM = 1 / 12;

/** Variance of a reading with its step: readings on one and the same step of an instrument are not told apart by their number. */
const stepVariance = (values: readonly number[], step: number, noise: number): number => {
  let passed = 0;
  for (let i = 1; i < values.length; i++)
    if (Math.abs((values[i] as number) - (values[i - 1] as number)) > step / 2) passed++;
  const tell = Math.min(values.length, STEP_COUNTS * Math.max(1, passed));
  return squared(noise) + squared(step) * UNIFORM * (values.length / tell);
};

/** @param readings with what was not read put in, the first of them the start */
export const traceOf = (
  held: Held,
  instruments: Instruments,
  readings: readonly Filled[],
  guess: Guess,
  read: Read,
): Trace => {
  const first = readings[0] as Filled;
  const begin = amountM3(held, first, first, guess);
  const by = (key: "pressurePa" | "temperatureC" | "barometerPa"): number =>
    slopeBy(held, first, first, key, guess);
  const { gauge, thermometerStepK, barometerStepPa } = instruments;
  const variance =
    squared(by("pressurePa")) *
      stepVariance(
        readings.map((r) => r.pressurePa),
        gauge.stepPa,
        gauge.noisePa,
      ) +
    (read.temperature
      ? squared(by("temperatureC")) *
        stepVariance(
          readings.map((r) => r.temperatureC),
          thermometerStepK,
          0,
        )
      : 0) +
    (read.barometer
      ? squared(by("barometerPa")) *
        stepVariance(
          readings.map((r) => r.barometerPa),
          barometerStepPa,
          0,
        )
      : 0);
  const x = driven(readings);
  return {
    readings,
    y: readings.map((r) => amountM3(held, r, first, guess) - begin),
    x,
    times: readings.map((r) => r.atS - first.atS),
    mostSettling: mostSettlingOf(held, Math.abs(by("temperatureC")), read.temperature),
    stretchM3: stretchOf(held),
    span: Math.max(x.at(-1) ?? 0, 1e-9),
    variance,
  };
};

// Air that was pumped in warm, or plastic that gives way: more than this is neither (our own).
// Air is warm from pumping, whatever the thermometer beside it says; water is as warm as what it stands in within half a degree where that is read.
const COOLS_K = { air: 8, water: 3, waterRead: 0.5 } as const;
// A fall of several psi is ordinary in plastic under water: half a thousandth of its volume.
const GIVES_SHARE = 5e-4;
const mostSettlingOf = (held: Held, perK: number, isRead: boolean): number =>
  (held.medium === "air" ? COOLS_K.air : isRead ? COOLS_K.waterRead : COOLS_K.water) * perK +
  GIVES_SHARE * plasticOf(held);

/** How much of what is shut in stands in plastic, m3. */
const plasticOf = (held: Held): number =>
  held.medium === "water" && held.wall === "plastic" ? (held.plasticM3 ?? held.volumeM3) : 0;

// Plastic under water goes on stretching after it was pressed: so much of its volume in all where no curve shows it (our own).
const STRETCH_SHARE = 2e-4;
export const stretchOf = (held: Held): number => plasticOf(held) * STRETCH_SHARE;

const MOST_BINS = 160;

/** Long traces are fitted by the means of neighbours: the same answer, sooner. */
export const binned = (trace: Trace): Trace => {
  const size = Math.ceil(trace.y.length / MOST_BINS);
  if (size < 2) return trace;
  const count = Math.floor(trace.y.length / size);
  const mean = (values: readonly number[]): number[] =>
    Array.from({ length: count }, (_, i) => {
      let sum = 0;
      for (let k = 0; k < size; k++) sum += values[i * size + k] as number;
      return sum / size;
    });
  return {
    ...trace,
    y: mean(trace.y),
    x: mean(trace.x),
    times: mean(trace.times),
    variance: trace.variance / size,
  };
};
