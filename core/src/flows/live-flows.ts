import { type Contents, liquidVolume } from "../contents/index.ts";
import {
  type Cell,
  kindOfPart,
  type LiveOpening,
  liveOpenings,
  passableLinks,
  pruneDeadEnds,
  reachInOrder,
  type Situation,
} from "../watermap/index.ts";
import { type FlowSettings, HOLDS_HEAD_PA, presses } from "./flow-settings.ts";
import { isDry } from "./standing-liquid.ts";
import { type MapHydraulics, mapHydraulics } from "./map-hydraulics.ts";
import { solveHydraulics } from "../hydraulics/index.ts";

/** What moves in a unit as it stands, told by link and by opening: what the contents are carried along by. */
export type LiveFlows =
  | {
      readonly ok: true;
      /** m3/s by link of the network, positive from a to b. */
      readonly linkM3PerS: readonly number[];
      /** m3/s by opening, positive outward; what a tank takes in or gives goes by its vent. */
      readonly holes: readonly { readonly at: LiveOpening; readonly q: number }[];
      /** m3/s that a cushion takes up, by cell; negative where it gives. */
      readonly cushions: ReadonlyMap<number, number>;
      /** Cells joined to something that presses or stands: a pump that runs, a supply, a tank, a jug, a cushion. Others follow gravity. */
      readonly sourced: ReadonlySet<number>;
      /** Pa above the air, by cell; absent where a cell is closed off from every source and opening. */
      readonly pressuresPa: ReadonlyMap<number, number>;
    }
  | { readonly ok: false; readonly problem: string };

// Less than a drop a minute is not flow.
const STILL_M3PERS = 1e-9;

/** Cells on a piece that nothing can pass: taken off, ends first, so that a dead end carries exactly nothing. */
const deadEnds = (
  situation: Situation,
  flows: readonly number[],
  ends: ReadonlySet<number>,
): Uint8Array => {
  const dead = Uint8Array.from(flows, (q) => (q === 0 ? 1 : 0));
  pruneDeadEnds(situation.network, dead, (cell) => ends.has(cell));
  return dead;
};

/** Cells of pieces in which nothing but a breath of air moves: its own weight in a dry line would carry out, drop by drop, what stays there. */
const idleAir = (
  situation: Situation,
  contents: Contents,
  flows: readonly number[],
  pressing: ReadonlySet<number>,
): Uint8Array => {
  const { network, lineup } = situation;
  const isPressed = (cell: number): boolean =>
    pressing.has(cell) ||
    (network.linksOf[cell] ?? []).some(
      (i) => lineup[network.links[i]?.drivenBy ?? ""] === "on" && (flows[i] ?? 0) !== 0,
    );
  const idle = new Uint8Array(network.cells.length);
  const seen = new Uint8Array(network.cells.length);
  network.links.forEach((l, i) => {
    if (!flows[i] || seen[l.a]) return;
    const piece = reachInOrder(network, [l.a], (link) => flows[link] !== 0);
    for (const cell of piece) seen[cell] = 1;
    const isBreath = piece.every((cell) =>
      (network.linksOf[cell] ?? []).every((link) => Math.abs(flows[link] ?? 0) < BREATH_M3PERS),
    );
    const isAir = piece.every((cell) => {
      const c = network.cells[cell];
      return (
        c === undefined ||
        c.capacityM3 <= 0 ||
        isDry(c, contents[cell], { dry: true }) ||
        isSpent(c, contents[cell])
      );
    });
    if (isBreath && isAir && !piece.some(isPressed)) for (const cell of piece) idle[cell] = 1;
  });
  return idle;
};
/** Whether a vessel has nothing left to give. */
const isSpent = (cell: Cell, held: Contents[number] | undefined): boolean =>
  cell.form === "vessel" && liquidVolume(held) <= cell.drainRemainder * cell.capacityM3 * NEARLY;
const NEARLY = 1.001;
const BREATH_M3PERS = 1e-5;

/** Cells joined to a start through what is open; a stopped pump's valves part them, one that runs joins and presses. */
const joinedTo = (situation: Situation, starts: readonly number[]): Set<number> => {
  const { network, lineup } = situation;
  const passable = passableLinks(situation);
  const running = network.links.filter(
    (l, i) => passable[i] && l.drivenBy && lineup[l.drivenBy] === "on",
  );
  return new Set(
    reachInOrder(network, [...starts, ...running.flatMap((l) => [l.a, l.b])], (i) => {
      const link = network.links[i];
      const holds =
        link?.drivenBy !== undefined &&
        lineup[link.drivenBy] !== "on" &&
        link.crackPa > HOLDS_HEAD_PA;
      return passable[i] === true && !holds;
    }),
  );
};

/** Pressures of the unit as it stands, Pa above the air, by cell; absent where a cell is closed off. Nothing where there is no answer. */
export const livePressures = (
  situation: Situation,
  contents: Contents,
  settings: FlowSettings,
): ReadonlyMap<number, number> | undefined => {
  const made = mapHydraulics(situation, contents, settings);
  const solved = solveHydraulics(made.network);
  return solved.ok ? pressuresOf(made, solved.pressuresPa) : undefined;
};

const pressuresOf = (
  made: MapHydraulics,
  solved: readonly (number | undefined)[],
): ReadonlyMap<number, number> => {
  const pressuresPa = new Map<number, number>();
  for (const [cell, node] of made.nodeOf) {
    const p = solved[node];
    if (p !== undefined) pressuresPa.set(cell, p);
  }
  return pressuresPa;
};

/** Solves the unit as it stands and tells the flow through every link and opening. */
export const liveFlows = (
  situation: Situation,
  contents: Contents,
  settings: FlowSettings,
): LiveFlows => {
  const { network } = situation;
  const made = mapHydraulics(situation, contents, settings);
  const solved = solveHydraulics(made.network);
  if (!solved.ok) return solved;
  const flow = (element: number | undefined): number =>
    element === undefined ? 0 : (solved.flowsM3PerS[element] ?? 0);

  const raw = network.links.map((link, i) => {
    const inside = made.insideOf.get(i);
    if (inside !== undefined) return flow(inside);
    const [a, b] = [network.cells[link.a], network.cells[link.b]];
    const [run, cell] = a?.run ? [a.run, link.a] : [b?.run, link.b];
    if (!run) return 0;
    const along = flow(made.elementOf.get(run.id));
    if (
      situation.apart.some(
        (e) => e.run === run.id && network.linksOf[cell]?.[e.end === "from" ? 0 : 1] === i,
      )
    )
      return 0;
    // The first link of a run is its from end: what flows along it comes out of the part there.
    const intoRun = network.linksOf[cell]?.[0] === i;
    return (link.a === cell) === intoRun ? -along : along;
  });

  const live = liveOpenings(situation);
  const out = new Map(made.network.outlets.map((o, i) => [o.id, solved.outM3PerS[i] ?? 0]));
  const ends = new Set([...live.map((o) => o.cell), ...made.held]);
  const dead = deadEnds(situation, raw, ends);
  const pressing = new Set(live.flatMap((o) => (made.supplyOf.has(o.id) ? [o.cell] : [])));
  const idle = settings.dry ? idleAir(situation, contents, raw, pressing) : undefined;
  const linkM3PerS = raw.map((q, i) =>
    dead[i] || Math.abs(q) < STILL_M3PERS || idle?.[network.links[i]?.a ?? -1] ? 0 : q,
  );

  const net = network.cells.map(() => 0);
  network.links.forEach((l, i) => {
    net[l.a] = (net[l.a] as number) - (linkM3PerS[i] as number);
    net[l.b] = (net[l.b] as number) + (linkM3PerS[i] as number);
  });
  const cushions = new Map<number, number>();
  const balanced = new Set<number>();
  for (const cell of made.held)
    if (network.cells[cell]?.prechargePa !== undefined) cushions.set(cell, net[cell] as number);
  const holes = live.flatMap((at) => {
    if (made.held.has(at.cell)) {
      // A tank breathes by one opening: its vent, or whatever stands open on it.
      if (
        balanced.has(at.cell) ||
        (at.use !== "vent" && live.some((o) => o.cell === at.cell && o.use === "vent"))
      )
        return [];
      balanced.add(at.cell);
      const q = net[at.cell] as number;
      return Math.abs(q) < STILL_M3PERS ? [] : [{ at, q }];
    }
    const q = (out.get(at.id) ?? 0) - flow(made.supplyOf.get(at.id));
    return idle?.[at.cell] || Math.abs(q) < STILL_M3PERS ? [] : [{ at, q }];
  });
  const supplies = live.filter((o) => made.supplyOf.has(o.id)).map((o) => o.cell);
  return {
    ok: true,
    linkM3PerS,
    holes,
    cushions,
    sourced: joinedTo(situation, [...made.held, ...supplies]),
    pressuresPa: pressuresOf(made, solved.pressuresPa),
  };
};

/** Whether something presses: a pump that runs, a supply that is on. */
export const isDriven = (
  { network, lineup }: Situation,
  live: readonly LiveOpening[],
  settings: Pick<FlowSettings, "hosesPa">,
): boolean =>
  live.some((o) => presses(o, settings)) ||
  network.links.some((l) => l.drivenBy && lineup[l.drivenBy] === "on");

/** A tank of drinking water. */
export const isFresh = (situation: Pick<Situation, "network">, cell: number): boolean => {
  const c = situation.network.cells[cell];
  return c?.form === "vessel" && c.part !== undefined && kindOfPart(c.part).role.vessel === "fresh";
};
