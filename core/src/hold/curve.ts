import { type Fit, leastSquares } from "./fit.ts";
import { binned, type Trace } from "./trace.ts";

/** The line through a trace, or the line beside something that dies away. */

// Two and a fifth standard deviations: 95 in 100 with something in hand.
export const RANGE = 2.2;
// The settling is believed when it explains so much more than a straight line.
const SETTLES_BY = 20;
const LEAST_FOR_SETTLING = 6;
// Curves that fit so nearly as well as the best are believed as much.
const ALIKE = 1.5;

/** Something that dies away, as it was fitted. */
export interface Settling {
  readonly shape: "exponential" | "logarithm";
  readonly overS: number;
  readonly m3: number;
}

export interface Fitted {
  readonly fit: Fit;
  /** m3/s at the pressure of the start. */
  readonly leak: number;
  readonly sigma: number;
  readonly settling?: Settling | undefined;
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

// Without a curve a straight line may still hide one that is too slight: so many times its own scatter.
const HIDES = 3;

/** The straight line, unless the readings flatten so much that something settles. */
export const fitted = (whole: Trace): Fitted | undefined => {
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
