import { frostVerdict, product } from "@uppershed/core/contents";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { type RunBegins } from "@uppershed/core/procedure";
import { contentsToStart } from "@uppershed/core/simulation";
import { buildNetwork } from "@uppershed/core/watermap";
import { describe, expect, it } from "vitest";
import { leftOn } from "./left-on.ts";

const [map] = EXAMPLE_MAPS;
if (!map) throw new Error("no map");
const network = buildNetwork(map);
const cell = network.cells.findIndex((c) => c.id === "galley:cold");
const id = network.cells[cell]?.id ?? "";
const capacityM3 = network.cells[cell]?.capacityM3 ?? 0;

const begins = (measured: Record<string, number>): RunBegins => ({
  from: "record",
  at: "2026-11-01T10:00:00.000Z",
  runId: null,
  lineup: { v5: "shut", gone: "open" },
  apart: [],
  contents: {
    [id]: { plugs: [product(capacityM3, 0.4)], source: "worked out" },
    "a part that is gone": { plugs: [product(1e-3, 0.5)], source: "worked out" },
  },
  measured,
});

const strengthAt = (measured: Record<string, number>): number => {
  const { start } = leftOn(network, begins(measured));
  const contents = contentsToStart(network, start);
  return frostVerdict(network, contents).cells[cell]?.strength ?? Number.NaN;
};

describe("a trial that begins as the unit was left", () => {
  it("holds what was worked out, and what was read where somebody read it", () => {
    expect(strengthAt({})).toBeCloseTo(0.4, 9);
    expect(strengthAt({ [id]: 0.3 })).toBeCloseTo(0.3, 9);
  });

  it("leaves out what is no longer on the map", () => {
    const { start, lineup } = leftOn(network, begins({}));
    expect(lineup).toEqual({ v5: "shut" });
    expect(Object.keys((start as { held: object }).held)).toEqual([id]);
  });

  it("of a unit whose contents nobody has written down takes the lineup only", () => {
    expect(leftOn(network, { ...begins({}), contents: null })).toEqual({
      start: "in use",
      lineup: { v5: "shut" },
    });
  });
});
