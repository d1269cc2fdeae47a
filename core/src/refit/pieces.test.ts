import { uniformInt } from "pure-rand/distribution/uniformInt";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { PATTERNS, starterMap } from "../patterns/index.ts";
import { compareMaps } from "../survey/index.ts";
import { addOnPipeRun, changePart, removePart, type WaterMap } from "../watermap/index.ts";
import { adopt, piecesOf } from "./index.ts";

const demo = (id: string): WaterMap => {
  const found = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!found) throw new Error(id);
  return found;
};

/** A map after some changes drawn by lot: what a technician might propose. */
const changed = (map: WaterMap, seed: number, changes: number): WaterMap => {
  const stream = xoroshiro128plus(seed);
  const lot = <T>(of: readonly T[]): T => of[uniformInt(stream, 0, of.length - 1)] as T;
  let now = map;
  for (let i = 0; i < changes; i++) {
    const run = lot(now.runs);
    const part = lot(now.parts);
    const next = [
      () => addOnPipeRun(now, lot(["check-valve", "ball-valve", "tee", "elbow"]), run.id, 0.4),
      () => removePart(now, part.id),
      () => changePart(now, part.id, { name: `${part.name} II`.slice(0, 60) }),
      () => changePart(now, part.id, { place: "new locker" }),
      () => ({
        ok: true as const,
        map: { ...now, runs: now.runs.map((r) => (r === run ? { ...r, pipe: "pex-1/2" } : r)) },
      }),
    ][uniformInt(stream, 0, 4)]?.();
    if (next?.ok) now = next.map;
  }
  return now;
};

/** Without the order in which a file lists what it has. */
const plain = (map: WaterMap): unknown => {
  const by = (a: { id: string }, b: { id: string }): number => (a.id < b.id ? -1 : 1);
  return {
    ...map,
    parts: map.parts.toSorted(by),
    runs: map.runs.toSorted(by),
    places: map.places.toSorted(),
  };
};
const maps = [...EXAMPLE_MAPS, ...PATTERNS.slice(0, 6).map((p) => starterMap(p))];
const cases = maps.flatMap((map, i) =>
  [1, 2, 3].map((k): [string, WaterMap, WaterMap] => [
    `${map.name}, ${k}`,
    map,
    changed(map, i * 31 + k, 3 + 4 * k),
  ]),
);
const mapOf = (result: ReturnType<typeof adopt>): WaterMap => {
  if (!result.ok) throw new Error(result.problem);
  return result.map;
};

describe("a proposal in pieces", () => {
  it.each(cases)("%s: all of them give the proposed map, none gives today's", (_, today, then) => {
    const pieces = piecesOf(today, then).map((p) => p.id);
    expect(mapOf(adopt(today, then, pieces))).toEqual({ ...then, id: today.id });
    expect(mapOf(adopt(today, then, []))).toEqual(today);
    expect(piecesOf(today, today)).toEqual([]);
  });

  it.each(cases)(
    "%s: any order, one after another, ends the same, sound all along",
    (_, today, then) => {
      const stream = xoroshiro128plus(7);
      let now = today;
      const names = new Set(piecesOf(today, then).map((p) => p.id));
      for (let left = piecesOf(now, then); left.length > 0; left = piecesOf(now, then)) {
        // A piece that is open keeps its name while others go in.
        for (const p of left) expect(names).toContain(p.id);
        const next = left[uniformInt(stream, 0, left.length - 1)];
        now = mapOf(adopt(now, then, [next?.id ?? ""]));
        expect(piecesOf(now, then).map((p) => p.id)).not.toContain(next?.id);
      }
      expect(plain(now)).toEqual(plain({ ...then, id: today.id }));
    },
  );

  it("of half of them, changes nothing but those: identities of what stays survive", () => {
    for (const [, today, then] of cases) {
      const pieces = piecesOf(today, then);
      const half = pieces.filter((_, i) => i % 2 === 0);
      const now = mapOf(
        adopt(
          today,
          then,
          half.map((p) => p.id),
        ),
      );
      const touched = new Set(half.flatMap((p) => [...p.parts, ...p.runs]));
      const others = compareMaps(today, now).filter(
        (d) => (d.what === "part" || d.what === "run") && !touched.has(d.id),
      );
      expect(others).toEqual([]);
    }
  });

  it("a check put into a pipe is one piece with both halves of that pipe; a new name elsewhere is another", () => {
    const haywain = demo("haywain");
    const run = haywain.runs.find((r) => r.service === "cold");
    const done = addOnPipeRun(haywain, "check-valve", run?.id ?? "", 0.5);
    if (!done.ok) throw new Error(done.problem);
    const other = haywain.parts.find((p) => p.kind === "fresh-tank");
    const then = changePart(done.map, other?.id ?? "", { name: "Water tank" });
    if (!then.ok) throw new Error(then.problem);
    const pieces = piecesOf(haywain, then.map);
    expect(
      pieces
        .map((p) => [p.parts.length, p.runs.length])
        .toSorted(([a, b], [c, d]) => (a ?? 0) - (c ?? 0) || (b ?? 0) - (d ?? 0)),
    ).toEqual([
      [1, 0],
      [1, 2],
    ]);
    const wrong = adopt(haywain, then.map, ["ghost"]);
    expect(wrong.ok ? "" : wrong.problem).toContain("no piece");
  });
});
