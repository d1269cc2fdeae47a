import { pruneDeadEnds, reach } from "../watermap/graph.ts";
import { wasteTanks } from "../watermap/network.ts";
import {
  type LiveOpening,
  liveOpenings,
  onceForStand,
  passableLinks,
  type Situation,
} from "../watermap/situation.ts";
import { type Drive, type Flow, holedVessels, joined, mayGo, type Ways } from "./flow-ways.ts";
import { shared, type Shares } from "./shared-flow.ts";
import { flowOrder } from "./stations.ts";

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
    link: new Float64Array(network.links.length),
    opening: new Float64Array(openings.length),
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
