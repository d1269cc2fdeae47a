import FlatQueue from "flatqueue";
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

const indexIn = (plane: Plane, p: Point): number =>
  (p.y - plane.top) * plane.width + (p.x - plane.left);

// Costs come in tenths. Equal costs go by age, so that the answer is the same every time.
const TENTHS = 10;
const AGES = 2 ** 26;

/** States by estimated cost, the oldest of equals first. */
class OpenStates {
  private readonly queue = new FlatQueue();
  private age = 0;

  clear(): void {
    this.queue.clear();
    this.age = 0;
  }

  push(cost: number, state: number): void {
    this.queue.push(state, Math.round(cost * TENTHS) * AGES + this.age++);
  }

  pop(): number {
    return this.queue.pop() ?? -1;
  }
}

const simplified = (points: readonly Point[]): Point[] =>
  points.filter((p, i) => {
    const [a, b] = [points[i - 1], points[i + 1]];
    return !a || !b || !((a.x === p.x && p.x === b.x) || (a.y === p.y && p.y === b.y));
  });

/**
 * Lays every pipe on the grid, orthogonally, round the parts (A* over place and direction, Hart, Nilsson and Raphael).
 * Bends, crossings and running beside a part cost extra; a pipe never passes through a part.
 */
export const layPipes = (
  errands: readonly Errand[],
  boxes: readonly Box[],
): Map<string, Point[]> => {
  const xs = [
    ...boxes.flatMap((b) => [b.left, b.right]),
    ...errands.flatMap((e) => [e.from.x, e.to.x]),
  ];
  const ys = [
    ...boxes.flatMap((b) => [b.top, b.bottom]),
    ...errands.flatMap((e) => [e.from.y, e.to.y]),
  ];
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
  const bench = benchFor(plane);
  const result = new Map<string, Point[]>();
  const length = (e: Errand): number => Math.abs(e.from.x - e.to.x) + Math.abs(e.from.y - e.to.y);
  const straight = (e: Errand): number => (e.from.x === e.to.x || e.from.y === e.to.y ? 0 : 1);
  const sorted = [...errands].sort(
    (a, b) => straight(a) - straight(b) || length(a) - length(b) || (a.id < b.id ? -1 : 1),
  );
  for (const errand of sorted) {
    const points = findWay(errand, plane, bench, blocked, beside, used);
    result.set(errand.id, simplified(points));
    points.forEach((p, i) => {
      const [a, b] = [points[i - 1], points[i + 1]];
      const cell = indexIn(plane, p);
      const across = (a && a.y === p.y) || (b && b.y === p.y);
      const upright = (a && a.x === p.x) || (b && b.x === p.x);
      used[cell] =
        (used[cell] as number) |
        (across ? 1 : 0) |
        (upright ? 2 : 0) |
        ((across && upright) || !a || !b ? 4 : 0);
    });
  }
  return result;
};

/** Room for one search after another: costs count only where their stamp is of the search in hand. */
interface Bench {
  readonly cost: Float64Array;
  readonly came: Int32Array;
  readonly stamp: Int32Array;
  readonly open: OpenStates;
  search: number;
}

const benchFor = (plane: Plane): Bench => {
  const states = plane.width * plane.height * 4;
  return {
    cost: new Float64Array(states),
    came: new Int32Array(states),
    stamp: new Int32Array(states),
    open: new OpenStates(),
    search: 0,
  };
};

const DX = SIDES.map((side) => STEP[side].x);
const DY = SIDES.map((side) => STEP[side].y);

const findWay = (
  errand: Errand,
  plane: Plane,
  bench: Bench,
  blocked: Uint8Array,
  beside: Uint8Array,
  used: Uint8Array,
): Point[] => {
  const goal = indexIn(plane, errand.to);
  const startCell = indexIn(plane, errand.from);
  const { cost, came, stamp, open } = bench;
  const search = ++bench.search;
  open.clear();
  const [goalX, goalY] = [errand.to.x - plane.left, errand.to.y - plane.top];
  const guess = (x: number, y: number): number => Math.abs(x - goalX) + Math.abs(y - goalY);
  const wantedEnd = errand.toSide === undefined ? -1 : SIDES.indexOf(OPPOSITE[errand.toSide]);
  SIDES.forEach((side, d) => {
    if (errand.fromSide && errand.fromSide !== side) return;
    const state = startCell * 4 + d;
    cost[state] = 0;
    came[state] = -1;
    stamp[state] = search;
    open.push(guess(startCell % plane.width, Math.floor(startCell / plane.width)), state);
  });
  for (let state = open.pop(); state >= 0; state = open.pop()) {
    const cell = state >> 2;
    const dir = state & 3;
    const sofar = cost[state] as number;
    if (cell === goal && (sofar > 0 || startCell === goal)) {
      const points: Point[] = [];
      for (let s = state; s >= 0; s = came[s] as number)
        points.push({
          x: ((s >> 2) % plane.width) + plane.left,
          y: Math.floor((s >> 2) / plane.width) + plane.top,
        });
      return points.toReversed();
    }
    const x = cell % plane.width;
    const y = Math.floor(cell / plane.width);
    for (let d = 0; d < 4; d++) {
      // No turning back; and the first stretch leaves by the port's side.
      if (d === ((dir + 2) & 3) || (cell === startCell && d !== dir)) continue;
      const [nx, ny] = [x + (DX[d] as number), y + (DY[d] as number)];
      if (nx < 0 || ny < 0 || nx >= plane.width || ny >= plane.height) continue;
      const next = ny * plane.width + nx;
      if (next === goal) {
        if (wantedEnd >= 0 && d !== wantedEnd) continue;
      } else if (blocked[next]) continue;
      const along = (d & 1) === 0 ? 1 : 2;
      const there = used[next] as number;
      const sharing =
        next === goal
          ? 0
          : (there & along) !== 0 || (there & 4) !== 0
            ? SHARING
            : there !== 0
              ? CROSSING
              : 0;
      // Leaving a tee by a way that another pipe has taken.
      const shared =
        ((used[cell] as number) & along) !== 0 && there !== 0 && (there & along) !== 0
          ? SHARING
          : 0;
      const total =
        sofar + 1 + (d === dir ? 0 : BEND) + sharing + shared + (beside[next] ? BESIDE_A_PART : 0);
      const reached = next * 4 + d;
      if (stamp[reached] !== search || total < (cost[reached] as number)) {
        stamp[reached] = search;
        cost[reached] = total;
        came[reached] = state;
        open.push(total + guess(nx, ny), reached);
      }
    }
  }
  // Walled in: an elbow, so that the pipe is at least seen.
  return [errand.from, { x: errand.to.x, y: errand.from.y }, errand.to];
};
