import { liquidIn, strengthOf, volumeOf } from "../contents/index.ts";
import type { Network } from "../watermap/index.ts";
import type { Physical } from "./physical.ts";

/** Water still on the wet side that could freeze in lines and bodies, m3; tanks, heaters, traps and waste pipes apart. */
export interface WetLines {
  readonly suctionM3: number;
  readonly coldM3: number;
  readonly hotM3: number;
  /** Pump, valves, taps and tees. */
  readonly bodiesM3: number;
  readonly totalM3: number;
  /** What all of these hold when they are full. */
  readonly capacityM3: number;
}

// From this strength on what lies in a cell counts as antifreeze, not as water (our own).
const WATER_UP_TO = 0.02;

export const waterInLines = (network: Network, physical: Pick<Physical, "contents">): WetLines => {
  const wet = { suctionM3: 0, coldM3: 0, hotM3: 0, bodiesM3: 0, capacityM3: 0 };
  network.cells.forEach((cell, i) => {
    if (cell.form !== "pipe" && cell.form !== "fitting") return;
    wet.capacityM3 += cell.capacityM3;
    const liquid = liquidIn(physical.contents[i]);
    if (strengthOf(liquid) > WATER_UP_TO) return;
    const service = cell.run?.service;
    if (service === undefined) wet.bodiesM3 += volumeOf(liquid);
    else if (service === "suction" || service === "fill") wet.suctionM3 += volumeOf(liquid);
    else if (service === "hot") wet.hotM3 += volumeOf(liquid);
    else wet.coldM3 += volumeOf(liquid);
  });
  return { ...wet, totalM3: wet.suctionM3 + wet.coldM3 + wet.hotM3 + wet.bodiesM3 };
};
