import { liquidIn, product, volumeOf } from "@uppershed/core/contents";
import { type RunBegins } from "@uppershed/core/procedure";
import { type StartContents } from "@uppershed/core/simulation";
import { type Lineup, type Network } from "@uppershed/core/watermap";

/** How the unit was left last, told for the map on the bench: parts keep their names, and what was read stands above what was worked out. */
export const leftOn = (
  network: Network,
  begins: RunBegins,
): { start: StartContents; lineup: Lineup } => {
  const keys = new Set(network.controls.map((c) => c.key));
  const lineup = Object.fromEntries(Object.entries(begins.lineup).filter(([key]) => keys.has(key)));
  if (begins.contents === null) return { start: "in use", lineup };
  const held = Object.fromEntries(
    Object.entries(begins.contents).flatMap(([cell, there]) => {
      if (!network.cellIndex.has(cell)) return [];
      const liquid = liquidIn(there);
      const read = begins.measured[cell];
      const { waterM3, glycolM3 } = read === undefined ? liquid : product(volumeOf(liquid), read);
      return [[cell, { waterM3, glycolM3 }] as const];
    }),
  );
  return { start: { held }, lineup };
};
