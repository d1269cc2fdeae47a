import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { burdock, teasel } from "../examples/index.ts";
import { anyMap } from "../testing/random-maps.ts";
import {
  addOnPipeRun,
  changePart,
  changePipeRun,
  type Edited,
  readWaterMap,
  removePart,
  type WaterMap,
} from "../watermap/index.ts";
import { bringOver, compareMaps, copyForSibling, siblingDifferences } from "./index.ts";

const done = (edited: Edited): WaterMap => {
  if (!edited.ok) throw new Error(edited.problem);
  return edited.map;
};
const told = (before: WaterMap, after: WaterMap): string[] =>
  compareMaps(before, after).map((d) => `${d.change} ${d.what} ${d.id}: ${d.details.join("; ")}`);
const COLD = "r-t-gc-b-galley-cold";

describe("what differs between two maps", () => {
  it("nothing, between a map and itself", () => {
    fc.assert(
      fc.property(anyMap, (map) => {
        expect(compareMaps(map, structuredClone(map))).toEqual([]);
      }),
      { seed: 3, numRuns: 30 },
    );
  });
  it("is told in words with the units of whoever reads", () => {
    expect(
      told(teasel, done(changePipeRun(teasel, COLD, { lengthM: 1.5, pipe: "metric-22" }))),
    ).toEqual([`changed run ${COLD}: length {m:0.9} → {m:1.5}; pipe 15 mm tube → 22 mm tube`]);
    expect(
      told(teasel, done(changePart(teasel, "heater", { tag: "H", params: { volumeL: 40 } }))),
    ).toEqual(["changed part heater: volume 38 L → 40 L; tag none → H"]);
    expect(
      told(teasel, { ...teasel, lineup: { v7: "open" }, modes: { drain: { v5: "shut" } } }),
    ).toEqual([
      "changed lineup lineup: v7: shut → open",
      "changed modes modes: drain: v5: as usual → shut",
    ]);
  });
  it("what was put in and taken out is named; the identity of what was there stays", () => {
    const map = done(
      addOnPipeRun(done(removePart(teasel, "v5")), "ball-valve", COLD, 0.5, { name: "Stop" }),
    );
    const lines = told(teasel, map);
    expect(lines.filter((l) => l.startsWith("removed"))).toEqual([
      "removed part v5: ",
      "removed run r-v5-b-heater-check-in: ",
    ]);
    expect(lines.filter((l) => l.startsWith("added part"))).toHaveLength(1);
    expect(lines).toContainEqual(
      expect.stringContaining(
        `changed run ${COLD}: length {m:0.9} → {m:0.45}; to Galley tap, cold → Stop, a`,
      ),
    );
  });
});

describe("sister units", () => {
  const sister = copyForSibling(burdock, { id: "bramble", name: "Bramble" });
  it("begin as the same map under another name", () => {
    expect(siblingDifferences(burdock, sister)).toEqual([]);
    expect(sister.name).toBe("Bramble");
  });
  it("take over the template's later changes and keep what is their own", () => {
    const own = done(changePart(sister, "heater", { params: { volumeL: 30 } }));
    const later = done(
      changePart(
        done(addOnPipeRun(burdock, "ball-valve", "r-t-sc-b-sink-cold", 0.5, { name: "Sink stop" })),
        "pump",
        { place: "locker" },
      ),
    );
    const brought = bringOver(burdock, later, own);
    if (!brought.ok) throw new Error(brought.problems.join());
    expect(brought.clashes).toEqual([]);
    expect(brought.map.parts.find((p) => p.id === "heater")?.params["volumeL"]).toBe(30);
    expect(brought.map.parts.find((p) => p.id === "pump")?.place).toBe("locker");
    expect(brought.map.parts.some((p) => p.name === "Sink stop")).toBe(true);
    expect(siblingDifferences(later, brought.map).map((d) => d.id)).toEqual(["heater"]);
  });
  it("where both changed the same thing the sister's own stays, and that is told", () => {
    const own = done(changePart(sister, "heater", { params: { volumeL: 30 } }));
    const later = done(changePart(burdock, "heater", { params: { volumeL: 25 } }));
    const brought = bringOver(burdock, later, own);
    expect(brought.ok && brought.clashes).toEqual([
      { what: "part", id: "heater", name: "Heater", why: "changed on both" },
    ]);
    expect(brought.ok && brought.map.parts.find((p) => p.id === "heater")?.params["volumeL"]).toBe(
      30,
    );
  });
  it("a part taken out there and changed here, and a port taken here, clash and are told", () => {
    const later = done(removePart(burdock, "outside-shower"));
    const own = done(changePart(sister, "outside-shower", { place: "rear" }));
    const brought = bringOver(burdock, later, own);
    expect(brought.ok && brought.clashes.map((c) => c.why)).toContain(
      "changed here, taken out there",
    );
    expect(brought.ok && readWaterMap(brought.map).ok).toBe(true);
  });
  it("brought over, any two edited sisters are a sound map", () => {
    fc.assert(
      fc.property(anyMap, anyMap, (template, own) => {
        const brought = bringOver(burdock, { ...template, id: "a" }, { ...own, id: "b" });
        if (brought.ok) expect(readWaterMap(brought.map).ok).toBe(true);
        else expect(brought.problems.length).toBeGreaterThan(0);
      }),
      { seed: 9, numRuns: 40 },
    );
  });
});
