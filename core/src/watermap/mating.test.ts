import { describe, expect, it } from "vitest";
import { endLabel, mate, PIPE_SYSTEMS, pitchMm, THREADS } from "./index.ts";

describe("pipes and threads that mate", () => {
  it.each([
    // ASTM F876 outside 15.875 mm against BS 7291 15.0 mm, from memory: 0.875 mm apart.
    ["pex-1/2", "metric-15", "never"],
    // ASTM F876 12.70 against 12 mm: 0.70 mm apart.
    ["pex-3/8", "metric-12", "never"],
    // ASTM F876 22.225 against 22 mm: 0.225 mm apart, calipers must tell.
    ["pex-3/4", "metric-22", "measure"],
    ["pex-1/2", "pex-1/2", "fits"],
    // ASTM B88 copper has the outside of the tube of the same name.
    ["pex-1/2", "copper-1/2", "fits"],
    ["metric-15", "copper-15", "fits"],
    ["pex-1/2", "pex-3/4", "adapter"],
    ["pex-1/2", "pb-1/2", "adapter"],
    ["hose-13", "pex-1/2", "adapter"],
    ["hose-13", "vacuum-13", "fits"],
    ["hose-13", "hose-19", "adapter"],
    // ASME B1.20.1 against ISO 228-1: 60 and 55 degrees start together, then leak.
    ["npt-1/2", "g-1/2", "never"],
    ["npt-3/4", "g-3/4", "never"],
    // ASME B1.20.1 and B1.20.7: 14 and 11.5 threads an inch cross.
    ["npt-3/4", "nh-3/4", "never"],
    ["npt-1/2", "npsm-1/2", "measure"],
    ["npt-1/2", "npt-1/2", "fits"],
    ["npt-1/2", "npt-3/4", "adapter"],
    ["npt-1/2", "pex-1/2", "adapter"],
  ] as const)("%s and %s: %s, whichever is named first", (a, b, answer) => {
    expect(mate(a, b).answer).toBe(answer);
    expect(mate(b, a).answer).toBe(answer);
    if (answer !== "fits")
      expect(mate(a, b).why).toContain(
        answer === "adapter" && a.startsWith("npt") && b.startsWith("pex")
          ? "fitting"
          : endLabel(a),
      );
  });

  it("the pitches are 2.209 mm for hose thread and 1.814 mm for NPT (ASME B1.20.7 and B1.20.1, from memory)", () => {
    const pitch = (thread: string) => {
      const found = THREADS.get(thread);
      return found ? pitchMm(found) : 0;
    };
    expect(pitch("nh-3/4")).toBeCloseTo(2.209, 3);
    expect(pitch("npt-3/4")).toBeCloseTo(1.814, 3);
  });

  it("the near miss at 22 mm says to measure, and how near it is", () => {
    expect(mate("pex-3/4", "metric-22").why).toMatch(/0\.2[23] mm apart\. Measure it/u);
  });
});

describe("pipe systems", () => {
  it("have a wall, and a rating wherever they bear pressure", () => {
    for (const p of PIPE_SYSTEMS.values()) {
      expect(p.boreM, p.pipe).toBeLessThan(p.outsideM);
      expect(p.ratingPa === undefined, p.pipe).toBe(p.waste === true);
    }
  });
  it("1 in tube holds 3.039 US gal per 100 ft (ASTM F876 mean bore, from memory)", () => {
    const bore = PIPE_SYSTEMS.get("pex-1")?.boreM ?? 0;
    expect(((Math.PI / 4) * bore * bore * 30.48) / 3.785411784e-3).toBeCloseTo(3.039, 2);
  });
  it("half-inch type L copper holds 1.21 US gal per 100 ft (ASTM B88, from memory)", () => {
    const bore = PIPE_SYSTEMS.get("copper-1/2")?.boreM ?? 0;
    expect(((Math.PI / 4) * bore * bore * 30.48) / 3.785411784e-3).toBeCloseTo(1.21, 2);
  });
});
