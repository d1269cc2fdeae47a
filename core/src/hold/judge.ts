import { fitted, type Fitted, RANGE, type Settling } from "./curve.ts";
import {
  type Filled,
  filled,
  type Guess,
  type Held,
  type HoldReading,
  type Instruments,
  slopeBy,
  tightPa,
} from "./held.ts";
import { type Read, stretchOf, type Trace, traceOf } from "./trace.ts";
import { aDay, DAY_S } from "./words.ts";

/**
 * The verdict of a hold: how fast what was shut in leaves, by a fit over all readings, with a range from the gauge's step, its scatter and
 * what was not read. Never the first reading less the last.
 */

/** How it is judged; all but the first are ours and stand in the working. */
export interface HoldPolicy {
  /** The leak that matters, m3/s: of free air, or of water. */
  readonly smallestM3S: number;
  /** Readings before anything is said. */
  readonly leastReadings: number;
  readonly leastS: number;
}

/**
 * The leak that matters where the house has not said: a litre of free air an hour; of water a drop of 0.05 mL every four seconds, a litre a day
 * (common practice, no source).
 */
const SMALLEST_M3S = { air: 1e-3 / 3600, water: 0.05e-6 / 4 } as const;

export const holdPolicy = (medium: Held["medium"]): HoldPolicy => ({
  smallestM3S: SMALLEST_M3S[medium],
  leastReadings: 3,
  leastS: 600,
});

export const HOLD_VERDICTS = ["tight", "leaking", "settling", "cannot-tell"] as const;
type HoldVerdictName = (typeof HOLD_VERDICTS)[number];

interface HoldFigures {
  readonly readings: number;
  readonly seconds: number;
  /** Until half of the pressure was gone: what came after tells nothing more of the rate, s. */
  readonly judgedS: number;
  /** Start of the hold, as filled in. */
  readonly first: Filled;
  readonly last: Filled;
  /** What the gauge would show at the end if nothing had left, Pa. */
  readonly tightAtEndPa: number;
  /** By how much it stands below that, Pa. */
  readonly shortPa: number;
  /** Change of the amount with the gauge, at the start, m3/Pa. */
  readonly storeM3PerPa: number;
  /** Parts of the uncertainty of the leak, one standard deviation each, m3/s. */
  readonly from: {
    readonly gauge: number;
    readonly thermometer: number;
    readonly barometer: number;
    readonly lag: number;
    readonly stretch: number;
  };
  readonly uncertaintyM3S: number;
  /** Above this it is called a leak, m3/s. */
  readonly thresholdM3S: number;
  /** How the settling was fitted, where it was. */
  readonly settling?: Settling;
  /** The first reading less the last, as it is often done, m3/s. */
  readonly firstLessLastM3S: number;
}

export interface HoldVerdict {
  readonly verdict: HoldVerdictName;
  /** Why, in a sentence. */
  readonly why: string;
  /** What would settle it, where it cannot be told; what to do next. */
  readonly next: readonly string[];
  /** At the pressure of the start: free air at 101,325 Pa, or water; 95 in 100. */
  readonly leak: { readonly low: number; readonly mid: number; readonly high: number };
  /** The smallest leak that this hold would have shown, m3/s. */
  readonly smallestDetectable: number;
  /** What such a leak empties in a day, m3: free air, or water. */
  readonly inADayM3: number;
  readonly figures: HoldFigures;
}

// One in a hundred either way.
const LEAK_AT = 3;
const SEEN_AT = 5.5;
// What is not read may have drifted by so much over an hour, growing with the root of the time (our own).
const UNREAD_K = 1.5;
const UNREAD_PA = 100;
// A thermometer follows what it stands in, not what is shut in: so much of what it moved by may be off.
const LAG = { air: 0.15, water: 0.4 } as const;
const MUCH_DRIFT = 1.5;
const LEFT = 0.5;
// An instrument was read through a hold when half of the readings have it, the first and the last among them.
const READ_SHARE = 0.5;

const rootHours = (seconds: number): number => Math.sqrt(seconds / 3600);

/** How many readings there are until half of the pressure is gone: after that the rate is another, and warmth counts for more than the leak. */
const beforeHalf = (readings: readonly HoldReading[]): number => {
  const start = readings[0]?.pressurePa ?? 0;
  const at = readings.findIndex((r) => r.pressurePa < start * LEFT);
  return at < 0 ? readings.length : Math.max(at + 1, 3);
};

const isRead = (readings: readonly HoldReading[], key: "temperatureC" | "barometerPa"): boolean =>
  readings[0]?.[key] !== undefined &&
  readings.at(-1)?.[key] !== undefined &&
  readings.filter((r) => r[key] !== undefined).length >= readings.length * READ_SHARE;

/** The readings with what was not read from end to end held still: half a course says less than none. */
const withoutUnread = (readings: readonly HoldReading[], read: Read): HoldReading[] => {
  const still = (key: "temperatureC" | "barometerPa") => {
    const value = readings.find((r) => r[key] !== undefined)?.[key];
    return value === undefined ? {} : { [key]: value };
  };
  return readings.map((r) => ({
    ...r,
    ...(read.temperature ? {} : still("temperatureC")),
    ...(read.barometer ? {} : still("barometerPa")),
  }));
};

/** The leak by one guess at what gives way, with what is not known of it. */
interface Assessed {
  readonly found: Fitted;
  readonly leak: number;
  readonly parts: HoldFigures["from"];
  /** All parts together, one standard deviation, m3/s. */
  readonly sigma: number;
}

const assess = (
  held: Held,
  instruments: Instruments,
  readings: readonly Filled[],
  read: Read,
  guess: Guess,
): Assessed | undefined => {
  if (readings.length < 2 || readings.at(-1)?.atS === readings[0]?.atS) return undefined;
  const trace = traceOf(held, instruments, readings, guess, read);
  const found = fitted(trace);
  if (!found) return undefined;
  const parts = partsOf(held, trace, found, read);
  return { found, leak: found.leak, parts, sigma: Math.hypot(...Object.values(parts)) };
};

/** What each instrument, read or not, adds to the uncertainty of the leak, m3/s. */
const partsOf = (held: Held, trace: Trace, found: Fitted, read: Read): HoldFigures["from"] => {
  const first = trace.readings[0] as Filled;
  const last = trace.readings.at(-1) as Filled;
  const hours = rootHours(last.atS - first.atS);
  const perK = Math.abs(slopeBy(held, first, first, "temperatureC"));
  const perPa = Math.abs(slopeBy(held, first, first, "barometerPa"));
  const temperatures = trace.readings.map((r) => r.temperatureC);
  const moved = Math.max(
    Math.abs(last.temperatureC - first.temperatureC),
    (Math.max(...temperatures) - Math.min(...temperatures)) / 2,
  );
  return {
    gauge: found.sigma,
    thermometer: read.temperature ? 0 : (perK * UNREAD_K * hours) / trace.span,
    barometer: read.barometer ? 0 : (perPa * UNREAD_PA * hours) / trace.span,
    lag: read.temperature ? (LAG[held.medium] * perK * moved) / trace.span : 0,
    stretch: found.settling || found.isStretchSeen ? 0 : stretchOf(held) / trace.span,
  };
};

// How much faster it may have gone where the most of it went between two readings.
const MOST_TIMES = 20;

/** The leak by every guess at what gives way, each with what is not known of it. */
const rangeOf = (
  by: readonly { leak: number; sigma: number }[],
  leak: number,
  readings: readonly Filled[],
): HoldVerdict["leak"] => {
  const steepest = Math.max(
    1,
    ...readings.map((r, i) => {
      const before = readings[i - 1]?.pressurePa ?? 0;
      return before * LEFT > r.pressurePa
        ? before / Math.max(r.pressurePa, before / MOST_TIMES)
        : 1;
    }),
  );
  return {
    low: Math.max(0, Math.min(...by.map((g) => g.leak - RANGE * g.sigma))),
    mid: Math.max(0, leak),
    high: steepest * Math.max(0, ...by.map((g) => g.leak + RANGE * g.sigma)),
  };
};

const NOTHING = { gauge: 0, thermometer: 0, barometer: 0, lag: 0, stretch: 0 };
const NO_READING: Filled = { atS: 0, pressurePa: 0, temperatureC: 20, barometerPa: 101_325 };

const figuresOf = (
  held: Held,
  all: readonly Filled[],
  judged: readonly Filled[],
  mid: Assessed | undefined,
): HoldFigures => {
  const first = all[0] ?? NO_READING;
  const last = all.at(-1) ?? first;
  const seconds = last.atS - first.atS;
  const store = all.length > 0 ? slopeBy(held, first, first, "pressurePa") : 0;
  const tight = all.length > 0 ? tightPa(held, first, last) : 0;
  return {
    readings: all.length,
    seconds,
    judgedS: (judged.at(-1)?.atS ?? first.atS) - first.atS,
    first,
    last,
    tightAtEndPa: tight,
    shortPa: tight - last.pressurePa,
    storeM3PerPa: store,
    from: mid?.parts ?? NOTHING,
    uncertaintyM3S: mid?.sigma ?? 0,
    thresholdM3S: LEAK_AT * (mid?.sigma ?? 0),
    ...(mid?.found.settling ? { settling: mid.found.settling } : {}),
    firstLessLastM3S: seconds > 0 ? (store * (first.pressurePa - last.pressurePa)) / seconds : 0,
  };
};

/** Fewer readings, or a shorter hold, than the policy wants is "cannot-tell". */
export const judgeHold = (
  held: Held,
  instruments: Instruments,
  given: readonly HoldReading[],
  policy: HoldPolicy = holdPolicy(held.medium),
): HoldVerdict => {
  const count = beforeHalf(given);
  const counted = given.slice(0, count);
  const read: Read = {
    temperature: isRead(counted, "temperatureC"),
    barometer: isRead(counted, "barometerPa"),
  };
  const all = filled(withoutUnread(given, read));
  const readings = all.slice(0, count);
  const by = (guess: Guess): Assessed | undefined =>
    assess(held, instruments, readings, read, guess);
  const mid = by("mid");
  const figures = figuresOf(held, all, readings, mid);
  const tooFew = all.length < policy.leastReadings;
  if (!mid || tooFew || figures.seconds < policy.leastS)
    return {
      verdict: "cannot-tell",
      why: tooFew
        ? `${all.length} readings; ${policy.leastReadings} are the least that can be judged.`
        : `Held for {s:${Math.round(figures.seconds)}} only; {s:${policy.leastS}} is the least.`,
      next: [tooFew ? "Read on." : "Hold longer."],
      leak: { low: 0, mid: 0, high: 0 },
      smallestDetectable: SEEN_AT * (mid?.sigma ?? 0),
      inADayM3: 0,
      figures,
    };
  // Air is known by its volume; of water every guess at what gives way is judged.
  const guesses =
    held.medium === "air" ? [mid] : [by("low"), mid, by("high")].flatMap((g) => g ?? []);
  const leak = rangeOf(guesses, mid.leak, readings);
  const smallestDetectable = SEEN_AT * Math.max(...guesses.map((g) => g.sigma));
  const [verdict, why, next = []] = conclude({
    mid,
    guesses,
    leak,
    smallestDetectable,
    figures,
    policy,
    isOffScale: given.some((r) => r.pressurePa > (instruments.gauge.rangePa ?? Infinity)),
  });
  return { verdict, why, next, leak, smallestDetectable, inADayM3: leak.mid * DAY_S, figures };
};

interface ToConclude {
  readonly mid: Assessed;
  readonly guesses: readonly Assessed[];
  readonly leak: HoldVerdict["leak"];
  readonly smallestDetectable: number;
  readonly figures: HoldFigures;
  readonly policy: HoldPolicy;
  /** The gauge stood over its own range. */
  readonly isOffScale: boolean;
}

const leaks = ({ leak, sigma }: Assessed): boolean => leak > LEAK_AT * sigma;

const conclude = ({
  mid,
  guesses,
  leak,
  smallestDetectable,
  figures,
  policy,
  isOffScale,
}: ToConclude): readonly [HoldVerdictName, string, (readonly string[])?] => {
  if (isOffScale)
    return [
      "cannot-tell",
      "The gauge stood over its own range.",
      ["Take a gauge of a larger range."],
    ];
  // By the middle guess beyond doubt, and by the least still more than nothing.
  if (leaks(mid) && leak.low > 0)
    return [
      "leaking",
      `It stands {g:${Number(figures.shortPa.toPrecision(3))}} below what tight would show, more than step, scatter and drift explain.`,
      ["Find the section: shut the valve that halves what is left, and hold again."],
    ];
  if (guesses.some(leaks))
    return [
      "cannot-tell",
      "It falls; whether it leaks or only gives way turns on the air that may still be in it.",
      ["Bleed it again at the highest outlet, press once more, and hold again."],
    ];
  if (mid.leak < -LEAK_AT * mid.sigma)
    return [
      "cannot-tell",
      "It rose by more than temperature and barometer explain.",
      [
        "Is the source shut? A valve that passes presses on.",
        "Is the thermometer where the air or water is that is shut in?",
      ],
    ];
  if (mid.found.settling && mid.found.stillM3S > policy.smallestM3S)
    return [
      "settling",
      "It falls less and less: the wall stretches, or what was pumped in cools down.",
      ["Press once more to the same figure and go on."],
    ];
  if (smallestDetectable > policy.smallestM3S)
    return [
      "cannot-tell",
      `This hold would have shown ${aDay(smallestDetectable)} at the least; the leak that matters is ${aDay(policy.smallestM3S)}.`,
      settleBy(figures, policy, smallestDetectable),
    ];
  return ["tight", "It stands where tight would stand; a leak that matters would have shown."];
};

/** What would settle it: the largest part of what is not known first. */
const settleBy = (
  { from, judgedS }: HoldFigures,
  policy: HoldPolicy,
  smallest: number,
): string[] => {
  const parts = [
    {
      of: from.thermometer,
      say: "Read the temperature of what is shut in too, from the first reading to the last.",
    },
    { of: from.barometer, say: "Read the barometer too, from the first reading to the last." },
    {
      of: from.lag,
      say: "Hold it while the temperature is steadier: at night, or out of the sun.",
    },
    {
      of: from.stretch,
      say: "Read more often: a curve shows what is only the stretch of plastic.",
    },
    {
      of: from.gauge,
      say: `Hold {s:${Math.ceil((judgedS * smallest) / policy.smallestM3S / 60) * 60}} in all, or take a gauge with a finer step.`,
    },
  ].toSorted((a, b) => b.of - a.of);
  const largest = parts[0]?.of ?? 0;
  return parts.flatMap((p) => (p.of > 0 && p.of * MUCH_DRIFT >= largest ? [p.say] : []));
};
