/** The searches that everything asks of a network: what is reached, by which way, at what least cost. */

/** What a search needs to know of a network. */
export interface Graph {
  readonly cells: { readonly length: number };
  readonly links: readonly { readonly a: number; readonly b: number; readonly oneWay: boolean }[];
  readonly linksOf: readonly (readonly number[])[];
}

/** The same in flat rows, which every search runs along: by cell, where its links begin; by place in the row, the link and its far cell. */
interface Flat {
  readonly first: Int32Array;
  readonly link: Int32Array;
  readonly far: Int32Array;
}

const flats = new WeakMap<Graph["linksOf"], Flat>();
export const flatOf = ({ links, linksOf }: Graph): Flat => {
  const known = flats.get(linksOf);
  if (known) return known;
  const first = new Int32Array(linksOf.length + 1);
  linksOf.forEach((own, cell) => (first[cell + 1] = (first[cell] as number) + own.length));
  const link = Int32Array.from(linksOf.flat());
  const far = new Int32Array(link.length);
  linksOf.forEach((own, cell) => {
    own.forEach((i, k) => {
      const { a = -1, b = -1 } = links[i] ?? {};
      far[(first[cell] as number) + k] = a === cell ? b : a;
    });
  });
  const made = { first, link, far };
  flats.set(linksOf, made);
  return made;
};

/** Whether a search may go by a link from one of its cells to the other. */
export type MayGo = (link: number, from: number, to: number) => boolean;

/** Goes with liquid: past open links, checks only their own way. */
export const withChecks =
  ({ links }: Graph, passable: readonly boolean[]): MayGo =>
  (link, from) =>
    passable[link] === true && !(links[link]?.oneWay === true && links[link].a !== from);

/** Goes against liquid, to where it may come from: past open links, checks only against their own way. */
export const againstChecks =
  ({ links }: Graph, passable: readonly boolean[]): MayGo =>
  (link, from) =>
    passable[link] === true && !(links[link]?.oneWay === true && links[link].b !== from);

/** Cells reached in the order in which they were met, nearest first, the starts among them. */
export const reachInOrder = (graph: Graph, starts: Iterable<number>, may: MayGo): number[] => {
  const { first, link, far } = flatOf(graph);
  const seen = new Uint8Array(graph.cells.length);
  const order: number[] = [];
  const meet = (cell: number): void => {
    if (seen[cell]) return;
    seen[cell] = 1;
    order.push(cell);
  };
  for (const s of starts) meet(s);
  for (const at of order)
    for (let k = first[at] as number; k < (first[at + 1] as number); k++) {
      const to = far[k] as number;
      if (!seen[to] && may(link[k] as number, at, to)) meet(to);
    }
  return order;
};

/** Marks of the cells that are reached, the starts among them. */
export const reach = (graph: Graph, starts: Iterable<number>, may: MayGo): Uint8Array => {
  const { first, link, far } = flatOf(graph);
  const marks = new Uint8Array(graph.cells.length);
  const todo = new Int32Array(graph.cells.length);
  let n = 0;
  for (const s of starts)
    if (!marks[s]) {
      marks[s] = 1;
      todo[n++] = s;
    }
  while (n > 0) {
    const at = todo[--n] as number;
    const end = first[at + 1] as number;
    for (let k = first[at] as number; k < end; k++) {
      const to = far[k] as number;
      if (marks[to] || !may(link[k] as number, at, to)) continue;
      marks[to] = 1;
      todo[n++] = to;
    }
  }
  return marks;
};

/** A way through a network: its cells from first to last, and the links between them. */
export interface Way {
  readonly cells: readonly number[];
  readonly links: readonly number[];
}

/** The way with the fewest links from a start to a cell that suits; nothing where there is none. */
export const wayTo = (
  graph: Graph,
  start: number,
  may: MayGo,
  suits: (cell: number) => boolean,
): Way | undefined => {
  const mark = freshMarks(graph.cells.length);
  const { byLink, byCell, met, order } = marks;
  const { first, link, far } = flatOf(graph);
  order[0] = start;
  met[start] = mark;
  for (let [done, n] = [0, 1]; done < n; done++) {
    const at = order[done] as number;
    if (suits(at)) return wayBack(byLink, byCell, start, at);
    const end = first[at + 1] as number;
    for (let k = first[at] as number; k < end; k++) {
      const [i, to] = [link[k] as number, far[k] as number];
      if (met[to] === mark || !may(i, at, to)) continue;
      met[to] = mark;
      byCell[to] = at;
      byLink[to] = i;
      order[n++] = to;
    }
  }
  return undefined;
};

// Room for one search after another: by which link and from where each cell was met, in the search whose mark it bears, and in
// which order. No search begins another.
const roomFor = (cells: number) => ({
  byLink: new Int32Array(cells),
  byCell: new Int32Array(cells),
  met: new Int32Array(cells),
  order: new Int32Array(cells),
});
let marks = roomFor(0);
let lastMark = 0;
const MOST_MARKS = 2 ** 31 - 1;
const freshMarks = (cells: number): number => {
  if (marks.met.length < cells) marks = roomFor(cells);
  if (lastMark === MOST_MARKS) {
    marks.met.fill(0);
    lastMark = 0;
  }
  return ++lastMark;
};

const wayBack = (byLink: Int32Array, byCell: Int32Array, start: number, last: number): Way => {
  const way: { cells: number[]; links: number[] } = { cells: [last], links: [] };
  for (let at = last; at !== start;) {
    way.links.push(byLink[at] as number);
    at = byCell[at] as number;
    way.cells.push(at);
  }
  way.cells.reverse();
  way.links.reverse();
  return way;
};

export interface Cheapest {
  /** Least cost by cell; infinite where there is no way. */
  readonly cost: Float64Array;
  /** Link by which each cell is met; −1 at the start and where there is no way. */
  readonly by: Int32Array;
}

/**
 * Least cost from any of the starts to every cell (Dijkstra, Numerische Mathematik 1, 1959).
 * @param starts cells and what it costs to begin there
 * @param next cost at the far cell, from the cost so far; must not fall on the way; nothing where the link may not be gone. Told whether
 *   the near cell is where the way begins.
 */
export const cheapest = (
  graph: Graph,
  starts: Iterable<readonly [cell: number, cost: number]>,
  next: (
    sofar: number,
    link: number,
    from: number,
    to: number,
    isStart: boolean,
  ) => number | undefined,
): Cheapest => {
  const flat = flatOf(graph);
  const cost = new Float64Array(graph.cells.length).fill(Number.POSITIVE_INFINITY);
  const by = new Int32Array(graph.cells.length).fill(-1);
  const open = new Open(cost);
  for (const [cell, first] of starts) open.offer(cell, first);
  for (let at = open.cheapest(); at >= 0; at = open.cheapest()) {
    const end = flat.first[at + 1] as number;
    for (let k = flat.first[at] as number; k < end; k++) {
      const [i, to] = [flat.link[k] as number, flat.far[k] as number];
      const value = next(cost[at] as number, i, at, to, by[at] === -1);
      if (value !== undefined && open.offer(to, value)) by[to] = i;
    }
  }
  return { cost, by };
};

/** Which ways a link may be gone: from its a to its b, from its b to its a. */
export const ONWARD = 1;
export const BACK = 2;

/**
 * The lowest way over the heights of links, from whichever of the starts to every cell: the height of its highest place.
 * @param heightM by link
 * @param mayGo by link, `ONWARD` and `BACK`
 * @param isOutward with what flows from a start; else against what flows to it
 */
export const lowestWays = (
  graph: Graph,
  starts: Iterable<{ readonly cell: number; readonly heightM: number }>,
  heightM: Float64Array,
  mayGo: Uint8Array,
  isOutward: boolean,
): Cheapest => {
  const { first, link, far } = flatOf(graph);
  const { links } = graph;
  const cost = new Float64Array(graph.cells.length).fill(Number.POSITIVE_INFINITY);
  const by = new Int32Array(graph.cells.length).fill(-1);
  const open = new Open(cost);
  for (const start of starts) open.offer(start.cell, start.heightM);
  for (let at = open.cheapest(); at >= 0; at = open.cheapest()) {
    const sofar = cost[at] as number;
    const end = first[at + 1] as number;
    for (let k = first[at] as number; k < end; k++) {
      const i = link[k] as number;
      const ways = mayGo[i] as number;
      if (ways === 0) continue;
      const to = far[k] as number;
      // Most links are open both ways.
      if (ways !== ONWARD + BACK) {
        const flowsTo = isOutward ? to : at;
        if ((ways & (links[i]?.b === flowsTo ? ONWARD : BACK)) === 0) continue;
      }
      if (open.offer(to, Math.max(sofar, heightM[i] as number))) by[to] = i;
    }
  }
  return { cost, by };
};

/** Cells that are still to be gone on from, with what it costs to come to each. */
class Open {
  private readonly cost: Float64Array;
  private readonly cells: Int32Array;
  private count = 0;

  /** @param cost by cell, infinite at first; kept up */
  constructor(cost: Float64Array) {
    this.cost = cost;
    this.cells = new Int32Array(cost.length);
  }

  /** @returns whether this is cheaper than all before */
  offer(cell: number, value: number): boolean {
    const before = this.cost[cell] as number;
    if (value >= before) return false;
    if (before === Number.POSITIVE_INFINITY) this.cells[this.count++] = cell;
    this.cost[cell] = value;
    return true;
  }

  /** Takes the cheapest out; −1 where none is left. */
  cheapest(): number {
    if (this.count === 0) return -1;
    let [least, leastCost] = [0, Number.POSITIVE_INFINITY];
    for (let i = 0; i < this.count; i++) {
      const value = this.cost[this.cells[i] as number] as number;
      if (value < leastCost) [least, leastCost] = [i, value];
    }
    const at = this.cells[least] as number;
    this.cells[least] = this.cells[--this.count] as number;
    return at;
  }
}

/** Marks as dead every link that lies on no way between cells that are kept: ends first, one after another. */
export const pruneDeadEnds = (
  graph: Graph,
  dead: Uint8Array,
  isKept: (cell: number) => boolean,
): void => {
  const { first, link, far } = flatOf(graph);
  const cells = graph.cells.length;
  const degree = new Int32Array(cells);
  const ends = new Int32Array(cells);
  let n = 0;
  for (let cell = 0; cell < cells; cell++) {
    let alive = 0;
    const end = first[cell + 1] as number;
    for (let k = first[cell] as number; k < end; k++) if (!dead[link[k] as number]) alive++;
    degree[cell] = alive;
    if (alive === 1 && !isKept(cell)) ends[n++] = cell;
  }
  while (n > 0) {
    const cell = ends[--n] as number;
    const end = first[cell + 1] as number;
    for (let k = first[cell] as number; k < end; k++) {
      const i = link[k] as number;
      if (dead[i]) continue;
      dead[i] = 1;
      degree[cell] = (degree[cell] as number) - 1;
      const to = far[k] as number;
      const left = (degree[to] as number) - 1;
      degree[to] = left;
      if (left === 1 && !isKept(to)) ends[n++] = to;
    }
  }
};

/** The way from a cell back to the start of a search. */
export const wayBy = ({ links }: Graph, { by }: Cheapest, cell: number): Way => {
  const way: { cells: number[]; links: number[] } = { cells: [cell], links: [] };
  let at = cell;
  for (let i = by[at] as number; i >= 0 && way.links.length < links.length; i = by[at] as number) {
    const l = links[i];
    if (!l) break;
    at = l.a === at ? l.b : l.a;
    way.links.push(i);
    way.cells.push(at);
  }
  return way;
};
