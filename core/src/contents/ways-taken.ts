import { cellWith } from "../watermap/build-network.ts";
import { againstChecks, reach } from "../watermap/graph.ts";
import {
  type LiveOpening,
  liveOpenings,
  onceForStand,
  passableLinks,
  type Situation,
} from "../watermap/situation.ts";
import { betweenOpenEnds } from "./between.ts";
import { type Contents, holding } from "./contents.ts";
import { downstream, pumpOf } from "./flow.ts";
import { type Drive, type Flow } from "./flow-ways.ts";
import { water as waterOf } from "./mixture.ts";
import { type Station, stationsOf } from "./stations.ts";
import type { Push } from "./push-order.ts";

/** By which ways what is pushed goes, what it may come from, and what of it nobody can tell. */

// A way that takes less than this of the flow may as well take nothing, or a few times as much (our own).
const TELLABLE_SHARE = 0.05;

// So are the cells on its way.
const paths = new WeakMap<Flow, Station[]>();
export const pathOf = (
  { network }: Situation,
  drive: Drive,
  flow: Flow,
  isAsFound: boolean,
): Station[] => {
  const known = paths.get(flow);
  if (known) return known;
  const forced = new Map(drive.kind === "push" ? [[drive.cell, 1]] : []);
  const made = stationsOf(
    network,
    { link: flow.link, holes: flow.opening, forced },
    isAsFound ? flow.order : undefined,
  );
  paths.set(flow, made);
  return made;
};

/** Where not all is known of a map nothing is made of a hose that does not mix: what stood in it may hide what comes after it. */
export const mixingHoses = (path: readonly Station[]): readonly Station[] => {
  if (!path.some((s) => s.cell.lengthwise)) return path;
  const before = mixing.get(path);
  if (before) return before;
  const made = path.map((s) =>
    s.cell.lengthwise ? { ...s, cell: cellWith(s.cell, { lengthwise: undefined }) } : s,
  );
  mixing.set(path, made);
  return made;
};
const mixing = new WeakMap<readonly Station[], readonly Station[]>();

interface DrawnOn {
  readonly beside: readonly LiveOpening[];
  readonly jugToo: boolean;
}

/** What a pump's inlet can draw on, whatever springs there are on the way: jugs, and whatever is beside them. */
export const drawnOn = (situation: Situation, drive: Drive): DrawnOn =>
  drive.kind === "pump"
    ? sources(situation, drive.switchKey, () => findSources(situation, drive))
    : { beside: [], jugToo: false };
const MOST_PUMPS = 10;
const sources = onceForStand<DrawnOn>(MOST_PUMPS);

const findSources = (situation: Situation, drive: Drive): DrawnOn => {
  const { network } = situation;
  const inlet =
    drive.kind === "pump"
      ? network.links.find((l) => l.drivenBy === drive.switchKey)?.a
      : undefined;
  if (inlet === undefined) return { beside: [], jugToo: false };
  const met = reach(network, [inlet], againstChecks(network, passableLinks(situation)));
  const drawn = liveOpenings(situation).filter((o) => met[o.cell] === 1);
  return {
    beside: drawn.filter((o) => o.use !== "pickup"),
    jugToo: drawn.some((o) => o.use === "pickup"),
  };
};

/** Whether what a pump gives runs back into a tank: it goes round and round, and nothing is emptied by it. */
export const goesRound = ({ network }: Situation, { drive }: Push, flow: Flow): boolean => {
  const pump = pumpOf(network, drive, flow);
  const outlet = network.links[pump]?.b;
  if (outlet === undefined) return false;
  const isVessel = (cell: number): boolean => network.cells[cell]?.form === "vessel";
  const beyond = downstream(network, flow, outlet, pump, (cell) => !isVessel(cell));
  return beyond.some(
    (mark, cell) =>
      mark === 1 && isVessel(cell) && network.cells[cell]?.kind?.role.vessel === "fresh",
  );
};

/**
 * Beyond the pump air takes the easier of two ways as soon as it is through, and leaves the other as it was: only the way with the
 * greatest share counts as swept.
 */
export const byTheEasierWay = (
  { network }: Situation,
  { drive, watch }: Push,
  flow: Flow,
): Flow => {
  const pump = pumpOf(network, drive, flow);
  const out = flow.opening.find((o) => o.at.id === watch && o.share > 0);
  const start = drive.kind === "pump" ? network.links[pump]?.b : drive.cell;
  if (!out || start === undefined) return flow;
  const beyond = downstream(network, flow, start, pump);
  const kept = new Set<number>();
  for (let at = out.at.cell, steps = 0; at !== start && steps <= network.links.length; steps++) {
    let [best, most] = [-1, 0];
    for (const i of network.linksOf[at] ?? []) {
      const coming = network.links[i]?.b === at ? (flow.link[i] ?? 0) : -(flow.link[i] ?? 0);
      if (coming > most && !kept.has(i)) [best, most] = [i, coming];
    }
    const l = network.links[best];
    if (!l) return flow;
    kept.add(best);
    at = l.a === at ? l.b : l.a;
  }
  const link = flow.link.map((q, i) => {
    const l = network.links[i];
    if (q === 0 || !l || i === pump || !(beyond[l.a] && beyond[l.b])) return q;
    return kept.has(i) ? Math.sign(q) : 0;
  });
  const opening = flow.opening.map((o) =>
    o === out ? { ...o, share: 1 } : o.share > 0 ? { ...o, share: 0 } : o,
  );
  return { ...flow, link, opening };
};

/** Pipes and bodies that such a flow passes, taken as full of water: nobody can say what comes of it. */
export const asWater = ({ network }: Situation, before: Contents, flow: Flow): Contents =>
  before.map((held, i) => {
    const cell = network.cells[i];
    const passed = (network.linksOf[i] ?? []).some((l) => flow.link[l] !== 0);
    return cell && passed && cell.form !== "vessel" && cell.capacityM3 > 0
      ? holding([waterOf(cell.capacityM3)], "assumed")
      : held;
  });

const MOST_FLOWS = 50;
const besides = onceForStand<readonly number[]>(MOST_FLOWS);
const besideOf = (
  situation: Situation,
  flow: Flow,
  pump: number,
  start: number,
): readonly number[] => {
  const { network } = situation;
  const passable = passableLinks(situation);
  const ends = [start, ...flow.opening.filter((o) => o.share > 0).map((o) => o.at.cell)];
  const between = betweenOpenEnds(network, (i) => i !== pump && passable[i] === true, ends);
  const takesLittle = (cell: number): boolean =>
    (network.linksOf[cell] ?? []).every((l) => Math.abs(flow.link[l] ?? 0) < TELLABLE_SHARE);
  return network.cells.flatMap((cell, i) =>
    between[i] && cell.form !== "vessel" && cell.capacityM3 > 0 && takesLittle(i) ? [i] : [],
  );
};

/**
 * Pipes and bodies on a way that lies open beside the one that is gone: which share each takes hangs on a spring or on a crumb of
 * pressure, so what they hold after it cannot be told and is taken as water.
 */
export const besideAsWater = (
  situation: Situation,
  before: Contents,
  { drive, untilAir, watch }: Push,
  flow: Flow,
): Contents => {
  const { network } = situation;
  const pump = pumpOf(network, drive, flow);
  const start = drive.kind === "pump" ? network.links[pump]?.b : drive.cell;
  if (start === undefined) return before;
  const name = `${pump} ${start} ${untilAir ?? ""} ${watch}`;
  const beside = besides(situation, name, () => besideOf(situation, flow, pump, start));
  if (beside.length === 0) return before;
  const after = [...before];
  for (const i of beside)
    after[i] = holding([waterOf(network.cells[i]?.capacityM3 ?? 0)], "assumed");
  return after;
};
