/**
 * Liquid as the volumes of its two components. Volumes add up exactly, which keeps conservation exact; the true mixture is up to
 * one per cent smaller (CRC Handbook densities of aqueous propylene glycol), far below what a jug can show.
 * What it carries besides is given as amounts that add up too, and is absent where there is none.
 */
export interface Mixture {
  readonly waterM3: number;
  readonly glycolM3: number;
  /** Free chlorine, mg. */
  readonly chlorineMg?: number;
  /** Volume times kelvins above the surroundings. */
  readonly warmthM3K?: number;
  /** So much of the water is not drinking water: sea, lake, a tank's rinse. */
  readonly foreignM3?: number;
}

export const NOTHING: Mixture = { waterM3: 0, glycolM3: 0 };

/** A body of liquid that belongs to whoever carries it on and is changed in place; nobody else may hold it. */
export type Body = { -readonly [K in keyof Mixture]: Mixture[K] };

export const water = (volumeM3: number): Mixture => ({ waterM3: volumeM3, glycolM3: 0 });

/**
 * A product of a given strength.
 * @param strength glycol by volume, 0 to 1
 */
export const product = (volumeM3: number, strength: number): Mixture => ({
  waterM3: volumeM3 * (1 - strength),
  glycolM3: volumeM3 * strength,
});

export const volumeOf = (m: Mixture): number => m.waterM3 + m.glycolM3;

/** Glycol by volume, 0 to 1; 0 where there is no liquid. */
export const strengthOf = (m: Mixture): number => {
  const volume = volumeOf(m);
  return volume > 0 ? m.glycolM3 / volume : 0;
};

/** Free chlorine, mg/L. */
export const chlorineOf = (m: Mixture): number => {
  const volume = volumeOf(m);
  return volume > 0 ? (m.chlorineMg ?? 0) / (volume * 1000) : 0;
};

/** Kelvins above the surroundings. */
export const warmthOf = (m: Mixture): number => {
  const volume = volumeOf(m);
  return volume > 0 ? (m.warmthM3K ?? 0) / volume : 0;
};

/** Share of it that is not drinking water, 0 to 1. */
export const foreignShare = (m: Mixture): number => {
  const volume = volumeOf(m);
  return volume > 0 ? (m.foreignM3 ?? 0) / volume : 0;
};

/** Whether it carries anything besides its two components. */
export const carries = (m: Mixture): boolean =>
  m.chlorineMg !== undefined || m.warmthM3K !== undefined || m.foreignM3 !== undefined;

export const plus = (a: Mixture, b: Mixture): Mixture => {
  const waterM3 = a.waterM3 + b.waterM3;
  const glycolM3 = a.glycolM3 + b.glycolM3;
  if (!carries(a) && !carries(b)) return { waterM3, glycolM3 };
  return {
    waterM3,
    glycolM3,
    chlorineMg: (a.chlorineMg ?? 0) + (b.chlorineMg ?? 0),
    warmthM3K: (a.warmthM3K ?? 0) + (b.warmthM3K ?? 0),
    foreignM3: (a.foreignM3 ?? 0) + (b.foreignM3 ?? 0),
  };
};

const minus = (a: Mixture, b: Mixture): Mixture => {
  const rest = { waterM3: a.waterM3 - b.waterM3, glycolM3: a.glycolM3 - b.glycolM3 };
  if (!carries(a)) return rest;
  return {
    ...rest,
    chlorineMg: (a.chlorineMg ?? 0) - (b.chlorineMg ?? 0),
    warmthM3K: (a.warmthM3K ?? 0) - (b.warmthM3K ?? 0),
    foreignM3: (a.foreignM3 ?? 0) - (b.foreignM3 ?? 0),
  };
};

/** A share of it, with what it carries. */
export const part = (m: Mixture, share: number): Mixture => {
  const some = { waterM3: m.waterM3 * share, glycolM3: m.glycolM3 * share };
  if (!carries(m)) return some;
  return {
    ...some,
    chlorineMg: (m.chlorineMg ?? 0) * share,
    warmthM3K: (m.warmthM3K ?? 0) * share,
    foreignM3: (m.foreignM3 ?? 0) * share,
  };
};

/** Splits off a volume; never more than there is. */
export const take = (m: Mixture, volumeM3: number): { taken: Mixture; left: Mixture } => {
  const volume = volumeOf(m);
  if (volumeM3 <= 0 || volume <= 0) return { taken: NOTHING, left: m };
  if (volumeM3 >= volume) return { taken: m, left: NOTHING };
  const taken = part(m, volumeM3 / volume);
  return { taken, left: minus(m, taken) };
};

/** A body of one's own that holds just this. */
export const bodyOf = (m: Mixture): Body =>
  carries(m) ? { ...m } : { waterM3: m.waterM3, glycolM3: m.glycolM3 };

/** Rows of bodies that may be changed in place, by cell. */
export const bodiesOf = (contents: readonly { readonly plugs: readonly Mixture[] }[]): Body[][] => {
  const rows: Body[][] = [];
  for (const { plugs } of contents) {
    const row: Body[] = [];
    for (const plug of plugs) row.push(bodyOf(plug));
    rows.push(row);
  }
  return rows;
};

/** Pours a mixture into a body. */
export const pourIn = (body: Body, m: Mixture): void => {
  if (carries(m) || carries(body)) {
    body.chlorineMg = (body.chlorineMg ?? 0) + (m.chlorineMg ?? 0);
    body.warmthM3K = (body.warmthM3K ?? 0) + (m.warmthM3K ?? 0);
    body.foreignM3 = (body.foreignM3 ?? 0) + (m.foreignM3 ?? 0);
  }
  body.waterM3 += m.waterM3;
  body.glycolM3 += m.glycolM3;
};

/** Draws a volume, m3, out of a body that holds more. */
export const drawOut = (body: Body, volumeM3: number): Mixture => {
  const taken = part(body, volumeM3 / volumeOf(body));
  if (carries(body)) {
    body.chlorineMg = (body.chlorineMg ?? 0) - (taken.chlorineMg ?? 0);
    body.warmthM3K = (body.warmthM3K ?? 0) - (taken.warmthM3K ?? 0);
    body.foreignM3 = (body.foreignM3 ?? 0) - (taken.foreignM3 ?? 0);
  }
  body.waterM3 -= taken.waterM3;
  body.glycolM3 -= taken.glycolM3;
  return taken;
};

export const sum = (all: readonly Mixture[]): Mixture => {
  let whole = NOTHING;
  for (const m of all) whole = plus(whole, m);
  return whole;
};

// Nearer than an instrument tells: a ten-thousandth of a per cent, a hundredth of a kelvin, a thousandth of a mg/L.
const ALIKE = { strength: 1e-6, kelvin: 0.01, mgL: 1e-3, foreign: 1e-4 };

/** Whether two liquids cannot be told from each other. */
export const alike = (a: Mixture, b: Mixture): boolean =>
  Math.abs(strengthOf(a) - strengthOf(b)) < ALIKE.strength &&
  ((!carries(a) && !carries(b)) ||
    (Math.abs(warmthOf(a) - warmthOf(b)) < ALIKE.kelvin &&
      Math.abs(chlorineOf(a) - chlorineOf(b)) < ALIKE.mgL &&
      Math.abs(foreignShare(a) - foreignShare(b)) < ALIKE.foreign));
