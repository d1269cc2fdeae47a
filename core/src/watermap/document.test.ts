import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS, teasel } from "../examples/index.ts";
import { extraOutsideShower, noBypass, noPickup, singleValveBypass } from "../testing/variants.ts";
import { buildNetwork, readWaterMap } from "./index.ts";

const problems = (data: unknown): string[] => {
  const read = readWaterMap(data);
  return read.ok ? [] : read.problems.map((p) => `${p.where}: ${p.problem}`);
};

describe("reading a water map", () => {
  it.each(
    [...EXAMPLE_MAPS, noBypass(), singleValveBypass(), extraOutsideShower(), noPickup()].map(
      (m) => [m.name, m] as const,
    ),
  )("takes %s", (_, map) => {
    expect(problems(JSON.parse(JSON.stringify(map)))).toEqual([]);
  });

  it("names unknown fields instead of dropping them", () => {
    expect(problems({ ...teasel, colour: "green" })).toEqual([expect.stringContaining("colour")]);
  });

  const firstPart = teasel.parts[0];
  const firstRun = teasel.runs[0];
  it.each([
    [
      "an unknown kind",
      { ...teasel, parts: [{ ...firstPart, kind: "teapot" }, ...teasel.parts.slice(1)] },
      "parts[0].kind",
    ],
    [
      "a parameter that the kind lacks",
      { ...teasel, parts: [{ ...firstPart, params: { spout: 3 } }, ...teasel.parts.slice(1)] },
      "parts[0].params.spout",
    ],
    [
      "a parameter out of range",
      {
        ...teasel,
        parts: teasel.parts.map((p) => (p.id === "heater" ? { ...p, params: { volumeL: -3 } } : p)),
      },
      "params.volumeL",
    ],
    [
      "a run to nowhere",
      {
        ...teasel,
        runs: [{ ...firstRun, to: { part: "nowhere", port: "in" } }, ...teasel.runs.slice(1)],
      },
      "runs[0].to",
    ],
    [
      "a port that is not there",
      {
        ...teasel,
        runs: [{ ...firstRun, to: { part: "pump", port: "side" } }, ...teasel.runs.slice(1)],
      },
      'no port "side"',
    ],
    [
      "a port used twice",
      { ...teasel, runs: [...teasel.runs, { ...firstRun, id: "again" }] },
      "already holds run",
    ],
    ["an id used twice", { ...teasel, parts: [...teasel.parts, firstPart] }, "used twice"],
    [
      "an unknown pipe",
      { ...teasel, runs: [{ ...firstRun, pipe: "straw" }, ...teasel.runs.slice(1)] },
      'no pipe is called "straw"',
    ],
    ["a position that is not there", { ...teasel, lineup: { v5: "ajar" } }, "lineup.v5"],
    ["a control that is not there", { ...teasel, lineup: { v99: "open" } }, "no such control"],
    [
      "a negative length",
      { ...teasel, runs: [{ ...firstRun, lengthM: -1 }, ...teasel.runs.slice(1)] },
      "runs[0].lengthM",
    ],
    ["something else", [1, 2, 3], "document"],
    ["a newer version", { ...teasel, version: 4 }, "version"],
  ])("refuses %s and says where", (_, data, where) => {
    expect(problems(data).join("\n")).toContain(where);
  });

  it("brings documents of version 2 up: a part that held in one place is named with its cell, a run and a side as they were", () => {
    const old = {
      ...teasel,
      version: 2,
      contents: {
        heater: { waterM3: 0.002, glycolM3: 0 },
        "galley:hot": { waterM3: 0, glycolM3: 0 },
        [teasel.runs[0]?.id ?? ""]: { waterM3: 0, glycolM3: 1e-6 },
      },
    };
    const read = readWaterMap(old);
    expect(read.ok && Object.keys(read.map.contents)).toEqual([
      "heater:vessel",
      "galley:hot",
      teasel.runs[0]?.id,
    ]);
    // Also in a new document a part that holds in one place may be named alone; one that holds in several may not.
    const bare = readWaterMap({ ...teasel, contents: { heater: { waterM3: 0, glycolM3: 0 } } });
    expect(bare.ok && Object.keys(bare.map.contents)).toEqual(["heater:vessel"]);
    expect(problems({ ...teasel, contents: { galley: { waterM3: 0, glycolM3: 0 } } })).toEqual([
      expect.stringContaining("contents.galley"),
    ]);
    expect(
      problems({ ...teasel, contents: { "heater:attic": { waterM3: 0, glycolM3: 0 } } }),
    ).toHaveLength(1);
  });

  it("knows the only cell of every kind that version 2 named by the part alone", () => {
    for (const part of EXAMPLE_MAPS.flatMap((m) => m.parts.map((p) => ({ ...p, map: m })))) {
      const cells = buildNetwork(part.map).cells.filter((c) => c.ownerId === part.id);
      if (cells.length !== 1) continue;
      const read = readWaterMap({
        ...part.map,
        version: 2,
        contents: { [part.id]: { waterM3: 0, glycolM3: 0 } },
      });
      expect(read.ok && Object.keys(read.map.contents), part.kind).toEqual([cells[0]?.id]);
    }
  });
});
