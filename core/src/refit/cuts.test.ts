import loadHighs from "highs";
import { uniformInt } from "pure-rand/distribution/uniformInt";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { beforeAll, describe, expect, it } from "vitest";
import { cutLists } from "../testing/cut-lists.ts";
import { type CutPiece, cutPlan, firstFit, type Solve, solverOf } from "./index.ts";

let solve: Solve;
beforeAll(async () => {
  solve = solverOf(await loadHighs());
});

const pieces = (...lengths: number[]): CutPiece[] =>
  lengths.map((lengthM, i) => ({ id: `p${i}`, name: `pipe ${i}`, lengthM }));

describe("a cut list", () => {
  it("lays every piece once, on nothing that is too short, whatever the list", () => {
    const stream = xoroshiro128plus(5);
    for (let n = 0; n < 60; n++) {
      const of = pieces(
        ...Array.from({ length: 1 + (n % 30) }, () => uniformInt(stream, 5, 700) / 100),
      );
      const stock = {
        lengthM: [3, 6, 25][n % 3] ?? 3,
        rests: n % 2 ? [1.2, 2.4] : [],
        cutM: n % 4 === 0 ? 0.003 : 0,
      };
      const plan = cutPlan(of, stock, solve);
      const laid = plan.laid.flatMap((l) => l.pieces.map((p) => p.id));
      expect([...laid, ...plan.tooLong.map((p) => p.id)].toSorted()).toEqual(
        of.map((p) => p.id).toSorted(),
      );
      for (const l of plan.laid) {
        const used = l.pieces.reduce((sum, p) => sum + p.lengthM, 0);
        expect(used).toBeLessThanOrEqual(l.lengthM + 1e-9);
        // What is said to be left, and what was cut away, add up to it.
        const lost = stock.cutM * l.pieces.length;
        expect(Math.abs(l.lengthM - used - l.leftM)).toBeLessThanOrEqual(lost + 1e-9);
      }
      expect(plan.bought).toBeGreaterThanOrEqual(plan.atLeast);
    }
  });

  it("is better than first fit where that can be beaten, by the solver", () => {
    // Worked by hand: 4.4 + 3.3 + 2.3 fills a length of ten, twice; longest first puts the two longest together.
    const stock = { lengthM: 10 };
    const hard = pieces(4.4, 4.4, 3.3, 3.3, 2.3, 2.3);
    expect(firstFit(hard, stock)).toHaveLength(3);
    expect(cutPlan(hard, stock, solve).bought).toBe(2);
  });

  it("uses rests first, and says what is longer than any stock", () => {
    const plan = cutPlan(pieces(2, 2, 9), { lengthM: 5, rests: [2.1, 2.2] }, solve);
    expect(plan.bought).toBe(0);
    expect(plan.laid.every((l) => l.isRest)).toBe(true);
    expect(plan.tooLong.map((p) => p.lengthM)).toEqual([9]);
  });

  it("is never worse than first fit by falling length on seeded lists", () => {
    const figures = cutLists(60, solve);
    expect(figures.cutWorseThanFirstFit).toBe(0);
    expect(figures.cutLists).toBe(60);
  });
});
