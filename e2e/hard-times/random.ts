/** Seeded chance: the same hard times every time they are asked for. */
export interface Chance {
  /** From 0 to below 1. */
  readonly next: () => number;
  readonly below: (n: number) => number;
  readonly pick: <T>(of: readonly T[]) => T;
}

/** Mulberry32, T. Ettinger's public-domain generator, from memory: good enough to shake things with. */
export const chance = (seed: number): Chance => {
  let a = seed >>> 0;
  const next = (): number => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
  const below = (n: number): number => Math.floor(next() * n);
  return { next, below, pick: <T>(of: readonly T[]): T => of[below(of.length)] as T };
};
