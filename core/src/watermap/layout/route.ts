import { type Box, OPPOSITE, type Point, type Side, STEP } from "./geometry.ts";

/** One pipe to lay: from a port, by its side, to a port, by its side. */
export interface Errand {
  readonly id: string;
  readonly from: Point;
  readonly to: Point;
  readonly fromSide?: Side;
  readonly toSide?: Side;
}

const SIDES: readonly Side[] = ["right", "down", "left", "up"];
const BEND = 3;
const CROSSING = 5;
const BESIDE_A_PART = 0.6;
// Running in the same place as another pipe: only where there is nothing else.
const SHARING = 60;

interface Plane {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

const PLANE_MARGIN = 5;

const indexIn = (plane: Plane, p: Point): number => (p.y - plane.top) * plane.width + (p.x - plane.left);

/** Binary heap of states by estimated cost; ties by age, so that the answer is the same every time. */
const heap = () => {
  const items: { key: number; age: number; state: number }[] = [];
  let age = 0;
  const less = (a: number, b: number): boolean => {
    const [x, y] = [items[a], items[b]];
    return x !== undefined && y !== undefined && (x.key < y.key || (x.key === y.key && x.age < y.age));
  };
  const swap = (a: number, b: number): void => {
    [items[a], items[b]] = [items[b] as (typeof items)[0], items[a] as (typeof items)[0]];
  };
  return {
    push: (key: number, state: number): void => {
      items.push({ key, age: age++, state });
      for (let i = items.length - 1; i > 0;) {
        const up = (i - 1) >> 1;
        if (!less(i, up)) break;
        swap(i, up);
        i = up;
      }
    },
    pop: (): number | undefined => {
      const top = items[0];
      const last = items.pop();
      if (top === undefined || last === undefined) return undefined;
      if (items.length > 0) {
        items[0] = last;
        for (let i = 0; ;) {
          let small = i;
          for (const child of [2 * i + 1, 2 * i + 2]) if (child < items.length && less(child, small)) small = child;
          if (small === i) break;
          swap(i, small);
          i = small;
        }
      }
      return top.state;
    },
  };
};

const simplified = (points: readonly Point[]): Point[] =>
  points.filter((p, i) => {
    const [a, b] = [points[i - 1], points[i + 1]];
    return !a || !b || !((a.x === p.x && p.x === b.x) || (a.y === p.y && p.y === b.y));
  });

/**
 * Lays every pipe on the grid, orthogonally, round the parts (A* over place and direction, Hart, Nilsson and Raphael).
 * Bends, crossings and running beside a part cost extra; a pipe never passes through a part.
 */
export const layPipes = (errands: readonly Errand[], boxes: readonly Box[]): Map<string, Point[]> => {
  const xs = [...boxes.flatMap((b) => [b.left, b.right]), ...errands.flatMap((e) => [e.from.x, e.to.x])];
  const ys = [...boxes.flatMap((b) => [b.top, b.bottom]), ...errands.flatMap((e) => [e.from.y, e.to.y])];
  const plane: Plane = {
    left: Math.min(...xs) - PLANE_MARGIN,
    top: Math.min(...ys) - PLANE_MARGIN,
    width: Math.max(...xs) - Math.min(...xs) + 2 * PLANE_MARGIN + 1,
    height: Math.max(...ys) - Math.min(...ys) + 2 * PLANE_MARGIN + 1,
  };
  const cells = plane.width * plane.height;
  const blocked = new Uint8Array(cells);
  const beside = new Uint8Array(cells);
  for (const b of boxes)
    for (let y = b.top - 1; y <= b.bottom + 1; y++)
      for (let x = b.left - 1; x <= b.right + 1; x++) {
        const i = indexIn(plane, { x, y });
        if (x >= b.left && x <= b.right && y >= b.top && y <= b.bottom) blocked[i] = 1;
        else beside[i] = 1;
      }
  // Bit 1: a pipe runs across, bit 2: one runs up and down, bit 4: one bends or ends here.
  const used = new Uint8Array(cells);
  const result = new Map<string, Point[]>();
  const length = (e: Errand): number => Math.abs(e.from.x - e.to.x) + Math.abs(e.from.y - e.to.y);
  const straight = (e: Errand): number => (e.from.x === e.to.x || e.from.y === e.to.y ? 0 : 1);
  const sorted = [...errands].sort((a, b) => straight(a) - straight(b) || length(a) - length(b) || (a.id < b.id ? -1 : 1));
  for (const errand of sorted) {
    const points = findWay(errand, plane, blocked, beside, used);
    result.set(errand.id, simplified(points));
    points.forEach((p, i) => {
      const [a, b] = [points[i - 1], points[i + 1]];
      const cell = indexIn(plane, p);
      const across = (a && a.y === p.y) || (b && b.y === p.y);
      const upright = (a && a.x === p.x) || (b && b.x === p.x);
      used[cell] = (used[cell] as number) | (across ? 1 : 0) | (upright ? 2 : 0) | ((across && upright) || !a || !b ? 4 : 0);
    });
  }
  return result;
};

const findWay = (errand: Errand, plane: Plane, blocked: Uint8Array, beside: Uint8Array, used: Uint8Array): Point[] => {
  const goal = indexIn(plane, errand.to);
  const startCell = indexIn(plane, errand.from);
  const cost = new Float64Array(plane.width * plane.height * 4).fill(Number.POSITIVE_INFINITY);
  const came = new Int32Array(plane.width * plane.height * 4).fill(-1);
  const open = heap();
  const guess = (x: number, y: number): number => Math.abs(x - errand.to.x) + Math.abs(y - errand.to.y);
  SIDES.forEach((side, d) => {
    if (errand.fromSide && errand.fromSide !== side) return;
    cost[startCell * 4 + d] = 0;
    open.push(guess(errand.from.x, errand.from.y), startCell * 4 + d);
  });
  for (let state = open.pop(); state !== undefined; state = open.pop()) {
    const cell = state >> 2;
    const dir = state & 3;
    const sofar = cost[state] as number;
    if (cell === goal && (sofar > 0 || startCell === goal)) {
      const points: Point[] = [];
      for (let s = state; s >= 0; s = came[s] as number)
        points.unshift({ x: ((s >> 2) % plane.width) + plane.left, y: Math.floor((s >> 2) / plane.width) + plane.top });
      return points;
    }
    const x = (cell % plane.width) + plane.left;
    const y = Math.floor(cell / plane.width) + plane.top;
    SIDES.forEach((side, d) => {
      if (d === ((dir + 2) & 3)) return;
      // The first stretch leaves by the port's side.
      if (cell === startCell && d !== dir) return;
      const [nx, ny] = [x + STEP[side].x, y + STEP[side].y];
      if (nx < plane.left || ny < plane.top || nx >= plane.left + plane.width || ny >= plane.top + plane.height) return;
      const next = indexIn(plane, { x: nx, y: ny });
      if (next === goal) {
        if (errand.toSide && side !== OPPOSITE[errand.toSide]) return;
      } else if (blocked[next]) return;
      const along = side === "left" || side === "right" ? 1 : 2;
      const there = used[next] as number;
      const sharing = next === goal ? 0 : (there & along) !== 0 || (there & 4) !== 0 ? SHARING : there !== 0 ? CROSSING : 0;
      // Leaving a tee by a way that another pipe has taken.
      const shared = ((used[cell] as number) & along) !== 0 && there !== 0 && (there & along) !== 0 ? SHARING : 0;
      const total = sofar + 1 + (d === dir ? 0 : BEND) + sharing + shared + (beside[next] ? BESIDE_A_PART : 0);
      if (total < (cost[next * 4 + d] as number)) {
        cost[next * 4 + d] = total;
        came[next * 4 + d] = state;
        open.push(total + guess(nx, ny), next * 4 + d);
      }
    });
  }
  // Walled in: an elbow, so that the pipe is at least seen.
  return [errand.from, { x: errand.to.x, y: errand.from.y }, errand.to];
};
