import {
  apartOpeningId,
  type Control,
  type Network,
  reachInOrder,
  roleOf,
} from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import { confirm, type Context, controlByKey, freshPumps, turn } from "./context.ts";
import { forcedReach } from "../fill-lineup.ts";
import { turnsToDrawOn } from "./suction.ts";

/** How product gets in, read from the map. */
export interface Entry {
  readonly kind: "pickup" | "pump-inlet-hose" | "hand-pump";
  /** Cell where product is forced in, for finding what it can reach. */
  readonly start: number;
  /** Controls on the suction side, which the pickup needs and the bypass must leave alone. */
  readonly suctionControls: readonly string[];
  readonly pump?: Control;
  /** Rows that put the jug in its place. */
  readonly connect: (context: Context) => Action[];
  /** Rows that put everything back. */
  readonly restore: (context: Context) => Action[];
  readonly label: string;
  readonly parts: readonly string[];
}

/** By control, in which positions a way is open. */
type Stands = ReadonlyMap<string, readonly string[]>;

/** The positions in which a link is open besides what its way asks for already; nothing where no position does both. */
const alsoOpen = (stands: Stands, gates: Network["links"][number]["gates"]): Stands | undefined => {
  if (gates.length === 0) return stands;
  const both = new Map(stands);
  for (const { key, in: positions } of gates) {
    const left = (both.get(key) ?? positions).filter((p) => positions.includes(p));
    if (left.length === 0) return undefined;
    both.set(key, left);
  }
  return both;
};

/** Cells upstream of a pump, nearest first, until a tank or an opening: by ways on which each selector stands in one place only. */
const upstream = (network: Network, start: number, stop: number): number[] => {
  const ways = new Map<number, Stands>([[start, new Map()]]);
  return reachInOrder(network, [start], (i, from, to) => {
    const part = network.cells[from]?.part;
    const link = network.links[i];
    if (to === stop || (part && roleOf(part).vessel) || !link || link.drivenBy !== undefined)
      return false;
    const stands = alsoOpen(ways.get(from) ?? new Map(), link.gates);
    if (stands && !ways.has(to)) ways.set(to, stands);
    return stands !== undefined;
  });
};

/**
 * Every way in, one for each pump of the drinking side, the pump that reaches most first: its built-in pickup, else a hose in place
 * of its inlet line. Without a pump, a hand pump at the supply inlet.
 */
export const findEntries = (context: Context): Entry[] => {
  const reached = (start: number): number =>
    forcedReach(
      { network: context.network, lineup: context.physical.lineup, apart: context.physical.apart },
      start,
    ).size;
  const entries = freshPumps(context)
    .flatMap((pump) => {
      const driven = context.network.links.find((l) => l.drivenBy === pump.key);
      if (!driven) return [];
      const cells = upstream(context.network, driven.a, driven.b);
      const entry =
        pickupEntry(context, pump, cells, driven.b) ?? hoseEntry(context, pump, cells, driven.b);
      return entry ? [{ entry, reaches: reached(driven.b) }] : [];
    })
    .toSorted((a, b) => b.reaches - a.reaches)
    .map((e) => e.entry);
  const hand = entries.length > 0 ? undefined : handEntry(context);
  return hand ? [hand] : entries;
};

const suctionControls = (context: Context, cells: readonly number[]): Control[] => {
  const owners = new Set(cells.map((c) => context.network.cells[c]?.ownerId));
  return context.network.controls.filter(
    (c) => owners.has(c.part.id) && (c.spec.role === "valve" || c.spec.role === "selector"),
  );
};

const pickupEntry = (
  context: Context,
  pump: Control,
  cells: readonly number[],
  start: number,
): Entry | undefined => {
  const pickup = context.network.openings.find(
    (o) => o.use === "pickup" && cells.includes(o.cell) && !context.blocked.has(o.part.id),
  );
  const hose = pickup?.gate && controlByKey(context, pickup.gate.key);
  if (!pickup || !hose) return undefined;
  const valves = suctionControls(context, cells);
  const choices = valves.filter((v) => !context.blocked.has(v.part.id));
  const inlet = context.network.links.find((l) => l.drivenBy === pump.key)?.a ?? -1;
  const ready = { ...context.physical.lineup, [hose.key]: "in jug", [pump.key]: "on" };
  const turns = turnsToDrawOn(context, ready, inlet, pickup.id, choices);
  if (!turns) return undefined;
  const best = { ...Object.fromEntries(choices.map((v) => [v.key, ready[v.key]])), ...turns };
  const inUse = context.request.network.map.lineup;
  return {
    kind: "pickup",
    start,
    suctionControls: valves.map((v) => v.key),
    pump,
    connect: (now) => [
      ...turn(now, hose, "in jug"),
      ...choices.flatMap((v) => turn(now, v, best[v.key] ?? v.spec.inUse)),
    ],
    restore: (now) => [
      ...turn(now, hose, "capped"),
      ...choices.flatMap((v) => turn(now, v, inUse[v.key] ?? v.spec.inUse)),
    ],
    label: `the ${pickup.part.name.toLowerCase()}`,
    parts: [pickup.part.id, ...choices.map((v) => v.part.id)],
  };
};

const hoseEntry = (
  context: Context,
  pump: Control,
  cells: readonly number[],
  start: number,
): Entry | undefined => {
  const { network } = context;
  // The farther upstream the line is opened, the more of it is protected: take the run next to the tank, at its pump end.
  const tankCell = cells.find((c) => network.cells[c]?.part && network.cells[c]?.form === "vessel");
  const runs = cells.filter((c) => network.cells[c]?.run);
  const next = runs.filter((c) =>
    (network.linksOf[c] ?? []).some(
      (l) => network.links[l]?.a === tankCell || network.links[l]?.b === tankCell,
    ),
  );
  const cell = next[0] ?? runs.at(-1);
  const run = cell === undefined ? undefined : network.cells[cell]?.run;
  if (!run) return undefined;
  const tankId = tankCell === undefined ? "" : (network.cells[tankCell]?.ownerId ?? "");
  const end = run.from.part === tankId ? "to" : run.to.part === tankId ? "from" : "to";
  const far = run[end];
  const name = network.map.parts.find((p) => p.id === far.part)?.name.toLowerCase() ?? far.part;
  if (context.blocked.has(far.part) || context.blocked.has(pump.part.id)) return undefined;
  const apartId = apartOpeningId({ run: run.id, end });
  return {
    kind: "pump-inlet-hose",
    start,
    suctionControls: suctionControls(context, cells).map((v) => v.key),
    pump,
    connect: (now) =>
      now.physical.apart.some((e) => apartOpeningId(e) === apartId && e.jug)
        ? []
        : [
            {
              type: "disconnect",
              run: run.id,
              end,
              jug: true,
              label: `Undo the inlet line at the ${name}, put the jug hose on`,
            },
          ],
    restore: () => [
      {
        type: "reconnect",
        run: run.id,
        end,
        label: `Jug hose off, inlet line back on the ${name}, washer seen`,
      },
    ],
    label: `a jug hose in place of the line to the ${name}`,
    parts: [far.part, pump.part.id],
  };
};

const handEntry = (context: Context): Entry | undefined => {
  const inlet = context.network.openings.find(
    (o) => o.use === "supply" && !o.pressed && !context.blocked.has(o.part.id),
  );
  if (!inlet) return undefined;
  const cap = inlet.gate && controlByKey(context, inlet.gate.key);
  return {
    kind: "hand-pump",
    start: inlet.cell,
    suctionControls: [],
    connect: (now) => [
      ...turn(now, cap, "shut"),
      confirm(
        `hand-pump:${inlet.part.id}`,
        `Hand pump coupled to the ${inlet.part.name.toLowerCase()}, its hose in the jug`,
      ),
    ],
    restore: () => [confirm(`hand-pump-off:${inlet.part.id}`, "Hand pump off, cap back")],
    label: `a hand pump at the ${inlet.part.name.toLowerCase()}`,
    parts: [inlet.part.id],
  };
};
