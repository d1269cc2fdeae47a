import { COMMON_FLOW_SETTINGS, type FlowSettings, mapFlows } from "../flows/index.ts";
import { modeLineup } from "../survey/index.ts";
import {
  cheapest,
  heatersOf,
  inUseLineup,
  type Lineup,
  linkOpen,
  type Network,
  type Opening,
  wayBy,
} from "../watermap/index.ts";

/** What comes at the outlets, alone and two together, and how long warm water is waited for: by the unit's own engine. */

export interface OutletFlow {
  readonly id: string;
  readonly name: string;
  readonly part: string;
  /** Alone, m3/s. */
  readonly aloneM3S: number;
  /** With the one other that takes most from it, m3/s; the same as alone where there is no other. */
  readonly worstM3S: number;
  readonly worstWith?: string;
  /** At the outlet's part then, Pa above the air. */
  readonly worstPa: number;
}

export interface HotWait {
  readonly part: string;
  readonly name: string;
  /** Cold that runs off before it is warm, m3, and how long that takes, s. */
  readonly coldM3: number;
  readonly seconds: number;
}

/** Use on the tank where a pump stands, else on a site's supply. */
const inUse = (network: Network): { lineup: Lineup; settings: FlowSettings } => {
  const switches = network.controls.filter((c) => c.spec.role === "switch");
  return switches.length > 0
    ? {
        lineup: {
          ...inUseLineup(network),
          ...Object.fromEntries(switches.map((c) => [c.key, "on"])),
        },
        settings: { ...COMMON_FLOW_SETTINGS, hosesPa: {} },
      }
    : { lineup: modeLineup(network, "use on supply"), settings: COMMON_FLOW_SETTINGS };
};

/** Outlets of drinking water that a hand opens. */
const outletsOf = (network: Network): Opening[] =>
  network.openings.filter(
    (o) => o.use === "outlet" && o.gate && network.cells[o.cell]?.side === "fresh",
  );

/** "Galley tap, hot" */
const called = (o: Opening): string =>
  ["cold", "hot"].includes(o.name) ? `${o.part.name}, ${o.name}` : o.part.name;

interface Solved {
  /** m3/s by opening. */
  readonly out: ReadonlyMap<string, number>;
  /** Pa by part. */
  readonly pressures: ReadonlyMap<string, number>;
}

type Flow = (open: readonly Opening[]) => Solved;

const flowOf = (network: Network): Flow => {
  const { lineup, settings } = inUse(network);
  return (open) => {
    const opened = Object.fromEntries(
      open.flatMap((o) => (o.gate?.in[0] === undefined ? [] : [[o.gate.key, o.gate.in[0]]])),
    );
    const solved = mapFlows(network, { ...lineup, ...opened }, settings);
    return solved.ok
      ? {
          out: new Map([...solved.outM3PerS].map(([id, q]) => [id, Math.max(0, q)])),
          pressures: solved.pressuresPa,
        }
      : { out: new Map(), pressures: new Map() };
  };
};

/** Every outlet alone and in pairs. */
export const outletFlows = (network: Network): OutletFlow[] => {
  const flow = flowOf(network);
  const outlets = outletsOf(network);
  const worst = new Map<string, { q: number; pa: number; other: string }>();
  const take = (of: Opening, { out, pressures }: Solved, other: string): void => {
    const q = out.get(of.id) ?? 0;
    const now = worst.get(of.id);
    if (!now || q < now.q) worst.set(of.id, { q, pa: pressures.get(of.part.id) ?? 0, other });
  };
  outlets.forEach((a, i) => {
    for (const b of outlets.slice(i + 1)) {
      // Hot and cold of one mixer are one tap.
      if (a.part.id === b.part.id) continue;
      const both = flow([a, b]);
      take(a, both, called(b));
      take(b, both, called(a));
    }
  });
  return outlets.map((o) => {
    const alone = flow([o]);
    const aloneM3S = alone.out.get(o.id) ?? 0;
    const found = worst.get(o.id);
    return {
      id: o.id,
      name: called(o),
      part: o.part.id,
      aloneM3S,
      worstM3S: Math.min(aloneM3S, found?.q ?? aloneM3S),
      worstPa: found?.pa ?? alone.pressures.get(o.part.id) ?? 0,
      ...(found && found.q < aloneM3S ? { worstWith: found.other } : {}),
    };
  });
};

/** For each outlet that the hot lines come to: what stands cold on the shortest way from the nearest heater. */
export const hotWaits = (network: Network): HotWait[] => {
  const { lineup } = inUse(network);
  const flow = flowOf(network);
  const starts = heatersOf(network).flatMap(({ cell }): [number, number][] =>
    network.cells[cell]?.side === "fresh" ? [[cell, 0]] : [],
  );
  const isStart = new Set(starts.map(([cell]) => cell));
  const ways = cheapest(network, starts, (sofar, i, from, to) => {
    const link = network.links[i];
    const cell = network.cells[to];
    if (!link || !cell || link.drivenBy !== undefined || !linkOpen(link, lineup)) return undefined;
    if (link.oneWay && link.a !== from) return undefined;
    // Hot water goes by the hot lines: not back through the cold side, nor through another vessel.
    if ((cell.run && cell.run.service !== "hot") || cell.form === "vessel") return undefined;
    return sofar + cell.capacityM3;
  });
  const best = new Map<string, HotWait>();
  for (const o of outletsOf(network)) {
    const coldM3 = ways.cost[o.cell] ?? Number.POSITIVE_INFINITY;
    if (!Number.isFinite(coldM3) || isStart.has(o.cell)) continue;
    const way = wayBy(network, ways, o.cell);
    if (!way.cells.some((c) => network.cells[c]?.run?.service === "hot")) continue;
    const q = flow([o]).out.get(o.id) ?? 0;
    const wait: HotWait = {
      part: o.part.id,
      name: o.part.name,
      coldM3,
      seconds: q > 0 ? coldM3 / q : Number.POSITIVE_INFINITY,
    };
    const now = best.get(o.part.id);
    if (!now || coldM3 < now.coldM3) best.set(o.part.id, wait);
  }
  return [...best.values()].toSorted((a, b) => b.coldM3 - a.coldM3);
};
