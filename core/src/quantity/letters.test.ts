import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wholeLetters } from "./letters.ts";

describe("the beginning of a text", () => {
  it.each([
    ["plain words", 5, "plain"],
    ["👩‍🔧 at work", 3, ""],
    ["👩‍🔧 at work", 6, "👩‍🔧 "],
    ["e\u0301e\u0301", 3, "e\u0301"],
    ["short", 50, "short"],
  ])("of %s within %i", (text, most, first) => {
    expect(wholeLetters(text, most)).toBe(first);
  });
  it("is never longer than it may be, always the beginning, and whole", () => {
    fc.assert(
      fc.property(
        fc.string({ unit: "grapheme", maxLength: 60 }),
        fc.nat({ max: 80 }),
        (text, most) => {
          const first = wholeLetters(text, most);
          expect(first.length).toBeLessThanOrEqual(most);
          expect(text.startsWith(first)).toBe(true);
          expect(first.isWellFormed()).toBe(true);
        },
      ),
      { seed: 1 },
    );
  });
});
