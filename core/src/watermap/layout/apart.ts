import type { Point } from "./geometry.ts";

/**
 * Takes pipes apart that were laid over each other where there was room for one only: each piece of a pipe keeps its place or goes a third
 * of a step beside it, what hangs on a port last of all.
 */

const THIRD = 1 / 3;
// Places that a piece may take beside its own, nearest first: never as far as the next line of the grid.
const BESIDE = [
  0,
  THIRD,
  -THIRD,
  2 * THIRD,
  -2 * THIRD,
  THIRD / 2,
  -THIRD / 2,
  1.5 * THIRD,
  -1.5 * THIRD,
];
// So much of a pipe stays on its port's own line where the rest has to leave it.
const STUB = 0.4;
// Two lines nearer than this are one; pieces that share less than this only touch.
const SAME = 0.05;
const MOST_ROUNDS = 6;

type Axis = "x" | "y";
const ACROSS: Record<Axis, Axis> = { x: "y", y: "x" };

/** A straight piece of a pipe. It runs along one axis and stands at a place of the other. */
interface Piece {
  readonly run: string;
  readonly index: number;
  readonly at: number;
  readonly from: number;
  readonly to: number;
  /** How many of its ends are a port. */
  readonly ends: number;
}

const piecesOf = (ways: ReadonlyMap<string, readonly Point[]>, along: Axis): Piece[] =>
  [...ways].flatMap(([run, points]) =>
    points.flatMap((p, index) => {
      const q = points[index + 1];
      const across = ACROSS[along];
      if (!q || p[across] !== q[across] || p[along] === q[along]) return [];
      return [
        {
          run,
          index,
          at: p[across],
          from: Math.min(p[along], q[along]),
          to: Math.max(p[along], q[along]),
          ends: Number(index === 0) + Number(index === points.length - 2),
        },
      ];
    }),
  );

const liesOver = (
  a: Pick<Piece, "at" | "from" | "to">,
  b: Pick<Piece, "at" | "from" | "to">,
): boolean =>
  Math.abs(a.at - b.at) < SAME && Math.min(a.to, b.to) - Math.max(a.from, b.from) > SAME;

/** A pipe with one piece put beside its place; where that hangs on a port, by a small jog. */
const moved = (points: readonly Point[], index: number, along: Axis, by: number): Point[] => {
  const across = ACROSS[along];
  const put = (p: Point): Point => ({ ...p, [across]: p[across] + by });
  const [p, q] = [points[index] as Point, points[index + 1] as Point];
  const onward = Math.sign(q[along] - p[along]) * Math.min(STUB, Math.abs(q[along] - p[along]) / 3);
  const stub = (end: Point, step: number): Point => ({ ...end, [along]: end[along] + step });
  const first = index === 0 ? [p, stub(p, onward), put(stub(p, onward))] : [put(p)];
  const last =
    index === points.length - 2 ? [put(stub(q, -onward)), stub(q, -onward), q] : [put(q)];
  return [...points.slice(0, index), ...first, ...last, ...points.slice(index + 2)];
};

/** One look along one axis; whether anything was moved. */
const takeApart = (
  ways: Map<string, readonly Point[]>,
  along: Axis,
  isFree: (place: Pick<Piece, "at" | "from" | "to">) => boolean,
): boolean => {
  const pieces = piecesOf(ways, along);
  const over = pieces.filter((a) => pieces.some((b) => b.run !== a.run && liesOver(a, b)));
  if (over.length === 0) return false;
  // What hangs on ports stays, the longer the sooner; of the rest each takes the nearest place that is left.
  const order = over.toSorted(
    (a, b) =>
      b.ends - a.ends ||
      b.to - b.from - (a.to - a.from) ||
      (a.run < b.run ? -1 : 1) ||
      a.index - b.index,
  );
  const waits = new Set(order);
  const placed = pieces.filter((p) => !waits.has(p));
  const changes = new Map<Piece, number>();
  for (const piece of order) {
    const by = BESIDE.find((step) => {
      const there = { ...piece, at: piece.at + step };
      return (
        (step === 0 || isFree(there)) &&
        !placed.some((other) => other.run !== piece.run && liesOver(there, other))
      );
    });
    placed.push({ ...piece, at: piece.at + (by ?? 0) });
    if (by) changes.set(piece, by);
  }
  // From the end of each pipe, so that what was counted before stays where it is.
  for (const [piece, by] of [...changes].toSorted(([a], [b]) => b.index - a.index))
    ways.set(piece.run, moved(ways.get(piece.run) ?? [], piece.index, along, by));
  return changes.size > 0;
};

/** @param isFree whether a piece may stand there: a part must not */
export const layApart = (
  laid: ReadonlyMap<string, readonly Point[]>,
  isFree: (
    along: Axis,
    place: { readonly at: number; readonly from: number; readonly to: number },
  ) => boolean,
): Map<string, readonly Point[]> => {
  const ways = new Map(laid);
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const changed = (["x", "y"] as const).map((along) =>
      takeApart(ways, along, (place) => isFree(along, place)),
    );
    if (!changed.includes(true)) break;
  }
  return ways;
};
