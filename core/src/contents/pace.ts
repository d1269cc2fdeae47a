import type { Mixture } from "./mixture.ts";
import { volumeIn } from "./move.ts";
import type { Station } from "./stations.ts";

// A step moves this share of what the way holds, and no more than so many times its smallest mixed body, between these bounds, m3.
const STEP_SHARE = 1 / 100;
const SMALLEST_BODIES = 1.5;
const SMALLEST_STEP_M3 = 3e-6;
const LARGEST_STEP_M3 = 2.5e-4;
// Smaller than this a body mixes at once, m3.
const NO_BODY_M3 = 1e-6;

// A step may be this share of all that has moved so far: the longer something runs, the coarser is it looked at.
const GROWS = 0.004;
// A vessel that fills is come up to in steps of this share of its room.
const ROOM_SHARE = 0.25;

/** Steps of something that runs: fine where fronts move, coarse while a vessel fills or a tank empties. The same for planner and sandbox. */
export class Pace {
  private sinceM3: number | undefined;
  private fills = true;
  private readonly leastM3: number;
  private readonly vessels: readonly Station[];

  constructor(stations: readonly Station[], leastM3 = stepOf(stations)) {
    this.leastM3 = leastM3;
    this.vessels = stations.filter(
      (s) => s.cell.form === "vessel" && s.in.some((w) => w.link !== undefined),
    );
  }

  /** The next step, m3, when so much has moved. */
  next(held: readonly (readonly Mixture[])[], movedM3: number): number {
    const rooms = this.vessels.map((s) => s.cell.capacityM3 - volumeIn(held[s.index] ?? []));
    const room = Math.min(...rooms.filter((r) => r > this.leastM3), Number.POSITIVE_INFINITY);
    const fills = Number.isFinite(room);
    // A vessel has just run full: a front goes on from it.
    if (this.sinceM3 === undefined || (this.fills && !fills)) this.sinceM3 = movedM3;
    this.fills = fills;
    const grown = Math.max(this.leastM3, (movedM3 - this.sinceM3) * GROWS);
    return Math.min(grown, Math.max(this.leastM3, room * ROOM_SHARE));
  }
}

/** How much to move in one go: small enough that halving it changes what arrives by less than a hundredth. Wide vessels are left out of it. */
export const stepOf = (stations: readonly Station[]): number => {
  let [wayM3, smallestM3] = [0, Number.POSITIVE_INFINITY];
  for (const { cell } of stations) {
    if (cell.form === "vessel") continue;
    wayM3 += cell.capacityM3;
    if (cell.form === "fitting" && cell.capacityM3 > NO_BODY_M3)
      smallestM3 = Math.min(smallestM3, cell.capacityM3);
  }
  return Math.min(
    LARGEST_STEP_M3,
    Math.max(SMALLEST_STEP_M3, Math.min(wayM3 * STEP_SHARE, smallestM3 * SMALLEST_BODIES)),
  );
};
