import { DAYS_A_MONTH, dayNumber, dayText } from "../quantity/index.ts";
/** How a sacrificial rod wears, and when it is due: from readings, never from a guess. */

/** Point of the walk-round at which a rod is measured. */
export const ANODE_POINT = "anode-thickness-at-three-places";

export interface RodReading {
  /** Day it was taken, ISO. */
  readonly on: string;
  /** Thickness at its places, m; the thinnest counts. */
  readonly thicknessM: readonly number[];
  /** The core wire shows somewhere. */
  readonly coreShows?: boolean;
}

export interface Rod {
  /** Thickness when new, m. */
  readonly newM: number;
  /** Day it was fitted, ISO, where it is known. */
  readonly fittedOn?: string;
}

export type RodVerdict =
  | {
      readonly ok: true;
      /** Part of its metal that is left at the last reading, 0 to 1. */
      readonly left: number;
      /** Part of its metal lost a month. */
      readonly lossPerMonth: number;
      /** Day on which a quarter is left, ISO; the last reading's where it is past already. */
      readonly renewBy: string;
      readonly due: boolean;
      readonly working: readonly string[];
    }
  | { readonly ok: false; readonly problem: string };

// Three quarters of an inch: what a rod commonly is when new (common practice, no source).
export const NEW_ROD_M = 0.019;
// A rod is renewed with a quarter of its metal left (a maker's rule of thumb: three quarters consumed; from memory).
const RENEW_AT = 0.25;
// Two readings nearer to each other than this say nothing of a rate.
const LEAST_MONTHS = 1;

const percent = (share: number): string => `${Math.round(share * 1000) / 10} %`;

/**
 * Metal goes with the square of the thickness: left = (d/d₀)². A straight line through the readings, and through the whole rod on
 * the day it was fitted where that is known, gives the loss a month and the day on which a quarter is left.
 * @param renewAt with which share of its metal left it is renewed
 * @returns a verdict, or that there are not enough readings
 */
export const rodVerdict = (
  rod: Rod,
  readings: readonly RodReading[],
  renewAt = RENEW_AT,
): RodVerdict => {
  if (!(rod.newM > 0)) return { ok: false, problem: "How thick the rod is when new is not known." };
  const taken = readings
    .filter(
      (r) =>
        r.thicknessM.length > 0 &&
        r.thicknessM.every((d) => d >= 0 && d <= rod.newM * 1.05) &&
        Number.isFinite(dayNumber(r.on)),
    )
    .map((r) => ({
      day: dayNumber(r.on),
      left: Math.min(1, Math.min(...r.thicknessM) / rod.newM) ** 2,
      core: r.coreShows === true,
    }))
    .toSorted((a, b) => a.day - b.day);
  const last = taken.at(-1);
  if (!last) return { ok: false, problem: "Not enough readings: none yet." };
  const fitted = rod.fittedOn === undefined ? undefined : dayNumber(rod.fittedOn);
  const whole =
    fitted !== undefined && Number.isFinite(fitted) && fitted < last.day
      ? [{ day: fitted, left: 1 }]
      : [];
  const points = [...whole, ...taken.filter((t) => whole.length === 0 || t.day > (fitted ?? 0))];
  const first = points[0] as (typeof points)[number];
  const months = (last.day - first.day) / DAYS_A_MONTH;
  const showing = last.core ? ["its core wire shows"] : [];
  if (last.core)
    return {
      ok: true,
      left: last.left,
      lossPerMonth: Number.NaN,
      renewBy: dayText(last.day),
      due: true,
      working: showing,
    };
  if (points.length < 2 || months < LEAST_MONTHS)
    return {
      ok: false,
      problem: "Not enough readings: two a month apart, or one and the day it was fitted.",
    };
  // Least squares through the first point, which is the firmest.
  const [above, below] = points.reduce(
    ([a, b], p) => {
      const t = (p.day - first.day) / DAYS_A_MONTH;
      return [a + t * (first.left - p.left), b + t * t] as [number, number];
    },
    [0, 0] as [number, number],
  );
  const lossPerMonth = above / below;
  if (lossPerMonth <= 1e-6)
    return { ok: false, problem: "Not enough readings: no loss can be seen between them." };
  const monthsLeft = Math.max(0, (last.left - renewAt) / lossPerMonth);
  const due = last.left <= renewAt;
  return {
    ok: true,
    left: last.left,
    lossPerMonth,
    renewBy: dayText(due ? last.day : last.day + monthsLeft * DAYS_A_MONTH),
    due,
    working: [
      `left = (thinnest / new)² = ${percent(last.left)} on ${dayText(last.day)}`,
      `loss = ${percent(lossPerMonth)} a month over ${months.toFixed(1)} months, ${points.length} points`,
      `${renewAt === RENEW_AT ? "a quarter" : percent(renewAt)} left after (${percent(last.left)} − ${percent(renewAt)}) / ${percent(lossPerMonth)} = ${monthsLeft.toFixed(1)} months`,
    ],
  };
};
