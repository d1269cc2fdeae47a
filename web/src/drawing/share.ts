import type { LaidRun, Point } from "@uppershed/core/watermap";

/** How far along a pipe a point of the drawing lies, 0 at its "from" end: the nearest place on it. Grid units. */
export const shareAlong = (laid: Pick<LaidRun, "points">, at: Point): number => {
  let length = 0;
  let best = { distance: Number.POSITIVE_INFINITY, along: 0 };
  laid.points.forEach((p, i) => {
    const q = laid.points[i + 1];
    if (!q) return;
    const [dx, dy] = [q.x - p.x, q.y - p.y];
    const stretch = Math.hypot(dx, dy);
    const t =
      stretch === 0
        ? 0
        : Math.max(0, Math.min(1, ((at.x - p.x) * dx + (at.y - p.y) * dy) / (stretch * stretch)));
    const distance = Math.hypot(at.x - (p.x + t * dx), at.y - (p.y + t * dy));
    if (distance < best.distance) best = { distance, along: length + t * stretch };
    length += stretch;
  });
  return length === 0 ? 0.5 : best.along / length;
};
