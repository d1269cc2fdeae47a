import { pipeCellId, type PipeRunId } from "./ids.ts";
import {
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
  readonly fallsTo?: number;
  readonly opening?: Opening;
  /** Where it is an undone end: which, and which side of it. */
  readonly undone?: Pick<ApartEnd, "run" | "end"> & { readonly side: "pipe" | "part" };
}

const apartLink = (network: Network, end: ApartEnd): number | undefined => {
  const run = network.cellIndex.get(pipeCellId(end.run));
  return run === undefined ? undefined : network.linksOf[run]?.[end.end === "from" ? 0 : 1];
};

/** What is asked of one situation again and again, worked out once. */
const once = <T>(work: (situation: Situation) => T): ((situation: Situation) => T) => {
  const known = new WeakMap<Situation, { readonly found: T }>();
  return (situation) => {
    const there = known.get(situation) ?? { found: work(situation) };
    known.set(situation, there);
    return there.found;
  };
};

/** Which links liquid may pass now, by link index. Driven links (a pump's inlet) count as open; callers treat them by `drivenBy`. */
export const passableLinks = once((situation): readonly boolean[] => {
  const passable = situation.network.links.map((link) => linkOpen(link, situation.lineup));
  for (const end of situation.apart) {
    const link = apartLink(situation.network, end);
    if (link !== undefined) passable[link] = false;
  }
  return passable;
});

/** The id of the opening that an undone end makes on the part's side. */
export const apartOpeningId = (end: Pick<ApartEnd, "run" | "end">): string =>
  `${end.run}:${end.end}:open-end`;

/** The id of the opening that an undone end makes on the pipe's own side. */
export const pipeEndOpeningId = (end: Pick<ApartEnd, "run" | "end">): string =>
  `${end.run}:${end.end}:pipe-end`;

/** Every opening that stands open now, undone ends among them. */
export const liveOpenings = once((situation): readonly LiveOpening[] =>
  openingsNow(situation, false),
);

/** Tells two situations of one network apart by what stands open: between cells, and to the outside. */
export const standingKey = once((situation): string => {
  let key = "";
  for (const open of passableLinks(situation)) key += open ? "1" : "0";
  // An undone end keeps its name with a jug's hose on it.
  for (const o of liveOpenings(situation))
    key += o.undone && o.use === "pickup" ? ` ${o.id}*` : ` ${o.id}`;
  return key;
});

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
      ...(o.fallsTo === undefined ? {} : { fallsTo: o.fallsTo }),
      opening: o,
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
        undone: { run: end.run, end: end.end, side: "part" },
      },
    ];
  });
  const all = [...standing, ...undone];
  const { stopped } = situation;
  return stopped ? all.filter((o) => !stopped.includes(o.id)) : all;
};
