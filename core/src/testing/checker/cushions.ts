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
    for (const l of graph.near[i] ?? []) {
      const e = graph.edges[l] as Edge;
      const pipe = e.a === i ? e.b : e.a;
      const beyond = (graph.near[pipe] ?? [])
        .map((x) => graph.edges[x] as Edge)
        .map((x) => (x.a === pipe ? x.b : x.a))
        .filter((c) => c !== i);
      const comes = Math.min(...beyond.map((c) => unit.strength[c] ?? 0));
      if (!Number.isFinite(comes) || takes < DISPLACES * (graph.nodes[pipe] as Node).capM3)
        continue;
      const now = (held * (unit.strength[i] ?? 0) + takes * comes) / (held + takes);
      unit.wetM3[i] = atRest;
      unit.strength[i] = now;
      // When the pressure goes it gives back through its pipe.
      unit.wetM3[pipe] = (graph.nodes[pipe] as Node).capM3;
      unit.strength[pipe] = Math.min(now, comes);
    }
  });
};
