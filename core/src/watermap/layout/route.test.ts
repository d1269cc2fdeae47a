import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Box, Point } from "./geometry.ts";
import { placeLabels } from "./labels.ts";
import { type Errand, layPipes } from "./route.ts";

const errand = (id: string, from: Point, to: Point, more: Partial<Errand> = {}): Errand => ({
  id,
  from,
  to,
  ...more,
});
const box = (left: number, top: number, right: number, bottom: number): Box => ({
  left,
  top,
  right,
  bottom,
});
const length = (way: readonly Point[]): number =>
  way.reduce(
    (sum, p, i) =>
      sum +
      (i === 0 ? 0 : Math.abs(p.x - (way[i - 1]?.x ?? 0)) + Math.abs(p.y - (way[i - 1]?.y ?? 0))),
    0,
  );
const through = (way: readonly Point[], b: Box): boolean =>
  way.some((p, i) => {
    const q = way[i + 1];
    return (
      q !== undefined &&
      Math.min(p.x, q.x) < b.right &&
      Math.max(p.x, q.x) > b.left &&
      Math.min(p.y, q.y) < b.bottom &&
      Math.max(p.y, q.y) > b.top
    );
  });

describe("laying pipes", () => {
  it("goes straight where nothing stands in the way", () => {
    const way = layPipes([errand("a", { x: 0, y: 0 }, { x: 8, y: 0 })], []).get("a");
    expect(way).toEqual([
      { x: 0, y: 0 },
      { x: 8, y: 0 },
    ]);
  });

  it("turns once for a corner, by the sides that the ports ask for", () => {
    const way = layPipes(
      [errand("a", { x: 0, y: 0 }, { x: 6, y: 5 }, { fromSide: "right", toSide: "up" })],
      [],
    ).get("a");
    expect(way).toEqual([
      { x: 0, y: 0 },
      { x: 6, y: 0 },
      { x: 6, y: 5 },
    ]);
  });

  it("leaves by the port's side even when that is a way round", () => {
    const way =
      layPipes([errand("a", { x: 0, y: 0 }, { x: 6, y: 0 }, { fromSide: "left" })], []).get("a") ??
      [];
    expect(way[1]?.x).toBeLessThan(0);
    expect(length(way)).toBeGreaterThan(6);
  });

  it("goes round what stands in the way", () => {
    const wall = box(3, -4, 5, 4);
    const way = layPipes([errand("a", { x: 0, y: 0 }, { x: 8, y: 0 })], [wall]).get("a") ?? [];
    expect(through(way, wall)).toBe(false);
    expect(length(way)).toBeGreaterThanOrEqual(8 + 2 * 5);
  });

  it("crosses another pipe sooner than run along it", () => {
    const ways = layPipes(
      [errand("a", { x: 0, y: 0 }, { x: 10, y: 0 }), errand("b", { x: 5, y: -5 }, { x: 5, y: 5 })],
      [],
    );
    expect(ways.get("b")).toEqual([
      { x: 5, y: -5 },
      { x: 5, y: 5 },
    ]);
    const along = layPipes(
      [
        errand("a", { x: 0, y: 0 }, { x: 10, y: 0 }),
        errand("b", { x: 1, y: 0 }, { x: 9, y: 0 }, { fromSide: "up", toSide: "up" }),
      ],
      [],
    );
    expect(along.get("b")?.some((p) => p.y !== 0)).toBe(true);
  });

  it("draws an elbow for a pipe that is walled in, so that it is at least seen", () => {
    const walls = [box(-2, -2, 2, -1), box(-2, 1, 2, 2), box(-2, -2, -1, 2), box(1, -2, 2, 2)];
    expect(layPipes([errand("a", { x: 0, y: 0 }, { x: 9, y: 6 })], walls).get("a")).toHaveLength(3);
  });

  it("lays any pipes orthogonally, from end to end, through no part, the same way twice", () => {
    const at = fc.record({
      x: fc.integer({ min: 0, max: 24 }),
      y: fc.integer({ min: 0, max: 16 }),
    });
    const scene = fc.record({
      ends: fc.array(fc.tuple(at, at), { minLength: 1, maxLength: 6 }),
      blocks: fc.array(at, { maxLength: 5 }),
    });
    fc.assert(
      fc.property(scene, ({ ends, blocks }) => {
        const boxes = blocks
          .map((p) => box(p.x - 1, p.y - 1, p.x + 1, p.y + 1))
          .filter((b) =>
            ends
              .flat()
              .every(
                (p) =>
                  p.x < b.left - 1 || p.x > b.right + 1 || p.y < b.top - 1 || p.y > b.bottom + 1,
              ),
          );
        const errands = ends
          .filter(([a, b]) => a.x !== b.x || a.y !== b.y)
          .map(([a, b], i) => errand(`e${i}`, a, b));
        if (errands.length === 0) return;
        const ways = layPipes(errands, boxes);
        expect(layPipes(errands, boxes)).toEqual(ways);
        for (const e of errands) {
          const way = ways.get(e.id) ?? [];
          expect(way[0]).toEqual(e.from);
          expect(way.at(-1)).toEqual(e.to);
          way.slice(1).forEach((p, i) => expect(p.x === way[i]?.x || p.y === way[i]?.y).toBe(true));
          for (const b of boxes) expect(through(way, b)).toBe(false);
        }
      }),
      { seed: 23, numRuns: 80 },
    );
  });
});

describe("labels", () => {
  const part = box(0, 0, 2, 2);
  it("stand below their part, or where there is room", () => {
    const [free] = placeLabels([{ id: "p", text: "Pump", of: part }], [part], []);
    expect(free?.at.y).toBeGreaterThan(2);
    const [above] = placeLabels(
      [{ id: "p", text: "Pump", of: part }],
      [part, box(-3, 2.2, 5, 6)],
      [],
    );
    expect(above?.at.y).toBeLessThan(0);
  });

  it("keep off pipes and off each other, and are left out where there is no room at all", () => {
    const pipe = [
      { x: -5, y: 3 },
      { x: 8, y: 3 },
    ];
    const [label] = placeLabels([{ id: "p", text: "Pump", of: part }], [part], [pipe]);
    expect((label?.box.top ?? 0) > 3 || (label?.box.bottom ?? 9) < 3).toBe(true);
    const crowded = placeLabels(
      [{ id: "p", text: "Pump", of: part }],
      [
        part,
        box(-9, -9, 11, -0.1),
        box(-9, 2.1, 11, 11),
        box(-9, -9, -0.1, 11),
        box(2.1, -9, 11, 11),
      ],
      [],
    );
    expect(crowded).toEqual([]);
  });
});
