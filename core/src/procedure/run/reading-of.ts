import type { Network } from "../../watermap/index.ts";
import type { ReadingOf } from "../../inspection/reading.ts";

/** What a reading of a run is of: the part, and the place on it, that its cell belongs to. */
export const readingOf = (
  network: Network,
  of: { readonly cell?: string; readonly kind: string },
): ReadingOf => {
  const cell = network.cells[network.cellIndex.get(of.cell ?? "") ?? -1];
  return { partId: cell?.ownerId ?? null, spot: cell?.name ?? "", kind: of.kind };
};
