import { type Drive, findFlow, frostVerdict, situationOf } from "../../contents/index.ts";
import {
  type Control,
  inUseLineup,
  type Lineup,
  passableLinks,
  reach,
} from "../../watermap/index.ts";
import { forcedReach } from "../fill-lineup.ts";
import type { Action } from "../step.ts";
import {
  addStep,
  type Context,
  controlsOf,
  heldIn,
  opensWithin,
  rehearse,
  setValve,
  sortedByPlace,
  TAP_M3_PER_S,
  v,
} from "./context.ts";
import type { Entry } from "./entry.ts";
import { heaterCells, hotCells } from "./secure.ts";
import { stands, wetCells } from "./wet-cells.ts";

/**
 * What is still wet when every outlet has run: a leg that ends at a shut valve, at a check, at an emptied heater. It is swept by
 * opening what shuts it off for as long as it takes, while something beyond it stands open: a heater's plug hole, a tap, a low point.
 */

// Run on by this many times what is still wet, the way there being full already: plug flow fills it once, what mixes in bodies takes the rest.
const RUN_ON = 3;
// Room on the way is filled with so much in hand (our own).
const ROOM_OVER = 1.5;
const LEAST_M3 = 0.0003;
const MOST_TRIES = 20;
const SHARE_THAT_SWEEPS = 0.1;
const SHARE_THAT_LEAKS = 0.01;
// A tap that read strong before must read so again: so many times the way's volume at the most.
const PATIENCE = 3;

interface Leg {
  /** What is turned for it and back again. */
  readonly turns: readonly {
    readonly control: Control;
    readonly to: string;
    readonly from: string;
  }[];
  readonly watch: string;
  readonly at: string;
  readonly wet: readonly number[];
  readonly wayM3: number;
  /** Empty room on the way: product fills it first, and drives its air ahead. */
  readonly roomM3: number;
}

/** Ways out that may be opened for a leg, nearest to hand first; nothing opened at all among them, for what stands open already. */
const waysOut = (context: Context): (Control | undefined)[] => [
  undefined,
  ...sortedByPlace(context, [
    ...controlsOf(context, "outlet"),
    ...controlsOf(context, "drain"),
  ]).filter((c) => stands(context, c) === "shut"),
];

const gatesBeside = (network: Context["network"], cells: Iterable<number>): string[] =>
  [...cells].flatMap((c) =>
    (network.linksOf[c] ?? []).flatMap((l) => network.links[l]?.gates.map((g) => g.key) ?? []),
  );

/** What is shut around everything that is joined to the wet cells, emptied heaters among it. */
const gatesAround = (context: Context, wet: ReadonlySet<number>): string[] => {
  const { network } = context;
  const passable = passableLinks(situationOf(network, context.physical));
  const joined = reach(network, wet, (link) => passable[link] === true);
  return network.links.flatMap((l, i) =>
    !passable[i] && (joined[l.a] === 1 || joined[l.b] === 1) ? l.gates.map((g) => g.key) : [],
  );
};

/** Every leg that a turn of a valve or a tap would sweep, the one with most still wet in it first. */
const legsOf = (
  context: Context,
  drive: Drive,
  start: number,
  still: ReadonlySet<string>,
  wet: ReadonlySet<number>,
): Leg[] => {
  const { network } = context;
  const near = new Set([...gatesBeside(network, wet), ...gatesAround(context, wet)]);
  const valves = [...controlsOf(context, "valve"), ...controlsOf(context, "selector")].filter(
    (c) => !still.has(c.key) && near.has(c.key),
  );
  // As the bypass stands in use: through a heater of thin tubes, and no way beside it that leaves its check unopened.
  const usual = inUseLineup(network);
  const inUse = controlsOf(context, "valve").flatMap((control) => {
    const to = usual[control.key] ?? control.spec.inUse;
    return !still.has(control.key) && stands(context, control) !== to
      ? [{ control, to, from: stands(context, control) }]
      : [];
  });
  const choices: Leg["turns"][] = [
    [],
    ...valves.flatMap((control) =>
      control.spec.positions
        .filter((p) => p.name !== stands(context, control))
        .map((p) => [{ control, to: p.name, from: stands(context, control) }]),
    ),
    ...(inUse.length > 1 ? [inUse] : []),
  ];
  const ways = waysOut(context);
  const allOpen = Object.fromEntries(ways.flatMap((o) => (o ? [[o.key, "open"]] : [])));
  const { apart } = context.physical;
  const found = choices.flatMap((turns) => {
    const lineup = withTurns(context, turns, drive);
    // Where product cannot come at all, no way out helps; nor does one that it cannot come to.
    const reached = forcedReach({ network, lineup, apart }, start);
    if (![...wet].some((c) => reached.has(c))) return [];
    const within = forcedReach({ network, lineup: { ...lineup, ...allOpen }, apart }, start);
    const comesTo = (out: Control | undefined): boolean =>
      !out || opensWithin(context, out, within);
    return ways.filter(comesTo).flatMap((out) => {
      const all = out ? [...turns, { control: out, to: "open", from: "shut" }] : turns;
      const leg = all.length > 0 ? legBy(context, drive, all, wet) : undefined;
      return leg ? [leg] : [];
    });
  });
  return found.toSorted((a, b) => b.wet.length - a.wet.length || a.wayM3 - b.wayM3);
};

const withTurns = (context: Context, turns: Leg["turns"], drive: Drive): Lineup => ({
  ...context.physical.lineup,
  ...Object.fromEntries(turns.map((t) => [t.control.key, t.to])),
  ...(drive.kind === "pump" ? { [drive.switchKey]: "on" } : {}),
});

/** What would be swept with these turned, if it is worth a step and does not fill a heater that is to stay empty. */
const legBy = (
  context: Context,
  drive: Drive,
  turns: Leg["turns"],
  wet: ReadonlySet<number>,
): Leg | undefined => {
  const { network } = context;
  const found = findFlow(
    situationOf(network, { ...context.physical, lineup: withTurns(context, turns, drive) }),
    drive,
  );
  if (!found.ok) return undefined;
  const { flow } = found;
  const hot = hotCells(context);
  const leaving = flow.opening.filter((o) => o.share > SHARE_THAT_LEAKS && o.at.use !== "vent");
  const [watch, ...others] = leaving;
  // What also runs out elsewhere runs to waste, or into a hand.
  if (others.some((o) => o.at.opening?.part.id !== watch?.at.opening?.part.id)) return undefined;
  const isVessel = (c: number): boolean => network.cells[c]?.form === "vessel";
  const fills = heaterCells(context).some(
    (h) =>
      flow.order.includes(h.cell) &&
      isVessel(h.cell) &&
      heldIn(context, h.cell) < 0.9 * (network.cells[h.cell]?.capacityM3 ?? 0) &&
      !leaving.some((o) => o.at.cell === h.cell),
  );
  if (!watch || fills || flow.order.some((c) => hot.has(c))) return undefined;
  const swept = flow.order.filter(
    (c) => wet.has(c) && sharesOf(context, flow.link, c) > SHARE_THAT_SWEEPS,
  );
  if (swept.length === 0) return undefined;
  const wayM3 = flow.order.reduce(
    (sum, c) => sum + (isVessel(c) ? 0 : (network.cells[c]?.capacityM3 ?? 0)),
    0,
  );
  return {
    turns,
    watch: watch.at.id,
    at: watch.at.opening?.part.name ?? watch.at.id,
    wet: swept,
    wayM3,
    roomM3: flow.order.reduce(
      (sum, c) =>
        sum +
        (isVessel(c) || network.cells[c]?.form === "trap"
          ? 0
          : Math.max(0, (network.cells[c]?.capacityM3 ?? 0) - heldIn(context, c))),
      0,
    ),
  };
};

const nameOfLeg = (turns: Leg["turns"]): string =>
  turns.map((t) => `${t.control.key}=${t.to}`).join(",");

const sharesOf = ({ network }: Context, links: ArrayLike<number>, cell: number): number =>
  Math.max(0, ...(network.linksOf[cell] ?? []).map((l) => Math.abs(links[l] ?? 0)));

/** Sweeps every leg that the pump can reach and that still holds water. */
export const planLegs = (context: Context, entry: Entry, strength: number): void => {
  if (!entry.pump) return;
  let wet = wetCells(context);
  if (wet.size === 0) return;
  const drive: Drive = { kind: "pump", switchKey: entry.pump.key };
  let tries = 0;
  for (const leg of legsOf(context, drive, entry.start, new Set(entry.suctionControls), wet)) {
    if (!leg.wet.some((c) => wet.has(c))) continue;
    if (tries++ >= MOST_TRIES) return;
    const before = context.steps.length;
    sweep(context, entry.pump, leg, wet, strength);
    if (context.steps.length > before) wet = wetCells(context);
  }
};

const sweep = (
  context: Context,
  pump: Control,
  leg: Leg,
  wet: ReadonlySet<number>,
  strength: number,
): void => {
  const { network } = context;
  const wetM3 = leg.wet.reduce((sum, c) => sum + (network.cells[c]?.capacityM3 ?? 0), 0);
  const opens = leg.turns.map((t) => setValve(t.control, t.from, t.to));
  const isHole = network.openings.some((o) => o.id === leg.watch && o.use === "plug");
  const maxM3 =
    Math.max(LEAST_M3, wetM3 * RUN_ON) +
    leg.roomM3 * ROOM_OVER +
    (isHole ? 0 : leg.wayM3 * PATIENCE);
  const actions: Action[] = [
    ...opens,
    {
      type: "pump",
      switch: pump.key,
      watch: leg.watch,
      ...(isHole ? {} : { untilStrength: strength }),
      maxM3,
    },
    ...leg.turns.toReversed().map((t) => setValve(t.control, t.to, t.from)),
  ];
  const tried = rehearse(context, actions);
  const after = frostVerdict(
    network,
    tried.physical.contents,
    context.request.basis,
    tried.physical.measured,
  );
  const limit = context.request.winterLowC - context.request.marginC;
  const ended = tried.effects.find((e) => e.push)?.push?.outcome;
  const gained = leg.wet.filter(
    (c) => (after.cells[c]?.holdsToC ?? Number.NEGATIVE_INFINITY) <= limit,
  );
  const lost = after.cells.some(
    (c) =>
      !wet.has(c.cell) &&
      c.holdsToC !== null &&
      c.holdsToC > limit &&
      network.cells[c.cell]?.side === "fresh",
  );
  const drawn = tried.physical.drawnM3 - context.physical.drawnM3;
  if (gained.length === 0 || lost || drawn <= 0 || (!isHole && ended !== "reached")) return;
  const names = [
    ...new Set(gained.flatMap((c) => network.cells[c]?.part?.name.toLowerCase() ?? [])),
  ];
  const [first] = leg.turns;
  addStep(context, {
    id: `fill:leg:${nameOfLeg(leg.turns)}`,
    stage: "fill",
    title: `${first?.control.part.name ?? "The leg"}: open until antifreeze runs at the ${leg.at.toLowerCase()}`,
    actions,
    why: `A leg that ends at a shut valve, a check or an emptied heater keeps its water: nothing passes it unless it is opened for a while.${names.length ? ` Still wet here: ${names.slice(0, 3).join(", ")}.` : ""}`,
    cautions: isHole
      ? ["It runs out of the heater's plug hole: a bucket under it. The heater stays off."]
      : [],
    expect: `About ${v(drawn)} drawn; colour at the ${leg.at.toLowerCase()}.`,
    asks: [],
    minutes: 2 + drawn / TAP_M3_PER_S / 60,
  });
};
