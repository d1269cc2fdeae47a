import type { Edge, Graph, Node } from "./graph.ts";
import { crackOf, isOneWay, type Unit } from "./unit.ts";

/** A tank that is joined to one that has been emptied runs over to it, down to the highest place on the lowest way between them. */
export const lowerLinked = (graph: Graph, unit: Unit, emptied: number): void => {
  const level = graph.nodes.map(() => Number.POSITIVE_INFINITY);
  level[emptied] = Number.NEGATIVE_INFINITY;
  const todo = [emptied];
  for (let at = todo.shift(); at !== undefined; at = todo.shift())
    for (const i of graph.near[at] ?? []) {
      const e = graph.edges[i] as Edge;
      const next = e.a === at ? e.b : e.a;
      // Backwards: what runs over comes towards the tank that is empty.
      if (unit.open[i] !== 1 || e.pump || crackOf(unit, e) > 0 || (isOneWay(unit, e) && e.b !== at))
        continue;
      const over = Math.max(level[at] as number, e.heightM);
      if (over >= (level[next] as number)) continue;
      level[next] = over;
      todo.push(next);
    }
  graph.nodes.forEach((n: Node, i) => {
    if (i === emptied || !n.isVessel || n.vessel !== "fresh") return;
    const over = level[i] as number;
    if (!Number.isFinite(over)) return;
    const share = Math.max(n.drained, (over - n.bottomM) / Math.max(n.topM - n.bottomM, 1e-9));
    unit.wetM3[i] = Math.min(unit.wetM3[i] ?? 0, n.capM3 * Math.min(1, share));
  });
};
