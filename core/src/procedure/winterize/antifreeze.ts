import { uniformFloat64 } from "pure-rand/distribution/uniformFloat64";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { FOOT_M, US_GALLON_M3 } from "../../quantity/index.ts";
import type { Network } from "../../watermap/index.ts";
import type { Step } from "../step.ts";

/** One line of the working behind the antifreeze figure. */
interface AntifreezeLine {
  readonly label: string;
  readonly volumeM3: number;
  /** How the figure came about. */
  readonly how: string;
}

export interface AntifreezeFigure {
  /** Half of all jobs on this unit take less. */
  readonly medianM3: number;
  /** Nine of ten take less: carry this. */
  readonly p90M3: number;
  /** The plain working-out, without the spread. */
  readonly workedM3: number;
  readonly lines: readonly AntifreezeLine[];
  readonly jugs: number;
  readonly ruleOfThumb: { readonly volumeM3: number; readonly text: string };
}

// Spread of the inputs, our own estimates until the unit's own visits replace them.
const LENGTH_SPREAD = 0.15;
const EACH_RUN_OVER_M3: readonly [number, number] = [0.02e-3, 0.25e-3];
const STRENGTH_RUN_SPREAD: readonly [number, number] = [0.8, 1.5];
const POUR_SPREAD: readonly [number, number] = [0.95, 1.25];
/** How many jobs are thrown for the spread of an antifreeze figure. */
export const ANTIFREEZE_TRIALS = 2000;
const SEED = 20_251;

/** Seeded: the same seed gives the same figures everywhere. */
const generator = (seed: number): (() => number) => {
  const stream = xoroshiro128plus(seed);
  return () => uniformFloat64(stream);
};

/** A normal deviate by Box and Muller. */
const normal = (random: () => number): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

const between = (random: () => number, [low, high]: readonly [number, number]): number =>
  low + (high - low) * random();

// So many even spreads together are a bell in all but name (central limit theorem).
const MANY = 12;

/** What so many of the same spread come to together. */
const sumOf = (
  random: () => number,
  count: number,
  [low, high]: readonly [number, number],
): number => {
  if (count >= MANY) {
    const middle = (count * (low + high)) / 2;
    const sum = middle + (high - low) * Math.sqrt(count / 12) * normal(random);
    return Math.min(count * high, Math.max(count * low, sum));
  }
  let sum = 0;
  for (let i = 0; i < count; i++) sum += between(random, [low, high]);
  return sum;
};

/** One job: how far the map's lengths are out, how far each run goes on, what runs over in all, how generously is poured. */
interface Job {
  readonly lengths: number;
  readonly on: number;
  readonly overM3: number;
  readonly pour: number;
}

const thrown = new Map<number, readonly Job[]>();
const MOST_THROWN = 50;

/** The same jobs for as many runs, whatever the unit. */
const dice = (runs: number): readonly Job[] => {
  const known = thrown.get(runs);
  if (known) return known;
  const random = generator(SEED);
  const jobs = Array.from({ length: ANTIFREEZE_TRIALS }, () => {
    const lengths = Math.max(0.5, 1 + LENGTH_SPREAD * normal(random));
    const overM3 = sumOf(random, runs, EACH_RUN_OVER_M3);
    return {
      lengths,
      overM3,
      on: between(random, STRENGTH_RUN_SPREAD),
      pour: between(random, POUR_SPREAD),
    };
  });
  if (thrown.size >= MOST_THROWN) thrown.clear();
  thrown.set(runs, jobs);
  return jobs;
};

// Common practice, no source: gal/ft of half-inch tube 0.0092, pump and hose 0.15, each outlet 0.05, each trap 0.125 US gal, and a tenth over.
const ruleOfThumb = (
  network: Network,
  steps: readonly Step[],
  heaterM3: number,
): AntifreezeFigure["ruleOfThumb"] => {
  const lengthM = network.cells.reduce(
    (s, { run }) => s + (run?.service === "cold" || run?.service === "hot" ? run.lengthM : 0),
    0,
  );
  const outlets = steps.filter((s) => s.asks.some((a) => a.kind === "strength")).length;
  const traps = steps.filter((s) => s.stage === "traps").length;
  const gallons = (lengthM / FOOT_M) * 0.0092 + 0.15 + outlets * 0.05 + traps * 0.125;
  const volumeM3 = (gallons * US_GALLON_M3 + heaterM3) * 1.1;
  return {
    volumeM3,
    text: `The trade says about two US gallons for a small unit with its heater bypassed. Its longer rule, length × 0.0092 gal/ft + pump 0.15 + ${outlets} outlets × 0.05 + ${traps} traps × 0.125${heaterM3 > 0 ? " + the heater" : ""}, and a tenth over, takes no account of running each outlet on to strength (common practice, no source).`,
  };
};

/**
 * What to carry: the plan's own use taken apart, then a seeded spread over lengths, over-running and pouring.
 * @param swept cells that product passed, by index
 * @param reserve carried over the nine-in-ten figure, as a share of it
 */
export const estimateAntifreeze = (
  network: Network,
  steps: readonly Step[],
  swept: ReadonlySet<number>,
  jugM3: number,
  reserve = 0,
): AntifreezeFigure => {
  const isHeater = (i: number): boolean => {
    const { kind, form } = network.cells[i] ?? {};
    return form === "vessel" && kind?.role.energies !== undefined;
  };
  const volume = (want: (i: number) => boolean): number =>
    [...swept].filter(want).reduce((sum, i) => sum + (network.cells[i]?.capacityM3 ?? 0), 0);
  const pipes = volume((i) => network.cells[i]?.run !== undefined);
  const bodies = volume((i) => network.cells[i]?.form === "fitting");
  const heater = volume(isHeater);
  const poured = steps
    .filter((s) => s.stage === "traps")
    .reduce((sum, s) => sum + s.antifreezeM3, 0);
  const runs = steps.filter((s) => s.stage === "fill" && s.antifreezeM3 > 0);
  const drawn = runs.reduce((sum, s) => sum + s.antifreezeM3, 0);
  const onward = Math.max(0, drawn - pipes - bodies - heater);
  const samples = dice(runs.length)
    .map(
      ({ lengths, on, overM3, pour }) =>
        pipes * lengths + bodies + heater + onward * lengths * on + overM3 + poured * pour,
    )
    .toSorted((a, b) => a - b);
  const at = (share: number): number =>
    samples[Math.min(ANTIFREEZE_TRIALS - 1, Math.floor(share * ANTIFREEZE_TRIALS))] ?? 0;
  const workedM3 = drawn + poured;
  const p90M3 = workedM3 === 0 ? 0 : at(0.9);
  const lines: AntifreezeLine[] = [
    {
      label: "Pipe and hose filled",
      volumeM3: pipes,
      how: "bore area × length of every run that antifreeze passes",
    },
    { label: "Pump, valves, taps and tees", volumeM3: bodies, how: "the bodies on the way" },
    ...(heater > 0
      ? [
          {
            label: "Heater, in line",
            volumeM3: heater,
            how: "no way round it, or taken in on purpose",
          },
        ]
      : []),
    {
      label: "Run on to strength",
      volumeM3: onward,
      how: `what leaves at ${runs.length} openings before each reads strong enough`,
    },
    { label: "Traps and bowls", volumeM3: poured, how: "measured dose each" },
  ];
  return {
    medianM3: workedM3 === 0 ? 0 : at(0.5),
    p90M3,
    workedM3,
    lines,
    jugs: Math.max(0, Math.ceil((p90M3 * (1 + reserve)) / jugM3 - 1e-9)),
    ruleOfThumb: ruleOfThumb(network, steps, heater),
  };
};
