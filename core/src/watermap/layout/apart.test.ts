import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../../examples/index.ts";
import { PATTERNS, starterMap } from "../../patterns/index.ts";
import { systemOf } from "../../testing/random-systems.ts";
import { layApart } from "./apart.ts";
import { layOut, type Point } from "./index.ts";

const at = (x: number, y: number): Point => ({ x, y });
const LONGER_THAN = 0.05;

/** Stretches on which two pipes lie over each other, by plain geometry. */
const over = (ways: Iterable<readonly [string, readonly Point[]]>): string[] => {
  const pieces = [...ways].flatMap(([id, points]) =>
    points.slice(1).map((q, i) => ({ id, p: points[i] as Point, q })),
  );
  return pieces.flatMap((a, n) =>
    pieces.slice(n + 1).flatMap((b) => {
      if (a.id === b.id) return [];
      const shared = (u: "x" | "y", v: "x" | "y"): number =>
        [a.q[v], b.p[v], b.q[v]].every((w) => Math.abs(w - a.p[v]) < LONGER_THAN)
          ? Math.min(Math.max(a.p[u], a.q[u]), Math.max(b.p[u], b.q[u])) -
            Math.max(Math.min(a.p[u], a.q[u]), Math.min(b.p[u], b.q[u]))
          : 0;
      return Math.max(shared("x", "y"), shared("y", "x")) > LONGER_THAN
        ? [`${a.id} / ${b.id}`]
        : [];
    }),
  );
};

describe("no pipe is drawn over another", () => {
  it.each([...EXAMPLE_MAPS, ...PATTERNS.map(starterMap)].map((m) => [m.id, m] as const))(
    "%s",
    (_, map) => {
      expect(over(layOut(map).runs.map((r) => [r.id, r.points] as const))).toEqual([]);
    },
  );

  it("hostile systems, seeded", () => {
    for (let seed = 880_001; seed <= 880_060; seed++)
      expect(
        over(layOut(systemOf(seed)).runs.map((r) => [r.id, r.points] as const)),
        String(seed),
      ).toEqual([]);
  });
});

describe("pipes laid over each other", () => {
  const laid = new Map([
    ["a", [at(0, 0), at(10, 0)]],
    ["b", [at(2, 5), at(2, 0), at(8, 0), at(8, 5)]],
    ["c", [at(3, -5), at(3, 0), at(7, 0), at(7, -5)]],
  ]);

  it("are taken apart, each beside its place, and still begin and end where they did", () => {
    expect(over(laid)).not.toEqual([]);
    const ways = layApart(laid, () => true);
    expect(over(ways)).toEqual([]);
    // What hangs on ports stays.
    expect(ways.get("a")).toEqual(laid.get("a"));
    for (const [id, points] of ways) {
      expect([points[0], points.at(-1)]).toEqual([laid.get(id)?.[0], laid.get(id)?.at(-1)]);
      points
        .slice(1)
        .forEach((q, i) => expect(q.x === points[i]?.x || q.y === points[i]?.y).toBe(true));
    }
  });

  it("that both hang on ports leave them by a jog", () => {
    const ways = layApart(
      new Map([
        ["a", [at(0, 0), at(6, 0), at(6, 4)]],
        ["b", [at(10, 0), at(4, 0), at(4, -4)]],
      ]),
      () => true,
    );
    expect(over(ways)).toEqual([]);
    expect([...ways.values()].map((points) => [points[0], points.at(-1)])).toEqual([
      [at(0, 0), at(6, 4)],
      [at(10, 0), at(4, -4)],
    ]);
  });

  it("stay where they are sooner than stand in a part, and where nothing lies over anything", () => {
    const upward = layApart(laid, (along, place) => along !== "x" || place.at <= 0);
    expect(upward.get("b")?.[1]?.y).toBeLessThan(0);
    const apart = new Map([
      ["a", [at(0, 0), at(10, 0)]],
      ["b", [at(10, 0), at(20, 0)]],
    ] as const);
    expect(layApart(apart, () => true)).toEqual(apart);
  });
});
