import { describe, expect, it } from "vitest";
import { dimensionOf, readValue, unitBeside } from "./read-value.ts";

describe("a value as it is typed at the unit", () => {
  it.each([
    ["strength", "43", "metric", 0.43, "43 %"],
    ["recovered", "36", "metric", 0.036, "36 L"],
    ["recovered", "36", "us", 36 * 3.785411784e-3, "36 gal"],
    ["recovered", "8", "imperial", 8 * 4.54609e-3, "8 gal"],
    ["antifreeze-left", "6,2", "metric", 0.0062, "6,2 L"],
    ["antifreeze-in", "1 1/2 us gal", "metric", 1.5 * 3.785411784e-3, "1 1/2 us gal"],
    ["temperature", "-3", "metric", -3, "-3 °C"],
    ["temperature", "100", "us", 37.7778, "100 °F"],
  ] as const)("%s %s in %s", (kind, words, system, si, typed) => {
    const read = readValue(kind, words, system);
    expect(read).toMatchObject({ ok: true, typed });
    expect(read.ok && read.si).toBeCloseTo(si, 4);
  });

  it.each([
    ["strength", "strong", "does not start with a number"],
    ["recovered", "", "does not start with a number"],
    ["recovered", "3 psi", "is a pressure; a volume is asked for"],
    ["temperature", "12 L", "is a volume; a temperature is asked for"],
    ["recovered", "3 buckets", "is not a unit known here"],
  ] as const)("%s %s is refused in words", (kind, words, problem) => {
    const read = readValue(kind, words, "metric");
    expect(!read.ok && read.problem).toContain(problem);
  });

  it("has a unit beside it that its own reader takes", () => {
    for (const kind of [
      "strength",
      "recovered",
      "temperature",
      "antifreeze-in",
      "antifreeze-left",
    ] as const)
      for (const system of ["us", "metric", "imperial"] as const) {
        expect(
          readValue(kind, `1 ${unitBeside(kind, system)}`, system).ok,
          `${kind} ${system}`,
        ).toBe(true);
        expect(dimensionOf(kind).length).toBeGreaterThan(3);
      }
  });
});
