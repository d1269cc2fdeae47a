import type { Edge, Graph, Hole, Node } from "./graph.ts";
import { holesAt, isOneWay, type Unit } from "./unit.ts";

/** Forced flow, simply: a linear network of resistances with checks as diodes, and contents carried through mixed pieces. */

const otherEnd = (e: Edge, at: number): number => (e.a === at ? e.b : e.a);
// Enough pieces that a pipe holds a front, few enough that it spreads: real fronts do.
const PIECES = 10;
const STEPS = 150;
const MOST_STEPS = 4000;
const SHARE_THAT_COUNTS = 0.02;

/** Where what a pump draws comes from: holes met against the flow, each with its way. */
export const sourcesOf = (
  graph: Graph,
  unit: Unit,
  inlet: number,
): { hole: Hole; way: number[] }[] => {
  const by = new Map<number, number>([[inlet, -1]]);
  const order = [inlet];
  const found: { hole: Hole; way: number[] }[] = [];
  for (const at of order) {
    const way = (): number[] => {
      const back: number[] = [];
      for (let c = at; c >= 0; c = by.get(c) ?? -1) back.push(c);
      return back;
    };
    for (const hole of holesAt(unit, at)) if (!hole.airOnly) found.push({ hole, way: way() });
    const n = graph.nodes[at] as Node;
    if (n.isVessel && n.vessel) continue;
    for (const i of graph.near[at] ?? []) {
      const e = graph.edges[i] as Edge;
      const next = otherEnd(e, at);
      if (by.has(next) || unit.open[i] !== 1 || e.pump || (isOneWay(unit, e) && e.b !== at))
        continue;
      by.set(next, at);
      order.push(next);
    }
  }
  return found;
};

/** A vessel where what is pressed in goes no farther: it has a hole of its own, or it breathes. */
const ends = (unit: Unit, n: Node, at: number): boolean =>
  n.isVessel &&
  (n.vessel === "waste" ||
    holesAt(unit, at).some((h) => (n.vessel === "fresh") === (h.use === "vent")));

export interface Flow {
  /** By edge, positive from a to b; one unit is driven. */
  readonly edge: readonly number[];
  readonly holes: readonly { readonly hole: Hole; readonly share: number }[];
}

/**
 * How one unit forced in at a node spreads to everything that stands open.
 * @param passesPumps a pump that stands still lets through what is pushed into its inlet, by its own valves
 */
export const spreadFrom = (
  graph: Graph,
  unit: Unit,
  start: number,
  without: ReadonlySet<string>,
  passesPumps = false,
): Flow | undefined => {
  const may = (e: Edge, i: number, at: number): boolean =>
    unit.open[i] === 1 &&
    (passesPumps || !e.pump) &&
    !(isOneWay(unit, e) && e.a !== at) &&
    !ends(unit, graph.nodes[at] as Node, at);
  const reached = new Set([start]);
  const todo = [start];
  for (let at = todo.pop(); at !== undefined; at = todo.pop())
    for (const i of graph.near[at] ?? []) {
      const e = graph.edges[i] as Edge;
      const next = otherEnd(e, at);
      if (!reached.has(next) && may(e, i, at)) {
        reached.add(next);
        todo.push(next);
      }
    }
  const outs = unit.live.filter((h) => reached.has(h.node) && !h.airOnly && !without.has(h.id));
  const mouths = [...reached].filter(
    (c) =>
      graph.nodes[c]?.vessel === "waste" &&
      graph.nodes[c]?.isVessel &&
      !outs.some((h) => h.node === c),
  );
  const sinks = new Set([...outs.map((h) => h.node), ...mouths]);
  if (sinks.size === 0) return undefined;
  // Farthest first: each is then solved for before what it hangs on.
  const nodes = [...reached].toReversed();
  const place = new Map(nodes.map((c, i) => [c, i]));
  const links = graph.edges.flatMap((e, i) => {
    if (!reached.has(e.a) || !reached.has(e.b)) return [];
    const [ab, ba] = [may(e, i, e.a), may(e, i, e.b)];
    if (!ab && !ba) return [];
    const g =
      1 / ((graph.nodes[e.a]?.resistance ?? 1) / 2 + (graph.nodes[e.b]?.resistance ?? 1) / 2);
    return [{ i, a: e.a, b: e.b, g: g * 1e-7, ab, ba, shut: false }];
  });
  const size = nodes.length;
  let head: Float64Array = new Float64Array(size);
  const wide = size + 1;
  const all = new Float64Array(size * wide);
  const rows = Array.from({ length: size }, (_, i) => all.subarray(i * wide, (i + 1) * wide));
  for (let round = 0; round < 30; round++) {
    all.fill(0);
    const m = [...rows];
    for (const l of links) {
      if (l.shut) continue;
      const [p, q] = [place.get(l.a) as number, place.get(l.b) as number];
      (m[p] as Float64Array)[p] = ((m[p] as Float64Array)[p] ?? 0) + l.g;
      (m[q] as Float64Array)[q] = ((m[q] as Float64Array)[q] ?? 0) + l.g;
      (m[p] as Float64Array)[q] = ((m[p] as Float64Array)[q] ?? 0) - l.g;
      (m[q] as Float64Array)[p] = ((m[q] as Float64Array)[p] ?? 0) - l.g;
    }
    nodes.forEach((c, i) => {
      const row = m[i] as Float64Array;
      // Whatever stands open lets out with the ease of a fitting; a node without any other way is held by a hair.
      row[i] = (row[i] ?? 0) + (sinks.has(c) ? 1e-7 / (0.5 / 0.012 ** 4) : 1e-22);
      row[size] = c === start ? 1 : 0;
    });
    head = solve(m, size);
    let turned = false;
    for (const l of links) {
      const q =
        (head[place.get(l.a) as number] as number) - (head[place.get(l.b) as number] as number);
      if (!l.shut && ((q > 1e-9 && !l.ab) || (q < -1e-9 && !l.ba))) {
        l.shut = true;
        turned = true;
      }
    }
    if (!turned) break;
  }
  const edge = graph.edges.map(() => 0);
  for (const l of links)
    if (!l.shut)
      edge[l.i] =
        l.g *
        ((head[place.get(l.a) as number] as number) - (head[place.get(l.b) as number] as number));
  const out = (c: number): number =>
    (head[place.get(c) as number] as number) * (1e-7 / (0.5 / 0.012 ** 4));
  return {
    edge,
    holes: outs.map((hole) => ({
      hole,
      share: out(hole.node) / outs.filter((h) => h.node === hole.node).length,
    })),
  };
};

/** Gauss with the largest pivot. */
const solve = (m: Float64Array[], size: number): Float64Array => {
  for (let i = 0; i < size; i++) {
    let best = i;
    for (let r = i + 1; r < size; r++)
      if (Math.abs(m[r]?.[i] ?? 0) > Math.abs(m[best]?.[i] ?? 0)) best = r;
    [m[i], m[best]] = [m[best] as Float64Array, m[i] as Float64Array];
    const row = m[i] as Float64Array;
    const pivot = row[i] as number;
    if (pivot === 0) continue;
    for (let r = i + 1; r < size; r++) {
      const other = m[r] as Float64Array;
      const f = (other[i] as number) / pivot;
      if (f === 0) continue;
      for (let c = i; c <= size; c++) other[c] = (other[c] as number) - f * (row[c] as number);
    }
  }
  const x = new Float64Array(size);
  for (let i = size - 1; i >= 0; i--) {
    const row = m[i] as Float64Array;
    let sum = row[size] as number;
    for (let c = i + 1; c < size; c++) sum -= (row[c] as number) * (x[c] as number);
    x[i] = row[i] === 0 ? 0 : sum / (row[i] as number);
  }
  return x;
};

/** When whoever runs it stops: not before the volume that was expected, then at this strength at a node, or at the most that the step allows. */
export interface Until {
  readonly node: number;
  readonly strength: number;
  readonly mostM3: number;
}

const LOOK_EVERY = 25;
const isAll = ({ v, g, capM3 }: Station, strength: number): boolean =>
  v.every(
    (held, p) => held >= capM3 * (1 - 1e-9) && (g[p] as number) >= held * strength * (1 - 1e-6),
  );

interface Station {
  /** It holds nothing but what comes now: what is let in is what it gives. */
  isThrough: boolean;
  readonly cell: number;
  readonly share: number;
  readonly feeds: readonly { readonly from: number; readonly part: number }[];
  readonly capM3: number;
  /** Liquid and glycol of each piece, m3. */
  readonly v: Float64Array;
  readonly g: Float64Array;
}

const stationsOf = (graph: Graph, unit: Unit, lead: readonly number[], flow: Flow): Station[] => {
  const share = new Map<number, number>();
  for (const c of lead) share.set(c, 1);
  const into = new Map<number, { from: number; q: number }[]>();
  const feeds = (from: number, to: number, q: number): void =>
    void into.set(to, [...(into.get(to) ?? []), { from, q }]);
  lead.forEach((c, i) => i > 0 && feeds(lead[i - 1] as number, c, 1));
  graph.edges.forEach((e, i) => {
    const q = flow.edge[i] ?? 0;
    if (Math.abs(q) < SHARE_THAT_COUNTS) return;
    const [from, to] = q > 0 ? [e.a, e.b] : [e.b, e.a];
    feeds(from, to, Math.abs(q));
    for (const c of [from, to]) share.set(c, Math.max(share.get(c) ?? 0, Math.abs(q)));
  });
  const order = ordered([...share.keys()], into);
  const place = new Map(order.map((c, i) => [c, i]));
  return order.map((cell) => {
    const n = graph.nodes[cell] as Node;
    const count = n.isRun ? PIECES : 1;
    const held = Math.min(n.capM3, unit.wetM3[cell] ?? 0) / count;
    return {
      isThrough: false,
      cell,
      share: share.get(cell) ?? 0,
      feeds: (into.get(cell) ?? []).map(({ from, q }) => ({
        from: place.get(from) ?? -1,
        part: Math.min(1, q / Math.max(share.get(from) ?? 1, 1e-12)),
      })),
      capM3: n.capM3 / count,
      v: new Float64Array(count).fill(held),
      g: new Float64Array(count).fill(held * (unit.strength[cell] ?? 0)),
    };
  });
};

/** Lets into a station what those before it gave, piece by piece, and says what it gives itself. */
const feed = (
  s: Station,
  i: number,
  step: number,
  strength: number,
  outV: Float64Array,
  outG: Float64Array,
): void => {
  let v = s.feeds.length === 0 ? s.share * step : 0;
  let g = v * strength;
  for (const { from, part } of s.feeds) {
    v += (outV[from] ?? 0) * part;
    g += (outG[from] ?? 0) * part;
  }
  // Nothing comes, or it goes straight on.
  for (let p = v > 0 && !s.isThrough ? 0 : s.v.length; p < s.v.length; p++) {
    const held = (s.v[p] as number) + v;
    const glycol = (s.g[p] as number) + g;
    v = Math.max(0, held - s.capM3);
    g = held > 0 ? (v / held) * glycol : 0;
    s.v[p] = held - v;
    s.g[p] = glycol - g;
  }
  outV[i] = v;
  outG[i] = g;
};

/** Carries product along a way of single cells and on through a spread of flow. */
export const carry = (
  graph: Graph,
  unit: Unit,
  lead: readonly number[],
  flow: Flow,
  volumeM3: number,
  strength: number,
  until?: Until,
): void => {
  const stations = stationsOf(graph, unit, lead, flow);
  const [outV, outG] = [new Float64Array(stations.length), new Float64Array(stations.length)];
  const step = volumeM3 / STEPS;
  const watched = until ? stations.findIndex((s) => s.cell === until.node) : -1;
  const most =
    watched >= 0 && until ? Math.max(STEPS, Math.ceil(until.mostM3 / Math.max(step, 1e-9))) : STEPS;
  for (let k = 0; k < Math.min(most, MOST_STEPS); k++) {
    if (
      until &&
      k >= STEPS &&
      (outV[watched] ?? 0) > 0 &&
      (outG[watched] ?? 0) >= until.strength * (outV[watched] ?? 0)
    )
      break;
    // Everything full of what comes: nothing changes any more.
    if (k % LOOK_EVERY === LOOK_EVERY - 1) {
      // In the order in which they are met: one gives product alone when all before it do.
      for (const s of stations)
        s.isThrough ||=
          s.feeds.every(({ from }) => stations[from]?.isThrough === true) && isAll(s, strength);
      if (stations.every((s) => s.isThrough || isAll(s, strength))) break;
    }
    for (let i = 0; i < stations.length; i++)
      feed(stations[i] as Station, i, step, strength, outV, outG);
  }
  for (const { cell: c, v, g, capM3 } of stations) {
    const n = graph.nodes[c] as Node;
    const isHoled = ends(unit, n, c);
    // A heater that runs out by its own hole keeps what lies below it; a tank keeps what came.
    if (isHoled && n.vessel !== "heater") continue;
    unit.wetM3[c] = isHoled
      ? Math.min(unit.wetM3[c] ?? 0, n.capM3 * n.drained)
      : v.reduce((sum, m) => sum + m, 0);
    if (isHoled) continue;
    unit.strength[c] = weakest(v, g, capM3);
  }
};

// A slug of water shorter than this yields along its pipe when it freezes: so many pieces are looked at together.
const TOGETHER = 3;

const weakest = (v: Float64Array, g: Float64Array, capM3: number): number => {
  let least = 1;
  const span = Math.min(TOGETHER, v.length);
  for (let p = 0; p + span <= v.length; p++) {
    let [held, glycol] = [0, 0];
    for (let k = p; k < p + span; k++) {
      held += v[k] as number;
      glycol += g[k] as number;
    }
    if (held > 0.02 * span * capM3) least = Math.min(least, glycol / held);
  }
  return least;
};

const ordered = (
  cells: readonly number[],
  into: ReadonlyMap<number, { from: number }[]>,
): number[] => {
  const done = new Set<number>();
  const order: number[] = [];
  let left = [...cells];
  while (left.length > 0) {
    const ready = left.filter((c) => (into.get(c) ?? []).every((f) => done.has(f.from)));
    const batch = ready.length > 0 ? ready : [left[0] as number];
    for (const c of batch) {
      done.add(c);
      order.push(c);
    }
    left = left.filter((c) => !done.has(c));
  }
  return order;
};
