import { situationOf } from "../../contents/index.ts";
import { roleOf } from "../../watermap/index.ts";
import { forcedReach } from "../fill-lineup.ts";
import { type WaterContext } from "./request.ts";
import { inTanks, type Source } from "./source.ts";
import { FULL_SHARE } from "./tank.ts";

/** What a source wets, and how strong its tanks must be so that the outlet that gets least has what is wanted. */

export const mgL = (value: number): string =>
  `${value < 10 ? value.toFixed(1) : Math.round(value)} mg/L`;

interface Wet {
  readonly tanksM3: number;
  readonly linesM3: number;
  readonly heatersM3: number;
}

/** What a source wets. */
export const wetOf = (context: WaterContext, source: Source): Wet => {
  const { network, physical } = context;
  const met = forcedReach(situationOf(network, physical), source.start);
  let [linesM3, heatersM3] = [0, 0];
  for (const i of met) {
    const cell = network.cells[i];
    if (!cell || cell.side !== "fresh" || source.tanks.includes(i)) continue;
    if (cell.form !== "vessel") linesM3 += cell.form === "trap" ? 0 : cell.capacityM3;
    else if (cell.part && roleOf(cell.part).vessel === "heater") heatersM3 += cell.capacityM3;
  }
  return { tanksM3: inTanks(context, source).fullM3 * FULL_SHARE, linesM3, heatersM3 };
};

/**
 * What the tanks must hold so that the outlet that gets least has what is wanted. Pipes are pushed full of it and take nothing from it; a full
 * heater thins it, so the tank has the heater's share too.
 */
export const tankTarget = (target: number, wet: Wet): number =>
  wet.heatersM3 > 0 ? (target * (wet.tanksM3 + wet.linesM3 + wet.heatersM3)) / wet.tanksM3 : target;
