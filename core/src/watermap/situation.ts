import { pipeCellId, type PipeRunId } from "./ids.ts";
import {
  type CellGate,
  gateOpen,
  type Lineup,
  type Link,
  linkOpen,
  type Network,
  type Opening,
} from "./network.ts";

/** A pipe end that has been undone: liquid no longer passes there, and both sides are open to the air or sit in a jug. */
export interface ApartEnd {
  readonly run: PipeRunId;
  readonly end: "from" | "to";
  /** A jug hose has been put on the part's side. */
  readonly jug: boolean;
}

/** The network with every control in a position and every undone end named: what can move where. */
export interface Situation {
  readonly network: Network;
  readonly lineup: Lineup;
  readonly apart: readonly ApartEnd[];
  /** Openings that are stopped by whatever has been put on them: an air hose, a thumb. */
  readonly stopped?: readonly string[];
}

/** An opening as it stands now. */
export interface LiveOpening {
  readonly id: string;
  readonly cell: number;
  readonly heightM: number;
  readonly use: Opening["use"];
  readonly fallsTo?: number | undefined;
  readonly opening?: Opening | undefined;
  /** Where it is an undone end: which, and which side of it. */
  readonly undone?:
    | (Pick<ApartEnd, "run" | "end"> & { readonly side: "pipe" | "part" })
    | undefined;
}

const apartLink = (network: Network, end: ApartEnd): number | undefined => {
  const run = network.cellIndex.get(pipeCellId(end.run));
  return run === undefined ? undefined : network.linksOf[run]?.[end.end === "from" ? 0 : 1];
};

/** What stands open: shared by all situations of a network in which every gate is as open, the same ends are undone and the same is stopped. */
interface Stand {
  /** By link. */
  readonly passable: readonly boolean[];
  readonly openings: readonly LiveOpening[];
}

/** Every gate of a network once, each as a way to ask whether it is open. */
const gatesOf = (network: Network): readonly CellGate[] => {
  const known = gates.get(network);
  if (known) return known;
  const all = [...network.links.flatMap((l) => l.gates), ...network.openings.map((o) => o.gate)];
  const found = new Map(all.flatMap((g) => (g ? [[JSON.stringify(g), g]] : [])));
  const made = [...found.values()];
  gates.set(network, made);
  return made;
};
const gates = new WeakMap<Network, readonly CellGate[]>();

// So many gates to a letter.
const BITS = 15;

const keyOf = ({ network, lineup, apart, stopped = [] }: Situation): string => {
  let key = "";
  let [bits, n] = [0, 0];
  for (const gate of gatesOf(network)) {
    bits = bits * 2 + (gateOpen(gate, lineup) ? 1 : 0);
    if (++n < BITS) continue;
    key += String.fromCharCode(bits);
    [bits, n] = [0, 0];
  }
  key += String.fromCharCode(bits);
  for (const end of apart) key += ` ${end.run}:${end.end}${end.jug ? "*" : ""}`;
  for (const id of stopped) key += ` -${id}`;
  return key;
};

const MOST_STANDS = 2000;
const stands = new WeakMap<Network, Map<string, Stand>>();
const standOf = new WeakMap<Situation, Stand>();

/** What stands open in a situation; the same object for situations in which the same does. */
const standIn = (situation: Situation): Stand => {
  const before = standOf.get(situation);
  if (before) return before;
  const known = stands.get(situation.network) ?? new Map<string, Stand>();
  if (known.size === 0) stands.set(situation.network, known);
  const key = keyOf(situation);
  const stand = known.get(key) ?? {
    passable: passableNow(situation),
    openings: openingsNow(situation, false),
  };
  if (known.size >= MOST_STANDS) known.clear();
  known.set(key, stand);
  standOf.set(situation, stand);
  return stand;
};

/** What is asked of one stand again and again, worked out once. @param most of them for one stand */
export const onceForStand = <T>(
  most: number,
): ((situation: Situation, key: string, work: () => T) => T) => {
  const known = new WeakMap<Stand, Map<string, T>>();
  return (situation, key, work) => {
    const stand = standIn(situation);
    const here = known.get(stand) ?? new Map<string, T>();
    if (here.size === 0) known.set(stand, here);
    const before = here.get(key);
    if (before !== undefined) return before;
    const found = work();
    if (here.size >= most) here.clear();
    here.set(key, found);
    return found;
  };
};

const passableNow = (situation: Situation): readonly boolean[] => {
  const passable = situation.network.links.map((link) => linkOpen(link, situation.lineup));
  for (const end of situation.apart) {
    const link = apartLink(situation.network, end);
    if (link !== undefined) passable[link] = false;
  }
  return passable;
};

/** Which links liquid may pass now, by link index. Driven links (a pump's inlet) count as open; callers treat them by `drivenBy`. */
export const passableLinks = (situation: Situation): readonly boolean[] =>
  standIn(situation).passable;

/** The id of the opening that an undone end makes on the part's side. */
export const apartOpeningId = (end: Pick<ApartEnd, "run" | "end">): string =>
  `${end.run}:${end.end}:open-end`;

/** The id of the opening that an undone end makes on the pipe's own side. */
export const pipeEndOpeningId = (end: Pick<ApartEnd, "run" | "end">): string =>
  `${end.run}:${end.end}:pipe-end`;

/** Every opening that stands open now, undone ends among them. */
export const liveOpenings = (situation: Situation): readonly LiveOpening[] =>
  standIn(situation).openings;

/** Openings by which nothing but air ever passes, and only inward: vacuum breakers. */
export const airOnlyOpenings = (situation: Situation): LiveOpening[] =>
  openingsNow(situation, true);

const openingsNow = (situation: Situation, airOnly: boolean): LiveOpening[] => {
  const { network, lineup } = situation;
  const standing = network.openings
    .filter((o) => (o.airOnly === true) === airOnly && gateOpen(o.gate, lineup))
    .map<LiveOpening>((o) => ({
      id: o.id,
      cell: o.cell,
      heightM: o.heightM,
      use: o.use,
      fallsTo: o.fallsTo,
      opening: o,
      undone: undefined,
    }));
  const undone = (airOnly ? [] : situation.apart).flatMap<LiveOpening>((end) => {
    const index = apartLink(network, end);
    const link: Link | undefined = index === undefined ? undefined : network.links[index];
    const run = network.cellIndex.get(pipeCellId(end.run));
    if (!link || run === undefined) return [];
    const partCell = link.a === run ? link.b : link.a;
    const pipeEnd: LiveOpening = {
      id: pipeEndOpeningId(end),
      cell: run,
      heightM: link.heightM,
      use: "bowl",
      fallsTo: undefined,
      opening: undefined,
      undone: { run: end.run, end: end.end, side: "pipe" },
    };
    // A shut ball stands between an undone end and what the part holds.
    if (!linkOpen(link, lineup)) return [pipeEnd];
    return [
      pipeEnd,
      {
        id: apartOpeningId(end),
        cell: partCell,
        heightM: link.heightM,
        use: end.jug ? "pickup" : "bowl",
        fallsTo: undefined,
        opening: undefined,
        undone: { run: end.run, end: end.end, side: "part" },
      },
    ];
  });
  const all = [...standing, ...undone];
  const { stopped } = situation;
  return stopped ? all.filter((o) => !stopped.includes(o.id)) : all;
};
