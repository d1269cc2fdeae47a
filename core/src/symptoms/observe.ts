import { COMMON_FLOW_SETTINGS, liveFlows, type LiveFlows } from "../flows/index.ts";
import { type Control, heatersOf, type Network } from "../watermap/index.ts";
import type { World } from "./worlds.ts";

/** What would be seen of a unit with its pump on: solved as it stands, not stepped through time. */

type Flows = Extract<LiveFlows, { readonly ok: true }>;

export interface Seen {
  /** Through all pumps of the drinking side, m3/s. */
  readonly pumpM3PerS: number;
  /** At the outlet that is open, and how much of it is air that was drawn in, 0 to 1. */
  readonly outM3PerS: number;
  readonly airShare: number;
  /** Of what comes at it, the share that has been through a heater. */
  readonly heatedShare: number;
  /** Where water runs though nothing is meant to be open there, by opening's part. */
  readonly elsewhere: ReadonlyMap<string, number>;
}

const NOTABLE_M3_PER_S = 1e-7;
const isFreshPump = (network: Network, key: string): boolean =>
  network.links.some((l) => l.drivenBy === key && network.cells[l.b]?.side === "fresh");

/** The unit with its own pumps on, every tap shut but the one that is opened; nothing where it cannot be solved. */
export const observe = (world: World, open: Control | undefined): Seen | undefined => {
  const { network } = world;
  const lineup: Record<string, string> = { ...world.lineup };
  for (const c of network.controls)
    if (c.spec.role === "switch") lineup[c.key] = isFreshPump(network, c.key) ? "on" : "off";
  if (open) lineup[open.key] = "open";
  const situation = { network, lineup, apart: world.apart };
  const inAir = new Set(
    network.openings.filter((o) => o.use === "pickup").map((o) => o.id as string),
  );
  for (const e of world.apart) inAir.add(`${e.run}:${e.end}:open-end`);
  const found = liveFlows(situation, world.contents, {
    ...COMMON_FLOW_SETTINGS,
    dry: true,
    // What an accumulator gives for a moment hides what is behind it.
    cushions: false,
    inAir,
    hosesPa: {},
  });
  if (!found.ok) return undefined;
  const pumpM3PerS = network.links.reduce(
    (sum, l, i) =>
      l.drivenBy && isFreshPump(network, l.drivenBy) ? sum + (found.linkM3PerS[i] ?? 0) : sum,
    0,
  );
  const watched = found.holes.find(
    (h) => open !== undefined && h.at.opening?.gate?.key === open.key,
  );
  const elsewhere = new Map<string, number>();
  for (const { at, q } of found.holes)
    if (q > NOTABLE_M3_PER_S && at !== watched?.at && at.use !== "vent") {
      const part = at.opening?.part.id ?? network.cells[at.cell]?.ownerId ?? "";
      elsewhere.set(part, (elsewhere.get(part) ?? 0) + q);
    }
  return {
    pumpM3PerS,
    outM3PerS: Math.max(0, watched?.q ?? 0),
    airShare: carried(network, found, watched?.at.cell, airInto(world, found)),
    heatedShare: carried(network, found, watched?.at.cell, new Map(), true),
    elsewhere,
  };
};

/** Where air is drawn in, by cell: a hose that hangs in the air, an end undone before a pump, an empty tank. */
const airInto = ({ network, contents }: World, found: Flows): ReadonlyMap<number, number> =>
  new Map(
    found.holes.flatMap(({ at, q }) => {
      const cell = network.cells[at.cell];
      if (q >= -NOTABLE_M3_PER_S || !cell) return [];
      const isTank = cell.form === "vessel" && cell.kind?.role.vessel === "fresh";
      const isEmpty =
        isTank &&
        (contents[at.cell]?.plugs ?? []).reduce((s, p) => s + p.waterM3, 0) <
          1.2 * cell.drainRemainder * cell.capacityM3;
      return !isTank || isEmpty ? [[at.cell, -q] as const] : [];
    }),
  );

const ROUNDS = 60;

/**
 * Share of something in what comes at a cell, mixed at every joint by the flows that meet there: of air that is drawn in, or of water that
 * went through a heater.
 */
const carried = (
  network: Network,
  found: Flows,
  at: number | undefined,
  into: ReadonlyMap<number, number>,
  isHeat = false,
): number => {
  if (at === undefined) return 0;
  const heaters = new Set(isHeat ? heatersOf(network).map((h) => h.cell) : []);
  let share: number[] = network.cells.map((_, i) => (heaters.has(i) ? 1 : 0));
  for (let n = 0; n < ROUNDS; n++) {
    const next = share.map((own, i) => {
      if (heaters.has(i)) return 1;
      const given = into.get(i) ?? 0;
      let [sum, all] = [given, given];
      for (const l of network.linksOf[i] ?? []) {
        const link = network.links[l];
        const q = found.linkM3PerS[l] ?? 0;
        if (!link || q === 0) continue;
        const coming = link.b === i ? q : -q;
        if (coming <= 0) continue;
        sum += coming * (share[link.b === i ? link.a : link.b] ?? 0);
        all += coming;
      }
      for (const { at: hole, q } of found.holes)
        if (hole.cell === i && q < 0 && given === 0) all += -q;
      return all > 0 ? sum / all : own;
    });
    const moved = next.some((s, i) => Math.abs(s - (share[i] ?? 0)) > 1e-4);
    share = next;
    if (!moved) break;
  }
  return share[at] ?? 0;
};
