import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { patternMaps } from "../testing/random-maps.ts";
import { buildNetwork, readWaterMap, type WaterMap } from "../watermap/index.ts";
import { surveyMap } from "../survey/index.ts";
import {
  completed,
  mapFromPattern,
  PATTERNS,
  QUESTIONS,
  questionOf,
  starterMap,
  UNKNOWN,
} from "./index.ts";

const byId = (id: string) => {
  const found = PATTERNS.find((p) => p.id === id);
  if (!found) throw new Error(id);
  return found;
};
const head = { id: "x", name: "X", craft: "bench" };
const part = (map: WaterMap, id: string) => map.parts.find((p) => p.id === id);

describe("the families", () => {
  it("are the fifteen of the field and three more, each with a name, a mark and its trap", () => {
    expect(PATTERNS.map((p) => p.id)).toEqual(
      Array.from({ length: 18 }, (_, i) => `P${String(i + 1).padStart(2, "0")}`),
    );
    for (const p of PATTERNS)
      for (const text of [p.label, p.about, p.trap]) expect(text.length).toBeGreaterThan(10);
  });

  it.each(PATTERNS.map((p) => [p.id, p] as const))(
    "%s makes a sound map whose figures are marked as assumed",
    (_, pattern) => {
      const map = starterMap(pattern);
      expect(readWaterMap(JSON.parse(JSON.stringify(map))).ok).toBe(true);
      for (const x of [...map.parts, ...map.runs]) expect(x.assumed).toBe(true);
      expect(() => buildNetwork(map)).not.toThrow();
    },
  );

  it.each(PATTERNS.map((p) => [p.id, p] as const))(
    "%s has nothing that cannot be so before anybody has touched it",
    (_, pattern) => {
      const wrong = surveyMap(starterMap(pattern)).problems.filter((p) => p.severity === "wrong");
      expect(wrong).toEqual([]);
    },
  );

  it("with any answers make a sound map in which nothing cannot be so", () => {
    fc.assert(
      fc.property(patternMaps, (map) => {
        expect(readWaterMap(map).ok).toBe(true);
        expect(surveyMap(map).problems.filter((p) => p.severity === "wrong")).toEqual([]);
      }),
      { seed: 11, numRuns: 150 },
    );
  });
});

describe("the questions", () => {
  it("each have a cheapest way to find out, and answers that differ", () => {
    for (const q of QUESTIONS) {
      expect(q.ask.length).toBeGreaterThan(3);
      expect(new Set(q.options.map((o) => o.value)).size).toBe(q.options.length);
      expect(q.options.map((o) => o.value)).not.toContain(UNKNOWN);
    }
  });

  it("change the map: taps are counted, an outside shower comes and goes, the heater's kind and bypass are drawn", () => {
    const p02 = byId("P02");
    const map = (given: Record<string, string>) => mapFromPattern(p02, given, head);
    for (const taps of ["1", "3", "6"])
      expect(map({ taps }).parts.filter((p) => p.kind === "mixer-tap")).toHaveLength(Number(taps));
    expect(part(map({ outsideShower: "no" }), "outside")).toBeUndefined();
    expect(part(map({ outsideShower: "yes" }), "outside")?.unknown).toBeUndefined();
    expect(part(map({ heater: "on-demand" }), "heater")?.kind).toBe("on-demand-heater");
    expect(part(map({ heater: "none" }), "heater")).toBeUndefined();
    expect(part(map({ bypass: "none" }), "vx")).toBeUndefined();
    expect(part(map({ bypass: "one valve" }), "byp")?.kind).toBe("selector-valve");
    expect(part(map({ pumpPlace: "service bay" }), "pump")?.place).toBe("service bay");
  });

  it('answered "don\'t know yet" leave a part that is marked and says how to find out', () => {
    const map = mapFromPattern(
      byId("P02"),
      { iceMaker: UNKNOWN, outsideShower: UNKNOWN, heater: UNKNOWN },
      head,
    );
    for (const [id, question] of [
      ["ice", "iceMaker"],
      ["outside", "outsideShower"],
      ["heater", "heater"],
    ] as const)
      expect(part(map, id)?.unknown).toEqual({ of: "fitted", ask: questionOf(question).ask });
  });

  it("take an answer that is no option as the usual one", () => {
    const p02 = byId("P02");
    expect(completed(p02, { taps: "ninety" }).taps).toBe(p02.usual.taps);
  });
});

describe("what the field notes say of a family is on its map", () => {
  it("P01: a valve each side of the pump, couplings that can be undone, no pickup", () => {
    const map = starterMap(byId("P01"));
    const order = ["coupling-t", "vin", "coupling-a", "pump", "coupling-b", "vout", "jr"];
    order.slice(1).forEach((id, i) =>
      expect(
        map.runs.some((r) => r.from.part === order[i] && r.to.part === id),
        id,
      ).toBe(true),
    );
    expect(map.parts.some((p) => p.kind === "winterizing-pickup")).toBe(false);
  });
  it("P03: tank and supply meet nowhere but in the tap", () => {
    const map = starterMap(byId("P03"));
    const water = map.runs.filter((r) => r.service === "cold" || r.service === "suction");
    const reach = (from: string): Set<string> => {
      const seen = new Set([from]);
      for (let grown = true; grown;) {
        grown = false;
        for (const r of water)
          for (const [a, b] of [
            [r.from.part, r.to.part],
            [r.to.part, r.from.part],
          ] as const)
            if (seen.has(a) && a !== "tap" && !seen.has(b)) {
              seen.add(b);
              grown = true;
            }
      }
      return seen;
    };
    expect([...reach("tank")].filter((id) => reach("supply-box").has(id))).toEqual(["tap"]);
  });
  it("P09: no check on either branch, shower straight into the black tank", () => {
    const map = starterMap(byId("P09"));
    expect(map.parts.some((p) => p.kind === "check-valve")).toBe(false);
    expect(map.runs.find((r) => r.from.part === "shower" && r.service === "waste")?.to.part).toBe(
      "black",
    );
  });
  it("P10: four tanks linked low, two heaters in series, heads on raw water", () => {
    const map = starterMap(byId("P10"));
    expect(map.parts.filter((p) => p.kind === "fresh-tank")).toHaveLength(4);
    expect(map.runs.some((r) => r.from.part === "heater-a" && r.to.part === "heater")).toBe(true);
    expect(map.runs.filter((r) => r.to.part.startsWith("head-")).map((r) => r.service)).toEqual([
      "raw",
      "raw",
    ]);
  });
});
