/**
 * Liquid as the volumes of its two components. Volumes add up exactly, which keeps conservation exact; the true mixture is up to
 * one per cent smaller (CRC Handbook densities of aqueous propylene glycol), far below what a jug can show.
 */
export interface Mixture {
  readonly waterM3: number;
  readonly glycolM3: number;
}

export const NOTHING: Mixture = { waterM3: 0, glycolM3: 0 };

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

export const plus = (a: Mixture, b: Mixture): Mixture => ({ waterM3: a.waterM3 + b.waterM3, glycolM3: a.glycolM3 + b.glycolM3 });

/** Splits off a volume; never more than there is. */
export const take = (m: Mixture, volumeM3: number): { taken: Mixture; left: Mixture } => {
  const volume = volumeOf(m);
  if (volumeM3 <= 0 || volume <= 0) return { taken: NOTHING, left: m };
  if (volumeM3 >= volume) return { taken: m, left: NOTHING };
  const share = volumeM3 / volume;
  const taken = { waterM3: m.waterM3 * share, glycolM3: m.glycolM3 * share };
  return { taken, left: { waterM3: m.waterM3 - taken.waterM3, glycolM3: m.glycolM3 - taken.glycolM3 } };
};

export const sum = (all: readonly Mixture[]): Mixture => all.reduce(plus, NOTHING);
