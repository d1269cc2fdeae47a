import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { teasel } from "../../examples/index.ts";
import { anyMap, doEdit, randomEdit } from "../../testing/random-maps.ts";
import { PART_KINDS, readWaterMap, type WaterMap } from "../index.ts";
import {
  addLoose,
  addOnPort,
  addOnPipeRun,
  changePart,
  changePipeRun,
  connect,
  connectToPipeRun,
  duplicate,
  type Edited,
  freshId,
  nextTag,
  partOf,
  removePart,
  removePipeRun,
  runsAt,
  slug,
} from "./index.ts";

const done = (edited: Edited): WaterMap => {
  if (!edited.ok) throw new Error(edited.problem);
  return edited.map;
};
const problem = (edited: Edited): string => (edited.ok ? "" : edited.problem);
const totalLength = (map: WaterMap): number => map.runs.reduce((sum, r) => sum + r.lengthM, 0);
const COLD = "r-t-gc-b-galley-cold";

describe("a part dropped on a pipe", () => {
  it("is spliced in: the pipe is cut, its length shared, its first piece keeps its identity", () => {
    const map = done(
      addOnPipeRun(teasel, "ball-valve", COLD, 0.25, { name: "Galley stop", tag: "V9" }),
    );
    const valve = map.parts.find((p) => p.tag === "V9");
    const [one, two] = runsAt(map, valve?.id ?? "");
    expect(one?.id).toBe(COLD);
    expect([one?.lengthM, two?.lengthM]).toEqual([0.225, 0.675]);
    expect(one?.to).toEqual({ part: valve?.id, port: "a" });
    expect(two?.to).toEqual({ part: "galley", port: "cold" });
    expect(valve?.place).toBe("galley, behind the kick panel");
  });

  it("hangs from a new tee where pipe ends at it", () => {
    const map = done(addOnPipeRun(teasel, "ice-maker", COLD, 0.5));
    const ice = map.parts.find((p) => p.kind === "ice-maker");
    const [branch] = runsAt(map, ice?.id ?? "");
    expect(partOf(map, branch?.from.part ?? "")?.kind).toBe("tee");
    expect(branch?.to.port).toBe("water");
    expect(branch?.service).toBe("cold");
  });

  it("takes its hot port on a hot pipe", () => {
    const map = done(addOnPipeRun(teasel, "outside-shower", "r-t-gh-b-galley-hot"));
    const made = map.parts.at(-1);
    expect(runsAt(map, made?.id ?? "")[0]?.to.port).toBe("hot");
  });

  it.each([...PART_KINDS.keys()].filter((k) => k !== "unknown-part").map((kind) => [kind]))(
    "%s, and the map stays sound",
    (kind) => {
      expect(readWaterMap(done(addOnPipeRun(teasel, kind, COLD))).ok).toBe(true);
    },
  );
});

describe("what cannot be done says why and changes nothing", () => {
  it.each([
    ["a pipe that is not there", addOnPipeRun(teasel, "tee", "nowhere"), 'no pipe "nowhere"'],
    ["a kind that is not there", addLoose(teasel, "teapot"), 'no part kind "teapot"'],
    [
      "a port in use",
      connect(teasel, { part: "galley", port: "cold" }, { part: "basin", port: "hot" }),
      "already has a pipe",
    ],
    [
      "a pipe back to the same part",
      connect(
        done(addLoose(teasel, "tee")),
        { part: "tee", port: "a" },
        { part: "tee", port: "b" },
      ),
      "another part",
    ],
    [
      "a port that is not there",
      addOnPort(teasel, "tee", { part: "galley", port: "top" }),
      'no port "top"',
    ],
    ["a part that is not there", removePart(teasel, "nowhere"), 'no part "nowhere"'],
    [
      "the same pipe",
      connectToPipeRun(
        done(removePipeRun(teasel, COLD)),
        { part: "galley", port: "cold" },
        "r-t-gh-b-galley-hot",
      ),
      "already leads to this part",
    ],
  ] as const)("%s", (_, edited, words) => {
    expect(problem(edited)).toContain(words);
  });
});

describe("taking out", () => {
  it("a valve heals the pipe: one run of the whole length, with the first one's identity", () => {
    const map = done(removePart(teasel, "v5"));
    expect(partOf(map, "v5")).toBeUndefined();
    expect(totalLength(map)).toBeCloseTo(totalLength(teasel), 9);
    expect(map.runs.find((r) => r.id === "r-t-hc-b-v5-a")?.to).toEqual({
      part: "heater-check",
      port: "in",
    });
    expect(map.lineup).toEqual(teasel.lineup);
  });

  it("an outlet takes its branches, and the tees that are left with two pipes", () => {
    const map = done(removePart(teasel, "galley"));
    for (const id of ["galley", "t-gc", "t-gh"]) expect(partOf(map, id), id).toBeUndefined();
    expect(map.runs.find((r) => r.id === "r-t-cold-c-t-gc-a")?.to.part).toBe("t-bc");
    expect(readWaterMap(map).ok).toBe(true);
  });

  it("a part takes its lineup, its corrections and its contents with it", () => {
    const kept = {
      ...teasel,
      modes: { drain: { v7: "open" } },
      contents: { v7: { waterM3: 0, glycolM3: 0 } },
    };
    const map = done(removePart(kept, "v7"));
    expect(map.lineup).toEqual({});
    expect(map.modes.drain).toEqual({});
    expect(map.contents).toEqual({});
  });

  it("what was just spliced in gives the map back as it was, but for rounding", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...teasel.runs.map((r) => r.id)),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (run, share) => {
          const added = addOnPipeRun(teasel, "ball-valve", run, share);
          const back = added.ok && added.part ? done(removePart(added.map, added.part)) : teasel;
          expect(back.runs.map((r) => r.id).toSorted()).toEqual(
            teasel.runs.map((r) => r.id).toSorted(),
          );
          expect(totalLength(back)).toBeCloseTo(totalLength(teasel), 2);
        },
      ),
      { seed: 21, numRuns: 100 },
    );
  });
});

describe("changing", () => {
  it("a typed length, size or height is no longer assumed; a name is no measurement", () => {
    const assumed = {
      ...teasel,
      parts: teasel.parts.map((p) => ({ ...p, assumed: true as const })),
      runs: teasel.runs.map((r) => ({ ...r, assumed: true as const })),
    };
    expect(
      done(changePipeRun(assumed, COLD, { lengthM: 1.1 })).runs.find((r) => r.id === COLD)?.assumed,
    ).toBeUndefined();
    expect(
      done(changePipeRun(assumed, COLD, { name: "x" })).runs.find((r) => r.id === COLD)?.assumed,
    ).toBe(true);
    expect(
      partOf(done(changePart(assumed, "heater", { params: { volumeL: 40 } })), "heater")?.assumed,
    ).toBeUndefined();
    expect(partOf(done(changePart(assumed, "heater", { tag: "H" })), "heater")?.assumed).toBe(true);
  });

  it("to another kind drops what it does not have, and the pipes on ports that are lost", () => {
    const map = done(changePart(teasel, "galley", { kind: "single-tap" }));
    expect(partOf(map, "galley")?.kind).toBe("single-tap");
    expect(runsAt(map, "galley").map((r) => r.service)).toEqual(["waste"]);
    expect(readWaterMap(map).ok).toBe(true);
  });

  it("a new place joins the walk round the unit", () => {
    expect(done(changePart(teasel, "v5", { place: "wardrobe" })).places.at(-1)).toBe("wardrobe");
  });

  it("null takes a field away, absent leaves it", () => {
    expect(partOf(done(changePart(teasel, "v5", { tag: null })), "v5")?.tag).toBeUndefined();
    expect(partOf(done(changePart(teasel, "v5", { name: "Y" })), "v5")?.tag).toBe("V5");
  });
});

describe("names", () => {
  it("ids, tags and copies never clash", () => {
    expect(slug("  Évier / Galley! ")).toBe("evier-galley");
    expect(slug("???")).toBe("part");
    expect(freshId(teasel, "Galley")).toBe("galley-2");
    expect(nextTag(teasel, "V")).toBe("V1");
    expect(nextTag({ parts: done(changePart(teasel, "v5", { tag: "V1" })).parts }, "V")).toBe("V3");
    const twice = done(duplicate(done(duplicate(teasel, "galley")), "galley"));
    expect(twice.parts.filter((p) => p.name.startsWith("Galley tap")).map((p) => p.name)).toEqual([
      "Galley tap",
      "Galley tap 2",
      "Galley tap 3",
    ]);
    expect(twice.parts.at(-1)?.tag).toBeUndefined();
  });
});

describe("any edits of any map", () => {
  it("leave it sound", () => {
    fc.assert(
      fc.property(anyMap, fc.array(randomEdit, { minLength: 1, maxLength: 8 }), (map, edits) => {
        const after = edits.reduce(doEdit, map);
        const read = readWaterMap(after);
        expect(read.ok ? [] : read.problems).toEqual([]);
      }),
      { seed: 31, numRuns: 200 },
    );
  });
});
