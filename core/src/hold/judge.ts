import {
  amountM3,
  type Filled,
  filled,
  type Guess,
  GUESSES,
  type Held,
  type HoldReading,
  type Instruments,
  slopeBy,
  tightPa,
} from "./held.ts";
import { type Fit, leastSquares } from "./fit.ts";

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
  readonly settling?: {
    readonly shape: "exponential" | "logarithm";
    readonly overS: number;
    readonly m3: number;
  };
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
const RANGE = 2.2;
// Readings on one step of the gauge, or on two, tell as little as three scattered ones; each further step adds as much again.
const STEP_COUNTS = 3;
// What is not read may have drifted by so much over an hour, growing with the root of the time (our own).
const UNREAD_K = 1.5;
const UNREAD_PA = 100;
// A thermometer follows what it stands in, not what is shut in: so much of what it moved by may be off.
const LAG = { air: 0.15, water: 0.4 } as const;
// The settling is believed when it explains so much more than a straight line.
const SETTLES_BY = 20;
const LEAST_FOR_SETTLING = 6;
const MUCH_DRIFT = 1.5;

const rootHours = (seconds: number): number => Math.sqrt(seconds / 3600);

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

interface Trace {
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

const traceOf = (
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

interface Read {
  readonly temperature: boolean;
  readonly barometer: boolean;
}

interface Fitted {
  readonly fit: Fit;
  /** m3/s at the pressure of the start. */
  readonly leak: number;
  readonly sigma: number;
  readonly settling?: HoldFigures["settling"] | undefined;
  /** The readings themselves say how much may be stretch. */
  readonly isStretchSeen?: boolean;
  /** How fast the settling still goes at the end, m3/s. */
  readonly stillM3S: number;
}

/** Variance as it was reckoned from the instruments, or as the readings scatter about the fit, whichever is more. */
const scatterOf = (trace: Trace, fit: Fit, columns: number): number => {
  const free = trace.y.length - columns;
  return free >= 3 ? Math.max(trace.variance, fit.rss / free) : trace.variance;
};

const MOST_BINS = 160;

/** Long traces are fitted by the means of neighbours: the same answer, sooner. */
const binned = (trace: Trace): Trace => {
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

const straight = (trace: Trace): Fitted | undefined => {
  const fit = leastSquares([trace.x.map(() => 1), trace.x.map((x) => x / trace.span)], trace.y);
  if (!fit) return undefined;
  return {
    fit,
    leak: -(fit.by[1] as number) / trace.span,
    sigma: Math.sqrt(scatterOf(trace, fit, 2) * (fit.inverse[1]?.[1] as number)) / trace.span,
    stillM3S: 0,
  };
};

const SHORTEST_S = 45;
// What settles has settled within so long (plastic under water, most of it; our own).
const LONGEST_S = 2400;
const NEXT = 1.15;
// A slow logarithm cannot be told from a leak that falls off.
const LONGEST_LOG_S = 400;
const LEAST_FOR_LOG = 20;

/** The shares of the hold within which what settles may settle: from nearly all of it down to less than a minute. */
const partsFor = (whole: number): number[] => {
  const parts: number[] = [];
  for (
    let part = Math.max(1.2, whole / LONGEST_S);
    part <= Math.max(5, whole / SHORTEST_S);
    part *= NEXT
  )
    parts.push(part);
  return parts;
};

/** Straight with something that dies away beside it: stretch of plastic, or air that cools down again after it was pumped. */
const settled = (trace: Trace): Fitted | undefined => {
  const { times } = trace;
  const whole = (trace.readings.at(-1)?.atS ?? 0) - (trace.readings[0]?.atS ?? 0);
  const shapes = partsFor(whole).flatMap((part) => {
    const overS = whole / part;
    const dying = {
      shape: "exponential" as const,
      overS,
      of: (t: number) => Math.exp(-t / overS),
      slope: (t: number) => Math.exp(-t / overS) / overS,
    };
    if (overS > LONGEST_LOG_S || times.length < LEAST_FOR_LOG) return [dying];
    return [
      dying,
      {
        shape: "logarithm" as const,
        overS,
        of: (t: number) => -Math.log1p(t / overS) / Math.log1p(part),
        slope: (t: number) => 1 / (overS + t) / Math.log1p(part),
      },
    ];
  });
  const found = shapes.flatMap(({ shape, overS, of, slope }): Fitted[] => {
    const fit = leastSquares(
      [trace.x.map(() => 1), trace.x.map((x) => x / trace.span), times.map(of)],
      trace.y,
    );
    const size = fit?.by[2] ?? 0;
    if (!fit || size <= 0 || size > trace.mostSettling) return [];
    return [
      {
        fit,
        leak: -(fit.by[1] as number) / trace.span,
        sigma: Math.sqrt(scatterOf(trace, fit, 3) * (fit.inverse[1]?.[1] as number)) / trace.span,
        settling: { shape, overS, m3: size },
        stillM3S: size * slope(whole),
      },
    ];
  });
  // Nothing is shut in that grows by itself: a curve that wants so is not the right one.
  const sound = found.filter((f) => f.leak > -RANGE * f.sigma);
  const best = (sound.length > 0 ? sound : found).reduce<Fitted | undefined>(
    (a, f) => (a && a.fit.rss <= f.fit.rss ? a : f),
    undefined,
  );
  if (!best) return undefined;
  // Curves that fit about as well say other rates: that is not known either.
  const alike = sound.filter((f) => f.fit.rss <= ALIKE * best.fit.rss + trace.variance);
  const spread = Math.max(0, ...alike.map((f) => Math.abs(f.leak - best.leak)));
  return { ...best, sigma: Math.hypot(best.sigma, spread / 2) };
};

const ALIKE = 1.5;

// Without a curve a straight line may still hide one that is too slight: so many times its own scatter.
const HIDES = 3;

/** The straight line, unless the readings flatten so much that something settles. */
const fitted = (whole: Trace): Fitted | undefined => {
  const trace = binned(whole);
  const line = straight(trace);
  if (!line || trace.y.length < LEAST_FOR_SETTLING) return line;
  const curve = settled(trace);
  if (!curve)
    return trace.stretchM3 > 0 ? { ...line, sigma: line.sigma * HIDES, isStretchSeen: true } : line;
  // The curve's own scatter says how well it fits; the instruments say how well it could.
  const scatter = Math.max(
    curve.fit.rss / Math.max(1, trace.y.length - 3),
    trace.variance / trace.y.length,
  );
  const gained = (line.fit.rss - curve.fit.rss) / scatter;
  if (gained > SETTLES_BY && line.fit.rss - curve.fit.rss > 4 * trace.variance) return curve;
  // Plastic stretches: what a curve beside the line allows is less than what is assumed where nothing can be seen.
  const assumed = Math.hypot(line.sigma, trace.stretchM3 / trace.span);
  return trace.stretchM3 > 0 && curve.sigma < assumed
    ? { ...curve, settling: undefined, stillM3S: 0, isStretchSeen: true }
    : line;
};

const LEFT = 0.5;

/** Until half of the pressure is gone: after that the rate is another, and cold or warmth counts for more than the leak. */
const beforeHalf = (readings: readonly Filled[]): Filled[] => {
  const start = readings[0]?.pressurePa ?? 0;
  const at = readings.findIndex((r) => r.pressurePa < start * LEFT);
  return at < 0 ? [...readings] : readings.slice(0, Math.max(at + 1, 3));
};

const nothing = { low: 0, mid: 0, high: 0 };

/**
 * @throws nothing; fewer readings than the policy wants is "cannot-tell"
 */
export const judgeHold = (
  held: Held,
  instruments: Instruments,
  given: readonly HoldReading[],
  policy: HoldPolicy = holdPolicy(held.medium),
): HoldVerdict => {
  const all = filled(given);
  const readings = beforeHalf(all);
  const read: Read = {
    temperature: given.filter((r) => r.temperatureC !== undefined).length >= 2,
    barometer: given.filter((r) => r.barometerPa !== undefined).length >= 2,
  };
  const first = readings[0] ?? { atS: 0, pressurePa: 0, temperatureC: 20, barometerPa: 101_325 };
  const last = readings.at(-1) ?? first;
  const end = all.at(-1) ?? first;
  const seconds = last.atS - first.atS;
  const trace = readings.length > 0 ? traceOf(held, instruments, readings, "mid", read) : undefined;
  const isLong = readings.length >= 2 && seconds > 0;
  const found = trace && isLong ? fitted(trace) : undefined;
  const store = readings.length > 0 ? slopeBy(held, first, first, "pressurePa") : 0;
  const parts = found && trace ? partsOf(held, trace, found, read, seconds) : undefined;
  const sigma = parts ? Math.hypot(...Object.values(parts)) : Number.POSITIVE_INFINITY;
  const tight = readings.length > 0 ? tightPa(held, first, end) : 0;
  const figures: HoldFigures = {
    readings: all.length,
    seconds: end.atS - first.atS,
    first,
    last: end,
    judgedS: seconds,
    tightAtEndPa: tight,
    shortPa: tight - end.pressurePa,
    storeM3PerPa: store,
    from: parts ?? { gauge: 0, thermometer: 0, barometer: 0, lag: 0, stretch: 0 },
    uncertaintyM3S: Number.isFinite(sigma) ? sigma : 0,
    thresholdM3S: Number.isFinite(sigma) ? LEAK_AT * sigma : 0,
    ...(found?.settling ? { settling: found.settling } : {}),
    firstLessLastM3S:
      end.atS > first.atS
        ? (store * (first.pressurePa - end.pressurePa)) / (end.atS - first.atS)
        : 0,
  };
  if (!found || !parts || all.length < policy.leastReadings || figures.seconds < policy.leastS)
    return {
      verdict: "cannot-tell",
      why:
        all.length < policy.leastReadings
          ? `${all.length} readings; ${policy.leastReadings} are the least that can be judged.`
          : `Held for {s:${Math.round(figures.seconds)}} only; {s:${policy.leastS}} is the least.`,
      next: [all.length < policy.leastReadings ? "Read on." : "Hold longer."],
      leak: nothing,
      smallestDetectable: SEEN_AT * (Number.isFinite(sigma) ? sigma : 0),
      inADayM3: 0,
      figures,
    };
  // Air is known by its volume; of water every guess at what gives way is judged.
  const by =
    held.medium === "air"
      ? [{ leak: found.leak, sigma }]
      : GUESSES.flatMap((guess) => {
          const t = traceOf(held, instruments, readings, guess, read);
          const f = fitted(t);
          return f
            ? [
                {
                  leak: f.leak,
                  sigma: Math.hypot(...Object.values(partsOf(held, t, f, read, seconds))),
                },
              ]
            : [];
        });
  return concluded(by, found, readings, sigma, figures, policy, instruments, given, read);
};

// Plastic under water goes on stretching after it was pressed: so much of its volume in all where no curve shows it (our own).
const STRETCH_SHARE = 2e-4;
const stretchOf = (held: Held): number => plasticOf(held) * STRETCH_SHARE;

/** What each instrument, read or not, adds to the uncertainty of the leak, m3/s. */
const partsOf = (
  held: Held,
  trace: Trace,
  found: Fitted,
  read: Read,
  seconds: number,
): HoldFigures["from"] => {
  const first = trace.readings[0] as Filled;
  const last = trace.readings.at(-1) as Filled;
  const perK = Math.abs(slopeBy(held, first, first, "temperatureC"));
  const perPa = Math.abs(slopeBy(held, first, first, "barometerPa"));
  const warmest = Math.max(...trace.readings.map((r) => r.temperatureC));
  const coldest = Math.min(...trace.readings.map((r) => r.temperatureC));
  const moved = Math.max(Math.abs(last.temperatureC - first.temperatureC), (warmest - coldest) / 2);
  return {
    gauge: found.sigma,
    thermometer: read.temperature ? 0 : (perK * UNREAD_K * rootHours(seconds)) / trace.span,
    barometer: read.barometer ? 0 : (perPa * UNREAD_PA * rootHours(seconds)) / trace.span,
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

const concluded = (
  by: readonly { readonly leak: number; readonly sigma: number }[],
  found: Fitted,
  readings: readonly Filled[],
  sigma: number,
  figures: HoldFigures,
  policy: HoldPolicy,
  instruments: Instruments,
  given: readonly HoldReading[],
  read: Read,
): HoldVerdict => {
  const { judgedS: seconds } = figures;
  const smallestDetectable = SEEN_AT * Math.max(...by.map((g) => g.sigma));
  const leak = rangeOf(by, found.leak, readings);
  const answer = (
    verdict: HoldVerdictName,
    why: string,
    next: readonly string[] = [],
  ): HoldVerdict => ({
    verdict,
    why,
    next,
    leak,
    smallestDetectable,
    inADayM3: leak.mid * DAY_S,
    figures,
  });
  const off = given.filter(
    (r) => instruments.gauge.rangePa !== undefined && r.pressurePa > instruments.gauge.rangePa,
  );
  if (off.length > 0)
    return answer("cannot-tell", "The gauge stood over its own range.", [
      "Take a gauge of a larger range.",
    ]);
  const leaks = (g: { readonly leak: number; readonly sigma: number }): boolean =>
    g.leak > LEAK_AT * g.sigma;
  // By the middle guess beyond doubt, and by the least still more than nothing.
  if (leaks({ leak: found.leak, sigma }) && leak.low > 0)
    return answer(
      "leaking",
      `It stands {g:${Number(figures.shortPa.toPrecision(3))}} below what tight would show, more than step, scatter and drift explain.`,
      ["Find the section: shut the valve that halves what is left, and hold again."],
    );
  if (by.some(leaks))
    return answer(
      "cannot-tell",
      "It falls; whether it leaks or only gives way turns on the air that may still be in it.",
      ["Bleed it again at the highest outlet, press once more, and hold again."],
    );
  if (found.leak < -LEAK_AT * sigma)
    return answer("cannot-tell", "It rose by more than temperature and barometer explain.", [
      "Is the source shut? A valve that passes presses on.",
      "Is the thermometer where the air or water is that is shut in?",
    ]);
  if (found.settling && found.stillM3S > policy.smallestM3S)
    return answer(
      "settling",
      "It falls less and less: the wall stretches, or what was pumped in cools down.",
      ["Press once more to the same figure and go on."],
    );
  if (smallestDetectable > policy.smallestM3S)
    return answer(
      "cannot-tell",
      `This hold would have shown ${aDay(smallestDetectable)} at the least; the leak that matters is ${aDay(policy.smallestM3S)}.`,
      settleBy(figures, policy, smallestDetectable, read, seconds),
    );
  return answer(
    "tight",
    "It stands where tight would stand; a leak that matters would have shown.",
  );
};

const DAY_S = 86_400;
const aDay = (m3S: number): string => `{m3:${Number((m3S * DAY_S).toPrecision(3))}} a day`;

/** What would settle it: the largest part of what is not known first. */
const settleBy = (
  { from }: HoldFigures,
  policy: HoldPolicy,
  smallest: number,
  read: Read,
  seconds: number,
): string[] => {
  const parts = [
    { of: from.thermometer, say: "Read the temperature of what is shut in too." },
    { of: from.barometer, say: "Read the barometer too." },
    {
      of: from.lag,
      say: "Hold it while the temperature is steadier: at night, or out of the sun.",
    },
    {
      of: from.gauge,
      say: `Hold {s:${Math.ceil((seconds * smallest) / policy.smallestM3S / 60) * 60}} in all, or take a gauge with a finer step.`,
    },
  ].toSorted((a, b) => b.of - a.of);
  const largest = parts[0]?.of ?? 0;
  return parts.flatMap((p) =>
    p.of > 0 && p.of * MUCH_DRIFT >= largest && (p.of !== from.lag || read.temperature)
      ? [p.say]
      : [],
  );
};
