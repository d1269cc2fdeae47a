import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { frictionFactor, type Loss, pipeLaw, pipeLoss } from "./index.ts";

const loss = (law: ReturnType<typeof pipeLaw>, q: number): Loss =>
  pipeLoss(law, q, { lossPa: 0, slope: 0 });

/** Colebrook and White's implicit law, found by repetition: the law that the explicit ones stand in for. */
const colebrook = (re: number, roughness: number): number => {
  let root = 6;
  for (let i = 0; i < 60; i++) root = -2 * Math.log10(roughness / 3.7 + (2.51 * root) / re);
  return 1 / root ** 2;
};

describe("the friction factor", () => {
  it.each([100, 640, 1999])("is 64/Re under 2,000 (Hagen-Poiseuille): %d", (re) => {
    expect(frictionFactor(re, 0.001)).toBeCloseTo(64 / re, 12);
  });

  it("lies within 3 % of Colebrook-White above 5,000 (stated for Swamee-Jain, 1976; from memory)", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 5e3, max: 1e6, noNaN: true }),
        fc.double({ min: 1e-6, max: 1e-2, noNaN: true }),
        (re, roughness) => {
          expect(
            Math.abs(frictionFactor(re, roughness) / colebrook(re, roughness) - 1),
          ).toBeLessThan(0.03);
        },
      ),
      { seed: 41 },
    );
  });

  it.each([2000, 4000])("runs on without a step at %d", (re) => {
    for (const roughness of [0, 1e-4, 1e-2])
      expect(
        Math.abs(
          frictionFactor(re * (1 + 1e-9), roughness) / frictionFactor(re * (1 - 1e-9), roughness) -
            1,
        ),
      ).toBeLessThan(2e-3);
  });
});

describe("the loss of a pipe", () => {
  // Half-inch tube of 0.475 in bore, 2 US gal/min, water of 60 °F, 10 ft.
  const water60F = { densityKgM3: 999.0, viscosityPaS: 1.122e-3 };
  const tube = { lengthM: 3.048, boreM: 0.475 * 0.0254, roughnessM: 1.5e-6, lossK: 0 };
  const twoGallons = (2 * 3.785411784e-3) / 60;

  it("is 0.664 psi for 10 ft of half-inch tube at 2 US gal/min and 60 °F, Reynolds 11,870 (worked by hand from the Swamee-Jain formula)", () => {
    const law = pipeLaw(tube, water60F);
    expect(law.rePerFlow * twoGallons).toBeGreaterThan(11_700);
    expect(law.rePerFlow * twoGallons).toBeLessThan(12_000);
    expect(loss(law, twoGallons).lossPa / 6894.757).toBeCloseTo(0.664, 2);
  });

  it("is 0.079 psi more for an elbow of K 0.9 (textbook K, from memory)", () => {
    const bend = pipeLaw({ ...tube, lossK: 0.9 }, water60F);
    expect(
      (loss(bend, twoGallons).lossPa - loss(pipeLaw(tube, water60F), twoGallons).lossPa) / 6894.757,
    ).toBeCloseTo(0.079, 3);
  });

  it("lies within 1e-8 of Swamee and Jain's formula, also where it is read off a table and beyond its end", () => {
    fc.assert(
      fc.property(
        // Reynolds 4,000 to 3e8, evenly by its logarithm.
        fc.double({ min: Math.log(4000), max: Math.log(3e8), noNaN: true }),
        fc.constantFrom(0, 1e-6, 1.2e-4, 3e-3, 0.05),
        (logRe, roughness) => {
          const bare = { lengthM: 1, boreM: 0.01, roughnessM: roughness * 0.01, lossK: 0 };
          const law = pipeLaw(bare, { densityKgM3: 1000, viscosityPaS: 1e-3 });
          const q = Math.exp(logRe) / law.rePerFlow;
          const re = q * law.rePerFlow;
          const formula = 0.25 / Math.log10(roughness / 3.7 + 5.74 / re ** 0.9) ** 2;
          const speed = q / ((Math.PI / 4) * 0.01 ** 2);
          // Darcy and Weisbach: f · L/d · ρv²/2.
          expect(
            Math.abs(loss(law, q).lossPa / (formula * 100 * 500 * speed ** 2) - 1),
          ).toBeLessThan(1e-8);
        },
      ),
      { seed: 43, numRuns: 2000 },
    );
  });

  it("has the slope that its own differences show, is odd in flow and always rises", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-7, max: 1e-3, noNaN: true }),
        fc.double({ min: 0.004, max: 0.03, noNaN: true }),
        fc.double({ min: 1e-3, max: 2e-2, noNaN: true }),
        fc.double({ min: 0, max: 10, noNaN: true }),
        (q, boreM, viscosityPaS, lossK) => {
          const law = pipeLaw(
            { lengthM: 2, boreM, roughnessM: 1.5e-6, lossK },
            { densityKgM3: 1000, viscosityPaS },
          );
          const re = q * law.rePerFlow;
          const [low, high] = [loss(law, q * (1 - 1e-6)).lossPa, loss(law, q * (1 + 1e-6)).lossPa];
          expect(high).toBeGreaterThan(low);
          // Where two laws meet, a difference over the seam is no slope.
          if (Math.abs(re / 2000 - 1) > 1e-5 && Math.abs(re / 4000 - 1) > 1e-5)
            expect(Math.abs((high - low) / (2e-6 * q) / loss(law, q).slope - 1)).toBeLessThan(1e-3);
          expect(loss(law, -q).lossPa).toBeCloseTo(-loss(law, q).lossPa, 6);
        },
      ),
      { seed: 42 },
    );
  });
});
