import { uniformFloat64 } from "pure-rand/distribution/uniformFloat64";
import { uniformInt } from "pure-rand/distribution/uniformInt";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

/** Seeded chance: the same hard times every time they are asked for. */
export interface Chance {
  /** From 0 to below 1. */
  readonly next: () => number;
  readonly below: (n: number) => number;
  readonly pick: <T>(of: readonly T[]) => T;
}

export const chance = (seed: number): Chance => {
  const stream = xoroshiro128plus(seed);
  const below = (n: number): number => uniformInt(stream, 0, n - 1);
  return {
    next: () => uniformFloat64(stream),
    below,
    pick: <T>(of: readonly T[]): T => of[below(of.length)] as T,
  };
};
