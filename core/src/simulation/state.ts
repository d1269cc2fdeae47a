import {
  type Contents,
  NOTHING,
  type Standing,
  startingContents,
  volumeOf,
  liquidIn,
} from "../contents/index.ts";
import type { FlowSettings } from "../flows/index.ts";
import { COMMON_FLOW_SETTINGS } from "../flows/index.ts";
import { inUseLineup, type Lineup, type Network } from "../watermap/index.ts";

/** A jug at a pickup or at an undone pipe end. */
interface Jug {
  /** Glycol by volume, 0 to 1. */
  readonly strength: number;
  /** What is left in it, m3; without end where it is not said. */
  readonly leftM3?: number;
}

/** A unit at a moment of a trial: how it stands, and what stands beside it. */
export interface SimState extends Standing {
  readonly clockS: number;
  /** By opening. An open way in without one hangs in the air. */
  readonly jugs: Readonly<Record<string, Jug>>;
  /** Hoses under pressure, by the inlet's opening, Pa. */
  readonly hosesPa: Readonly<Record<string, number>>;
  /** Free chlorine in what hoses bring, where it is dosed, mg/L. */
  readonly hosesMgL?: Readonly<Record<string, number>>;
  /** Heaters that are on, by part. */
  readonly heats: Readonly<Record<string, { readonly watts: number; readonly toC: number }>>;
}

export interface SimSettings {
  readonly flow: FlowSettings;
  /** Half-life of free chlorine in clean pipes, s; our own estimate, a day. */
  readonly chlorineHalfLifeS: number;
  /** Time in which a pipe's warmth falls to a third, and a heater's, s; our own estimates. */
  readonly coolsPipeS: number;
  readonly coolsVesselS: number;
  /** Frames kept of each wait. */
  readonly frames: number;
}

const HOUR = 3600;

export const COMMON_SIM_SETTINGS: SimSettings = {
  flow: COMMON_FLOW_SETTINGS,
  chlorineHalfLifeS: 24 * HOUR,
  coolsPipeS: 0.5 * HOUR,
  coolsVesselS: 20 * HOUR,
  frames: 40,
};

/** Contents that a simulation can begin with. */
export type StartContents =
  | "in use"
  | "empty"
  | "water everywhere"
  | { readonly antifreeze: number }
  /** What cells hold, by id, as a record left them; others as in use. */
  | {
      readonly held: Readonly<
        Record<string, { readonly waterM3: number; readonly glycolM3: number }>
      >;
    };

// Waste tanks and traps keep what they have in use: they are not part of what is tried.
const isWaste = (network: Network, index: number): boolean =>
  network.cells[index]?.side === "waste";

/** What is said of a cell, never more than it holds. */
const stated = (
  said: { waterM3: number; glycolM3: number } | undefined,
  capacityM3: number,
): Contents[number] | undefined => {
  if (!said) return undefined;
  const volume = volumeOf(said);
  const scale = volume > capacityM3 ? capacityM3 / volume : 1;
  return {
    plugs: volume > 0 ? [{ waterM3: said.waterM3 * scale, glycolM3: said.glycolM3 * scale }] : [],
    source: "measured",
  };
};

/** What the cells hold at the start; water of the raw side is marked as not for drinking. */
export const contentsToStart = (network: Network, start: StartContents = "in use"): Contents => {
  const usual = startingContents(network);
  return network.cells.map((cell, i) => {
    const asUsed = usual[i] ?? { plugs: [], source: "assumed" as const };
    const wet = !isWaste(network, i) && cell.inUseFraction > 0;
    const full = { waterM3: cell.capacityM3, glycolM3: 0 };
    // Sequences from before cells had names of their own say the part alone where it held in one place.
    if (typeof start === "object" && "held" in start)
      return stated(start.held[cell.id] ?? start.held[cell.ownerId], cell.capacityM3) ?? asUsed;
    const held =
      start === "in use" || isWaste(network, i)
        ? asUsed
        : start === "empty"
          ? { plugs: [], source: "assumed" as const }
          : start === "water everywhere"
            ? { plugs: wet ? [full] : [], source: "assumed" as const }
            : {
                // Tanks and heaters stand empty when antifreeze is in the lines.
                plugs:
                  wet && cell.form !== "vessel"
                    ? [
                        {
                          waterM3: cell.capacityM3 * (1 - start.antifreeze),
                          glycolM3: cell.capacityM3 * start.antifreeze,
                        },
                      ]
                    : [],
                source: "assumed" as const,
              };
    if (cell.side !== "raw") return held;
    return { ...held, plugs: held.plugs.map((p) => ({ ...p, foreignM3: volumeOf(p) })) };
  });
};

/** A unit as it is before anything is done: standing as in use unless a lineup or contents are given. */
export const simStart = (
  network: Network,
  given: { readonly lineup?: Lineup; readonly contents?: Contents } = {},
): SimState => ({
  lineup: { ...inUseLineup(network), ...given.lineup },
  apart: [],
  contents: given.contents ?? contentsToStart(network),
  clockS: 0,
  jugs: {},
  hosesPa: {},
  heats: {},
  came: NOTHING,
  gone: NOTHING,
});

/** Liquid in a cell of a state, m3. */
export const heldM3 = (state: Pick<SimState, "contents">, cell: number): number =>
  volumeOf(liquidIn(state.contents[cell]));
