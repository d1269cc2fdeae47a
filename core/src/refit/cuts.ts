/** Pieces laid on rolls and lengths with the least waste: rest pieces first, then as few new ones as can be. */

export interface CutPiece {
  readonly id: string;
  readonly name: string;
  readonly lengthM: number;
}

export interface CutStock {
  /** Of a new roll or length, m. */
  readonly lengthM: number;
  /** Rest pieces in the stores, m. */
  readonly rests?: readonly number[];
  /** Lost at each cut, m. */
  readonly cutM?: number;
}

interface Laid {
  readonly lengthM: number;
  readonly isRest: boolean;
  readonly pieces: readonly CutPiece[];
  readonly leftM: number;
}

export interface CutPlan {
  readonly laid: readonly Laid[];
  /** New rolls or lengths to be bought. */
  readonly bought: number;
  /** No plan takes fewer: the length in all, and pieces of which no two share a roll. */
  readonly atLeast: number;
  /** Pieces longer than any stock: a joint more, or a longer roll. */
  readonly tooLong: readonly CutPiece[];
}

/** Solves a mixed integer program in the LP format of CPLEX; the values by name, nothing where it did not come to an end. */
export type Solve = (model: string) => ReadonlyMap<string, number> | undefined;

const EPS = 1e-9;
// Beyond this many ways to fill a roll, the solver is not asked: pieces are then so small against it that little can be won.
const MOST_WAYS = 4000;

interface Bin {
  readonly lengthM: number;
  readonly isRest: boolean;
  pieces: CutPiece[];
  leftM: number;
}

const bin = (lengthM: number, isRest: boolean): Bin => ({
  lengthM,
  isRest,
  pieces: [],
  leftM: lengthM,
});

const put = (into: Bin, piece: CutPiece, cutM: number): void => {
  into.pieces.push(piece);
  into.leftM = Math.max(0, into.leftM - piece.lengthM - cutM);
};

/** Longest first, each into the first that takes it; the rests shortest first, so that they are used up. */
export const firstFit = (pieces: readonly CutPiece[], stock: CutStock): Bin[] => {
  const cutM = stock.cutM ?? 0;
  const bins = (stock.rests ?? []).toSorted((a, b) => a - b).map((m) => bin(m, true));
  for (const piece of pieces.toSorted((a, b) => b.lengthM - a.lengthM || (a.id < b.id ? -1 : 1))) {
    let into = bins.find((b) => b.leftM + EPS >= piece.lengthM);
    if (!into) {
      into = bin(stock.lengthM, false);
      bins.push(into);
    }
    put(into, piece, cutM);
  }
  return bins.filter((b) => b.pieces.length > 0);
};

const boundOf = (pieces: readonly CutPiece[], lengthM: number, cutM: number): number => {
  const total = pieces.reduce((sum, p) => sum + p.lengthM + cutM, 0);
  const alone = pieces.filter((p) => 2 * p.lengthM + cutM > lengthM + EPS).length;
  return Math.max(Math.ceil((total - cutM * pieces.length) / lengthM - EPS), alone);
};

/** Every way to fill a new roll that leaves no room for another piece; nothing where there are too many. */
const waysOf = (
  kinds: readonly { lengthM: number; count: number }[],
  lengthM: number,
  cutM: number,
): number[][] | undefined => {
  const ways: number[][] = [];
  const walk = (at: number, left: number, way: number[]): boolean => {
    const kind = kinds[at];
    if (!kind) {
      ways.push(way);
      return ways.length <= MOST_WAYS;
    }
    const most = Math.min(kind.count, Math.floor((left + EPS) / (kind.lengthM + cutM)));
    // The last piece of a roll needs no cut after it; an exact fit counts.
    for (let n = most; n >= 0; n--) {
      const next = left - n * (kind.lengthM + cutM);
      if (at === kinds.length - 1 && n < most) break;
      if (!walk(at + 1, next, [...way, n])) return false;
    }
    return true;
  };
  return walk(0, lengthM + cutM, []) ? ways : undefined;
};

/** New rolls by the solver: how often each way of filling one is used (Gilmore and Gomory). */
const solved = (pieces: readonly CutPiece[], stock: CutStock, solve: Solve): Bin[] | undefined => {
  const cutM = stock.cutM ?? 0;
  const mm = (p: CutPiece): number => Math.round(p.lengthM * 1000);
  const kinds = [...new Set(pieces.map(mm))]
    .toSorted((a, b) => b - a)
    .map((length) => {
      const of = pieces.filter((p) => mm(p) === length);
      return { lengthM: length / 1000, count: of.length, of };
    });
  const ways = waysOf(kinds, stock.lengthM, cutM);
  if (!ways) return undefined;
  const model = [
    "Minimize",
    ` rolls: ${ways.map((_, i) => `x${i}`).join(" + ")}`,
    "Subject To",
    ...kinds.map(
      (kind, k) =>
        ` k${k}: ${ways.flatMap((w, i) => (w[k] ? [`${w[k]} x${i}`] : [])).join(" + ")} >= ${kind.count}`,
    ),
    "General",
    ` ${ways.map((_, i) => `x${i}`).join(" ")}`,
    "End",
  ].join("\n");
  const values = solve(model);
  if (!values) return undefined;
  const left = kinds.map((k) => [...k.of]);
  const bins: Bin[] = [];
  ways.forEach((way, i) => {
    for (let n = Math.round(values.get(`x${i}`) ?? 0); n > 0; n--) {
      const roll = bin(stock.lengthM, false);
      way.forEach((count, k) => {
        for (const piece of left[k]?.splice(0, count) ?? []) put(roll, piece, cutM);
      });
      if (roll.pieces.length > 0) bins.push(roll);
    }
  });
  return left.some((k) => k.length > 0) ? undefined : bins;
};

const newOf = (bins: readonly Bin[]): number => bins.filter((b) => !b.isRest).length;

/**
 * Lays pieces on stock. Never worse than first fit, longest first; where that buys more than the bound, the solver is asked.
 * @param solve without it, first fit is what is given
 */
export const cutPlan = (pieces: readonly CutPiece[], stock: CutStock, solve?: Solve): CutPlan => {
  const cutM = stock.cutM ?? 0;
  const longest = Math.max(stock.lengthM, ...(stock.rests ?? []));
  const tooLong = pieces.filter((p) => p.lengthM > longest + EPS);
  const rest = pieces.filter((p) => !tooLong.includes(p));
  const first = firstFit(rest, stock);
  const onNew = first.flatMap((b) => (b.isRest ? [] : b.pieces));
  const better =
    solve && newOf(first) > boundOf(onNew, stock.lengthM, cutM)
      ? solved(onNew, stock, solve)
      : undefined;
  const bins =
    better && better.length < newOf(first) ? [...first.filter((b) => b.isRest), ...better] : first;
  const restM = (stock.rests ?? []).reduce((a, b) => a + b, 0);
  const total = rest.reduce((sum, p) => sum + p.lengthM, 0);
  return {
    laid: bins.map(({ lengthM, isRest, pieces: on, leftM }) => ({
      lengthM,
      isRest,
      pieces: on,
      leftM,
    })),
    bought: newOf(bins),
    atLeast:
      restM > 0
        ? Math.max(0, Math.ceil((total - restM) / stock.lengthM - EPS))
        : boundOf(rest, stock.lengthM, cutM),
    tooLong,
  };
};
