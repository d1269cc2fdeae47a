import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { formatQuantity, inUnit, parseQuantity, UNITS } from "./index.ts";

const si = (
  text: string,
  dimension: Parameters<typeof parseQuantity>[1],
  system?: "us" | "metric" | "imperial",
) => {
  const result = parseQuantity(text, dimension, system);
  if (!result.ok) throw new Error(result.problem);
  return result.quantity.si;
};

describe("reading quantities", () => {
  // Values: NIST SP 811 Appendix B, written from memory.
  it.each([
    ["1 us gal", "volume", 3.785411784e-3],
    ["1 imp gal", "volume", 4.54609e-3],
    ["1 cup", "volume", 236.5882365e-6],
    ["1 psi", "pressure", 6894.757],
    ["45 psi", "pressure", 310_264],
    ["1 bar", "pressure", 100_000],
    ["1 lb", "mass", 0.45359237],
  ] as const)("%s has the factor of NIST SP 811", (text, dimension, expected) => {
    expect(si(text, dimension) / expected).toBeCloseTo(1, 6);
  });

  it.each([
    ["2.3 us gal", "volume", 8.706447e-3],
    ["8.7 L", "volume", 8.7e-3],
    ["55 psi", "pressure", 379_211.7],
    ["-18 °C", "temperature", -18],
    ["−18C", "temperature", -18],
    ["0 F", "temperature", -17.7778],
    ["1/4 cup", "volume", 59.147e-6],
    ["1 1/2 cups", "volume", 354.882e-6],
    ["32 %", "fraction", 0.32],
  ] as const)("reads %s", (text, dimension, expected) => {
    expect(si(text, dimension)).toBeCloseTo(expected, Math.abs(expected) < 1 ? 8 : 0);
  });

  it("takes a bare gallon by the reader's system", () => {
    expect(si("1 gal", "volume", "us")).toBeCloseTo(3.785411784e-3, 12);
    expect(si("1 gal", "volume", "imperial")).toBeCloseTo(4.54609e-3, 12);
  });

  it("keeps what was typed", () => {
    const result = parseQuantity(" 2.3 gal ", "volume", "us");
    expect(result).toMatchObject({
      ok: true,
      quantity: { typed: { text: "2.3 gal", value: 2.3, unit: "US gal" } },
    });
  });

  it.each([
    ["8.7", "needs a unit"],
    ["lots", "does not start with a number"],
    ["1/0 cup", "is not a number"],
    ["3 widgets", "is not a unit"],
    ["3 psi", "is a pressure"],
  ])("says what is wrong with %s", (text, problem) => {
    const result = parseQuantity(text, "volume");
    expect(result.ok).toBe(false);
    expect(result).toMatchObject({ problem: expect.stringContaining(problem) });
  });
});

describe("writing quantities", () => {
  it.each([
    [8.7e-3, "volume", "metric", "8.7 L"],
    [8.7e-3, "volume", "us", "2.3 US gal"],
    [8.7e-3, "volume", "imperial", "1.9 imp gal"],
    [5e-5, "volume", "metric", "50 mL"],
    [-34, "temperature", "metric", "−34 °C"],
    [-34, "temperature", "us", "−29 °F"],
    [-0.2, "temperature", "metric", "0 °C"],
    [310_264, "pressure", "us", "45 psi"],
    [0.32, "fraction", "metric", "32 %"],
  ] as const)("%d m3/Pa/°C as %s in %s", (value, dimension, system, expected) => {
    expect(formatQuantity(value, dimension, system)).toBe(expected);
  });

  it("goes to any unit and back", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Object.values(UNITS)),
        fc.double({ min: -1e4, max: 1e4, noNaN: true }),
        (unit, value) => {
          const back = inUnit(value * unit.factor + unit.offset, unit);
          expect(Math.abs(back - value)).toBeLessThan(1e-9 * Math.max(1, Math.abs(value)));
        },
      ),
      { seed: 7 },
    );
  });
});
