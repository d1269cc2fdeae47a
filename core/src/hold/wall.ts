import {
  type Network,
  num,
  paramsOf,
  PIPE_SYSTEMS,
  pipeVolumeM3,
  roleOf,
} from "../watermap/index.ts";
import type { Held } from "./held.ts";

/** What gives way under water: the pipes' walls, air that was not bled, accumulators. */

// Young's modulus: cross-linked polyethylene 0.6 to 0.9 GPa, copper 117 GPa (textbook, from memory); braided hose as a whole some 0.1 GPa (our own).
const STIFF_PA = { plastic: 7e8, metal: 1.17e11, hose: 1e8 } as const;
const POISSON = 0.4;
// Bled with care a hundredth of the volume is still air, and half a tenth otherwise (our own).
const AIR_LEFT = { bled: 0.01, unbled: 0.05 } as const;

const materialOf = (pipe: string): keyof typeof STIFF_PA => {
  const { family } = PIPE_SYSTEMS.get(pipe) ?? {};
  return family === "copper" ? "metal" : family === "hose" ? "hose" : "plastic";
};

/**
 * By how much the inside of a pipe grows per Pa, m3/Pa: V · 2/E · ((a² + b²)/(b² − a²) + ν), thick-walled cylinder (Lamé, textbook), b the
 * outer and a the inner radius.
 */
const wallM3PerPa = (pipe: string, lengthM: number): number => {
  const system = PIPE_SYSTEMS.get(pipe);
  if (!system) return 0;
  const [a, b] = [system.boreM, Math.max(system.outsideM, system.boreM * 1.05)];
  const bulge = (a * a + b * b) / (b * b - a * a) + POISSON;
  return (pipeVolumeM3(system.boreM, lengthM) * 2 * bulge) / STIFF_PA[materialOf(pipe)];
};

/** Water shut in by a test, from the map. */
export const waterHeld = (
  network: Network,
  pressed: ReadonlySet<number>,
  volumeM3: number,
  isBled: boolean,
): Extract<Held, { medium: "water" }> => {
  const runs = network.map.runs.filter((r) =>
    [...pressed].some((c) => network.cells[c]?.ownerId === r.id),
  );
  const metal = runs.filter((r) => materialOf(r.pipe) === "metal");
  return {
    medium: "water",
    volumeM3: Math.max(volumeM3, 1e-5),
    wall: runs.length > 0 && metal.length === runs.length ? "metal" : "plastic",
    plasticM3: runs
      .filter((r) => materialOf(r.pipe) !== "metal")
      .reduce((sum, r) => sum + pipeVolumeM3(PIPE_SYSTEMS.get(r.pipe)?.boreM ?? 0, r.lengthM), 0),
    wallM3PerPa: runs.reduce((sum, r) => sum + wallM3PerPa(r.pipe, r.lengthM), 0),
    trappedM3: { low: 0, high: volumeM3 * (isBled ? AIR_LEFT.bled : AIR_LEFT.unbled) },
    cushions: network.map.parts
      .filter(
        (p) => roleOf(p).cushion && [...pressed].some((c) => network.cells[c]?.ownerId === p.id),
      )
      .map((p) => ({
        volumeM3: num(paramsOf(p), "volumeL") / 1000,
        chargePa: num(paramsOf(p), "prechargePa"),
      })),
  };
};
