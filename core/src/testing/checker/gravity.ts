import type { Edge, Graph, Hole, Node } from "./graph.ts";
import { crackOf, holesAt, isOneWay, refresh, type Unit } from "./unit.ts";

/**
 * Gravity by looking for it: liquid leaves a node safely where a way out for it and a way in for air exist that share nothing narrow,
 * the air standing higher than the hole all along its way. Ways are tried one after another, up to a bound; what is not found by then
 * counts as not there.
 */

const MOST_TRIED = 600;
const EPS = 1e-6;

/** The highest level that may stay in a node without harm; nothing where what stays harms in any case. */
const safeLevel = (n: Node): number | undefined => {
  if (n.isTrap || n.sagM3 > 0 || n.drained > n.allowed) return undefined;
  return n.bottomM + n.allowed * (n.topM - n.bottomM);
};

const otherEnd = (e: Edge, at: number): number => (e.a === at ? e.b : e.a);
const GRAVITY_M = 1;

const airComes = (
  graph: Graph,
  unit: Unit,
  start: number,
  hole: Hole,
  taken: ReadonlySet<number>,
  necks: ReadonlySet<number>,
): boolean => {
  const seen = new Uint8Array(graph.nodes.length);
  seen[start] = 1;
  const todo = [start];
  for (let at = todo.pop(); at !== undefined; at = todo.pop()) {
    for (const h of holesAt(unit, at))
      if (h.id !== hole.id && h.use !== "raw" && h.heightM > hole.heightM + EPS) return true;
    for (const i of graph.near[at] ?? []) {
      const e = graph.edges[i] as Edge;
      const next = otherEnd(e, at);
      if (
        taken.has(i) ||
        necks.has(next) ||
        seen[next] === 1 ||
        unit.open[i] !== 1 ||
        crackOf(unit, e) > 0
      )
        continue;
      // Air moves the way that liquid does: towards where we start.
      if (isOneWay(unit, e) && e.b !== at) continue;
      const n = graph.nodes[next] as Node;
      if ((n.sagM3 > 0 ? Math.min(e.heightM, n.sagBottomM) : e.heightM) < hole.heightM - EPS)
        continue;
      // The mouth of a tank that still stands full is under water.
      if (
        n.vessel === "fresh" &&
        n.isVessel &&
        (unit.wetM3[next] ?? 0) > 0.5 * n.capM3 &&
        e.heightM < (n.bottomM + n.topM) / 2
      )
        continue;
      seen[next] = 1;
      todo.push(next);
    }
  }
  return false;
};

/**
 * How high liquid must stand in each node to find any way out at all, air or no air: most nodes that keep their water have none.
 * The highest place on the way, the lowest over all ways.
 */
const lowestWaysOut = (graph: Graph, unit: Unit): Float64Array => {
  const level = new Float64Array(graph.nodes.length).fill(Number.POSITIVE_INFINITY);
  const todo: number[] = [];
  const lower = (at: number, m: number): void => {
    if (m >= (level[at] as number)) return;
    level[at] = m;
    todo.push(at);
  };
  for (const h of unit.live) if (!h.airOnly) lower(h.node, h.heightM);
  graph.nodes.forEach(
    (n, i) => n.isVessel && n.vessel && n.vessel !== "heater" && lower(i, Number.NEGATIVE_INFINITY),
  );
  for (let at = todo.pop(); at !== undefined; at = todo.pop())
    for (const i of graph.near[at] ?? []) {
      const e = graph.edges[i] as Edge;
      // Backwards: who comes this way comes out of the other end.
      if (unit.open[i] !== 1 || (isOneWay(unit, e) && e.b !== at)) continue;
      lower(otherEnd(e, at), Math.max(level[at] as number, e.heightM + crackOf(unit, e)));
    }
  return level;
};

/** Whether a node runs out to where it does no harm. */
const runsOut = (graph: Graph, unit: Unit, x: number, lowest: Float64Array): boolean => {
  const n = graph.nodes[x] as Node;
  const level = safeLevel(n);
  if (level === undefined || (lowest[x] as number) > level + EPS) return false;
  let tried = 0;
  const used = new Set<number>();
  const on = new Set([x]);
  const necks = new Set<number>();
  const isNeck = (c: number): boolean => graph.nodes[c]?.isVessel !== true;
  const from = (at: number): boolean => {
    if (++tried > MOST_TRIED) return false;
    for (const h of holesAt(unit, at))
      if (!h.airOnly && h.use !== "raw" && h.heightM <= level + EPS) {
        if (h.use === "dump" && at === x) return true;
        if (airComes(graph, unit, x, h, used, necks)) return true;
      }
    const here = graph.nodes[at] as Node;
    // Into a tank that stands empty, or a waste tank.
    if (at !== x && here.isVessel && isNeck(x) && isSink(unit, here, at)) {
      const lip: Hole = {
        id: "into",
        node: at,
        heightM: levelIn(unit, here, at),
        use: "into",
        part: here.owner,
        pressed: false,
        airOnly: false,
      };
      if (lip.heightM <= level + EPS && airComes(graph, unit, x, lip, used, necks)) return true;
    }
    for (const i of graph.near[at] ?? []) {
      const e = graph.edges[i] as Edge;
      const next = otherEnd(e, at);
      if (
        on.has(next) ||
        unit.open[i] !== 1 ||
        crackOf(unit, e) >= GRAVITY_M ||
        e.heightM + crackOf(unit, e) > level + EPS
      )
        continue;
      if (isOneWay(unit, e) && e.a !== at) continue;
      on.add(next);
      used.add(i);
      if (isNeck(next)) necks.add(next);
      if (from(next)) return true;
      on.delete(next);
      used.delete(i);
      necks.delete(next);
    }
    return false;
  };
  return from(x);
};

/** How high liquid stands in a tank over the lip of its outlets. */
const levelIn = (unit: Unit, n: Node, at: number): number =>
  n.bottomM + Math.max(0, (unit.wetM3[at] ?? 0) / n.capM3 - n.drained) * (n.topM - n.bottomM);

// A fuller tank takes nothing more.
const HAS_ROOM = 0.9;

const isSink = (unit: Unit, n: Node, at: number): boolean =>
  (unit.wetM3[at] ?? 0) < HAS_ROOM * n.capM3 &&
  (n.vessel === "waste" ||
    (n.vessel === "fresh" && holesAt(unit, at).some((h) => h.use === "vent")));

/** Lets everything run out that does; what a node keeps is its own remainder. */
export const drainAll = (graph: Graph, unit: Unit): void => {
  refresh(graph, unit);
  const lowest = lowestWaysOut(graph, unit);
  // A bowl that is off is tipped out.
  const off = new Set(
    unit.live.flatMap((h) =>
      h.use === "bowl" && h.gate && !graph.nodes[h.node]?.isVessel ? [h.node] : [],
    ),
  );
  const least = (n: Node, i: number): number =>
    n.capM3 * (off.has(i) ? Math.min(n.tipped ?? 0.02, n.drained) : n.drained);
  // A tank that has run out lets in air, and takes what runs down.
  let changed = true;
  for (let round = 0; round < 2 && changed; round++) {
    changed = false;
    graph.nodes.forEach((n, i) => {
      if (n.isTrap || n.falls || (n.isRun && n.service === "waste")) return;
      if (
        (unit.wetM3[i] ?? 0) <= least(n, i) ||
        !(
          off.has(i) ||
          runsOut(graph, unit, i, lowest) ||
          (n.cushion && (lowest[i] as number) < Number.POSITIVE_INFINITY)
        )
      )
        return;
      unit.wetM3[i] = Math.min(unit.wetM3[i] ?? 0, least(n, i));
      changed = true;
    });
  }
};
