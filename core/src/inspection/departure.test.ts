import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { againstHistory, isComparable } from "./departure.ts";

const before = (...values: number[]) =>
  values.map((value, i) => ({ value, at: `20${10 + i}-10-14T08:00:00.000Z` }));

describe("a reading held against the unit's own", () => {
  it("has nothing to be held against where there was one reading, or none", () => {
    expect(againstHistory(0.4, before(), 0.15)).toBeUndefined();
    expect(againstHistory(0.4, before(0.1), 0.15)).toBeUndefined();
  });

  it.each([
    [0.4, [0.4, 0.42], false],
    [0.34, [0.4, 0.42, 0.38], false],
    [0.33, [0.4, 0.42, 0.38], true],
    [0.47, [0.4, 0.42, 0.38], true],
    [0, [0, 0], false],
    [0.1, [0, 0], true],
  ])("%d after %j departs by more than 15 %%: %s", (value, earlier, departs) => {
    expect(againstHistory(value, before(...earlier), 0.15)?.departs).toBe(departs);
  });

  it("goes by the middle of the last five: one that was misread does not count, nor what is long ago", () => {
    expect(againstHistory(1, before(9, 9, 9, 1, 1, 40, 1, 1), 0.15)).toMatchObject({
      middle: 1,
      of: 5,
      departs: false,
    });
  });

  it("is the same in whatever order the earlier ones come", () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.01, max: 10, noNaN: true }), { minLength: 2, maxLength: 9 }),
        fc.double({ min: 0.01, max: 10, noNaN: true }),
        (values, value) => {
          const there = before(...values);
          expect(againstHistory(value, there.toReversed(), 0.15)).toEqual(
            againstHistory(value, there, 0.15),
          );
        },
      ),
      { seed: 5, numRuns: 100 },
    );
  });

  it("is no share of degrees", () => {
    expect(["temperature", "fraction", "volume"].map(isComparable)).toEqual([false, true, true]);
  });
});
