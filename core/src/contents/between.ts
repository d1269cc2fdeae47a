import type { Graph } from "../watermap/graph.ts";

interface Arc {
  readonly to: number;
  readonly id: number;
}

/**
 * Cells that lie on a way from one end to another, whatever checks and heights say.
 * @param isOpen whether anything passes a link
 * @param ends a cell for each end, twice where it has two
 */
export const betweenOpenEnds = (
  graph: Graph,
  isOpen: (link: number) => boolean,
  ends: readonly number[],
): boolean[] => {
  const outside = graph.cells.length;
  const arcs: Arc[][] = Array.from({ length: outside + 1 }, () => []);
  const join = (a: number, b: number, id: number): void => {
    arcs[a]?.push({ to: b, id });
    arcs[b]?.push({ to: a, id });
  };
  graph.links.forEach((l, i) => isOpen(i) && join(l.a, l.b, i));
  ends.forEach((cell, i) => join(outside, cell, graph.links.length + i));
  return inBlockWith(outside, arcs);
};

/** Cells in a two-connected block with the outside air. */
const inBlockWith = (air: number, arcs: readonly (readonly Arc[])[]): boolean[] => {
  const inBlock = Array.from({ length: air + 1 }, () => false);
  const depth = Array.from({ length: air + 1 }, () => -1);
  const low = Array.from({ length: air + 1 }, () => 0);
  const edges: { a: number; b: number }[] = [];
  // Depth-first search with its own stack (Hopcroft and Tarjan); deep maps must not overflow the call stack.
  const walk = [{ at: air, byEdge: -1, next: 0 }];
  depth[air] = 0;
  while (walk.length > 0) {
    const top = walk.at(-1) as { at: number; byEdge: number; next: number };
    const arc = arcs[top.at]?.[top.next];
    if (arc) {
      top.next++;
      if (arc.id === top.byEdge) continue;
      const seen = depth[arc.to] as number;
      if (seen < 0) {
        edges.push({ a: top.at, b: arc.to });
        depth[arc.to] = (depth[top.at] as number) + 1;
        low[arc.to] = depth[arc.to] as number;
        walk.push({ at: arc.to, byEdge: arc.id, next: 0 });
      } else if (seen < (depth[top.at] as number)) {
        edges.push({ a: top.at, b: arc.to });
        low[top.at] = Math.min(low[top.at] as number, seen);
      }
      continue;
    }
    walk.pop();
    const parent = walk.at(-1)?.at;
    if (parent === undefined) continue;
    low[parent] = Math.min(low[parent] as number, low[top.at] as number);
    if ((low[top.at] as number) >= (depth[parent] as number)) {
      const block: { a: number; b: number }[] = [];
      for (let e = edges.pop(); e; e = edges.pop()) {
        block.push(e);
        if (e.a === parent && e.b === top.at) break;
      }
      if (block.length > 1 && block.some((e) => e.a === air || e.b === air))
        for (const e of block) for (const c of [e.a, e.b]) inBlock[c] = true;
    }
  }
  return inBlock;
};
