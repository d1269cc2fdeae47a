import { betweenOpenEnds, drain, liquidVolume, startingContents } from "../contents/index.ts";
import { inUseLineup, kindOfPart, type Lineup, type Network } from "../watermap/index.ts";
import { couldReach } from "./walk.ts";

/** How the water of a part can be got out, with every control at one's disposal. */
export type Clearing = "drains" | "can be pushed through" | "nothing clears it";

// A body that keeps more than this share after a drain has not drained.
const DRAINED_BELOW = 0.5;

/** Everything opened that lets water out or air in, valves and selectors in their use position; pumps off. */
const allOpen = (network: Network): Lineup => {
  const roles = new Set(["outlet", "drain", "plug", "relief", "cap", "bowl", "valve"]);
  const opened = network.controls.flatMap((c) =>
    roles.has(c.spec.role) && c.spec.positions.some((p) => p.name === "open")
      ? [[c.key, "open"] as const]
      : [],
  );
  return { ...inUseLineup(network), ...Object.fromEntries(opened) };
};

/** Lineups in which each selector has stood in each of its positions. */
const selectorRounds = (network: Network): Lineup[] => {
  const base = allOpen(network);
  const selectors = network.controls.filter((c) => c.spec.role === "selector");
  const most = Math.max(1, ...selectors.map((c) => c.spec.positions.length));
  return Array.from({ length: most }, (_, i) => ({
    ...base,
    ...Object.fromEntries(
      selectors.map((c) => [
        c.key,
        c.spec.positions[i % c.spec.positions.length]?.name ?? c.spec.inUse,
      ]),
    ),
  }));
};

/** Cells on a way from something that could push (supply, pickup, pump, intake, filler) to something that opens. */
const pushable = (network: Network): boolean[] => {
  const canOpen = (link: number): boolean =>
    network.links[link]?.gates.every((g) => g.in.length > 0) === true;
  const ends = network.openings.filter((o) => o.use !== "vent").map((o) => o.cell);
  const between = betweenOpenEnds(network, canOpen, ends);
  const sources = network.openings
    .filter((o) => ["supply", "pickup", "fill", "raw", "flush"].includes(o.use))
    .map((o) => o.cell);
  const tanks = network.cells.flatMap((c, i) =>
    c.part && kindOfPart(c.part).role.vessel === "fresh" ? [i] : [],
  );
  const forward = couldReach(network, [...sources, ...tanks]);
  return network.cells.map((_, i) => between[i] === 1 && forward.has(i));
};

/** For every part and run of the wet side, how its water can be got out; the worst of its cells counts. */
export const clearingOf = (network: Network): Map<string, Clearing> => {
  const before = startingContents(network);
  const rounds = selectorRounds(network).map(
    (lineup) => drain({ network, lineup, apart: [] }, before).contents,
  );
  const pushed = pushable(network);
  const result = new Map<string, Clearing>();
  const rank: Record<Clearing, number> = {
    drains: 0,
    "can be pushed through": 1,
    "nothing clears it": 2,
  };
  network.cells.forEach((cell, i) => {
    if (cell.form === "trap" || cell.form === "waste-pipe" || cell.inUseFraction === 0) return;
    const held = liquidVolume(before[i]);
    const least = Math.min(...rounds.map((contents) => liquidVolume(contents[i])));
    const found: Clearing =
      held <= 0 || least < held * DRAINED_BELOW
        ? "drains"
        : pushed[i]
          ? "can be pushed through"
          : "nothing clears it";
    const sofar = result.get(cell.ownerId);
    if (sofar === undefined || rank[found] > rank[sofar]) result.set(cell.ownerId, found);
  });
  return result;
};
