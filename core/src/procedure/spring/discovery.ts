import { product, startingContents, type Contents } from "../../contents/index.ts";
import type { Network } from "../../watermap/index.ts";

// Of a unit that nobody wrote down, a common mix is taken to stand in its lines (our own).
const PERHAPS = 0.35;

/**
 * What a unit may hold of which no record says how it was left: antifreeze in every pipe and body, its heaters and tanks empty. Nothing of it
 * is known; it makes the sheet ask for everything: each outlet run clear, each heater proved full.
 */
export const perhapsWinterized = (network: Network): Contents =>
  startingContents(network).map((held, i) => {
    const cell = network.cells[i];
    if (!cell || cell.side !== "fresh") return held;
    if (cell.form === "vessel") return { plugs: [], source: "assumed" };
    return cell.capacityM3 > 0 && cell.form !== "trap"
      ? { plugs: [product(cell.capacityM3, PERHAPS)], source: "assumed" }
      : held;
  });
