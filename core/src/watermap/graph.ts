/** The searches that everything asks of a network: what is reached, by which way, at what least cost. */

/** What a search needs to know of a network. */
export interface Graph {
  readonly cells: { readonly length: number };
  readonly links: readonly { readonly a: number; readonly b: number; readonly oneWay: boolean }[];
  readonly linksOf: readonly (readonly number[])[];
}

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
  const seen = new Uint8Array(graph.cells.length);
  const order: number[] = [];
  const meet = (cell: number): void => {
    if (seen[cell]) return;
    seen[cell] = 1;
    order.push(cell);
  };
  for (const s of starts) meet(s);
  for (const at of order)
    for (const i of graph.linksOf[at] ?? []) {
      const l = graph.links[i];
      if (!l) continue;
      const to = l.a === at ? l.b : l.a;
      if (!seen[to] && may(i, at, to)) meet(to);
    }
  return order;
};

/** Marks of the cells that are reached, the starts among them. */
export const reach = (graph: Graph, starts: Iterable<number>, may: MayGo): Uint8Array => {
  const marks = new Uint8Array(graph.cells.length);
  const todo: number[] = [];
  for (const s of starts)
    if (!marks[s]) {
      marks[s] = 1;
      todo.push(s);
    }
  for (let at = todo.pop(); at !== undefined; at = todo.pop())
    for (const i of graph.linksOf[at] ?? []) {
      const l = graph.links[i];
      if (!l) continue;
      const to = l.a === at ? l.b : l.a;
      if (marks[to] || !may(i, at, to)) continue;
      marks[to] = 1;
      todo.push(to);
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
  const { byLink, byCell, met } = marks;
  const order = [start];
  met[start] = mark;
  for (const at of order) {
    if (suits(at)) return wayBack(byLink, byCell, start, at);
    for (const i of graph.linksOf[at] ?? []) {
      const l = graph.links[i];
      if (!l) continue;
      const to = l.a === at ? l.b : l.a;
      if (met[to] === mark || !may(i, at, to)) continue;
      met[to] = mark;
      byCell[to] = at;
      byLink[to] = i;
      order.push(to);
    }
  }
  return undefined;
};

// Room for one search after another: by which link and from where each cell was met, in the search whose mark it bears. No search begins
// another.
let marks = { byLink: new Int32Array(0), byCell: new Int32Array(0), met: new Int32Array(0) };
let lastMark = 0;
const MOST_MARKS = 2 ** 31 - 1;
const freshMarks = (cells: number): number => {
  if (marks.met.length < cells)
    marks = {
      byLink: new Int32Array(cells),
      byCell: new Int32Array(cells),
      met: new Int32Array(cells),
    };
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
  const cost = new Float64Array(graph.cells.length).fill(Number.POSITIVE_INFINITY);
  const by = new Int32Array(graph.cells.length).fill(-1);
  const open: number[] = [];
  for (const [cell, first] of starts) {
    if (first >= (cost[cell] as number)) continue;
    if (cost[cell] === Number.POSITIVE_INFINITY) open.push(cell);
    cost[cell] = first;
  }
  while (open.length > 0) {
    let least = 0;
    for (let i = 1; i < open.length; i++)
      if ((cost[open[i] as number] as number) < (cost[open[least] as number] as number)) least = i;
    const at = open[least] as number;
    open[least] = open.at(-1) as number;
    open.pop();
    for (const i of graph.linksOf[at] ?? []) {
      const l = graph.links[i];
      if (!l) continue;
      const to = l.a === at ? l.b : l.a;
      const value = next(cost[at] as number, i, at, to, by[at] === -1);
      if (value === undefined || value >= (cost[to] as number)) continue;
      if (cost[to] === Number.POSITIVE_INFINITY) open.push(to);
      cost[to] = value;
      by[to] = i;
    }
  }
  return { cost, by };
};

/** Marks as dead every link that lies on no way between cells that are kept: ends first, one after another. */
export const pruneDeadEnds = (
  { cells, links, linksOf }: Graph,
  dead: Uint8Array,
  isKept: (cell: number) => boolean,
): void => {
  const degree = new Int32Array(cells.length);
  for (let i = 0; i < links.length; i++) {
    if (dead[i]) continue;
    const { a, b } = links[i] as (typeof links)[number];
    degree[a] = (degree[a] as number) + 1;
    degree[b] = (degree[b] as number) + 1;
  }
  const ends: number[] = [];
  for (let cell = 0; cell < degree.length; cell++)
    if (degree[cell] === 1 && !isKept(cell)) ends.push(cell);
  for (let cell = ends.pop(); cell !== undefined; cell = ends.pop())
    for (const i of linksOf[cell] ?? []) {
      const l = links[i];
      if (dead[i] || !l) continue;
      dead[i] = 1;
      degree[cell] = (degree[cell] as number) - 1;
      const far = l.a === cell ? l.b : l.a;
      degree[far] = (degree[far] as number) - 1;
      if (degree[far] === 1 && !isKept(far)) ends.push(far);
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
