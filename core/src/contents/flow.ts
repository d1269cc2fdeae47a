import {
  END_LOSS_K,
  HOLE_COEFFICIENT,
  type HydraulicElement,
  type HydraulicNode,
  type HydraulicOutlet,
  INSIDE,
  type Liquid,
  ROUGHNESS_M,
  solveHydraulics,
  TAP_COEFFICIENT,
} from "../hydraulics/index.ts";
import { PIPE_SYSTEMS } from "../watermap/pipes.ts";
import { pruneDeadEnds, reach } from "../watermap/graph.ts";
import {
  liveOpenings,
  type LiveOpening,
  onceForStand,
  passableLinks,
  type Situation,
} from "../watermap/situation.ts";
import { flowOrder } from "./move.ts";

/** Where liquid is forced: a pump that moves it across a link, or a source pushed in at a cell. */
export type Drive =
  | { readonly kind: "pump"; readonly switchKey: string }
  | { readonly kind: "push"; readonly cell: number }
  /** Drawn away at a cell: what a pump's inlet does to the side before it. */
  | { readonly kind: "draw"; readonly cell: number };

export interface Flow {
  /** Share of the driven flow through each link, positive from a to b. */
  readonly link: readonly number[];
  /** Share leaving at each live opening; negative where something comes in. */
  readonly opening: readonly { readonly at: LiveOpening; readonly share: number }[];
  /** Cells in the order in which liquid meets them. */
  readonly order: readonly number[];
}

export type FlowResult =
  | { readonly ok: true; readonly flow: Flow }
  | { readonly ok: false; readonly reason: "no way out" | "no way in" | "no pump" };

/** The link of the pump that drives a flow; −1 where none does. */
export const pumpOf = (
  { links }: Situation["network"],
  drive: Drive,
  { link }: Pick<Flow, "link">,
): number =>
  drive.kind === "pump"
    ? links.findIndex((l, i) => l.drivenBy === drive.switchKey && link[i] !== 0)
    : -1;

/**
 * Cells that a flow passes from a cell on.
 * @param without a link that is left out: the pump itself
 * @param goesOn whether it is followed beyond a cell
 */
export const downstream = (
  network: Situation["network"],
  { link }: Pick<Flow, "link">,
  start: number,
  without: number,
  goesOn: (cell: number) => boolean = () => true,
): Uint8Array =>
  reach(network, [start], (i, from) => {
    const q = link[i] ?? 0;
    return i !== without && goesOn(from) && (network.links[i]?.a === from ? q > 0 : q < 0);
  });

// A share below this is what a shut check lets by in the reckoning, or rounding; not flow.
const SHARE_FLOOR = 5e-5;
// How parallel ways share a flow depends on it a little: split at what a pump commonly gives, 6 L/min of cold water.
const COMMON_M3PERS = 1e-4;
const WATER: Liquid = { densityKgM3: 1000, viscosityPaS: 1.14e-3 };

/** Links between cells, those that nothing passes marked. */
interface Ways {
  readonly network: Situation["network"];
  readonly dead: Uint8Array;
  /**
   * Vessels with a hole of their own, a heater without its plug: what comes in runs out by the hole and nothing is pressed onward.
   * A tank that gives what a pump draws is none of them.
   */
  readonly holed: Uint8Array;
}

/** Whether forced liquid may go by a link from one of its cells to the other. */
const mayGo = ({ network, holed }: Ways, link: number, from: number): boolean => {
  const l = network.links[link];
  // What presses behind a regulator shuts its seat; without pressure it stands open, and runs out both ways.
  const isOneWay = l?.oneWay === true || l?.regulatesPa !== undefined;
  return l !== undefined && !(isOneWay && l.a !== from) && holed[from] !== 1;
};

const tanksOf = new WeakMap<Situation["network"], number[]>();
const wasteTanks = (network: Situation["network"]): number[] => {
  const known = tanksOf.get(network) ?? findWasteTanks(network);
  tanksOf.set(network, known);
  return known;
};
const findWasteTanks = (network: Situation["network"]): number[] =>
  network.cells.flatMap((c, i) =>
    c.form === "vessel" && c.kind?.role.vessel === "waste" ? [i] : [],
  );

const holedVessels = (
  { network }: Situation,
  openings: readonly LiveOpening[],
  drive: Drive,
): Uint8Array => {
  const holed = new Uint8Array(network.cells.length);
  for (const o of openings) {
    const { form, kind } = network.cells[o.cell] ?? {};
    const isFresh = kind?.role.vessel === "fresh";
    // A tank that breathes takes what is pushed into it; a pump draws from it.
    if (
      form === "vessel" &&
      (isFresh ? drive.kind === "push" && o.use === "vent" : o.use !== "vent")
    )
      holed[o.cell] = 1;
  }
  // What runs into a waste tank stays there: it breathes by its pipes.
  for (const cell of wasteTanks(network)) holed[cell] = 1;
  return holed;
};

/** Cells joined to a start; towards an opening checks are passed only their own way, from one against it. */
const joined = (ways: Ways, start: number, onward: boolean): Uint8Array =>
  reach(
    ways.network,
    [start],
    (link, from, to) => ways.dead[link] !== 1 && mayGo(ways, link, onward ? from : to),
  );

/**
 * How a unit of forced flow spreads over the open ways out, and where its supply comes from. Gravity is left out: what falls by
 * itself is another matter. A single way is followed; where ways part, the hydraulics say how they share.
 */
export const findFlow = (situation: Situation, drive: Drive): FlowResult =>
  // A planner asks the same again and again: what moves where hangs on nothing but what is open and what drives.
  remembered(
    situation,
    `${drive.kind} ${drive.kind === "pump" ? drive.switchKey : drive.cell}`,
    () => flowOf(situation, drive, passableLinks(situation), openingsFor(situation, drive)),
  );
const MOST_DRIVES = 50;
const remembered = onceForStand<FlowResult>(MOST_DRIVES);

/** Where a drive's liquid may come and go. */
const openingsFor = (situation: Situation, drive: Drive): LiveOpening[] => {
  // Where a hand pump's hose is on, nothing runs out beside it.
  const standing = liveOpenings(situation).filter(
    (o) =>
      drive.kind !== "push" ||
      o.cell !== drive.cell ||
      !(o.undone || o.use === "supply" || o.use === "flush"),
  );
  const mouths = wasteTanks(situation.network).flatMap<LiveOpening>((cell) =>
    standing.some((o) => o.cell === cell)
      ? []
      : [
          {
            id: `mouths:${cell}`,
            cell,
            heightM: situation.network.cells[cell]?.topM ?? 0,
            use: "vent",
          },
        ],
  );
  return [...standing, ...mouths];
};

const flowOf = (
  situation: Situation,
  drive: Drive,
  passable: readonly boolean[],
  openings: readonly LiveOpening[],
): FlowResult => {
  const { network } = situation;
  const injected = new Map<number, number>();
  const driven =
    drive.kind === "pump"
      ? network.links.findIndex((l, i) => l.drivenBy === drive.switchKey && passable[i])
      : -1;
  if (drive.kind === "pump") {
    const link = network.links[driven];
    if (!link) return { ok: false, reason: "no pump" };
    injected.set(link.a, -1);
    injected.set(link.b, 1);
  } else injected.set(drive.cell, drive.kind === "push" ? 1 : -1);

  // A pump that does not run holds liquid back only against its check; pushed from its inlet it lets liquid through.
  const dead = new Uint8Array(passable.length);
  for (let i = 0; i < dead.length; i++) dead[i] = passable[i] && i !== driven ? 0 : 1;
  const ways: Ways = { network, dead, holed: holedVessels(situation, openings, drive) };
  for (const [cell, q] of injected) {
    const there = joined(ways, cell, q > 0);
    if (!openings.some((o) => there[o.cell]))
      return { ok: false, reason: q > 0 ? "no way out" : "no way in" };
  }
  const keep = new Uint8Array(network.cells.length);
  for (const cell of injected.keys()) keep[cell] = 1;
  for (const o of openings) keep[o.cell] = 1;
  pruneDeadEnds(network, dead, (cell) => keep[cell] === 1);

  const flow: Shares = {
    link: network.links.map(() => 0),
    opening: openings.map(() => 0),
  };
  if (driven >= 0) flow.link[driven] = 1;
  if (![...injected].every(([cell, q]) => followed(ways, cell, q, injected, openings, flow))) {
    flow.link.fill(0);
    flow.opening.fill(0);
    if (driven >= 0) flow.link[driven] = 1;
    if (!shared(ways, injected, openings, flow)) return { ok: false, reason: "no way out" };
  }
  const opening = openings.map((at, i) => ({ at, share: flow.opening[i] as number }));
  const forced = new Map(drive.kind === "push" ? [[drive.cell, 1]] : []);
  return {
    ok: true,
    flow: {
      link: flow.link,
      opening,
      order: flowOrder(network, { link: flow.link, holes: opening, forced }),
    },
  };
};

interface Shares {
  readonly link: number[];
  readonly opening: number[];
}

/** Follows the only way from a forced place to an opening, if there is but one. */
const followed = (
  ways: Ways,
  start: number,
  q: number,
  injected: ReadonlyMap<number, number>,
  openings: readonly LiveOpening[],
  flow: Shares,
): boolean => {
  const { network, dead } = ways;
  const openAt = new Map<number, { readonly last: number; readonly count: number }>();
  openings.forEach((o, i) =>
    openAt.set(o.cell, { last: i, count: (openAt.get(o.cell)?.count ?? 0) + 1 }),
  );
  let [at, by] = [start, -1];
  for (let steps = 0; steps <= network.links.length; steps++) {
    const { last: open = -1, count: opens = 0 } = openAt.get(at) ?? {};
    let [only, onward] = [-1, 0];
    for (const i of network.linksOf[at] ?? [])
      if (!dead[i] && i !== by) {
        only = i;
        onward++;
      }
    if (opens > 1 || (opens === 1 && onward > 0) || (at !== start && injected.has(at)))
      return false;
    if (opens === 1) {
      flow.opening[open] = (flow.opening[open] as number) + q;
      return true;
    }
    if (onward !== 1) return false;
    const l = network.links[only] as (typeof network.links)[number];
    const outward = l.a === at ? q : -q;
    const next = l.a === at ? l.b : l.a;
    if (!mayGo(ways, only, q > 0 ? at : next)) return false;
    flow.link[only] = (flow.link[only] as number) + outward;
    at = next;
    by = only;
  }
  return false;
};

/** What is forced in where no way leads goes nowhere. A draw is given, whatever it takes. */
const injectedDry = (unmet: readonly string[], injected: ReadonlyMap<number, number>): boolean =>
  [...injected].some(([cell, q]) => q > 0 && unmet.includes(String(cell)));

interface Alive extends Edge {
  readonly link: number;
  /** −1 where it is gone against the link's own direction. */
  readonly sign: 1 | -1;
  readonly oneWay: boolean;
  readonly crackPa: number;
}

/** Links that may be gone, each in the direction in which it may be, where there is but one. */
const aliveOf = (ways: Ways): Alive[] => {
  const alive: Alive[] = [];
  ways.network.links.forEach((l, i) => {
    if (ways.dead[i]) return;
    const [onward, back] = [mayGo(ways, i, l.a), mayGo(ways, i, l.b)];
    if (!onward && !back) return;
    const [a, b] = onward ? [l.a, l.b] : [l.b, l.a];
    alive.push({
      link: i,
      a,
      b,
      sign: onward ? 1 : -1,
      oneWay: !(onward && back),
      crackPa: l.oneWay ? l.crackPa : 0,
    });
  });
  return alive;
};

/** Cells numbered in the order in which they are met. */
const numbered = (
  network: Situation["network"],
  met: readonly Iterable<number>[],
): { cells: number[]; at: Int32Array } => {
  const cells: number[] = [];
  const at = new Int32Array(network.cells.length).fill(-1);
  for (const some of met)
    for (const cell of some)
      if ((at[cell] as number) < 0) {
        at[cell] = cells.length;
        cells.push(cell);
      }
  return { cells, at };
};

/** From a pipe's middle to its end, or through a part. */
const sizeOf = (
  network: Situation["network"],
  e: Edge,
): Pick<Extract<HydraulicElement, { kind: "pipe" }>, "lengthM" | "boreM" | "lossK"> => {
  const run = network.cells[e.a]?.run ?? network.cells[e.b]?.run;
  const system = run && PIPE_SYSTEMS.get(run.pipe);
  return run && system
    ? { lengthM: run.lengthM / 2, boreM: system.boreM, lossK: END_LOSS_K + INSIDE.lossK / 2 }
    : INSIDE;
};

/** Shares a unit of flow over ways that part, by the hydraulics of the pipes between. */
const shared = (
  ways: Ways,
  injected: ReadonlyMap<number, number>,
  openings: readonly LiveOpening[],
  { link, opening: share }: Shares,
): boolean => {
  const { network } = ways;
  const alive = aliveOf(ways);
  const ends = [alive.map((e) => e.a), alive.map((e) => e.b)];
  const { cells, at } = numbered(network, [injected.keys(), openings.map((o) => o.cell), ...ends]);
  // Where liquid is drawn away, openings let air in: they stand at the air's pressure. So does a tank by its vent.
  const drawn = [...injected].flatMap(([cell, q]) => (q < 0 ? [joined(ways, cell, false)] : []));
  const isDrawn = (cell: number): boolean => drawn.some((there) => there[cell] === 1);
  const [fixed, outlets]: [Set<number>, HydraulicOutlet[]] = [new Set(), []];
  const outletOf = openings.map((o) => {
    if (o.use === "vent" || isDrawn(o.cell)) {
      fixed.add(o.cell);
      return -1;
    }
    const coefficient = o.use === "outlet" ? TAP_COEFFICIENT : HOLE_COEFFICIENT;
    return (
      outlets.push({
        id: o.id,
        node: at[o.cell] as number,
        heightM: 0,
        coefficient,
        densityKgM3: WATER.densityKgM3,
      }) - 1
    );
  });
  const nodes = cells.map<HydraulicNode>((cell) => {
    const q = injected.get(cell);
    return fixed.has(cell)
      ? { id: String(cell), heightM: 0, fixedPa: 0 }
      : q === undefined
        ? { id: String(cell), heightM: 0 }
        : { id: String(cell), heightM: 0, drawM3PerS: -q * COMMON_M3PERS };
  });
  const elements = alive.map<HydraulicElement>((e) => {
    const { lengthM, boreM, lossK } = sizeOf(network, e);
    const [from, to] = [at[e.a] as number, at[e.b] as number];
    const pipe = {
      id: String(e.link),
      kind: "pipe",
      from,
      to,
      lengthM,
      boreM,
      lossK,
      roughnessM: ROUGHNESS_M,
      liquid: WATER,
    } as const;
    return e.oneWay ? { ...pipe, oneWay: true, crackPa: e.crackPa } : pipe;
  });
  const solved = solveHydraulics({ nodes, elements, outlets });
  if (!solved.ok || injectedDry(solved.unmet, injected)) return false;
  const carried: (Alive & { q: number })[] = [];
  alive.forEach((e, i) => {
    const q = (solved.flowsM3PerS[i] ?? 0) / COMMON_M3PERS;
    if (Math.abs(q) >= SHARE_FLOOR) carried.push({ ...e, q });
  });
  const net = new Map(injected);
  const isOpening = new Set(openings.map((o) => o.cell));
  for (const e of balance(network, carried, injected, isOpening)) {
    link[e.link] = e.sign * e.q;
    net.set(e.a, (net.get(e.a) ?? 0) - e.q);
    net.set(e.b, (net.get(e.b) ?? 0) + e.q);
  }
  // The first opening of a cell gives and takes what keeps its balance; two on one cell share by their holes.
  const told = new Set<number>();
  openings.forEach((o, i) => {
    const n = outletOf[i] as number;
    const all = net.get(o.cell) ?? 0;
    if (Math.abs(all) < SHARE_FLOOR) return;
    if (n < 0) {
      if (!told.has(o.cell)) share[i] = all;
      told.add(o.cell);
      return;
    }
    const here = openings.flatMap((other, k) =>
      other.cell === o.cell && (outletOf[k] as number) >= 0
        ? [solved.outM3PerS[outletOf[k] as number] ?? 0]
        : [],
    );
    const sum = here.reduce((s, q) => s + q, 0);
    share[i] = fixed.has(o.cell) || sum <= 0 ? 0 : (all * (solved.outM3PerS[n] ?? 0)) / sum;
  });
  return true;
};

interface Edge {
  readonly a: number;
  readonly b: number;
}

/**
 * Takes the last crumbs of an iteration out of flows: along a tree from the open cells what comes in is what goes on, exactly;
 * only ways that close a circle keep the flow that was found.
 */
const balance = <E extends Edge & { readonly q: number }>(
  network: Situation["network"],
  flows: readonly E[],
  injected: ReadonlyMap<number, number>,
  isOpen: ReadonlySet<number>,
): E[] => {
  const { cells, at } = numbered(
    network,
    flows.map((e) => [e.a, e.b]),
  );
  const near: number[][] = cells.map(() => []);
  flows.forEach((e, i) => {
    near[at[e.a] as number]?.push(i);
    near[at[e.b] as number]?.push(i);
  });
  // By which flow each cell hangs on the open ones: -1 for those themselves, -2 where it does not.
  const parent = new Int32Array(cells.length).fill(-2);
  const order: number[] = [];
  cells.forEach((cell, k) => {
    if (!isOpen.has(cell)) return;
    parent[k] = -1;
    order.push(k);
  });
  const inTree = new Uint8Array(flows.length);
  for (const k of order)
    for (const i of near[k] ?? []) {
      const e = flows[i] as E;
      const next = at[e.a === cells[k] ? e.b : e.a] as number;
      if ((parent[next] as number) >= -1) continue;
      parent[next] = i;
      inTree[i] = 1;
      order.push(next);
    }
  const q = flows.map((e, i) => (inTree[i] ? 0 : e.q));
  const surplus = Float64Array.from(cells, (cell) => injected.get(cell) ?? 0);
  flows.forEach((e, i) => {
    const [a, b] = [at[e.a] as number, at[e.b] as number];
    surplus[a] = (surplus[a] as number) - (q[i] as number);
    surplus[b] = (surplus[b] as number) + (q[i] as number);
  });
  for (const k of order.toReversed()) {
    const i = parent[k] as number;
    const e = flows[i];
    if (!e) continue;
    const on = surplus[k] as number;
    q[i] = e.a === cells[k] ? on : -on;
    const next = at[e.a === cells[k] ? e.b : e.a] as number;
    surplus[next] = (surplus[next] as number) + on;
  }
  // A piece without an open cell or a forced one has nowhere to come from and to go: its flow is a crumb too.
  const hangs = (cell: number): boolean => (parent[at[cell] as number] as number) >= -1;
  return flows.flatMap((e, i) => (hangs(e.a) && hangs(e.b) ? [{ ...e, q: q[i] as number }] : []));
};
