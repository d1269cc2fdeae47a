import type { LaidRun, Point } from "../watermap/index.ts";
import { UNIT_PX } from "./scene.ts";

const BRIDGE_PX = 8;

/** A pipe's way as an SVG path, with a hump where it is bridged over another. */
export const pathOf = (laid: LaidRun): string => {
  const px = (v: number): number => v * UNIT_PX;
  return laid.points
    .map((p, i) => {
      const before = laid.points[i - 1];
      if (!before) return `M${px(p.x)} ${px(p.y)}`;
      const right = p.x > before.x;
      const humps = laid.bridges
        .filter(
          (b) =>
            b.y === p.y &&
            before.y === p.y &&
            b.x > Math.min(p.x, before.x) &&
            b.x < Math.max(p.x, before.x),
        )
        .sort((a, b) => (right ? a.x - b.x : b.x - a.x))
        .map((b) => {
          const side = right ? BRIDGE_PX : -BRIDGE_PX;
          return `L${px(b.x) - side} ${px(b.y)}A${BRIDGE_PX} ${BRIDGE_PX} 0 0 ${right ? 1 : 0} ${px(b.x) + side} ${px(b.y)}`;
        })
        .join("");
      return `${humps}L${px(p.x)} ${px(p.y)}`;
    })
    .join("");
};

export interface Middle {
  readonly at: Point;
  /** Direction in which water runs there, degrees. */
  readonly angle: number;
  readonly length: number;
}

/** The middle of a pipe's longest straight, and which way water runs there. */
export const middleOf = (laid: LaidRun): Middle | undefined => {
  let best: Middle | undefined;
  laid.points.forEach((p, i) => {
    const q = laid.points[i + 1];
    if (!q) return;
    const length = Math.abs(p.x - q.x) + Math.abs(p.y - q.y);
    if (best && length <= best.length) return;
    const [from, to] = laid.forward ? [p, q] : [q, p];
    best = {
      at: { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 },
      angle: (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI,
      length,
    };
  });
  return best;
};
