import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { compose, part, run } from "../../examples/compose.ts";
import { EXAMPLE_MAPS, teasel } from "../../examples/index.ts";
import {
  extraOutsideShower,
  noBypass,
  noPickup,
  shuffled,
  singleValveBypass,
  without,
} from "../../testing/variants.ts";
import { PATTERNS, starterMap } from "../../patterns/index.ts";
import { anyMap } from "../../testing/random-maps.ts";
import { addOnPipeRun, type WaterMap } from "../index.ts";
import { type Box, boxAt, overlaps } from "./geometry.ts";
import { layOut, type MapLayout } from "./index.ts";

const maps = [...EXAMPLE_MAPS, noBypass(), singleValveBypass(), extraOutsideShower(), noPickup()];

/** A random boat: a tank, a pump, and a random tree of tees with taps and drains on it. */
const randomMap: fc.Arbitrary<WaterMap> = fc
  .array(fc.tuple(fc.nat(), fc.constantFrom("single-tap", "low-point-drain", "ball-valve")), {
    minLength: 1,
    maxLength: 14,
  })
  .map((branches) => {
    const parts = [
      part("tank", "fresh-tank", "Tank", 0),
      part("pump", "diaphragm-pump", "Pump", 0),
      part("t0", "tee", "Tee 0", 0),
    ];
    const runs = [
      run("tank.outlet", "pump.in", "hose-13", 1, "suction"),
      run("pump.out", "t0.a", "hose-13", 1, "cold"),
    ];
    const open = ["t0.b", "t0.c"];
    branches.forEach(([pick, kind], i) => {
      const from = open.splice(pick % open.length, 1)[0] ?? "t0.b";
      if (kind === "ball-valve") {
        parts.push(
          part(`v${i}`, kind, `Valve ${i}`, 0),
          part(`t${i + 1}`, "tee", `Tee ${i + 1}`, 0),
        );
        runs.push(
          run(from, `v${i}.a`, "metric-15", 1, "cold"),
          run(`v${i}.b`, `t${i + 1}.a`, "metric-15", 1, "cold"),
        );
        open.push(`t${i + 1}.b`, `t${i + 1}.c`);
      } else {
        parts.push(part(`end${i}`, kind, `End ${i}`, 0));
        runs.push(run(from, `end${i}.in`, "metric-15", 1, "cold"));
        if (open.length === 0) {
          parts.push(part(`t${i + 1}`, "tee", "Tee", 0));
          open.push(`t${i + 1}.b`, `t${i + 1}.c`);
        }
      }
    });
    return compose({ id: "random", name: "Random", craft: "bench" }, parts, runs);
  });

const boxes = (layout: MapLayout): { id: string; box: Box }[] =>
  layout.parts.map((p) => ({ id: p.id, box: boxAt(p.at, p) }));

const expectSound = (map: WaterMap): void => {
  const layout = layOut(map);
  expect(layout.parts.map((p) => p.id).sort()).toEqual(map.parts.map((p) => p.id).sort());
  expect(layout.runs.map((r) => r.id).sort()).toEqual(map.runs.map((r) => r.id).sort());
  const all = boxes(layout);
  all.forEach((a, i) =>
    all
      .slice(i + 1)
      .forEach((b) => expect(overlaps(a.box, b.box), `${a.id} over ${b.id}`).toBe(false)),
  );
  // No pipe runs through a symbol: only its own ends may touch one.
  for (const r of layout.runs)
    r.points.forEach((p, i) => {
      const q = r.points[i + 1];
      if (!q) return;
      expect(p.x === q.x || p.y === q.y, `${r.id} is orthogonal`).toBe(true);
      for (const { id, box } of all) {
        const inside = {
          left: box.left + 0.1,
          right: box.right - 0.1,
          top: box.top + 0.1,
          bottom: box.bottom - 0.1,
        };
        if (inside.left >= inside.right) continue;
        const stretch = {
          left: Math.min(p.x, q.x),
          right: Math.max(p.x, q.x),
          top: Math.min(p.y, q.y),
          bottom: Math.max(p.y, q.y),
        };
        expect(overlaps(inside, stretch), `${r.id} through ${id}`).toBe(false);
      }
    });
  layout.labels.forEach((a, i) =>
    layout.labels
      .slice(i + 1)
      .forEach((b) => expect(overlaps(a.box, b.box), `${a.text} over ${b.text}`).toBe(false)),
  );
};

describe("the drawing", () => {
  it.each(maps.map((m) => [`${m.name}, ${m.parts.length} parts`, m] as const))(
    "of %s has every part, nothing on top of anything",
    (_, map) => expectSound(map),
  );

  const torn = EXAMPLE_MAPS.slice(1, 4).flatMap((map) =>
    map.parts.map((p) => [`${map.name} without ${p.name}`, without(map, [p.id])] as const),
  );
  it.each(torn)("of %s still has every part, nothing on top of anything", (_, map) =>
    expectSound(map),
  );

  it("of any tree of pipes has every part, nothing on top of anything", () => {
    fc.assert(fc.property(randomMap, expectSound), { seed: 5, numRuns: 60 });
  });

  it("of any map somebody has been at has every part, nothing on top of anything, and is the same twice", () => {
    fc.assert(
      fc.property(anyMap, (map) => {
        expectSound(map);
        expect(layOut(shuffled(map))).toEqual(layOut(map));
      }),
      { seed: 81, numRuns: 40 },
    );
  }, 60_000);

  it.each(PATTERNS.map((p) => [p.label, starterMap(p)] as const))(
    "of the family %s has every part, nothing on top of anything",
    (_, map) => expectSound(map),
  );

  it("a small edit moves little: a valve spliced into a branch leaves the other parts beside each other as they were", () => {
    const added = addOnPipeRun(teasel, "ball-valve", "r-t-sc-b-shower-cold");
    const [before, after] = [layOut(teasel), layOut(added.ok ? added.map : teasel)];
    const moves = before.parts.map((p) => {
      const now = after.parts.find((q) => q.id === p.id)?.at ?? p.at;
      return `${now.x - p.at.x},${now.y - p.at.y}`;
    });
    const count = new Map<string, number>();
    for (const m of moves) count.set(m, (count.get(m) ?? 0) + 1);
    expect(Math.max(...count.values())).toBeGreaterThan(teasel.parts.length * 0.6);
  });

  it.each(maps.map((m) => [`${m.name}, ${m.parts.length} parts`, m] as const))(
    "of %s is the same twice, however the parts are stored",
    (_, map) => {
      expect(layOut(shuffled(map))).toEqual(layOut(map));
    },
  );

  it("has sources left of outlets, the hot main above the cold, waste below", () => {
    const layout = layOut(teasel);
    const where = (id: string) => layout.parts.find((p) => p.id === id)?.at ?? { x: 0, y: 0 };
    for (const outlet of ["galley", "basin", "shower", "deck-shower", "toilet"])
      for (const source of ["fresh-tank", "shore-inlet", "pump"])
        expect(where(source).x).toBeLessThan(where(outlet).x);
    expect(where("t-gh").y).toBeLessThan(where("galley").y);
    expect(where("galley").y).toBeLessThan(where("t-gc").y);
    expect(where("t-gc").y).toBeLessThan(where("trap-galley").y);
    expect(where("trap-galley").y).toBeLessThan(where("grey-tank").y);
  });

  it("says which way water runs in use", () => {
    const layout = layOut(teasel);
    const forward = (id: string) => layout.runs.find((r) => r.id === id)?.forward;
    expect(forward("r-pump-out-t-join-a")).toBe(true);
    expect(forward("r-fresh-tank-outlet-v2-a")).toBe(true);
    expect(forward("r-galley-waste-trap-galley-in")).toBe(true);
    for (const hot of ["r-t-d2-c-t-gh-a", "r-t-gh-b-galley-hot", "r-t-sh-c-deck-shower-hot"])
      expect(forward(hot), hot).toBe(true);
  });

  it("moves a nudged part and little else", () => {
    const nudged = {
      ...teasel,
      parts: teasel.parts.map((p) => (p.id === "grey-tank" ? { ...p, nudge: { x: -6, y: 1 } } : p)),
    };
    const [before, after] = [layOut(teasel), layOut(nudged)];
    const moved = after.parts.filter(
      (p, i) => p.at.x !== before.parts[i]?.at.x || p.at.y !== before.parts[i]?.at.y,
    );
    expect(moved.map((p) => p.id)).toEqual(["grey-tank"]);
  });
});
