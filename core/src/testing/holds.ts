import { uniformFloat64 } from "pure-rand/distribution/uniformFloat64";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import {
  type Held,
  type HoldReading,
  type HoldVerdict,
  judgeHold,
  type SimulatedHold,
  simulatedHold,
} from "../hold/index.ts";
import { PSI_PA } from "../quantity/index.ts";

/** Seeded holds over leak sizes, drifts, gauges and lengths, judged, beside what the first reading less the last would have said. */

interface JudgedTrace {
  readonly seed: number;
  readonly of: SimulatedHold;
  readonly verdict: HoldVerdict;
  /** True leak at the start, m3/s. */
  readonly leakM3S: number;
  readonly isFalseTight: boolean;
  readonly isFalseLeaking: boolean;
  readonly isCovered: boolean;
  /** The first less the last, a leak when it is over two steps of the gauge. */
  readonly naive: { readonly isFalseTight: boolean; readonly isFalseLeaking: boolean };
}

// A leak under a hundredth of what could be seen is none.
const NO_LEAK_SHARE = 0.01;

const heldBy = (pick: (low: number, high: number) => number, isAir: boolean): Held => {
  const isTank = pick(0, 1) < 0.5;
  if (isAir) return { medium: "air", volumeM3: isTank ? pick(0.05, 0.4) : pick(0.003, 0.02) };
  const volumeM3 = pick(0.004, 0.03);
  const trapped = volumeM3 * 0.01;
  return {
    medium: "water",
    volumeM3,
    wall: pick(0, 1) < 0.7 ? "plastic" : "metal",
    wallM3PerPa: volumeM3 * 1.1e-8,
    trappedM3: { low: 0, high: trapped },
    cushions: pick(0, 1) < 0.3 ? [{ volumeM3: 1e-3, chargePa: 200_000 }] : [],
  };
};

/** One trace of the family, the same for the same seed. */
const holdOf = (seed: number): SimulatedHold => {
  const stream = xoroshiro128plus(seed);
  const pick = (low: number, high: number): number => low + (high - low) * uniformFloat64(stream);
  const of = <T>(values: readonly T[]): T =>
    values[Math.floor(uniformFloat64(stream) * values.length)] as T;
  const isAir = pick(0, 1) < 0.6;
  const held = heldBy(pick, isAir);
  const isLow = isAir && held.volumeM3 > 0.03;
  const startPa = isLow ? pick(0.8, 3) * PSI_PA : pick(25, 60) * PSI_PA;
  const stepPa = isLow ? of([25, 100, 0.05 * PSI_PA]) : of([100, 1000, 0.5 * PSI_PA, PSI_PA]);
  const isTyped = pick(0, 1) < 0.35;
  const seconds = of([900, 1800, 3600, 7200, 6 * 3600, 16 * 3600]);
  const everyS = isTyped ? seconds / of([3, 4, 6, 9]) : of([10, 30, 60, 300]);
  const readsTemperature = pick(0, 1) < 0.8;
  const readsBarometer = pick(0, 1) < 0.8;
  const isQuiet = pick(0, 1) < 0.4;
  const hours = Math.sqrt(seconds / 3600);
  const leakM3S = isQuiet ? 0 : 10 ** pick(-10, isAir ? -5 : -6);
  // The trapped air as it really is lies somewhere between what the judge is told.
  return {
    seed: seed * 7 + 3,
    held,
    instruments: {
      gauge: { stepPa, noisePa: pick(0, 1) < 0.5 ? 0 : stepPa * pick(0.1, 1) },
      thermometerStepK: of([0.1, 0.5, 1]),
      barometerStepPa: of([10, 100]),
    },
    seconds,
    everyS: Math.max(everyS, seconds / 700),
    startPa,
    leakM3S,
    ...thawed({
      startC: pick(4, 30),
      driftK: pick(-1.5, 1.5) * hours,
      swingK: pick(0, 0.4) * hours,
    }),
    lagS: pick(30, 300),
    barometerPa: pick(84_000, 103_500),
    barometerDriftPa: pick(-100, 100) * hours,
    creepM3:
      !isAir && held.medium === "water" && held.wall === "plastic"
        ? held.volumeM3 * pick(0, 4e-4)
        : 0,
    creepS: pick(100, 900),
    pumpedK: isAir ? pick(0, 4) : 0,
    readsTemperature,
    readsBarometer,
  };
};

const COLDEST_C = 0.5;

/** Nobody holds water while it freezes: what would come below that drifts less. */
const thawed = <W extends Pick<SimulatedHold, "startC" | "driftK" | "swingK">>(weather: W): W => ({
  ...weather,
  driftK: Math.max(weather.driftK, COLDEST_C - weather.startC + 2 * weather.swingK),
});

const trueHeld = (held: Held, seed: number): Held => {
  if (held.medium === "air") return held;
  const share = uniformFloat64(xoroshiro128plus(seed + 11));
  const trapped = held.trappedM3.low + share * (held.trappedM3.high - held.trappedM3.low);
  const wall = 0.75 + 0.6 * uniformFloat64(xoroshiro128plus(seed + 12));
  return {
    ...held,
    wallM3PerPa: held.wallM3PerPa * wall,
    trappedM3: { low: trapped, high: trapped },
  };
};

type Simulate = (of: SimulatedHold) => HoldReading[];

const judgeTrace = (seed: number, simulate: Simulate): JudgedTrace => {
  const of = holdOf(seed);
  const readings = simulate({ ...of, held: trueHeld(of.held, seed) });
  const verdict = judgeHold(of.held, of.instruments, readings);
  const { leakM3S } = of;
  const isNone = leakM3S <= verdict.smallestDetectable * NO_LEAK_SHARE;
  const isLeak = leakM3S > verdict.smallestDetectable;
  const [a, z] = [readings[0]?.pressurePa ?? 0, readings.at(-1)?.pressurePa ?? 0];
  const saysLeak = a - z > 2 * of.instruments.gauge.stepPa;
  return {
    seed,
    of,
    verdict,
    leakM3S,
    isFalseTight: verdict.verdict === "tight" && isLeak,
    isFalseLeaking: verdict.verdict === "leaking" && isNone,
    isCovered: leakM3S >= verdict.leak.low - 1e-15 && leakM3S <= verdict.leak.high + 1e-15,
    naive: { isFalseTight: !saysLeak && isLeak, isFalseLeaking: saysLeak && isNone },
  };
};

export interface HoldFigures {
  readonly holdTraces: number;
  readonly holdFalseTight: number;
  readonly holdFalseLeaking: number;
  readonly holdRangeCoverage: number;
  readonly holdNaiveFalseTight: number;
  readonly holdNaiveFalseLeaking: number;
  readonly holdCannotTell: number;
}

/** Shares over so many seeds: false verdicts of those that could have been so, coverage of all that were judged. */
export const holdFigures = (
  traces: number,
  from = 1,
  simulate: Simulate = simulatedHold,
): HoldFigures => {
  const all = Array.from({ length: traces }, (_, i) => judgeTrace(from + i, simulate));
  const judged = all.filter((t) => t.verdict.figures.uncertaintyM3S > 0);
  const leaks = judged.filter((t) => t.leakM3S > t.verdict.smallestDetectable);
  const none = judged.filter((t) => t.leakM3S <= t.verdict.smallestDetectable * NO_LEAK_SHARE);
  const share = (of: readonly JudgedTrace[], is: (t: JudgedTrace) => boolean): number =>
    of.length === 0 ? 0 : of.filter(is).length / of.length;
  return {
    holdTraces: all.length,
    holdFalseTight: share(leaks, (t) => t.isFalseTight),
    holdFalseLeaking: share(none, (t) => t.isFalseLeaking),
    holdRangeCoverage: share(judged, (t) => t.isCovered),
    holdNaiveFalseTight: share(leaks, (t) => t.naive.isFalseTight),
    holdNaiveFalseLeaking: share(none, (t) => t.naive.isFalseLeaking),
    holdCannotTell: share(all, (t) => t.verdict.verdict === "cannot-tell"),
  };
};
