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
  /** Another method takes otherwise. */
  readonly method?: string | undefined;
}

/** What another unit of the workshop took, beside what had been worked out for it. */
interface TookElsewhere {
  readonly method: string;
  /** Of the same kind as the unit in question. */
  readonly sameKind: boolean;
  readonly workedM3: number;
  readonly usedM3: number;
}

interface Planned {
  readonly method?: string | undefined;
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
  /** By what others took, as a share of what was worked out for them, where this unit has no measure of its own. */
  readonly likeOthers?: {
    readonly share: number;
    readonly jobs: number;
    readonly sameKind: boolean;
  };
}

// Another work altogether: half done already, or drawn anew since.
const ALIKE_STEPS = 0.25;
const ALIKE_STRENGTH = 0.02;
// A tenth over what the unit took (our own).
const OVER = 1.1;

// Fewer jobs than this say nothing of the next; and no such share is believed beyond these bounds (our own).
const LEAST_JOBS = 3;
const SHARES = [0.6, 1.8] as const;

/** What others took of what was worked out for them: units of the same kind, else all of the workshop. */
const likeOthers = (
  method: string | undefined,
  others: readonly TookElsewhere[],
): Forecast["likeOthers"] => {
  const same = others.filter(
    (o) => o.workedM3 > 0 && o.usedM3 > 0 && (method === undefined || o.method === method),
  );
  const kind = same.filter((o) => o.sameKind);
  const from = kind.length >= LEAST_JOBS ? kind : same;
  if (from.length < LEAST_JOBS) return undefined;
  const shares = from.map((o) => o.usedM3 / o.workedM3).toSorted((a, b) => a - b);
  const middle = shares[Math.floor(shares.length / 2)] as number;
  return {
    share: Math.min(SHARES[1], Math.max(SHARES[0], middle)),
    jobs: from.length,
    sameKind: from === kind,
  };
};

/**
 * @param took earlier runs that were closed with every step done, in any order
 * @param others of the workshop's other units
 */
export const forecastOf = (
  planned: Planned,
  took: readonly Took[],
  others: readonly TookElsewhere[] = [],
): Forecast => {
  const alike = took
    .filter(
      (t) => t.method === undefined || planned.method === undefined || t.method === planned.method,
    )
    .filter((t) => Math.abs(t.stepsDone - planned.steps) <= ALIKE_STEPS * planned.steps)
    .toSorted((a, b) => b.at.localeCompare(a.at));
  const timed = alike.find((t) => t.minutes !== null && t.minutes > 0);
  const measured = alike.find(
    (t) =>
      t.usedM3 !== null &&
      t.usedM3 > 0 &&
      Math.abs(t.strength - planned.strength) <= ALIKE_STRENGTH,
  );
  const like = measured ? undefined : likeOthers(planned.method, others);
  const carryM3 = measured?.usedM3
    ? measured.usedM3 * OVER
    : planned.p90M3 * (like ? like.share : 1);
  return {
    minutes: timed?.minutes ?? planned.minutes,
    ...(timed ? { minutesFrom: timed.at } : {}),
    carryM3,
    jugs: measured || like ? Math.ceil(carryM3 / planned.jugM3 - 1e-9) : planned.jugs,
    ...(like ? { likeOthers: like } : {}),
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
