import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { starterMap, PATTERNS } from "../patterns/index.ts";
import { addOnPipeRun, type WaterMap } from "../watermap/index.ts";
import { fitOf, jointsOf, KIT_POLICY, openEnds, priced, refitKit } from "./index.ts";

const maps = [...EXAMPLE_MAPS, ...PATTERNS.map((p) => starterMap(p))];
const demo = (id: string): WaterMap => {
  const found = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!found) throw new Error(id);
  return found;
};
const inch = 0.0254;

describe("the kit of a refit", () => {
  it("counts a ring at every end that a fitting really has", () => {
    // Counted by hand, handbook example: 14 elbows of two ends, 11 tees of three, 8 valves of two.
    expect(jointsOf({ elbow: 14, tee: 11, "ball-valve": 8 })).toBe(77);
    expect(jointsOf({ "end-plug": 3 })).toBe(3);
  });

  it.each(maps.map((m): [string, WaterMap] => [m.name, m]))(
    "of all of %s built from nothing has two joints for every pipe, and every piece of pipe once",
    (_, map) => {
      const bare: WaterMap = { ...map, parts: [], runs: [], lineup: {}, contents: {}, modes: {} };
      const kit = refitKit(bare, map);
      const joints = kit.lines.filter((l) => l.key.startsWith("joint:"));
      expect(joints.reduce((sum, l) => sum + l.count, 0)).toBe(2 * map.runs.length);
      const laid = kit.pipes.flatMap((p) => p.plan.laid.flatMap((l) => l.pieces));
      const tooLong = kit.pipes.flatMap((p) => p.plan.tooLong);
      expect([...laid, ...tooLong].map((p) => p.id).toSorted()).toEqual(
        map.runs.map((r) => r.id).toSorted(),
      );
      // Every piece is its pipe with the slack, to the centimetre above.
      const drawn = map.runs.reduce((sum, r) => sum + r.lengthM, 0);
      const cut = [...laid, ...tooLong].reduce((sum, p) => sum + p.lengthM, 0);
      const slack = KIT_POLICY.slackShare * drawn + KIT_POLICY.slackM * map.runs.length;
      expect(cut - drawn - slack).toBeGreaterThanOrEqual(-1e-6);
      expect(cut - drawn - slack).toBeLessThan(0.01 * map.runs.length + 1e-6);
      expect(kit.out).toEqual([]);
    },
  );

  it("of no change is nothing at all", () => {
    const kit = refitKit(demo("teasel"), demo("teasel"));
    expect(kit).toEqual({ pipes: [], lines: [], tools: [], out: [], clashes: [] });
  });

  it("of one check in a pipe is the check, its two halves of pipe, four joints, and two ends to cap", () => {
    const haywain = demo("haywain");
    const run = haywain.runs.find((r) => r.service === "cold" && r.pipe.startsWith("pex"));
    const done = addOnPipeRun(haywain, "check-valve", run?.id ?? "", 0.5);
    if (!done.ok) throw new Error(done.problem);
    const kit = refitKit(haywain, done.map);
    const count = (key: string): number =>
      kit.lines.filter((l) => l.key.startsWith(key)).reduce((sum, l) => sum + l.count, 0);
    expect(count("kind:check-valve")).toBe(1);
    const fresh = done.map.runs.filter((r) => !haywain.runs.some((x) => x.id === r.id)).length;
    // One half may keep the old pipe, cut shorter: it wants a joint at its new end all the same.
    expect(count("joint:")).toBe(2 * fresh + (2 - fresh));
    expect(openEnds(haywain, done.map).length).toBeGreaterThan(0);
    expect(kit.tools.join(" ")).toContain("go/no-go");
  });

  it("re-piped in another system takes the old pipe out, and asks for an adapter where both meet", () => {
    const map = demo("burdock");
    const cold = map.runs.filter((r) => r.service === "cold");
    const half = new Set(cold.slice(0, Math.ceil(cold.length / 2)).map((r) => r.id));
    const then = {
      ...map,
      runs: map.runs.map((r) => (half.has(r.id) ? { ...r, pipe: "metric-15" } : r)),
    };
    const kit = refitKit(map, then);
    expect(kit.out.map((o) => o.id).toSorted()).toEqual([...half].toSorted());
    expect(kit.pipes.map((p) => p.colour)).toEqual(["blue"]);
    expect(kit.lines.some((l) => l.key.startsWith("adapter:"))).toBe(true);
  });

  it("is added up at the workshop's prices, and names what has none", () => {
    const lines = [
      { key: "kind:tee", label: "Tee", count: 3, unit: "piece" as const, why: "" },
      { key: "plug", label: "Plugs", count: 2, unit: "piece" as const, why: "" },
    ];
    expect(priced(lines, { "kind:tee": 2.5 })).toMatchObject({ sum: 7.5, missing: ["Plugs"] });
    // A price that an object has by nature is none.
    expect(priced([{ ...lines[0]!, key: "constructor" }], {}).missing).toEqual(["Tee"]);
  });
});

describe("the fit of what the caliper shows", () => {
  // Sizes: ASTM F876, BS 7291, ASME B1.20.1, ISO 228-1, ASME B1.20.7 (from memory); what they come to: plain arithmetic.
  it.each([
    ["15.88 mm is half inch, and 15 mm looks like it", 0.01588, "found", "pex-1/2", "15 mm tube"],
    ["15.0 mm is 15 mm, and half inch looks like it", 0.015, "found", "metric-15", "1/2 in tube"],
    ["12.7 mm is three eighths", 0.0127, "found", "pex-3/8", "12 mm tube"],
  ] as const)("%s", (_, outsideM, answer, system, near) => {
    const fit = fitOf({ outsideM });
    expect(fit.answer).toBe(answer);
    expect(fit.systems.map((s) => s.name)).toContain(system);
    expect(fit.nearMiss.join(" ")).toContain(near);
    expect(fit.nearMiss.join(" ")).toContain("leaks");
  });

  it.each([
    ["between three quarter and 22 mm", 0.0221],
    ["between half inch and 15 mm", 0.0154],
  ])("%s it is measured again", (_, outsideM) => {
    expect(fitOf({ outsideM }).answer).toBe("measure again");
  });

  it("tells threads by diameter, count and seal: half inch tapered and parallel start together", () => {
    const bare = fitOf({ outsideM: 0.84 * inch, threadsPerInch: 14 });
    expect(bare.answer).toBe("measure again");
    expect(fitOf({ outsideM: 0.84 * inch, threadsPerInch: 14, seal: "taper" })).toMatchObject({
      answer: "found",
      systems: [{ name: "npt-1/2" }],
    });
    const hose = fitOf({ outsideM: 1.0625 * inch, threadsPerInch: 11.5 });
    expect(hose.systems.map((s) => s.name)).toEqual(["nh-3/4"]);
    expect(hose.nearMiss.join(" ")).toContain("3/4 NPT");
    expect(fitOf({ outsideM: 1.0625 * inch, threadsPerInch: 18 }).answer).toBe("measure again");
  });

  it("tells hose by its bore, and says so where nothing is like it", () => {
    expect(fitOf({ insideM: 0.0127 }).systems[0]?.name).toMatch(/13$/u);
    expect(fitOf({ insideM: 0.099 }).answer).toBe("unknown");
    expect(fitOf({}).answer).toBe("unknown");
  });
});
