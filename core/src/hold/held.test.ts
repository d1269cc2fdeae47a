import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { PSI_PA, US_GALLON_M3 } from "../quantity/index.ts";
import { networkOf } from "../testing/variants.ts";
import { amountM3, type Filled, filled, type Held, tightPa } from "./held.ts";
import { waterHeld } from "./wall.ts";

const still = (pressurePa: number): Filled => ({
  atS: 0,
  pressurePa,
  temperatureC: 20,
  barometerPa: 101_325,
});
const water = (more: Partial<Extract<Held, { medium: "water" }>> = {}): Held => ({
  medium: "water",
  volumeM3: 0.01,
  wall: "metal",
  wallM3PerPa: 0,
  trappedM3: { low: 0, high: 0 },
  cushions: [],
  ...more,
});
const between = (held: Held, low: number, high: number): number =>
  amountM3(held, still(high), still(0)) - amountM3(held, still(low), still(0));

describe("what is shut in", () => {
  it("gives from an accumulator what Boyle's law gives: 1 US gal, 28 psi, 30 to 50 psi: 0.295 gal (worked by hand)", () => {
    const held = water({
      volumeM3: 1e-5,
      cushions: [{ volumeM3: US_GALLON_M3, chargePa: 28 * PSI_PA }],
    });
    expect(between(held, 30 * PSI_PA, 50 * PSI_PA) / US_GALLON_M3).toBeCloseTo(0.295, 3);
  });

  it("takes into stiff metal no more than water is squeezed: 10 L at 10 bar, 4.5 mL (bulk modulus 2.2 GPa)", () => {
    expect(between(water(), 0, 1e6) * 1e6).toBeCloseTo(4.545, 2);
  });

  it("takes into half-inch tube what a thick-walled cylinder gives (Lamé, worked by hand)", () => {
    const map = EXAMPLE_MAPS.find((m) => m.id === "foxglove");
    if (!map) throw new Error("no Foxglove");
    const network = networkOf(map);
    const runs = network.map.runs.filter((r) => r.pipe === "pex-1/2").slice(0, 1);
    const [run] = runs;
    if (!run) throw new Error("no such tube");
    const cell = network.cells.findIndex((c) => c.ownerId === run.id);
    const held = waterHeld(network, new Set([cell]), 1e-3, true);
    // a 6.03 mm, b 7.94 mm: 2/E · ((a² + b²)/(b² − a²) + 0.4) with E 0.7 GPa is 1.18e-8 of the volume per Pa.
    const volume = Math.PI * 0.0060325 ** 2 * run.lengthM;
    expect(held.wallM3PerPa / volume).toBeGreaterThan(1.15e-8);
    expect(held.wallM3PerPa / volume).toBeLessThan(1.21e-8);
  });

  it("of air is free air by its absolute pressure: 100 L at 1.5 psi are 110.2 L", () => {
    const held: Held = { medium: "air", volumeM3: 0.1 };
    expect(amountM3(held, still(1.5 * PSI_PA), still(0)) * 1000).toBeCloseTo(110.207, 2);
  });

  it("stands at what tight would show when nothing leaves, whatever warmth and weather do (property)", () => {
    fc.assert(
      fc.property(
        fc.boolean(),
        fc.double({ min: 20_000, max: 600_000, noNaN: true }),
        fc.double({ min: 0, max: 35, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 80_000, max: 104_000, noNaN: true }),
        (isAir, pressurePa, temperatureC, warmer, barometerPa) => {
          const held: Held = isAir
            ? { medium: "air", volumeM3: 0.05 }
            : water({ trappedM3: { low: 2e-4, high: 2e-4 }, wallM3PerPa: 1e-10 });
          const first = { atS: 0, pressurePa, temperatureC, barometerPa: 101_325 };
          const later = { ...first, temperatureC: temperatureC + warmer, barometerPa };
          const stands = tightPa(held, first, later);
          if (stands <= 0) return;
          const now = amountM3(held, { ...later, pressurePa: stands }, first);
          expect(now).toBeCloseTo(amountM3(held, first, first), 8);
        },
      ),
    );
  });

  it("fills in what was not read by the last that was, and never by what came later", () => {
    const all = filled([
      { atS: 0, pressurePa: 1, temperatureC: 10 },
      { atS: 1, pressurePa: 1 },
      { atS: 2, pressurePa: 1, temperatureC: 12 },
    ]);
    expect(all.map((r) => r.temperatureC)).toEqual([10, 10, 12]);
  });
});
