import { modeLineup, proposeMode } from "@uppershed/core/survey";
import {
  type Control,
  inUseLineup,
  type Lineup,
  type Mode,
  type Network,
  type WaterMap,
} from "@uppershed/core/watermap";

/** What the map can be shown as standing in: as it is in use, as it was left last, as this visit found it, or in a mode. */
export type LineupName = "in use" | "as left" | "as found" | Mode;

/** How the unit is known to have stood. */
export interface KnownLineups {
  /** As its last record or visit left it; nothing where nobody has written that down. */
  readonly left: Lineup | undefined;
  /** As this visit found it. */
  readonly found: Lineup | undefined;
}

export const lineupOf = (network: Network, standing: LineupName, known: KnownLineups): Lineup => {
  const use = inUseLineup(network);
  if (standing === "in use") return use;
  if (standing === "as left") return { ...use, ...known.left };
  if (standing === "as found") return { ...use, ...known.left, ...known.found };
  return modeLineup(network, standing);
};

/** The position after this one, round and round. */
export const nextPosition = (control: Control, now: string): string => {
  const names = control.spec.positions.map((p) => p.name);
  return names[(names.indexOf(now) + 1) % names.length] ?? now;
};

/** The controls of a part that a hand can turn. */
export const turnable = (network: Network, partId: string): Control[] =>
  network.controls.filter((c) => c.part.id === partId && c.spec.role !== "check");

/** Writes a correction of a mode; where it is what the graph proposes anyhow, nothing is kept. */
export const correctMode = (
  map: WaterMap,
  network: Network,
  mode: Mode,
  key: string,
  position: string,
): WaterMap => {
  const proposed = proposeMode(network, mode)[key];
  const { [key]: _, ...others } = map.modes[mode] ?? {};
  const corrections = proposed === position ? others : { ...others, [key]: position };
  const { [mode]: __, ...modes } = map.modes;
  return {
    ...map,
    modes: Object.keys(corrections).length > 0 ? { ...modes, [mode]: corrections } : modes,
  };
};
