import {
  type Body,
  type Mixture,
  moveOn,
  NOTHING,
  product,
  stationsOf,
  strengthOf,
  volumeOf,
  plus,
} from "../contents/index.ts";
import {
  type HydraulicElement,
  type HydraulicNetwork,
  solveHydraulics,
} from "../hydraulics/index.ts";
import type { Cell, Link, LiveOpening } from "../watermap/index.ts";
import { randomPipes } from "./random-pipes.ts";

/** A tracer carried through bare pipes by the engine's own mover, to be held against EPANET's transport. */

// A joint's own volume: none to speak of.
const JOINT_M3 = 1e-9;
// EPANET counts whole seconds: pipes a hundred times as long as aboard make a second short beside the travel time.
const LONGER = 120;

/**
 * The same flows without checks: EPANET lets a tracer through a pipe with a check in no time (taking an open check off such a pipe
 * moves its arrival by just that pipe's travel time), so in what is compared there are none.
 */
const withoutChecks = (network: HydraulicNetwork): HydraulicNetwork => {
  const solved = solveHydraulics(network);
  if (!solved.ok) throw new Error(solved.problem);
  const elements = network.elements.flatMap<HydraulicElement>((e, i) => {
    if (e.kind !== "pipe" || !e.oneWay) return [e];
    const { oneWay: _, ...plain } = e;
    return (solved.flowsM3PerS[i] ?? 0) > 0 ? [plain] : [];
  });
  return { ...network, elements };
};

/** A random network whose pipes are so long that a second is little. */
export const longPipes = (seed: number): HydraulicNetwork => {
  const network = randomPipes(seed, 6 + (seed % 9));
  return withoutChecks({
    ...network,
    // What is drawn whatever the pressure would ask for more than such long pipes give.
    nodes: network.nodes.map((n) => ({
      id: n.id,
      heightM: n.heightM,
      ...(n.fixedPa === undefined ? {} : { fixedPa: n.fixedPa }),
    })),
    elements: network.elements.map((e) =>
      e.kind === "pipe" ? { ...e, lengthM: e.lengthM * LONGER } : e,
    ),
  });
};

const cell = (id: string, form: Cell["form"], capacityM3: number): Cell => ({
  id,
  ownerId: id,
  name: "pipe",
  side: "fresh",
  form,
  capacityM3,
  bottomM: 0,
  topM: 0,
  drainRemainder: 0,
  sweepRemainder: 0,
  sagM3: 0,
  frostBasis: "burst",
  inUseFraction: 1,
  resistance: 1,
});

const link = (a: number, b: number): Link => ({
  a,
  b,
  heightM: 0,
  gates: [],
  oneWay: false,
  crackPa: 0,
});

/**
 * @param from node whose water carries the tracer from the first second on
 * @returns share of its strength at each outlet's node, at every step
 */
export const traced = (
  network: HydraulicNetwork,
  from: number,
  seconds: number,
  stepS: number,
  finer = 4,
): number[][] => {
  const solved = solveHydraulics(network);
  if (!solved.ok) throw new Error(solved.problem);
  const cells: Cell[] = network.nodes.map((n) => cell(n.id, "fitting", JOINT_M3));
  const links: Link[] = [];
  const flows: number[] = [];
  network.elements.forEach((e, i) => {
    const q = solved.flowsM3PerS[i] ?? 0;
    if (e.kind !== "pipe") {
      links.push(link(e.from, e.to));
      flows.push(q);
      return;
    }
    const me = cells.push(cell(e.id, "pipe", (Math.PI / 4) * e.boreM ** 2 * e.lengthM)) - 1;
    links.push(link(e.from, me), link(me, e.to));
    flows.push(q, q);
  });
  const linksOf = cells.map((_, c) => links.flatMap((l, i) => (l.a === c || l.b === c ? [i] : [])));
  const net = network.nodes.map(() => 0);
  network.elements.forEach((e, i) => {
    net[e.from] = (net[e.from] as number) + (solved.flowsM3PerS[i] ?? 0);
    net[e.to] = (net[e.to] as number) - (solved.flowsM3PerS[i] ?? 0);
  });
  const hole = (node: number): LiveOpening => ({
    id: `n${node}`,
    cell: node,
    heightM: 0,
    use: "outlet",
  });
  const holes = [
    ...network.outlets.map((o, i) => ({ at: hole(o.node), share: solved.outM3PerS[i] ?? 0 })),
    ...network.nodes.flatMap((n, i) =>
      n.fixedPa !== undefined && (net[i] as number) < 0
        ? [{ at: hole(i), share: -(net[i] as number) }]
        : [],
    ),
  ].filter((h) => h.share > 0);
  const forced = new Map(
    network.nodes.flatMap((n, i) =>
      n.fixedPa !== undefined && (net[i] as number) > 0 ? [[i, net[i] as number] as const] : [],
    ),
  );
  const stations = stationsOf({ cells, links, linksOf }, { link: flows, holes, forced });
  const held: Body[][] = cells.map((c) => [product(c.capacityM3, 0)]);
  const rows: number[][] = [network.outlets.map(() => 0)];
  for (let t = 0; t < seconds; t += stepS) {
    const seen = new Map<number, Mixture>();
    for (let i = 0; i < finer; i++)
      moveOn(stations, held, stepS / finer, {
        comes: (m3, station) => ({ liquid: product(m3, station.index === from ? 1 : 0), airM3: 0 }),
        leaves: () => undefined,
        passes: ({ index }, { liquid }) =>
          void (
            cells[index]?.form === "fitting" &&
            seen.set(index, plus(seen.get(index) ?? NOTHING, liquid))
          ),
      });
    rows.push(network.outlets.map((o) => strengthOf(seen.get(o.node) ?? NOTHING)));
  }
  if (
    held.some(
      (plugs, i) =>
        cells[i]?.form === "pipe" &&
        plugs.reduce((s, p) => s + volumeOf(p), 0) > (cells[i]?.capacityM3 ?? 0) * (1 + 1e-6),
    )
  )
    throw new Error("a pipe holds more than it can");
  return rows;
};

/** Where the tracer ends up, and after how long it comes on the mean of all ways it takes there. */
export interface Arrival {
  readonly meanS: number;
  readonly share: number;
}

// A source that gives less than a hundredth of an outlet's water has no arrival to speak of.
const LEAST_SHARE = 0.01;
const SETTLED_FROM = 0.9;

/** Arrivals at the outlets where nothing changes any more before the end. */
export const arrivals = (
  rows: readonly (readonly number[])[],
  stepS: number,
): (Arrival | undefined)[] =>
  (rows[0] ?? []).map((_, outlet) => {
    const share = rows.at(-1)?.[outlet] ?? 0;
    const late = rows[Math.floor(rows.length * SETTLED_FROM)]?.[outlet] ?? 0;
    if (share < LEAST_SHARE || Math.abs(late - share) > 1e-4) return undefined;
    return {
      meanS: rows.reduce((s, row) => s + (1 - (row[outlet] ?? 0) / share) * stepS, 0),
      share,
    };
  });
