import { type Box, overlaps, type Point } from "./geometry.ts";

export interface LabelWish {
  readonly id: string;
  readonly text: string;
  /** Box that the label belongs to. */
  readonly of: Box;
}

export interface Label {
  readonly id: string;
  readonly text: string;
  readonly at: Point;
  readonly anchor: "start" | "middle" | "end";
  readonly box: Box;
}

// Width of a letter and height of a line, in grid units, at the size labels are drawn.
const LETTER = 0.47;
const LINE = 1.1;
const OFF = 0.45;

const candidates = (wish: LabelWish): Omit<Label, "id" | "text">[] => {
  const width = wish.text.length * LETTER;
  const { of } = wish;
  const cx = (of.left + of.right) / 2;
  const cy = (of.top + of.bottom) / 2;
  const middle = (y: number): Omit<Label, "id" | "text"> => ({
    at: { x: cx, y },
    anchor: "middle",
    box: { left: cx - width / 2, right: cx + width / 2, top: y - LINE / 2, bottom: y + LINE / 2 },
  });
  const beside = (x: number, y: number, anchor: "start" | "end"): Omit<Label, "id" | "text"> => ({
    at: { x, y },
    anchor,
    box: {
      left: anchor === "start" ? x : x - width,
      right: anchor === "start" ? x + width : x,
      top: y - LINE / 2,
      bottom: y + LINE / 2,
    },
  });
  const below = of.bottom + OFF + LINE / 2;
  const above = of.top - OFF - LINE / 2;
  return [
    middle(below),
    middle(above),
    beside(of.right + OFF, cy, "start"),
    beside(of.left - OFF, cy, "end"),
    beside(of.right + OFF, above, "start"),
    beside(of.left - OFF, above, "end"),
    beside(of.right + OFF, below, "start"),
    beside(of.left - OFF, below, "end"),
    middle(below + LINE),
    middle(above - LINE),
  ];
};

const hits = (box: Box, points: readonly Point[]): boolean =>
  points.some((p, i) => {
    const q = points[i + 1];
    if (!q) return false;
    return overlaps(box, {
      left: Math.min(p.x, q.x) - 0.2,
      right: Math.max(p.x, q.x) + 0.2,
      top: Math.min(p.y, q.y) - 0.2,
      bottom: Math.max(p.y, q.y) + 0.2,
    });
  });

/** Gives every label a place beside its part that touches no part, no pipe and no other label; without one it is left out. */
export const placeLabels = (
  wishes: readonly LabelWish[],
  boxes: readonly Box[],
  pipes: readonly (readonly Point[])[],
): Label[] => {
  const placed: Label[] = [];
  for (const wish of wishes) {
    const free = candidates(wish).find(
      (c) =>
        !boxes.some((b) => b !== wish.of && overlaps(c.box, b)) &&
        !placed.some((l) => overlaps(c.box, l.box)) &&
        !pipes.some((p) => hits(c.box, p)),
    );
    if (free) placed.push({ id: wish.id, text: wish.text, ...free });
  }
  return placed;
};
