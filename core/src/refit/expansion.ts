import { waterDensityKgM3 } from "../fluid/index.ts";
import { ATMOSPHERE_PA, PSI_PA } from "../quantity/index.ts";
import {
  gateOpen,
  heatersOf,
  inUseLineup,
  type Lineup,
  linkOpen,
  type Network,
  num,
  paramsOf,
  reach,
  roleOf,
  runAtPort,
} from "../watermap/index.ts";

/** A check that closes the heater's water in: where what it grows by goes to, and how large an accumulator takes it. */

export interface Expansion {
  readonly heater: string;
  readonly name: string;
  /** A check, the pump's own among them, keeps what it grows by from going anywhere. */
  readonly closed: boolean;
  readonly growsM3: number;
  /** What the accumulators on its side take between the two pressures, m3. */
  readonly takenM3: number;
  /** Volume of an accumulator that takes all of it, m3. */
  readonly accumulatorM3: number;
}

// Cold from the tank, and as a thermostat leaves it, °C; pump's pressure, what a relief is kept clear of, and the charge behind the bladder (handbook's own example, common practice).
const FROM_C = 10;
const TO_C = 60;
const FROM_PA = 45 * PSI_PA;
const TO_PA = 75 * PSI_PA;
const CHARGE_PA = 40 * PSI_PA;

/** By how much water grows between two temperatures, as a share of its volume, from the density table (IAPWS-95). */
export const growthOf = (fromC: number, toC: number): number => {
  const [cold, hot] = [waterDensityKgM3(fromC), waterDensityKgM3(toC)];
  if (!cold.ok || !hot.ok) throw new RangeError("water is liquid from 0 to 100 °C");
  return cold.value / hot.value - 1;
};

/** Share of an accumulator's volume that it takes in between two gauge pressures (Boyle, absolute). */
export const takesShare = (chargePa: number, fromPa: number, toPa: number): number => {
  const [charge, from, to] = [chargePa, Math.max(fromPa, chargePa), toPa].map(
    (pa) => pa + ATMOSPHERE_PA,
  ) as [number, number, number];
  return charge * (1 / from - 1 / to);
};

/** Cells that what the heater grows by can go to as the unit stands in use: not past a pump, a regulator or a check that looks at the heater. */
const backFrom = (network: Network, cell: number, lineup: Lineup): ReadonlySet<number> => {
  const marks = reach(network, [cell], (i, from) => {
    const link = network.links[i];
    if (!link || link.drivenBy !== undefined || link.regulatesPa !== undefined) return false;
    return linkOpen(link, lineup) && (!link.oneWay || link.a === from);
  });
  return new Set([...marks.keys()].filter((c) => marks[c] === 1));
};

// A pump starts again 15 to 20 psi under its cut-out (common practice, no source).
const BAND_PA = 17.5 * PSI_PA;

/** What the accumulators of a map give between the pump's cut-out and its next start, m3 (Boyle); nothing where no pump stops by itself. */
export const cushionOf = ({ map }: Pick<Network, "map">): number => {
  const cutOut = Math.max(
    0,
    ...map.parts.flatMap((p) =>
      roleOf(p).pump && roleOf(p).byHand !== true ? [Number(paramsOf(p)["cutOutPa"] ?? 0)] : [],
    ),
  );
  if (cutOut <= BAND_PA) return 0;
  return map.parts.reduce(
    (sum, p) =>
      roleOf(p).cushion
        ? sum +
          (num(paramsOf(p), "volumeL") / 1000) *
            takesShare(num(paramsOf(p), "prechargePa"), cutOut - BAND_PA, cutOut)
        : sum,
    0,
  );
};

/** For each heater that stores water. */
export const expansions = (network: Network): Expansion[] => {
  const lineup = inUseLineup(network);
  return heatersOf(network).flatMap(({ part, cell }) => {
    const vessel = network.cells[cell];
    if (!vessel || vessel.form !== "vessel") return [];
    const growsM3 = vessel.capacityM3 * growthOf(FROM_C, TO_C);
    const joined = backFrom(network, cell, lineup);
    const cushions = network.map.parts.filter(
      (p) => roleOf(p).cushion && network.cells.some((c, i) => c.ownerId === p.id && joined.has(i)),
    );
    const takenM3 = cushions.reduce(
      (sum, p) =>
        sum +
        (num(paramsOf(p), "volumeL") / 1000) *
          takesShare(num(paramsOf(p), "prechargePa"), FROM_PA, TO_PA),
      0,
    );
    // Open: it can push back into a tank that breathes, or out of whatever stands open.
    const open = network.openings.some(
      (o) => joined.has(o.cell) && (o.use === "vent" || (o.gate && gateOpen(o.gate, lineup))),
    );
    return [
      {
        heater: part.id,
        name: part.name,
        closed: !open && runAtPort(network.map, { part: part.id, port: "cold" }) !== undefined,
        growsM3,
        takenM3,
        accumulatorM3: growsM3 / takesShare(CHARGE_PA, FROM_PA, TO_PA),
      },
    ];
  });
};
