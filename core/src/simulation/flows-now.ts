import { type Contents, type Mixture, strengthOf, sum, volumeOf } from "../contents/index.ts";
import { type FlowSettings, isFresh, liveFlows, type LiveFlows } from "../flows/index.ts";
import type { Cell, Network, Situation } from "../watermap/index.ts";
import { heldM3, type SimState } from "./state.ts";

/** The flows of a moment, and when they must be found again. */

export type Flows = Extract<LiveFlows, { ok: true }>;

// Flows are found again when a pipe has become emptier, fuller or of other strength by this share.
const STRENGTH_STEP = 0.1;
const LEVEL_STEPS = 40;
// A cushion that holds no more than its remainder has nothing to give.
const SPENT = 1.001;
const CUSHION_STEPS = 1000;

/** What changes the flows: which pipes are dry, how strong what they hold is, how high tanks and cushions stand. */
export const signature = (network: Network, held: readonly Mixture[][]): string => {
  let text = "";
  network.cells.forEach((c, i) => {
    const steps = c.prechargePa === undefined ? LEVEL_STEPS : CUSHION_STEPS;
    if (c.form === "pipe") {
      const liquid = sum(held[i] as Mixture[]);
      text +=
        volumeOf(liquid) < 0.3 * c.capacityM3
          ? "a"
          : String(Math.round(strengthOf(liquid) / STRENGTH_STEP));
    } else if (
      c.prechargePa !== undefined &&
      volumeOf(sum(held[i] as Mixture[])) <= c.drainRemainder * c.capacityM3 * SPENT
    )
      text += ".spent;";
    else if (c.prechargePa !== undefined || c.form === "vessel")
      text += `.${Math.round((steps * volumeOf(sum(held[i] as Mixture[]))) / Math.max(c.capacityM3, 1e-12))};`;
  });
  return text;
};

/** m3/s by run, positive from its `from` end; only where something flows. */
export const runFlows = (network: Network, flows: Flows): Record<string, number> => {
  const found: Record<string, number> = {};
  network.cells.forEach((c, i) => {
    const first = network.linksOf[i]?.[0];
    const link = first === undefined ? undefined : network.links[first];
    const q = first === undefined ? 0 : (flows.linkM3PerS[first] ?? 0);
    if (c.run && link && q !== 0) found[c.run.id] = link.a === i ? -q : q;
  });
  return found;
};

/** The flows as things stand; a cushion with nothing to give does not give. */
export const foundFlows = (
  network: Network,
  situation: Situation,
  contents: Contents,
  settings: FlowSettings,
  air: ReadonlySet<string>,
): LiveFlows => {
  const solve = (extra: readonly string[]): LiveFlows =>
    liveFlows(situation, contents, {
      ...settings,
      dry: true,
      cushions: true,
      inAir: new Set([...air, ...extra]),
    });
  const first = solve([]);
  if (!first.ok) return first;
  const spent = [...first.cushions].flatMap(([cell, q]) => {
    const c = network.cells[cell] as Cell;
    return q < 0 && heldM3({ contents }, cell) <= c.drainRemainder * c.capacityM3 * SPENT
      ? [c.id]
      : [];
  });
  return spent.length > 0 ? solve(spent) : first;
};

/** Openings by which air comes in on the suction side: a pickup that hangs in the air, a tank run dry. */
export const airSources = (network: Network, found: Flows, jugs: SimState["jugs"]): string[] =>
  found.holes.flatMap((h) => {
    if (h.q >= 0) return [];
    if (h.at.use === "pickup") return jugs[h.at.id] ? [] : [h.at.id];
    return isFresh({ network }, h.at.cell) ? [h.at.id] : [];
  });

// Two millimetres between linked tanks are level (our own).
const LEVEL_M = 0.002;

/** Whether all that moves is water between tanks that stand level. */
export const onlyLevels = (network: Network, found: Flows, held: readonly Mixture[][]): boolean => {
  if (
    found.holes.length === 0 ||
    found.holes.some((h) => h.at.use !== "vent" || !isFresh({ network }, h.at.cell))
  )
    return false;
  const tanks = found.holes.map(({ at: { cell } }) => cell);
  return spreadM(network, tanks, held) < LEVEL_M;
};

/** How far apart the levels of tanks are, m. */
export const spreadM = (
  network: Network,
  tanks: readonly number[],
  held: readonly (readonly Mixture[])[],
): number => {
  const levels = tanks.map((cell) => {
    const c = network.cells[cell] as Cell;
    return c.bottomM + ((c.topM - c.bottomM) * volumeOf(sum(held[cell] ?? []))) / c.capacityM3;
  });
  return Math.max(...levels) - Math.min(...levels);
};
