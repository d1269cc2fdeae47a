import { describe, expect, it } from "vitest";
import { addOnPipeRun } from "@uppershed/core/watermap";
import { piecesOf } from "@uppershed/core/refit";
import { compareMaps } from "@uppershed/core/survey";
import { mapOf } from "../testing/house.tsx";
import type { RefitHere } from "./use-refit.ts";
import { sumOf, workItems } from "./work.ts";

const today = mapOf("haywain");
const run = today.runs.find((r) => r.service === "cold");
const done = addOnPipeRun(today, "check-valve", run?.id ?? "", 0.5);
if (!done.ok) throw new Error(done.problem);
const proposed = done.map;
const here = (work: Record<string, { state: string }>, adopted: string[] = []): RefitHere =>
  ({
    onFile: { refit: { work, adopted: [{ of: adopted, pieces: [] }] } },
    today: adopted.length > 0 ? proposed : today,
    revision: 1,
    proposed,
    clashes: [],
    differences: compareMaps(today, proposed),
    pieces: adopted.length > 0 ? [] : piecesOf(today, proposed),
  }) as unknown as RefitHere;

describe("the work on a refit", () => {
  it("is about every part and pipe of its pieces, and adds pipe up by its length", () => {
    const items = workItems(here({}));
    expect(items.filter((i) => !i.goes && i.lengthM === undefined)).toHaveLength(1);
    const sum = sumOf(items);
    expect(sum.of).toBe(items.filter((i) => !i.goes).length);
    expect(sum.joints).toBe(2 * items.filter((i) => !i.goes && i.lengthM !== undefined).length);
    expect(sum.lengthM).toBeCloseTo(run?.lengthM ?? Number.NaN, 6);
    expect(sum.all.map((s) => s.count)).toEqual([0, 0, 0, 0]);
  });

  it("what is tested has been cut and installed too", () => {
    const check = proposed.parts.find((p) => !today.parts.some((t) => t.id === p.id))?.id ?? "";
    const sum = sumOf(workItems(here({ [check]: { state: "tested" } })));
    expect(sum.all.map((s) => [s.state, s.count])).toEqual([
      ["cut", 1],
      ["installed", 1],
      ["tested", 1],
      ["closed", 0],
    ]);
  });

  it("goes on with what is on the unit's map already, and says so", () => {
    const ids = piecesOf(today, proposed).flatMap((p) => [...p.parts, ...p.runs]);
    const items = workItems(here({}, ids));
    expect(items.length).toBeGreaterThan(0);
    expect(items.every((i) => i.isIn && !i.goes)).toBe(true);
  });
});
