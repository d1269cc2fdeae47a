import { freezingPointC, freezingTimes, outwardResistance } from "../fluid/index.ts";
import { type Cell, cellName, type Network, PIPE_SYSTEMS } from "../watermap/index.ts";
import { type Contents, liquidIn } from "./contents.ts";
import { fullness } from "./frost.ts";
import { strengthOf, volumeOf } from "./mixture.ts";

/** A night to be got through. */
export interface Night {
  /** Air outside, °C, below 0. */
  readonly airC: number;
  /** The water at nightfall, °C. */
  readonly beginC: number;
  /** So much warmer is it inside the heated space, K. */
  readonly insideK: number;
  /** Air film: 10 W/m2K in still air, 25 in wind (textbook, from memory). */
  readonly filmWm2K: number;
}

/** Still air; an unheated cabin stays some three kelvins above the night (our own estimate). */
export const COMMON_NIGHT: Omit<Night, "airC"> = { beginC: 8, insideK: 3, filmWm2K: 10 };

export interface NightWatch {
  readonly cell: number;
  readonly id: string;
  readonly name: string;
  /** Seconds from nightfall to the first ice, and until frozen through. */
  readonly firstIceS: number;
  readonly throughS: number;
}

// Foam of a lagged pipe and the jacket of a heater: our own estimates, conductivity of closed-cell foam as sold.
const LAGGING_M = 0.009;
const JACKET_M = 0.025;
const FOAM_WMK = 0.036;
// Plastic tube and bodies (from memory: cross-linked polyethylene 0.41 W/mK).
const WALL_WMK = 0.41;
const WALL_SHARE = 0.1;
const LEAST_M3 = 1e-7;

/** The cylinder that stands for a cell: the pipe itself, a vessel as high as it is, a small body as wide as it is long. */
const shellOf = (cell: Cell, filmWm2K: number): { boreM: number; resistance: number } => {
  const system = cell.run && PIPE_SYSTEMS.get(cell.run.pipe);
  const high = cell.topM - cell.bottomM;
  const boreM = system
    ? system.boreM
    : cell.form === "vessel" && high > 0
      ? Math.sqrt((4 * cell.capacityM3) / (Math.PI * high))
      : ((4 * cell.capacityM3) / Math.PI) ** (1 / 3);
  const foamM = cell.run
    ? cell.run.insulated
      ? LAGGING_M
      : 0
    : cell.frostBasis === "burst" && isJacketed(cell)
      ? JACKET_M
      : 0;
  const resistance = outwardResistance({
    boreM,
    outsideM: system ? Math.max(system.outsideM, boreM * 1.01) : boreM * (1 + WALL_SHARE),
    wallWmK: WALL_WMK,
    foamM,
    foamWmK: FOAM_WMK,
    filmWm2K,
  });
  return { boreM, resistance };
};

const isJacketed = (cell: Cell): boolean =>
  cell.form === "vessel" && cell.kind?.role.energies !== undefined;

/** Whether a cell lies inside the heated space: a run says so itself, a part by what leads to it. */
const isInside = (network: Network, index: number): boolean => {
  const cell = network.cells[index];
  if (cell?.run) return cell.run.heated;
  const runs = (network.linksOf[index] ?? []).flatMap((l) => {
    const link = network.links[l];
    const other = link && network.cells[link.a === index ? link.b : link.a];
    return other?.run ? [other.run] : [];
  });
  return runs.length > 0 && runs.every((r) => r.heated);
};

/**
 * Everything still wet that the night would freeze, the soonest first: how long it lasts.
 * @param contents what everything holds; antifreeze that stays liquid at the night's air is not listed
 */
export const nightWatch = (network: Network, contents: Contents, night: Night): NightWatch[] =>
  network.cells
    .flatMap<NightWatch>((cell, index) => {
      const liquid = liquidIn(contents[index]);
      if ((cell.form === "waste-pipe" && cell.sagM3 <= 0) || volumeOf(liquid) < LEAST_M3) return [];
      // Up to ten parts in eleven there is room for the ice, whenever it comes.
      if (
        cell.form !== "trap" &&
        fullness(cell, volumeOf(liquid)) <= (cell.allowedRemainder ?? 1 / 1.1)
      )
        return [];
      // A heated hose is rated to be kept from freezing in such air, while it has power; what stands ashore is the site's.
      if (
        cell.kind?.role.ashore ||
        (cell.run?.ratedToC !== undefined && cell.run.ratedToC <= night.airC)
      )
        return [];
      const airC = night.airC + (isInside(network, index) ? night.insideK : 0);
      const first = freezingPointC(Math.min(strengthOf(liquid), 0.6));
      if (airC >= -0.01 || (first.ok && first.value <= airC)) return [];
      const { boreM, resistance } = shellOf(cell, night.filmWm2K);
      const { firstIceS, freezingS } = freezingTimes(boreM, resistance, night.beginC, airC);
      return [
        {
          cell: index,
          id: cell.id,
          name: cellName(network, index),
          firstIceS,
          throughS: firstIceS + freezingS,
        },
      ];
    })
    .toSorted((a, b) => a.throughS - b.throughS || (a.id < b.id ? -1 : 1));
