import type { Network } from "../watermap/network.ts";
import { type Mixture, sum, volumeOf, water } from "./mixture.ts";

/** How what a cell holds came to be known. */
export type Source = "assumed" | "worked out" | "measured";

export interface CellContents {
  /** From the run's "from" end to its "to" end; one plug in anything that is not a run. The rest of the volume is air. */
  readonly plugs: readonly Mixture[];
  readonly source: Source;
}

/** What a cell holds; made here and nowhere else in what is done again and again, so that all of it has one shape. */
export const holding = (plugs: readonly Mixture[], source: Source): CellContents => ({
  plugs,
  source,
});

/** What every cell holds, by cell index. */
export type Contents = readonly CellContents[];

export const liquidIn = (cell: CellContents | undefined): Mixture => sum(cell?.plugs ?? []);
export const liquidVolume = (cell: CellContents | undefined): number => volumeOf(liquidIn(cell));

/** Contents of a unit in use: the wet side full of water, tanks at their level; then what the document says. */
export const startingContents = (network: Network): Contents =>
  network.cells.map((cell) => {
    const stated = network.map.contents[cell.id];
    if (stated) {
      const scale = Math.min(1, cell.capacityM3 / Math.max(volumeOf(stated), 1e-15));
      const liquid = { waterM3: stated.waterM3 * scale, glycolM3: stated.glycolM3 * scale };
      return holding([liquid], "measured");
    }
    const volume = cell.capacityM3 * cell.inUseFraction;
    return holding(volume > 0 ? [water(volume)] : [], "assumed");
  });

/** All liquid aboard. */
export const totalAboard = (contents: Contents): Mixture => sum(contents.map(liquidIn));
