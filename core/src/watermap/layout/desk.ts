import { paramsOf, type Part } from "../document.ts";
import { PART_KINDS } from "../kinds/index.ts";
import {
  type Box,
  boxAt,
  OPPOSITE,
  overlaps,
  type Point,
  shapeOf,
  type Side,
  STEP,
} from "./geometry.ts";
import type { Graph, Hop } from "./sides.ts";

/** The sheet that parts are put on, and how one is put beside another. */

/** A hose for a jug: it hangs below what it joins. */
export const isPickup = (part: Part | undefined): boolean =>
  part !== undefined &&
  PART_KINDS.get(part.kind)
    ?.anatomy(paramsOf(part))
    .openings.some((o) => o.use === "pickup") === true;

export interface Placed {
  readonly at: Point;
  /** Sides that pipes ask for, by port. */
  readonly sides: Record<string, Side>;
}

export const GAP = 2;

export interface Desk {
  readonly graph: Graph;
  readonly placed: Map<string, Placed>;
  readonly boxes: Map<string, Box>;
}

export const half = (desk: Desk, id: string): { halfW: number; halfH: number } => {
  const part = desk.graph.parts.get(id);
  return part ? shapeOf(part) : { halfW: 1, halfH: 1 };
};

const isFree = (desk: Desk, id: string, at: Point, margin: number): boolean => {
  const box = boxAt(at, half(desk, id), margin);
  for (const [other, b] of desk.boxes) if (other !== id && overlaps(box, b)) return false;
  return true;
};

/** Puts a part at a place, or at the nearest free one: rings outward, always in the same order. */
export const put = (
  desk: Desk,
  id: string,
  at: Point,
  sides: Record<string, Side> = {},
  margin = 1,
): Point => {
  let found = at;
  search: for (let ring = 0; ring < 200; ring++)
    for (let dx = -ring; dx <= ring; dx++)
      for (let dy = -ring; dy <= ring; dy++) {
        if (Math.max(Math.abs(dx), Math.abs(dy)) !== ring) continue;
        found = { x: at.x + dx, y: at.y + dy };
        if (isFree(desk, id, found, margin)) break search;
      }
  desk.placed.set(id, { at: found, sides });
  desk.boxes.set(id, boxAt(found, half(desk, id)));
  return found;
};

export const hop = (desk: Desk, from: string, to: string): Hop | undefined =>
  desk.graph.wet.get(from)?.find((h) => h.to === to);

/** Sides for a part passed along a direction: in by one end, out by the other. */
export const through = (
  desk: Desk,
  before: string | undefined,
  id: string,
  after: string | undefined,
  dir: Side,
): Record<string, Side> => {
  const sides: Record<string, Side> = {};
  const inPort = before === undefined ? undefined : hop(desk, id, before)?.port;
  const outPort = after === undefined ? undefined : hop(desk, id, after)?.port;
  if (inPort) sides[inPort] = OPPOSITE[dir];
  if (outPort) sides[outPort] = dir;
  return sides;
};

/** A chain of parts from a start outward, then whatever branches off it, each at the nearest free place. */
export const putChain = (
  desk: Desk,
  chain: readonly string[],
  from: string | undefined,
  start: Point,
  dir: Side,
  onward?: string,
): void => {
  let at = start;
  let before: string | undefined;
  chain.forEach((id, i) => {
    const size = half(desk, id);
    const reach = dir === "left" || dir === "right" ? size.halfW : size.halfH;
    at = { x: at.x + STEP[dir].x * reach, y: at.y + STEP[dir].y * reach };
    const placed = put(
      desk,
      id,
      at,
      through(desk, before ?? from, id, chain[i + 1] ?? onward, dir),
    );
    at = { x: placed.x + STEP[dir].x * (reach + GAP), y: placed.y + STEP[dir].y * (reach + GAP) };
    before = id;
  });
};
