import { liquidIn, strengthOf, volumeOf } from "../../contents/index.ts";
import type { RunState } from "./state.ts";

/** What hangs on a unit that was left: the words that keep somebody from doing harm, hardest first. */
export interface TagWords {
  /** "Heater is empty. Do not heat." */
  readonly lockOut: readonly string[];
  readonly others: readonly string[];
}

// Less than this share of a vessel is no filling (our own).
const EMPTY_SHARE = 0.5;
const SOME_GLYCOL = 0.02;

/** @returns the words for a record as it stands */
export const tagWords = (state: RunState): TagWords => {
  const { network, physical } = state;
  const vessels = network.cells.flatMap((cell, i) =>
    cell.form === "vessel" && cell.kind?.role.energies !== undefined
      ? [{ name: cell.part?.name ?? "Heater", cell, held: liquidIn(physical.contents[i]) }]
      : [],
  );
  const heaters = network.map.parts.filter((p) =>
    network.cells.some((c) => c.part?.id === p.id && c.kind?.role.energies !== undefined),
  );
  const lockOut = vessels.flatMap(({ name, cell, held }) => {
    if (volumeOf(held) < EMPTY_SHARE * cell.capacityM3) return [`${name} is empty. Do not heat.`];
    return strengthOf(held) > SOME_GLYCOL ? [`${name} holds antifreeze. Do not heat.`] : [];
  });
  const named = new Set(vessels.map((v) => v.name));
  const pink = network.cells.some(
    (cell, i) =>
      cell.side === "fresh" &&
      cell.form !== "vessel" &&
      strengthOf(liquidIn(physical.contents[i])) > SOME_GLYCOL,
  );
  return {
    lockOut: [
      ...lockOut,
      ...heaters
        .filter((p) => !named.has(p.name) && lockOut.length === 0)
        .map((p) => `${p.name}: not before water runs from a hot tap without air.`),
    ],
    others: [
      ...(pink ? ["Antifreeze in the lines. Do not drink; flush first."] : []),
      "Do not fill before what hangs loose is made good.",
      ...(state.asLeft?.ends ?? []).filter((e) => e.mustTag).map((e) => `${e.text}.`),
    ],
  };
};
