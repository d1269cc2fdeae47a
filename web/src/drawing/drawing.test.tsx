import { product, startingContents, water } from "@uppershed/core/contents";
import { buildScene, inkOf, pathOf } from "@uppershed/core/drawing";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { planWinterize, standardRequest, startPhysical } from "@uppershed/core/procedure";
import { buildNetwork, inUseLineup, layOut } from "@uppershed/core/watermap";
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { PaperMap } from "./map-drawing.tsx";
import { sayPart } from "./say-part.ts";

afterEach(cleanup);

const [map] = EXAMPLE_MAPS;
if (!map) throw new Error("no demo map");
const network = buildNetwork(map);
const layout = layOut(map);
const plan = planWinterize(standardRequest(network, startPhysical(network)));
const inUse = buildScene(network, startingContents(network), inUseLineup(network), layout);
const done = buildScene(network, plan.after.contents, plan.after.lineup, layout);
const say = (scene: typeof inUse, id: string): string => {
  const part = scene.parts.find((p) => p.part.id === id);
  return part ? sayPart(network, part) : "";
};

describe("inks", () => {
  it.each([
    ["nothing", { waterM3: 0, glycolM3: 0 }, "empty"],
    ["water", water(1), "water"],
    ["water with a trace", product(1, 0.005), "water"],
    ["thinned antifreeze", product(1, 0.12), "weak"],
    ["antifreeze", product(1, 0.4), "antifreeze"],
  ] as const)("show %s", (_, liquid, ink) => {
    expect(inkOf(liquid)).toBe(ink);
  });
});

describe("the drawing in words", () => {
  it("says how a part stands and what it holds, before and after", () => {
    expect(say(inUse, "v7")).toBe("V7, Bypass, shut, 100 % full of water");
    expect(say(done, "v7")).toBe("V7, Bypass, open, 100 % full of antifreeze");
    expect(say(inUse, "v2")).toContain("Suction selector, tank");
    expect(say(done, "heater")).toMatch(
      /^Heater, drain plug out, left in the housing, relief valve shut, 5 % full of weak antifreeze$/u,
    );
  });
});

describe("pipes", () => {
  it("hump over the pipes that they cross", () => {
    const bridged = layout.runs.filter((r) => r.bridges.length > 0);
    expect(bridged.length).toBeGreaterThan(0);
    for (const run of bridged) expect(pathOf(run).match(/A/gu)).toHaveLength(run.bridges.length);
    const straight = layout.runs.find((r) => r.bridges.length === 0);
    expect(straight && pathOf(straight)).toMatch(/^M[-\d .]+L/u);
  });

  it("hold what the engine says: the deck shower's branch is water before and antifreeze after", () => {
    const branch = (scene: typeof inUse) =>
      scene.pipes.find((p) => p.laid.id === "r-t-sc-c-deck-shower-cold");
    expect(branch(inUse)?.plugs.map((p) => inkOf(p.liquid))).toEqual(["water"]);
    expect(branch(done)?.plugs.map((p) => inkOf(p.liquid))).toEqual(["antifreeze"]);
    expect(branch(done)?.share).toBeCloseTo(1, 6);
  });
});

describe("the map on paper", () => {
  it("has every part and every pipe", () => {
    const { container } = render(<PaperMap scene={done} name={map.name} />);
    expect(screen.getByRole("img", { name: "Water map of Teasel, as left" })).toBeTruthy();
    expect(container.querySelectorAll("g[data-run]")).toHaveLength(map.runs.length);
    for (const name of ["Heater", "Toilet"]) expect(container.textContent).toContain(name);
  });
});
