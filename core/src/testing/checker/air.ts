import { PIPE_SYSTEMS } from "../../watermap/index.ts";
import type { Edge, Graph, Hole, Node } from "./graph.ts";
import { type Flow, spreadFrom } from "./pumping.ts";
import { holesAt, isOneWay, refresh, type Unit } from "./unit.ts";

/** Air, simply: it clears what lies on the only way to the one hole that stands open; a dip as far as its speed lifts water. */

const ALL_OF_IT = 0.9;
// A tap passes 0.1 L/s of water at 2 bar; air, so much lighter, as much faster (Bernoulli).
const TAP_M3_S = 1e-4;
const TAP_PA = 200_000;
const AIR_KG_M3 = 1.225;
const ATMOSPHERE_PA = 101_325;
const SUCTION_LEAVES = 0.15;

const otherEnd = (e: Edge, at: number): number => (e.a === at ? e.b : e.a);

/** Node at which an air hose is on, and the holes that it stops. */
const hoseAt = (
  graph: Graph,
  opening: string,
): { node: number; stopped: ReadonlySet<string> } | undefined => {
  const hole = graph.holes.find((h) => h.id === opening);
  if (hole) return { node: hole.node, stopped: new Set([hole.id]) };
  const [run = "", end = "", kind = ""] = opening.split(":");
  const edge = graph.edges.find((e) => e.end === `${run} ${end}`);
  if (!edge || kind === "") return undefined;
  return kind === "pipe-end"
    ? { node: edge.a, stopped: new Set([`${run} ${end} pipe`]) }
    : { node: edge.b, stopped: new Set([`${run} ${end} part`]) };
};

/** Nodes that feel the pressure. */
export const pressedFrom = (graph: Graph, unit: Unit, start: number): Set<number> => {
  const seen = new Set([start]);
  const todo = [start];
  for (let at = todo.pop(); at !== undefined; at = todo.pop()) {
    if (holesAt(unit, at).some((h) => h.use === "vent") && graph.nodes[at]?.isVessel) continue;
    for (const i of graph.near[at] ?? []) {
      const e = graph.edges[i] as Edge;
      const next = otherEnd(e, at);
      if (seen.has(next) || unit.open[i] !== 1 || (isOneWay(unit, e) && e.a !== at)) continue;
      seen.add(next);
      todo.push(next);
    }
  }
  return seen;
};

const sagStays = (graph: Graph, n: Node, pa: number): number => {
  const run = graph.map.runs.find((r) => r.id === n.owner);
  const boreM = PIPE_SYSTEMS.get(run?.pipe ?? "")?.boreM;
  if (!boreM) return 1;
  const density = (AIR_KG_M3 * (pa + ATMOSPHERE_PA)) / ATMOSPHERE_PA;
  const flow = TAP_M3_S * Math.sqrt(pa / TAP_PA) * Math.sqrt(1000 / density);
  const speed = flow / ((Math.PI / 4) * boreM * boreM);
  const lifts = Math.sqrt((9.81 * boreM * (1000 - density)) / density);
  return Math.max(0, 1 - speed / lifts);
};

/** The one hole by which nearly all of it goes; a waste tank that it runs into breathes by its own pipes. */
const soleExit = (flow: Flow | undefined): Pick<Hole, "id"> | undefined => {
  if (!flow) return undefined;
  const sole = flow.holes.find((h) => h.share > ALL_OF_IT)?.hole;
  const elsewhere = flow.holes.reduce((sum, h) => sum + h.share, 0);
  return sole ?? (elsewhere < 1 - ALL_OF_IT ? { id: "into a tank" } : undefined);
};

/** Clears what is swept. What is not shown to be stays as wet as it was. */
export const blowThrough = (
  graph: Graph,
  unit: Unit,
  opening: string,
  pa: number,
): { exit: Pick<Hole, "id"> | undefined; pressed: ReadonlySet<number> } => {
  refresh(graph, unit);
  const on = hoseAt(graph, opening);
  if (!on) return { exit: undefined, pressed: new Set() };
  const pressed = pressedFrom(graph, unit, on.node);
  const flow = spreadFrom(graph, unit, on.node, on.stopped, true);
  const exit = soleExit(flow);
  if (!exit || !flow) return { exit, pressed };
  const swept = new Set([on.node]);
  graph.edges.forEach((e, i) => {
    if (Math.abs(flow.edge[i] ?? 0) <= ALL_OF_IT) return;
    swept.add(e.a);
    swept.add(e.b);
  });
  // What a bladder gives back afterwards may run anywhere, unless a check keeps it in.
  const gives = [...pressed].some((c) => {
    const n = graph.nodes[c] as Node;
    return (
      n.cushion &&
      (unit.wetM3[c] ?? 0) > n.capM3 * n.drained * 1.01 &&
      [...pressedFrom(graph, unit, c)].some((to) => swept.has(to))
    );
  });
  if (gives) return { exit, pressed };
  for (const c of swept) {
    const n = graph.nodes[c] as Node;
    if (n.isVessel || n.isTrap || n.cushion) continue;
    const stays = n.capM3 * n.swept + n.sagM3 * sagStays(graph, n, pa);
    unit.wetM3[c] = Math.min(unit.wetM3[c] ?? 0, stays);
  }
  return { exit, pressed };
};

/** Whether air can come to a node from something that stands open, checks passed their own way only. */
const airComesTo = (graph: Graph, unit: Unit, start: number): boolean => {
  const seen = new Set([start]);
  const todo = [start];
  // The hose itself is in a joint of the vessel that is undone.
  const isVessel = graph.nodes[start]?.isVessel === true;
  const taken = isVessel && holesAt(unit, start).some((h) => h.id.endsWith(" part")) ? 1 : 0;
  for (let at = todo.pop(); at !== undefined; at = todo.pop()) {
    if (holesAt(unit, at).length > (at === start ? taken : 0)) return true;
    for (const i of graph.near[at] ?? []) {
      const e = graph.edges[i] as Edge;
      const next = otherEnd(e, at);
      if (seen.has(next) || unit.open[i] !== 1 || (isOneWay(unit, e) && e.b !== at)) continue;
      seen.add(next);
      todo.push(next);
    }
  }
  return false;
};

/** Sucked out where air can follow: what lies below the hose stays. */
export const suckOut = (graph: Graph, unit: Unit, node: number): void => {
  refresh(graph, unit);
  const n = graph.nodes[node];
  if (!n || !airComesTo(graph, unit, node)) return;
  unit.wetM3[node] = Math.min(unit.wetM3[node] ?? 0, n.capM3 * SUCTION_LEAVES);
};
