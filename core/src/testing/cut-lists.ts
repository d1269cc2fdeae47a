import { uniformInt } from "pure-rand/distribution/uniformInt";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { type CutPiece, cutPlan, firstFit, type Solve } from "../refit/index.ts";

/** Seeded cut lists of a refit's sizes, laid out, against first fit by falling length and against what no plan can go under. */

export interface CutFigures {
  readonly cutLists: number;
  readonly cutWorseThanFirstFit: number;
  readonly cutBetterThanFirstFit: number;
  /** Rolls over the bound, in all, and of how many. */
  readonly cutRollsOverBound: number;
  readonly cutRolls: number;
}

const listOf = (seed: number): { pieces: CutPiece[]; lengthM: number } => {
  const stream = xoroshiro128plus(seed);
  const of = (low: number, high: number): number => uniformInt(stream, low, high);
  const lengthM = [3, 6, 15, 25][of(0, 3)] ?? 3;
  const longest = Math.min(lengthM * 95, 900);
  const pieces = Array.from({ length: of(4, 45) }, (_, i) => ({
    id: `p${i}`,
    name: `pipe ${i}`,
    lengthM: of(15, longest) / 100,
  }));
  return { pieces, lengthM };
};

export const cutLists = (lists: number, solve: Solve, from = 1): CutFigures => {
  const all = Array.from({ length: lists }, (_, i) => {
    const { pieces, lengthM } = listOf(from + i);
    const first = firstFit(pieces, { lengthM }).length;
    const { bought, atLeast } = cutPlan(pieces, { lengthM }, solve);
    return { first, bought, atLeast };
  });
  return {
    cutLists: lists,
    cutWorseThanFirstFit: all.filter((l) => l.bought > l.first).length,
    cutBetterThanFirstFit: all.filter((l) => l.bought < l.first).length,
    cutRollsOverBound: all.reduce((sum, l) => sum + l.bought - l.atLeast, 0),
    cutRolls: all.reduce((sum, l) => sum + l.bought, 0),
  };
};
