import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { UNITS } from "../quantity/index.ts";
import * as fluid from "./index.ts";

const value = (property: fluid.Property): number => {
  if (!property.ok) throw new Error(property.problem);
  return property.value;
};
const fahrenheit = (f: number): number => (f - 32) / 1.8;

describe("water", () => {
  it("weighs 8.345 lb a US gallon at 4 °C and 8.330 at 20 °C (from IAPWS-95, value from memory)", () => {
    const pounds = (t: number) =>
      (value(fluid.waterDensityKgM3(t)) * UNITS.usGallon.factor) / UNITS.pound.factor;
    expect(pounds(4)).toBeCloseTo(8.345, 3);
    expect(pounds(20)).toBeCloseTo(8.33, 2);
  });
  it("grows 9.07 % on freezing (IAPWS R10-06, from memory)", () => {
    expect(fluid.iceExpansion()).toBeCloseTo(0.0907, 4);
  });
  it("has the viscosity of IAPWS 2008 at 20 °C, and between points (CRC: 1.2155 mPa·s at 12.5 °C ± 1 %, from memory)", () => {
    expect(value(fluid.waterViscosityPaS(20))).toBeCloseTo(1.0016e-3, 7);
    expect(value(fluid.waterViscosityPaS(12.5)) / 1.2195e-3).toBeCloseTo(1, 1);
  });
  it("refuses ice and steam", () => {
    expect(fluid.waterDensityKgM3(-5)).toMatchObject({
      ok: false,
      problem: expect.stringContaining("outside the table"),
    });
    expect(fluid.waterViscosityPaS(120)).toMatchObject({ ok: false });
  });
});

describe("propylene glycol", () => {
  // ASHRAE Fundamentals, secondary coolants, propylene glycol freezing table; rows from memory.
  it.each([
    [0.194, -7.1],
    [0.294, -12.7],
    [0.396, -21.1],
    [0.499, -33.5],
    [0.6, -51.1],
  ])("%d by volume freezes at %d °C (ASHRAE)", (strength, expected) => {
    expect(value(fluid.freezingPointC(strength))).toBeCloseTo(expected, 6);
    expect(value(fluid.strengthForFreezing(expected))).toBeCloseTo(strength, 6);
  });

  it("agrees with the manufacturer's freeze table within 1.5 °F: 46 % near −20 °F, 50 % near −30 °F (from memory)", () => {
    expect(Math.abs(value(fluid.freezingPointC(0.46)) - fahrenheit(-20)) * 1.8).toBeLessThan(1.5);
    expect(Math.abs(value(fluid.freezingPointC(0.5)) - fahrenheit(-30)) * 1.8).toBeLessThan(1.5);
  });

  // Manufacturer's engineering guide, burst protection by volume; from memory.
  it.each([
    [0.12, 20],
    [0.2, 10],
    [0.24, 0],
    [0.28, -10],
    [0.3, -20],
    [0.33, -30],
    [0.35, -40],
  ])("%d by volume bursts at %d °F (manufacturer's guide)", (strength, f) => {
    expect(value(fluid.burstPointC(strength))).toBeCloseTo(fahrenheit(f), 6);
    expect(value(fluid.strengthForBurst(fahrenheit(f)))).toBeCloseTo(strength, 6);
  });

  it("does not tell −40 from −60 °F above 35 %, and says so", () => {
    expect(fluid.burstPointC(0.5)).toEqual({ ok: true, value: fahrenheit(-40), atOrBelow: true });
    expect(value(fluid.strengthForBurst(fahrenheit(-60)))).toBe(0.35);
  });

  it("has volume % = mass % × density / 1.0361 within 0.3 (CRC density of glycol, from memory)", () => {
    for (const mass of [0.1, 0.2, 0.3, 0.4, 0.5]) {
      const reckoned = (mass * value(fluid.glycolDensityKgM3(mass))) / 1036.1;
      expect(Math.abs(reckoned - value(fluid.strengthFromMassFraction(mass))) * 100).toBeLessThan(
        0.3,
      );
    }
  });

  it("reads 21.6 °Brix as 30 % by mass, 29.4 % by volume (CRC and ICUMSA, from memory)", () => {
    expect(value(fluid.strengthFromBrix(21.6))).toBeCloseTo(0.294, 6);
    expect(value(fluid.brixFromStrength(0.294))).toBeCloseTo(21.6, 6);
  });

  it("is as stiff as water with no glycol in it, and stiffer the colder and the stronger", () => {
    expect(value(fluid.glycolViscosityPaS(0, 20))).toBeCloseTo(
      value(fluid.waterViscosityPaS(20)),
      9,
    );
    expect(value(fluid.glycolViscosityPaS(0, 0))).toBeCloseTo(value(fluid.waterViscosityPaS(0)), 9);
    // 45 % by mass halfway between the rows for 40 and 50: the mean of their logarithms.
    expect(value(fluid.glycolViscosityPaS(0.45, 20)) * 1e3).toBeCloseTo(Math.sqrt(4.4 * 6.4), 6);
    expect(value(fluid.glycolViscosityPaS(0.5, 10)) * 1e3).toBeCloseTo(Math.sqrt(17 * 6.4), 6);
    expect(fluid.glycolViscosityPaS(0.5, -10)).toMatchObject({ ok: false });
    expect(fluid.glycolViscosityPaS(0.7, 10)).toMatchObject({ ok: false });
  });

  it.each([
    ["freezing above 60 %", () => fluid.freezingPointC(0.7)],
    ["burst above 60 %", () => fluid.burstPointC(0.61)],
    ["negative strength", () => fluid.burstPointC(-0.1)],
    ["strength for −60 °C", () => fluid.strengthForFreezing(-60)],
    ["burst strength for −60 °C", () => fluid.strengthForBurst(-60)],
    ["Brix 55", () => fluid.strengthFromBrix(55)],
    ["density of pure glycol", () => fluid.glycolDensityKgM3(1)],
    ["not a number", () => fluid.freezingPointC(Number.NaN)],
  ])("refuses to extrapolate: %s", (_, call) => {
    expect(call()).toMatchObject({ ok: false, problem: expect.any(String) });
  });

  it("never gets warmer with more glycol, and bursts no warmer than it freezes", () => {
    const strength = fc.double({ min: 0, max: 0.6, noNaN: true });
    fc.assert(
      fc.property(strength, strength, (a, b) => {
        const [weak, strong] = a < b ? [a, b] : [b, a];
        expect(value(fluid.burstPointC(strong))).toBeLessThanOrEqual(
          value(fluid.burstPointC(weak)) + 1e-9,
        );
        expect(value(fluid.freezingPointC(strong))).toBeLessThanOrEqual(
          value(fluid.freezingPointC(weak)) + 1e-9,
        );
        expect(value(fluid.burstPointC(strong))).toBeLessThanOrEqual(
          value(fluid.freezingPointC(strong)) + 1e-9,
        );
      }),
      { seed: 11 },
    );
  });
});
