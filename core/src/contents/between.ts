import type { Graph } from "../watermap/graph.ts";

/**
 * Cells that lie on a way from one end to another, whatever checks and heights say.
 * @param isOpen whether anything passes a link
 * @param ends a cell for each end, twice where it has two
 */
export const betweenOpenEnds = (
  { cells, links, linksOf }: Graph,
  isOpen: (link: number) => boolean,
  ends: readonly number[],
): Uint8Array => {
  // The air outside is one more cell, joined to every end: arcs are links, then ends.
  const air = cells.length;
  const endsAt: number[][] = [];
  ends.forEach((cell, i) => (endsAt[cell] ??= []).push(links.length + i));
  const ofAir = ends.map((_, i) => links.length + i);
  const arcsOf = (cell: number): readonly number[] =>
    cell === air ? ofAir : (linksOf[cell] ?? NONE);
  const farOf = (arc: number, near: number): number => {
    const link = links[arc];
    if (!link) return near === air ? (ends[arc - links.length] as number) : air;
    return link.a === near ? link.b : link.a;
  };
  const arcAt = (cell: number, k: number): number => {
    const own = arcsOf(cell);
    return k < own.length ? (own[k] as number) : (endsAt[cell]?.[k - own.length] ?? -1);
  };
  return inBlockWith(air, { arcAt, farOf, isOpen: (arc) => arc >= links.length || isOpen(arc) });
};

const NONE: readonly number[] = [];

interface Arcs {
  /** The k-th arc of a cell; −1 after its last. */
  readonly arcAt: (cell: number, k: number) => number;
  readonly farOf: (arc: number, near: number) => number;
  readonly isOpen: (arc: number) => boolean;
}

/** Cells in a two-connected block with the outside air. */
const inBlockWith = (air: number, { arcAt, farOf, isOpen }: Arcs): Uint8Array => {
  const inBlock = new Uint8Array(air + 1);
  const depth = new Int32Array(air + 1).fill(-1);
  const low = new Int32Array(air + 1);
  const next = new Int32Array(air + 1);
  const byArc = new Int32Array(air + 1).fill(-1);
  // Arcs in the order in which they were gone, by their near and far cell.
  const gone: { readonly arc: number; readonly near: number; readonly far: number }[] = [];
  // Depth-first search with its own stack (Hopcroft and Tarjan); deep maps must not overflow the call stack.
  const walk = [air];
  depth[air] = 0;
  for (let at = air; walk.length > 0; at = walk.at(-1) ?? air) {
    const arc = arcAt(at, next[at] as number);
    if (arc >= 0) {
      next[at] = (next[at] as number) + 1;
      if (arc === byArc[at] || !isOpen(arc)) continue;
      const far = farOf(arc, at);
      const seen = depth[far] as number;
      if (seen < 0) {
        gone.push({ arc, near: at, far });
        depth[far] = low[far] = (depth[at] as number) + 1;
        byArc[far] = arc;
        walk.push(far);
      } else if (seen < (depth[at] as number)) {
        gone.push({ arc, near: at, far });
        low[at] = Math.min(low[at] as number, seen);
      }
      continue;
    }
    walk.pop();
    const parent = walk.at(-1);
    if (parent === undefined) break;
    low[parent] = Math.min(low[parent] as number, low[at] as number);
    if ((low[at] as number) < (depth[parent] as number)) continue;
    const first = gone.findLastIndex((g) => g.arc === byArc[at]);
    const block = gone.splice(first);
    if (block.length > 1 && block.some((g) => g.near === air || g.far === air))
      for (const { near, far } of block) inBlock[near] = inBlock[far] = 1;
  }
  return inBlock;
};
