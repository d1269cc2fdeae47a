import { flowOrder } from "./move.ts";
import { liveOpenings, type LiveOpening, passableLinks, type Situation } from "../watermap/situation.ts";

/** Where liquid is forced: a pump that moves it across a link, or a source pushed in at a cell. */
export type Drive = { readonly kind: "pump"; readonly switchKey: string } | { readonly kind: "push"; readonly cell: number };

export interface Flow {
  /** Share of the driven flow through each link, positive from a to b. */
  readonly link: readonly number[];
  /** Share leaving at each live opening; negative where something comes in. */
  readonly opening: readonly { readonly at: LiveOpening; readonly share: number }[];
  /** Cells in the order in which liquid meets them. */
  readonly order: readonly number[];
}

export type FlowResult =
  | { readonly ok: true; readonly flow: Flow }
  | { readonly ok: false; readonly reason: "no way out" | "no way in" | "no pump" };

// A share below this is rounding, not flow.
const SHARE_FLOOR = 1e-9;
// An opening hinders like a metre of 10 mm hose; only the split between several open ones depends on it (our own estimate).
const OPENING_CONDUCTANCE = 0.01 ** 4;

interface Edge {
  /** Place in the list of all edges. */
  readonly index: number;
  readonly link: number;
  readonly a: number;
  readonly b: number;
  readonly g: number;
  readonly oneWay: boolean;
}

/** Whether a cell is joined to one of the ends, passing links either way. */
const reaches = (
  start: number,
  edges: readonly Edge[],
  near: readonly (readonly number[])[],
  shut: Uint8Array,
  ends: ReadonlyMap<number, number>,
): boolean => {
  const seen = new Uint8Array(near.length);
  const todo = [start];
  seen[start] = 1;
  for (let at = todo.pop(); at !== undefined; at = todo.pop()) {
    if (ends.has(at)) return true;
    for (const i of near[at] ?? []) {
      const e = edges[i] as Edge;
      const next = e.a === at ? e.b : e.a;
      if (shut[i] || seen[next]) continue;
      seen[next] = 1;
      todo.push(next);
    }
  }
  return false;
};

/** Drops pieces that lead nowhere: a cell with one way and nothing forced or open there carries no flow. */
const pruned = (
  edges: readonly Edge[],
  near: readonly (readonly number[])[],
  shut: Uint8Array,
  keep: (cell: number) => boolean,
): Edge[] => {
  const dead = Uint8Array.from(shut);
  const degree = near.map((list) => list.reduce((n, i) => n + (dead[i] ? 0 : 1), 0));
  const ends = degree.flatMap((n, cell) => (n === 1 && !keep(cell) ? [cell] : []));
  for (let cell = ends.pop(); cell !== undefined; cell = ends.pop())
    for (const i of near[cell] ?? []) {
      if (dead[i]) continue;
      dead[i] = 1;
      const e = edges[i] as Edge;
      for (const c of [e.a, e.b]) {
        degree[c] = (degree[c] as number) - 1;
        if (degree[c] === 1 && !keep(c)) ends.push(c);
      }
    }
  return edges.filter((_, i) => !dead[i]);
};

/**
 * Solves a symmetric, diagonally dominant system whose graph is nearly a tree: eliminates the node with fewest neighbours first,
 * so that hardly any new entry arises and the work grows with the number of nodes, not its cube.
 * @param rows neighbour → entry, for each node, the diagonal under its own number; used up
 */
const solve = (rows: Map<number, number>[], right: number[]): number[] => {
  const order: { node: number; row: Map<number, number> }[] = [];
  const waiting = new Set(rows.keys());
  while (waiting.size > 0) {
    let node = -1;
    for (const i of waiting) {
      if (node < 0 || (rows[i]?.size ?? 0) < (rows[node]?.size ?? 0)) node = i;
      if ((rows[node]?.size ?? 0) <= 2) break;
    }
    waiting.delete(node);
    const row = rows[node] as Map<number, number>;
    order.push({ node, row });
    const pivot = row.get(node) ?? 0;
    if (Math.abs(pivot) < PIVOT_FLOOR) continue;
    for (const [j, entry] of row) {
      if (j === node || !waiting.has(j)) continue;
      const factor = entry / pivot;
      const other = rows[j] as Map<number, number>;
      other.delete(node);
      right[j] = (right[j] as number) - factor * (right[node] as number);
      for (const [k, value] of row) if (k !== node && waiting.has(k)) other.set(k, (other.get(k) ?? 0) - factor * value);
    }
  }
  const x = Array.from({ length: rows.length }, () => 0);
  for (const { node, row } of order.toReversed()) {
    let value = right[node] as number;
    for (const [k, entry] of row) if (k !== node) value -= entry * (x[k] as number);
    const pivot = row.get(node) ?? 0;
    x[node] = Math.abs(pivot) < PIVOT_FLOOR ? 0 : value / pivot;
  }
  return x;
};

// Conductances here run from 1e-9 to 1e-5; anything below this is an unconnected node, not a small pivot.
const PIVOT_FLOOR = 1e-25;

/**
 * How a unit of forced flow spreads over the open ways out, and where its supply comes from.
 * Resistance goes with length over bore to the fourth power (laminar, Hagen-Poiseuille), which is enough to say which
 * ways carry flow and roughly how parallel ways share it. Checks that would pass backwards are shut and the flow found again.
 */
export const findFlow = (situation: Situation, drive: Drive): FlowResult => {
  const { network } = situation;
  const size = network.cells.length;
  const passable = passableLinks(situation);
  const openings = liveOpenings(situation);
  const injected = new Map<number, number>();
  const driven = network.links.findIndex((l, i) => drive.kind === "pump" && l.drivenBy === drive.switchKey && passable[i]);
  if (drive.kind === "pump") {
    const link = network.links[driven];
    if (!link) return { ok: false, reason: "no pump" };
    injected.set(link.a, -1);
    injected.set(link.b, 1);
  } else injected.set(drive.cell, 1);

  const ground = new Map<number, number>();
  for (const o of openings) ground.set(o.cell, (ground.get(o.cell) ?? 0) + OPENING_CONDUCTANCE);
  const half = (cell: number): number => (network.cells[cell]?.resistance ?? 0) / 2;
  const allEdges: Edge[] = [];
  network.links.forEach(({ a, b, oneWay }, link) => {
    // A pump that does not run holds liquid back only against its check; pushed from its inlet it lets liquid through.
    if (passable[link] && link !== driven) allEdges.push({ index: allEdges.length, link, a, b, g: 1 / (half(a) + half(b)), oneWay });
  });
  const keep = (cell: number): boolean => injected.has(cell) || ground.has(cell);
  const near: number[][] = Array.from({ length: size }, () => []);
  allEdges.forEach((e, i) => {
    near[e.a]?.push(i);
    near[e.b]?.push(i);
  });
  const shut = new Uint8Array(allEdges.length);
  let edges: Edge[] = [];
  let potential: number[] = [];
  // Each turn shuts at least one check, so this ends.
  for (let turn = 0; turn <= allEdges.length; turn++) {
    for (const [cell, q] of injected)
      if (!reaches(cell, allEdges, near, shut, ground)) return { ok: false, reason: q > 0 ? "no way out" : "no way in" };
    const active = pruned(allEdges, near, shut, keep);
    const nodes = [...new Set([...injected.keys(), ...ground.keys(), ...active.flatMap((e) => [e.a, e.b])])];
    const at = new Map(nodes.map((cell, i) => [cell, i]));
    const matrix = nodes.map(() => new Map<number, number>());
    const right = nodes.map((cell) => injected.get(cell) ?? 0);
    const addTo = (i: number, j: number, g: number): void => {
      const row = matrix[i] as Map<number, number>;
      row.set(j, (row.get(j) ?? 0) + g);
    };
    for (const [cell, g] of ground) addTo(at.get(cell) as number, at.get(cell) as number, g);
    for (const e of active) {
      const [i, j] = [at.get(e.a) as number, at.get(e.b) as number];
      addTo(i, i, e.g);
      addTo(j, j, e.g);
      addTo(i, j, -e.g);
      addTo(j, i, -e.g);
    }
    const x = solve(matrix, right);
    potential = Array.from({ length: size }, () => 0);
    nodes.forEach((cell, i) => (potential[cell] = x[i] as number));
    edges = active;
    const backward = active.filter((e) => e.oneWay && ((potential[e.a] as number) - (potential[e.b] as number)) * e.g < -SHARE_FLOOR);
    if (backward.length === 0) break;
    for (const e of backward) shut[e.index] = 1;
  }

  const link = network.links.map(() => 0);
  for (const e of edges) {
    const q = ((potential[e.a] as number) - (potential[e.b] as number)) * e.g;
    if (Math.abs(q) > SHARE_FLOOR) link[e.link] = q;
  }
  if (driven >= 0 && drive.kind === "pump") link[driven] = 1;
  const opening = openings.map((at) => {
    const share = (potential[at.cell] as number) * OPENING_CONDUCTANCE;
    return { at, share: Math.abs(share) > SHARE_FLOOR ? share : 0 };
  });
  const forced = new Map(drive.kind === "push" ? [[drive.cell, 1]] : []);
  return { ok: true, flow: { link, opening, order: flowOrder(network, { link, holes: opening, forced }) } };
};
