import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS, teasel } from "../examples/index.ts";
import { networkOf } from "../testing/variants.ts";
import { buildNetwork, inUseLineup } from "../watermap/index.ts";
import { explain, type Symptom, SYMPTOM_NAMES } from "./index.ts";

const network = networkOf(teasel);
const lineup = inUseLineup(network);
const whats = (symptom: Symptom, more: Partial<Parameters<typeof explain>[0]> = {}): string[] =>
  explain({ network, symptom, lineup, ...more }).causes.map((c) => c.what);

describe("what may be behind a complaint", () => {
  it("a pump that runs and brings nothing: selector, then tank, then what stands open, then what is clogged (E9)", () => {
    const told = whats("nothing-comes");
    expect(told.slice(0, 2)).toEqual(["V2 Suction selector stands pickup", "The tank is empty"]);
    expect(told).toContain("Strainer is clogged");
  });

  it("what was turned at the last work is thought of first", () => {
    const usual = whats("does-not-stop");
    const turned = whats("does-not-stop", { turned: new Set(["heater:plug"]) });
    expect(usual[0]).not.toMatch(/drain plug/u);
    expect(turned[0]).toMatch(/Heater, drain plug stands out/u);
    expect(
      explain({ network, symptom: "does-not-stop", lineup, turned: new Set(["heater:plug"]) })
        .causes[0]?.because,
    ).toBe("turned at the last work on it");
  });

  it("lukewarm: the only thing on this map that crosses cold to hot is the bypass", () => {
    expect(whats("lukewarm")).toEqual(["V7 Bypass stands open"]);
  });

  it("written down so it is no fault: it says which handle makes it so", () => {
    const told = explain({ network, symptom: "lukewarm", lineup: { ...lineup, v7: "open" } });
    expect(told.asWritten).toMatch(/nothing need be broken/u);
    expect(told.causes.map((c) => c.what)).toEqual(["V7 Bypass stands open"]);
  });

  it("weak at one outlet names its own screen first; weak everywhere never does", () => {
    expect(whats("weak-here", { outlet: "galley:cold" })[0]).toMatch(
      /screen or aerator of Galley tap/u,
    );
    expect(whats("weak-everywhere").join()).not.toMatch(/aerator/u);
    expect(whats("weak-everywhere").join()).toMatch(/Strainer is clogged/u);
  });

  it("its test parts the causes: both answers leave something, and together all of them", () => {
    for (const symptom of ["does-not-stop", "nothing-comes", "starts-alone", "pours"] as const) {
      const { causes, test } = explain({ network, symptom, lineup });
      expect(test?.yes.length).toBeGreaterThan(0);
      expect(test?.no.length).toBeGreaterThan(0);
      const told = causes.filter((c) => c.from === "worked out").length;
      expect((test?.yes.length ?? 0) + (test?.no.length ?? 0)).toBe(told);
    }
  });

  it("smell and colour are told as the trade knows them, and not as worked out", () => {
    for (const symptom of ["smell-hot", "smell-both", "brown"] as const) {
      const { causes } = explain({ network, symptom, lineup });
      expect(causes.length).toBeGreaterThan(2);
      expect(causes.every((c) => c.from === "common practice")).toBe(true);
    }
    expect(whats("smell-hot")[0]).toMatch(/sulphide/iu);
  });

  it("of a unit as it is used nothing is written down wrong, on any demo map", () => {
    for (const map of EXAMPLE_MAPS.filter((m) => m.id !== "yarrow")) {
      const used = buildNetwork(map);
      for (const symptom of SYMPTOM_NAMES)
        expect(
          explain({ network: used, symptom, lineup: inUseLineup(used) }).asWritten,
          `${map.name}: ${symptom}`,
        ).toBeUndefined();
    }
  });
});
