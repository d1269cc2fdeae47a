import { paramsOf } from "../../watermap/index.ts";
import { pressedFrom } from "./air.ts";
import type { Edge, Graph, Node } from "./graph.ts";
import type { Unit } from "./unit.ts";

/** A bladder that has been let out takes product in as it is pressed, by its own pipe (Boyle at the least cut-out of any pump aboard). */

const ATMOSPHERE_PA = 101_325;
// What passes a pipe so many times its own volume has displaced what it held.
const DISPLACES = 2;

const figure = (graph: Graph, part: string, name: string): number => {
  const of = graph.parts.get(part);
  const value = of ? paramsOf(of)[name] : undefined;
  return typeof value === "number" ? value : 0;
};

/** The nodes between a bladder and the nearest that product has passed, and how strong that is. */
const wayToProduct = (
  graph: Graph,
  unit: Unit,
  start: number,
): { pipes: readonly number[]; comes: number } | undefined => {
  const by = new Map([[start, -1]]);
  const todo = [start];
  for (let at = todo.shift(); at !== undefined; at = todo.shift()) {
    const strength = unit.strength[at] ?? 0;
    if (at !== start && strength > 0 && (unit.wetM3[at] ?? 0) > 0) {
      const pipes: number[] = [];
      for (let c = by.get(at) ?? -1; c >= 0 && c !== start; c = by.get(c) ?? -1) pipes.push(c);
      return { pipes, comes: strength };
    }
    for (const l of graph.near[at] ?? []) {
      const e = graph.edges[l] as Edge;
      const next = e.a === at ? e.b : e.a;
      if (by.has(next) || unit.open[l] !== 1) continue;
      by.set(next, at);
      todo.push(next);
    }
  }
  return undefined;
};

/** Without pressure a bladder has given back what it can. */
export const relaxCushions = (graph: Graph, unit: Unit): void =>
  graph.nodes.forEach((n, i) => {
    if (n.cushion) unit.wetM3[i] = Math.min(unit.wetM3[i] ?? 0, n.capM3 * n.drained);
  });

export const pressCushions = (graph: Graph, unit: Unit, start: number): void => {
  const cutOuts = graph.map.parts
    .map((p) => figure(graph, p.id, "cutOutPa"))
    .filter((pa) => pa > 0);
  const pa = Math.min(...cutOuts);
  if (!Number.isFinite(pa)) return;
  const pressed = pressedFrom(graph, unit, start);
  graph.nodes.forEach((n, i) => {
    if (!n.cushion || !pressed.has(i)) return;
    const precharge = figure(graph, n.owner, "prechargePa");
    const atRest = n.capM3 * Math.max(0, 1 - (precharge + ATMOSPHERE_PA) / (pa + ATMOSPHERE_PA));
    const held = unit.wetM3[i] ?? 0;
    const takes = atRest - held;
    if (takes <= 0) return;
    const way = wayToProduct(graph, unit, i);
    if (!way) return;
    const { pipes, comes } = way;
    const pipesM3 = pipes.reduce((sum, c) => sum + (graph.nodes[c] as Node).capM3, 0);
    if (takes < DISPLACES * pipesM3) return;
    const now = (held * (unit.strength[i] ?? 0) + takes * comes) / (held + takes);
    unit.wetM3[i] = atRest;
    unit.strength[i] = now;
    // When the pressure goes it gives back through its pipe.
    for (const c of pipes) {
      unit.wetM3[c] = (graph.nodes[c] as Node).capM3;
      unit.strength[c] = Math.min(now, comes);
    }
  });
};
