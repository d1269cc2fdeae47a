import { describe, expect, it } from "vitest";
import { US_GALLON_M3 } from "../quantity/index.ts";
import { agedBleach, bleachFor, chlorineBy, chlorineGPerL, QUARTER_CUP_RULE } from "./index.ts";

const CUP_M3 = US_GALLON_M3 / 16;
const TANK_M3 = 60 * US_GALLON_M3;

describe("bleach", () => {
  // Available chlorine by weight is 0.9525 of the hypochlorite (The Chlorine Institute; White's Handbook of Chlorination; from memory).
  it.each([
    [0.0525, 53.8, 211, 56],
    [0.06, 62.1, 183, 65],
    [0.0825, 87.9, 129, 92],
  ])(
    "of %f gives g/L, mL for 50 mg/L in 60 US gal, and what a quarter cup per 15 gal comes to",
    (strength, gPerL, mL, thumbMgL) => {
      const gives = chlorineGPerL(strength);
      expect(Math.abs(gives - gPerL)).toBeLessThan(0.05 + gPerL * 0.002);
      expect(bleachFor(TANK_M3, 50, gives) * 1e6).toBeCloseTo(mL, -0.5);
      const thumb = QUARTER_CUP_RULE * TANK_M3;
      expect(thumb).toBeCloseTo(CUP_M3, 9);
      expect(Math.abs(chlorineBy(thumb, gives, TANK_M3) - thumbMgL)).toBeLessThan(1);
    },
  );

  it("needs 11.36 g of chlorine for 60 US gal at 50 mg/L", () => {
    expect(TANK_M3 * 1000 * 0.05).toBeCloseTo(11.36, 2);
  });

  it("ages nearly by second order: 5 % is 3.4 % after a year at 25 °C, half of 10 % is gone in 220 days", () => {
    expect(agedBleach(0.05, 365)).toBeCloseTo(0.034, 3);
    expect(agedBleach(0.05, 790)).toBeCloseTo(0.025, 4);
    expect(agedBleach(0.1, 220)).toBeCloseTo(0.05, 4);
  });

  it("ages 3.6 times as fast for each 10 K, and not at all in no time", () => {
    const lost = (c: number): number => 1 / agedBleach(0.05, 100, c) - 1 / 0.05;
    expect(lost(35) / lost(25)).toBeGreaterThan(3.3);
    expect(lost(35) / lost(25)).toBeLessThan(3.9);
    expect(agedBleach(0.06, 0)).toBe(0.06);
    expect(agedBleach(0.06, -3)).toBe(0.06);
  });

  it("dosed for the tank alone gives 72 % of what was meant where 25 L of heater and 6 L of lines are wet besides", () => {
    const gives = chlorineGPerL(0.0525);
    const dose = bleachFor(0.08, 50, gives);
    expect(chlorineBy(dose, gives, 0.08 + 0.025 + 0.006) / 50).toBeCloseTo(0.72, 2);
  });
});
