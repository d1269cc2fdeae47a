import { type Body, NOTHING, plus, sum, volumeOf } from "../contents/index.ts";
import { kindOfPart, type Network } from "../watermap/index.ts";
import type { SimSettings, SimState } from "./state.ts";
import type { Tally } from "./tally.ts";

// Water's heat by volume, J/m3K, at 40 °C (IAPWS, from memory).
const HEAT_J_PER_M3K = 4.15e6;
// An element must stand under water: below half full a storage heater's is bare (common practice, no source).
const BARE_BELOW = 0.5;

/** Heat, its loss, and the fading of chlorine, over so many seconds; on what is held, in place. Says which cells changed. */
export const age = (
  network: Network,
  state: SimState,
  held: Body[][],
  seconds: number,
  settings: SimSettings,
  tally: Tally,
): number[] => {
  const changed: number[] = [];
  const faded = 0.5 ** (seconds / settings.chlorineHalfLifeS);
  const surroundings = settings.flow.temperatureC;
  network.cells.forEach((cell, i) => {
    const heat = cell.part && cell.form !== "trap" ? state.heats[cell.part.id] : undefined;
    const plugs = held[i] as Body[];
    if (heat && heat.watts > 0 && isHeatedCell(network, i)) {
      const liquid = sum(plugs);
      const volume = volumeOf(liquid);
      if (volume < BARE_BELOW * cell.capacityM3) tally.dryHeated.add(cell.part?.id ?? "");
      const most = Math.max(0, heat.toC - surroundings) * volume;
      const gained = Math.min(
        (heat.watts * seconds) / HEAT_J_PER_M3K,
        Math.max(0, most - (liquid.warmthM3K ?? 0)),
      );
      if (volume > 0 && gained > 0) {
        held[i] = [plus(liquid, { ...NOTHING, warmthM3K: gained })];
        changed.push(i);
      }
      return;
    }
    if (!plugs.some((p) => p.warmthM3K !== undefined || p.chlorineMg !== undefined)) return;
    const kept = Math.exp(
      -seconds / (cell.form === "vessel" ? settings.coolsVesselS : settings.coolsPipeS),
    );
    held[i] = plugs.map((p) =>
      p.warmthM3K === undefined && p.chlorineMg === undefined
        ? p
        : { ...p, warmthM3K: (p.warmthM3K ?? 0) * kept, chlorineMg: (p.chlorineMg ?? 0) * faded },
    );
    changed.push(i);
  });
  return changed;
};

/** The vessel of a storage heater, or the tubes of one that heats as water passes. */
const isHeatedCell = (network: Network, index: number): boolean => {
  const cell = network.cells[index];
  if (!cell?.part || kindOfPart(cell.part).group !== "heat") return false;
  const biggest = network.cells
    .filter((c) => c.ownerId === cell.ownerId)
    .reduce((a, b) => (b.capacityM3 > a.capacityM3 ? b : a));
  return biggest === cell;
};
