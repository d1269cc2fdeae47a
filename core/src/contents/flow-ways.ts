import { reach } from "../watermap/graph.ts";
import { wasteTanks } from "../watermap/network.ts";
import type { LiveOpening, Situation } from "../watermap/situation.ts";

/** Where forced liquid may go. */

/** Where liquid is forced: a pump that moves it across a link, or a source pushed in at a cell. */
export type Drive =
  | { readonly kind: "pump"; readonly switchKey: string }
  | { readonly kind: "push"; readonly cell: number }
  /** Drawn away at a cell: what a pump's inlet does to the side before it. */
  | { readonly kind: "draw"; readonly cell: number };

export interface Flow {
  /** Share of the driven flow through each link, positive from a to b. */
  readonly link: Float64Array;
  /** Share leaving at each live opening; negative where something comes in. */
  readonly opening: readonly { readonly at: LiveOpening; readonly share: number }[];
  /** Cells in the order in which liquid meets them. */
  readonly order: readonly number[];
}

/** Links between cells, those that nothing passes marked. */
export interface Ways {
  readonly network: Situation["network"];
  readonly dead: Uint8Array;
  /**
   * Vessels with a hole of their own, a heater without its plug: what comes in runs out by the hole and nothing is pressed onward.
   * A tank that gives what a pump draws is none of them.
   */
  readonly holed: Uint8Array;
}

/** Whether forced liquid may go by a link from one of its cells to the other. */
export const mayGo = ({ network, holed }: Ways, link: number, from: number): boolean => {
  const l = network.links[link];
  // What presses behind a regulator shuts its seat; without pressure it stands open, and runs out both ways.
  const isOneWay = l?.oneWay === true || l?.regulatesPa !== undefined;
  return l !== undefined && !(isOneWay && l.a !== from) && holed[from] !== 1;
};

export const holedVessels = (
  { network }: Situation,
  openings: readonly LiveOpening[],
  drive: Drive,
): Uint8Array => {
  const holed = new Uint8Array(network.cells.length);
  for (const o of openings) {
    const { form, kind } = network.cells[o.cell] ?? {};
    const isFresh = kind?.role.vessel === "fresh";
    // A tank that breathes takes what is pushed into it; a pump draws from it.
    if (
      form === "vessel" &&
      (isFresh ? drive.kind === "push" && o.use === "vent" : o.use !== "vent")
    )
      holed[o.cell] = 1;
  }
  // What runs into a waste tank stays there: it breathes by its pipes.
  for (const cell of wasteTanks(network)) holed[cell] = 1;
  return holed;
};

/** Cells joined to a start; towards an opening checks are passed only their own way, from one against it. */
export const joined = (ways: Ways, start: number, onward: boolean): Uint8Array =>
  reach(
    ways.network,
    [start],
    (link, from, to) => ways.dead[link] !== 1 && mayGo(ways, link, onward ? from : to),
  );

/** Cells numbered in the order in which they are met. */
export const numbered = (
  network: Situation["network"],
  met: readonly Iterable<number>[],
): { cells: number[]; at: Int32Array } => {
  const cells: number[] = [];
  const at = new Int32Array(network.cells.length).fill(-1);
  for (const some of met)
    for (const cell of some)
      if ((at[cell] as number) < 0) {
        at[cell] = cells.length;
        cells.push(cell);
      }
  return { cells, at };
};

export interface Edge {
  readonly a: number;
  readonly b: number;
}
