import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { strengthOf } from "../../contents/index.ts";
import { plover, teasel } from "../../examples/index.ts";
import { networkOf } from "../../testing/variants.ts";
import { startPhysical } from "../physical.ts";
import {
  planWinterize,
  standardRequest,
  targetStrengthFor,
  type WinterizeRequest,
} from "./index.ts";
import { trapDose } from "./traps.ts";
import { cellAt } from "../../watermap/index.ts";

const requestFor = (more: Partial<WinterizeRequest> = {}): WinterizeRequest => {
  const network = networkOf(teasel);
  return { ...standardRequest(network, startPhysical(network)), ...more };
};

describe("a trap's dose", () => {
  it("is the house's, twice the trap, or what dilution needs, whichever is most", () => {
    expect(trapDose(0.00025, 0, 0.3, 0.5, 0.0005)).toBeCloseTo(0.0005, 9);
    expect(trapDose(0.0004, 0, 0.3, 0.5, 0.0005)).toBeCloseTo(0.0008, 9);
    // −V ln((p − s)/p) for V 0.25 L, p 0.5, s 0.475: 0.25 × ln 20 = 0.749 L; by hand.
    expect(trapDose(0.00025, 0, 0.475, 0.5, 0.0001)).toBeCloseTo(0.0008, 9);
    expect(trapDose(0.00025, 0.48, 0.4, 0.5, 0.0001)).toBeCloseTo(0.0005, 9);
  });

  it("is never asked to reach what the product cannot give", () => {
    expect(Number.isFinite(trapDose(0.00025, 0, 0.6, 0.5, 0.0005))).toBe(true);
  });

  it("does reach its strength when it is poured", () => {
    const plan = planWinterize(requestFor());
    const network = networkOf(teasel);
    for (const trap of ["trap-galley", "trap-basin", "trap-shower", "toilet:bowl"]) {
      const held = plan.after.contents[cellAt(network, trap)];
      expect(strengthOf(held?.plugs[0] ?? { waterM3: 1, glycolM3: 0 }), trap).toBeGreaterThan(
        plan.targetStrength * 0.97,
      );
    }
  });
});

describe("the strength to run to", () => {
  it("holds the winter low with its margin, on the basis chosen, within the product", () => {
    // Manufacturer's burst table: −23 °C lies between 28 % (−10 °F) and 30 % (−20 °F); ASHRAE: −23 °C freezes at about 41 %. From memory.
    const burst = targetStrengthFor(requestFor({ basis: "burst" }));
    const ice = targetStrengthFor(requestFor({ basis: "no-ice" }));
    expect(burst).toBeGreaterThanOrEqual(0.28);
    expect(ice).toBeGreaterThan(0.41);
    for (const strength of [burst, ice]) expect(strength).toBeLessThanOrEqual(0.5 * 0.95);
  });

  it("never asks more of a weak product than it has", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 0.6, noNaN: true }),
        fc.double({ min: -45, max: 0, noNaN: true }),
        (strength, winterLowC) => {
          const target = targetStrengthFor(
            requestFor({ winterLowC, product: { name: "x", strength, jugM3: 0.005 } }),
          );
          expect(target).toBeGreaterThan(0);
          expect(target).toBeLessThan(strength);
        },
      ),
      { seed: 3 },
    );
  });
});

describe("the figure to carry", () => {
  const figure = (more: Partial<WinterizeRequest> = {}) =>
    planWinterize(requestFor(more)).antifreeze;

  it("comes in whole jugs that hold nine jobs of ten", () => {
    for (const jugM3 of [0.001, 0.0037854, 0.005, 0.01]) {
      const { jugs, p90M3 } = figure({ product: { name: "x", strength: 0.5, jugM3 } });
      expect(jugs * jugM3).toBeGreaterThanOrEqual(p90M3 - 1e-12);
      expect((jugs - 1) * jugM3).toBeLessThan(p90M3);
    }
  });

  it("is the same every time: its trials are seeded", () => {
    expect(figure()).toEqual(figure());
  });

  it("has lines that say how they came about, and adds up", () => {
    const { lines, workedM3, medianM3, p90M3 } = figure();
    expect(lines.reduce((sum, l) => sum + l.volumeM3, 0)).toBeCloseTo(workedM3, 9);
    for (const line of lines) expect(line.how.length).toBeGreaterThan(5);
    expect(medianM3).toBeLessThan(p90M3);
    expect(p90M3).toBeLessThan(1.6 * workedM3);
  });

  it("stands beside the trade's rule, worked by hand for the river boat", () => {
    // Lengths of the cold and hot runs × 0.0092 gal/ft + 0.15 + outlets × 0.05 + traps × 0.125, the heater, and a tenth (common practice, no source).
    const network = networkOf(plover);
    const plan = planWinterize(standardRequest(network, startPhysical(network)));
    const lengthFt =
      plover.runs
        .filter((r) => r.service === "cold" || r.service === "hot")
        .reduce((sum, r) => sum + r.lengthM, 0) / 0.3048;
    const gallons = lengthFt * 0.0092 + 0.15 + 6 * 0.05 + 3 * 0.125;
    expect(plan.antifreeze.ruleOfThumb.volumeM3).toBeCloseTo(
      (gallons * 3.785411784e-3 + 0.015) * 1.1,
      6,
    );
    expect(plan.antifreeze.ruleOfThumb.text).toContain("common practice, no source");
  });

  it("is nothing where nothing lets antifreeze in", () => {
    const network = networkOf({
      ...plover,
      parts: plover.parts.filter(
        (p) => p.kind !== "trap" && p.kind !== "toilet" && p.id !== "pump",
      ),
      runs: plover.runs.filter(
        (r) =>
          ![r.from.part, r.to.part].some(
            (id) => id.startsWith("trap") || id === "toilet" || id === "pump",
          ),
      ),
    });
    const plan = planWinterize(standardRequest(network, startPhysical(network)));
    expect(plan.antifreeze).toMatchObject({ medianM3: 0, p90M3: 0, jugs: 0 });
    expect(plan.entry).toContain("nothing on this map lets antifreeze in");
  });
});
