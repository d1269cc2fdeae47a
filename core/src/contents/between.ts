import { flatOf, type Graph } from "../watermap/graph.ts";

/**
 * Cells that lie on a way from one end to another, whatever checks and heights say.
 * @param isOpen whether anything passes a link
 * @param ends a cell for each end, twice where it has two
 */
export const betweenOpenEnds = (
  graph: Graph,
  isOpen: (link: number) => boolean,
  ends: readonly number[],
): Uint8Array => new Blocks(graph, isOpen, ends).withAir();

/**
 * Two-connected blocks by depth-first search with its own stack (Hopcroft and Tarjan); deep maps must not overflow the call stack. The air
 * outside is one more cell, joined to every end: arcs are links, then ends.
 */
class Blocks {
  private readonly air: number;
  private readonly links: number;
  /** Where the arcs of a cell begin, the open air's last, and the far cell of each. */
  private readonly first: Int32Array;
  private readonly arc: Int32Array;
  private readonly far: Int32Array;
  // Arcs in the order in which they were gone, by their near and far cell.
  private readonly gone: Int32Array;
  private readonly goneFrom: Int32Array;
  private readonly goneTo: Int32Array;
  private goneCount = 0;

  constructor(graph: Graph, isOpen: (link: number) => boolean, ends: readonly number[]) {
    const flat = flatOf(graph);
    const cells = graph.cells.length;
    this.air = cells;
    this.links = graph.links.length;
    const at = new Int32Array(cells + 2);
    const most = flat.link.length + 2 * ends.length;
    this.first = at;
    this.arc = new Int32Array(most);
    this.far = new Int32Array(most);
    this.gone = new Int32Array(most);
    this.goneFrom = new Int32Array(most);
    this.goneTo = new Int32Array(most);
    // Ends by cell, each with the one before it.
    const lastEnd = new Int32Array(cells).fill(-1);
    const endBefore = Int32Array.from(ends, (cell, i) => {
      const before = lastEnd[cell] as number;
      lastEnd[cell] = i;
      return before;
    });
    let n = 0;
    for (let cell = 0; cell < cells; cell++) {
      at[cell] = n;
      const end = flat.first[cell + 1] as number;
      for (let k = flat.first[cell] as number; k < end; k++) {
        const link = flat.link[k] as number;
        if (!isOpen(link)) continue;
        this.arc[n] = link;
        this.far[n++] = flat.far[k] as number;
      }
      for (let i = lastEnd[cell] as number; i >= 0; i = endBefore[i] as number) {
        this.arc[n] = this.links + i;
        this.far[n++] = this.air;
      }
    }
    at[cells] = n;
    for (let i = 0; i < ends.length; i++) {
      this.arc[n] = this.links + i;
      this.far[n++] = ends[i] as number;
    }
    at[cells + 1] = n;
  }

  /** Cells in a block with the outside air. */
  withAir(): Uint8Array {
    const { air, first, arc, far } = this;
    const inBlock = new Uint8Array(air + 1);
    const depth = new Int32Array(air + 1).fill(-1);
    const low = new Int32Array(air + 1);
    const next = first.slice(0, air + 1);
    const byArc = new Int32Array(air + 1).fill(-1);
    const walk = new Int32Array(air + 2);
    let n = 1;
    walk[0] = air;
    depth[air] = 0;
    while (n > 0) {
      const at = walk[n - 1] as number;
      const k = next[at] as number;
      if (k < (first[at + 1] as number)) {
        next[at] = k + 1;
        const by = arc[k] as number;
        if (by === byArc[at]) continue;
        const to = far[k] as number;
        const seen = depth[to] as number;
        if (seen < 0) {
          this.go(by, at, to);
          depth[to] = low[to] = (depth[at] as number) + 1;
          byArc[to] = by;
          walk[n++] = to;
        } else if (seen < (depth[at] as number)) {
          this.go(by, at, to);
          low[at] = Math.min(low[at] as number, seen);
        }
        continue;
      }
      n--;
      if (n === 0) break;
      const parent = walk[n - 1] as number;
      low[parent] = Math.min(low[parent] as number, low[at] as number);
      if ((low[at] as number) >= (depth[parent] as number))
        this.close(byArc[at] as number, inBlock);
    }
    return inBlock;
  }

  private go(by: number, from: number, to: number): void {
    this.gone[this.goneCount] = by;
    this.goneFrom[this.goneCount] = from;
    this.goneTo[this.goneCount++] = to;
  }

  /** A block ends with the arc that it was begun by: its cells are marked where the air is one of them. */
  private close(begunBy: number, inBlock: Uint8Array): void {
    const last = this.goneCount;
    let isOutside = false;
    let begins = last;
    do {
      begins--;
      isOutside ||= this.goneFrom[begins] === this.air || this.goneTo[begins] === this.air;
    } while (this.gone[begins] !== begunBy);
    this.goneCount = begins;
    if (!isOutside || last - begins < 2) return;
    for (let i = begins; i < last; i++)
      inBlock[this.goneFrom[i] as number] = inBlock[this.goneTo[i] as number] = 1;
  }
}
