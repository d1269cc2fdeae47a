import { describe, expect, it } from "vitest";
import { compose, part, run } from "../examples/compose.ts";
import { EXAMPLE_MAPS, teasel } from "../examples/index.ts";
import { networkOf, shuffled } from "../testing/variants.ts";
import {
  cellAt,
  apartOpeningId,
  cellName,
  handleOf,
  inUseLineup,
  liveOpenings,
  passableLinks,
  PIPE_SYSTEMS,
  pipeVolumeM3,
  positionLabel,
} from "./index.ts";

const network = networkOf(teasel);
const cell = (id: string) => network.cells[cellAt(network, id)];
const control = (key: string) => {
  const found = network.controls.find((c) => c.key === key);
  if (!found) throw new Error(key);
  return found;
};

describe("pipes", () => {
  // ASTM F876/F877, PEX SDR-9: gallons per 100 ft by nominal size, from memory.
  it.each([
    ["pex-3/8", 0.5],
    ["pex-1/2", 0.921],
    ["pex-3/4", 1.837],
  ])("%s holds %d US gal per 100 ft", (pipe, gallons) => {
    const bore = PIPE_SYSTEMS.get(pipe)?.boreM ?? 0;
    expect(pipeVolumeM3(bore, 100 * 0.3048) / 3.785411784e-3).toBeCloseTo(gallons, 2);
  });

  it("15 mm metric tube holds 0.108 L a metre (BS 7291 bore, from memory)", () => {
    expect(pipeVolumeM3(PIPE_SYSTEMS.get("metric-15")?.boreM ?? 0, 1) * 1000).toBeCloseTo(0.108, 3);
  });

  it("have a wall: the bore is smaller than the outside", () => {
    for (const system of PIPE_SYSTEMS.values()) expect(system.boreM).toBeLessThan(system.outsideM);
  });
});

describe("a map taken apart", () => {
  it("has a cell for every run and at least one for every part, none without a volume", () => {
    for (const map of EXAMPLE_MAPS) {
      const taken = networkOf(map);
      const owners = new Set(taken.cells.map((c) => c.ownerId));
      for (const id of [...map.parts, ...map.runs].map((x) => x.id)) expect(owners).toContain(id);
      // Only the neck before a check, a pump or a regulator holds nothing.
      for (const c of taken.cells)
        expect(c.capacityM3 > 0 || c.name.endsWith("-neck"), c.id).toBe(true);
    }
  });

  it("is the same however the parts are stored", () => {
    const other = networkOf(shuffled(teasel));
    expect(other.cells.map((c) => c.id)).toEqual(network.cells.map((c) => c.id));
    expect(other.links).toEqual(network.links);
  });

  it("gives a run its length's volume and its sag's", () => {
    expect(cell("r-t-gc-c-t-bc-a")?.capacityM3).toBeCloseTo(pipeVolumeM3(0.0117, 2.6), 12);
    expect(cell("r-t-gc-c-t-bc-a")?.sagM3).toBeCloseTo(pipeVolumeM3(0.0117, 0.4), 12);
    expect(cell("r-t-gc-c-t-bc-a")?.bottomM).toBeCloseTo(0.15, 12);
  });

  it("names cells as a technician would", () => {
    const name = (id: string) => cellName(network, cellAt(network, id));
    expect(name("galley:hot")).toBe("Galley tap, hot cartridge");
    expect(name("r-t-d1-c-t-cold-a")).toBe("cold main, at the heater");
    expect(name("r-t-d1-b-d1-in")).toBe("pipe from Tee to D1 to Cold low-point drain");
    expect(name("heater")).toBe("Heater");
    expect(cellName(network, -1)).toBe("unknown");
  });

  it("says how a handle lies, and what a three-way valve's positions join", () => {
    expect(handleOf(control("v5"), "open")).toBe("handle in line");
    expect(handleOf(control("v5"), "shut")).toBe("handle across");
    expect(positionLabel(control("v2"), "a")).toBe("tank");
    expect(handleOf(control("v2"), "b")).toBe("handle to pickup");
    expect(positionLabel(control("pickup"), "in jug")).toBe("in the jug");
  });

  it("stands for use as its kinds say, but for what the map says", () => {
    const lineup = inUseLineup(network);
    expect(lineup).toMatchObject({
      v5: "open",
      v6: "open",
      v7: "shut",
      v2: "a",
      pump: "on",
      d1: "shut",
      "heater:plug": "shut",
      "galley:cold": "shut",
    });
    expect(Object.keys(lineup)).toHaveLength(network.controls.length);
  });
});

describe("a lineup", () => {
  const open = (lineup: Record<string, string>) =>
    passableLinks({ network, lineup: { ...inUseLineup(network), ...lineup }, apart: [] }).filter(
      Boolean,
    ).length;

  it("opens and shuts ways: a shut ball valve both its ports", () => {
    expect(open({ v5: "shut" })).toBe(open({}) - 2);
    expect(open({ v7: "open" })).toBe(open({}) + 2);
    expect(open({ v2: "b" })).toBe(open({}));
  });

  it("opens openings: a tap its spout, a plug its hole; vents stand open always", () => {
    const ids = (lineup: Record<string, string>) =>
      liveOpenings({ network, lineup: { ...inUseLineup(network), ...lineup }, apart: [] }).map(
        (o) => o.id,
      );
    expect(ids({})).toContain("fresh-tank:vent");
    expect(ids({})).not.toContain("galley:cold");
    expect(ids({ "galley:cold": "open" })).toContain("galley:cold");
    expect(ids({ "heater:plug": "open" })).toContain("heater:plug");
  });
});

describe("an undone pipe end", () => {
  const bench = networkOf(
    compose(
      { id: "b", name: "Bench", craft: "bench" },
      [part("tank", "fresh-tank", "Tank", 1), part("tap", "single-tap", "Tap", 0.5)],
      [run("tank.outlet", "tap.in", "pex-1/2", 1, "cold")],
    ),
  );
  const end = { run: "r-tank-outlet-tap-in", end: "to" as const, jug: true };
  const situation = { network: bench, lineup: inUseLineup(bench), apart: [end] };

  it("passes nothing, and makes two openings: one on the pipe, one on the part", () => {
    const before = passableLinks({ ...situation, apart: [] }).filter(Boolean).length;
    expect(passableLinks(situation).filter(Boolean)).toHaveLength(before - 1);
    const made = liveOpenings(situation).filter((o) => o.id.startsWith(end.run));
    expect(made.map((o) => o.use).sort()).toEqual(["bowl", "pickup"]);
    expect(made.find((o) => o.use === "pickup")?.id).toBe(apartOpeningId(end));
  });

  it("of a run that is not there changes nothing", () => {
    expect(liveOpenings({ ...situation, apart: [{ ...end, run: "nowhere" }] })).toHaveLength(
      liveOpenings({ ...situation, apart: [] }).length,
    );
  });
});
