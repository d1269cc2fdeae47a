import { findFlow, type Flow, frostVerdict, situationOf } from "../../contents/index.ts";
import {
  type ApartEnd,
  type Control,
  kindOfPart,
  type Lineup,
  pipeCellId,
} from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import { forcedReach } from "../fill-lineup.ts";
import {
  addStep,
  type Context,
  controlByKey,
  controlsOf,
  heldIn,
  isNoGood,
  opensWithin,
  rehearse,
  seaIsShut,
  setValve,
  TAP_M3_PER_S,
  turn,
  v,
} from "./context.ts";
import { hotCells, postEnds, rawEnds } from "./secure.ts";
import { strengthAsk, watchedBy } from "./watch.ts";
import { stands } from "./wet-cells.ts";

/** Lines that the pump cannot reach, behind an inlet's check: product is pushed in from outside by hand. */

const PATIENCE = 6;
const AT_LEAST_M3 = 0.003;
const RUN_ON = 3;
const MOST_PUSHES = 6;
// Less than this of what is pushed in, and the way has parted (our own).
const ALL_OF_IT = 0.9;

/** Where a hand pump goes on: an inlet without its cap, or a hose end that has been taken off a post. */
interface Place {
  readonly id: string;
  readonly name: string;
  readonly cell: number;
  readonly cap?: Control | undefined;
  /** Its own cap comes off for it and goes back on. */
  readonly apart?: ApartEnd;
  readonly parts: readonly string[];
  /** An intake's hose: its end goes into the jug, and what it feeds draws. The fitting that it comes off is dried out. */
  readonly dries?: string;
}

const places = (context: Context): Place[] => {
  const { network } = context;
  const inlets = network.openings.flatMap<Place>((o) =>
    (o.use === "supply" || o.use === "flush") && !o.pressed && !context.blocked.has(o.part.id)
      ? [
          {
            id: o.part.id,
            name: o.part.name,
            cell: o.cell,
            cap: o.gate && controlByKey(context, o.gate.key),
            parts: [o.part.id],
          },
        ]
      : [],
  );
  const ends = postEnds(context).flatMap<Place>(({ run, end, id, name }) => {
    const cell = network.cellIndex.get(pipeCellId(run));
    return cell === undefined
      ? []
      : [
          {
            id,
            name: `line's end that was at the ${name}`,
            cell,
            apart: { run, end, jug: false },
            parts: [id],
          },
        ];
  });
  const raws = rawEnds(context).flatMap<Place>(({ run, end, id, name }) => {
    const cell = network.cellIndex.get(pipeCellId(run));
    const ball = network.cells.find(
      (c) =>
        c.ownerId === id && network.linksOf[cell ?? -1]?.some((l) => touches(network, l, c.id)),
    );
    return cell === undefined || !ball || !seaIsShut(context) || context.blocked.has(id)
      ? []
      : [{ id, name, cell, apart: { run, end, jug: false }, parts: [id], dries: ball.id }];
  });
  return [...inlets, ...ends, ...raws];
};

const touches = (network: Context["network"], link: number, cell: string): boolean => {
  const l = network.links[link];
  const index = network.cellIndex.get(cell);
  return l !== undefined && (l.a === index || l.b === index);
};

interface Push {
  readonly turns: readonly {
    readonly control: Control;
    readonly to: string;
    readonly from: string;
  }[];
  readonly watch: string;
  /** Tap that is opened for it; nothing where it runs into a tank. */
  readonly outlet: Control | undefined;
  readonly wayM3: number;
  readonly wet: readonly number[];
}

const bestPush = (
  context: Context,
  place: Place,
  wet: ReadonlySet<number>,
  passed: ReadonlySet<string>,
): Push | undefined => {
  const hot = hotCells(context);
  const selectors = [...controlsOf(context, "selector"), ...controlsOf(context, "valve")];
  const lineups: Push["turns"][] = [
    [],
    ...selectors.flatMap((control) =>
      control.spec.positions
        .filter((p) => p.name !== stands(context, control))
        .map((p) => [{ control, to: p.name, from: stands(context, control) }]),
    ),
  ];
  const apart = place.apart ? [...context.physical.apart, place.apart] : context.physical.apart;
  const outlets = [
    ...controlsOf(context, "outlet"),
    ...controlsOf(context, "drain").filter((c) => !kindOfPart(c.part).role.vessel),
  ];
  const allOpen: Lineup = Object.fromEntries(outlets.map((o) => [o.key, "open"]));
  let best: Push | undefined;
  for (const turns of lineups) {
    const lineup: Lineup = {
      ...context.physical.lineup,
      ...Object.fromEntries(turns.map((t) => [t.control.key, t.to])),
    };
    const turned: Context = { ...context, physical: { ...context.physical, lineup, apart } };
    // Where it cannot come at all, or to less than is found already, no way out helps.
    const reached = forcedReach(
      { network: context.network, lineup: { ...lineup, ...allOpen }, apart },
      place.cell,
    );
    const most = [...wet].filter((c) => reached.has(c)).length;
    if (most === 0 || (best && most < best.wet.length)) continue;
    const within = outlets.filter((outlet) => opensWithin(context, outlet, reached));
    for (const outlet of [undefined, ...within]) {
      if (passed.has(nameOf(turns, outlet))) continue;
      const watched = outlet
        ? watchedBy(turned, outlet, { kind: "push", cell: place.cell })
        : intoATank(turned, place.cell);
      if (!watched || watched.order.some((c) => hot.has(c) || (outlet && isTankCell(context, c))))
        continue;
      const found = watched.order.filter((c) => wet.has(c));
      if (found.length === 0 || thinsBeside(context, watched.flow, wet)) continue;
      if (
        best &&
        (found.length < best.wet.length ||
          (found.length === best.wet.length &&
            turns.length >= best.turns.length &&
            watched.wayM3 >= best.wayM3))
      )
        continue;
      best = { turns, watch: watched.watch, outlet, wayM3: watched.wayM3, wet: found };
    }
  }
  return best;
};

/**
 * Whether the water that the push drives ahead of it would also go, by a way beside, through what holds already: how much goes there,
 * and whether enough comes after it, cannot be told.
 */
const thinsBeside = (context: Context, flow: Flow, wet: ReadonlySet<number>): boolean => {
  const { cells, linksOf } = context.network;
  const shareOf = (cell: number): number =>
    Math.max(...(linksOf[cell] ?? []).map((l) => Math.abs(flow.link[l] ?? 0)));
  return flow.order.some(
    (c) =>
      !wet.has(c) &&
      !isTankCell(context, c) &&
      (cells[c]?.capacityM3 ?? 0) > 0 &&
      shareOf(c) < ALL_OF_IT,
  );
};

const nameOf = (turns: Push["turns"], outlet: Control | undefined): string =>
  `${turns[0]?.control.key ?? ""} ${turns[0]?.to ?? ""} ${outlet?.key ?? ""}`;

const isTankCell = ({ network }: Context, cell: number): boolean =>
  network.cells[cell]?.form === "vessel" && network.cells[cell]?.kind?.role.vessel !== undefined;

/** Where what is pushed in runs into a tank by itself: its vent lets the air out. */
const intoATank = (
  context: Context,
  cell: number,
): { watch: string; wayM3: number; flow: Flow; order: readonly number[] } | undefined => {
  const found = findFlow(situationOf(context.network, context.physical), { kind: "push", cell });
  if (!found.ok) return undefined;
  const [only] = found.flow.opening.filter((o) => o.share > 0.99 && o.at.use === "vent");
  if (!only) return undefined;
  const { order } = found.flow;
  const wayM3 = order.reduce(
    (sum, c) =>
      sum +
      (context.network.cells[c]?.form === "vessel"
        ? 0
        : (context.network.cells[c]?.capacityM3 ?? 0)),
    0,
  );
  return { watch: only.at.id, wayM3, flow: found.flow, order };
};

/**
 * @param strength that what comes out must read
 * @param most pushes at each place
 */
export const planHandPush = (context: Context, strength: number, most = MOST_PUSHES): void => {
  for (const place of places(context)) {
    const passed = new Set<string>();
    for (let n = 0; n < most && !isNoGood(context); n++) {
      const limit = context.request.winterLowC - context.request.marginC;
      const verdict = frostVerdict(
        context.network,
        context.physical.contents,
        context.request.basis,
        context.physical.measured,
      );
      const wet = new Set(
        verdict.cells.flatMap((c) =>
          c.holdsToC !== null &&
          c.holdsToC > limit &&
          context.network.cells[c.cell]?.form !== "vessel"
            ? [c.cell]
            : [],
        ),
      );
      const push = bestPush(context, place, wet, passed);
      if (!push) break;
      passed.add(nameOf(push.turns, push.outlet));
      pushIn(context, place, push, strength);
    }
  }
};

/** Little enough stands there that ice does no harm. */
const isDry = (context: Context, cellId: string): boolean => {
  const index = context.network.cellIndex.get(cellId) ?? -1;
  const cell = context.network.cells[index];
  return !cell || heldIn(context, index) <= (cell.allowedRemainder ?? 0) * cell.capacityM3;
};

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

const goalOf = ({ outlet }: Push): string =>
  outlet ? `shows at the ${outlet.part.name.toLowerCase()}` : "has run into the tank";

const rowsFor = (context: Context, place: Place, push: Push, strength: number): Action[] => {
  const start = context.network.cells[place.cell];
  if (!start) return [];
  const { outlet, turns } = push;
  const goal = goalOf(push);
  const off: Action[] = place.apart
    ? [
        {
          type: "disconnect",
          ...place.apart,
          label:
            place.dries === undefined
              ? `Cap off the ${place.name}`
              : `${capital(place.name)}, its end into the jug`,
        },
        ...(place.dries === undefined || isDry(context, place.dries)
          ? []
          : [
              {
                type: "suck" as const,
                cell: place.dries as Extract<Action, { type: "suck" }>["cell"],
                label: "Dry out what stands on its shut ball",
              },
            ]),
      ]
    : [];
  const on: Action[] = place.apart
    ? [
        {
          type: "reconnect",
          run: place.apart.run,
          end: place.apart.end,
          label:
            place.dries === undefined
              ? `Cap on the ${place.name}`
              : `${capital(place.name)}: back on, double clipped; the seacock stays shut`,
        },
      ]
    : [];
  return [
    ...turn(context, place.cap, "shut"),
    ...off,
    ...turns.map((t) => setValve(t.control, t.from, t.to)),
    ...(outlet ? turn(context, outlet, "open") : []),
    {
      type: "push-by-hand",
      cell: start.id,
      watch: push.watch,
      // Into a tank nothing is seen: a measured volume.
      untilStrength: outlet ? strength : 1,
      maxM3: outlet ? Math.max(AT_LEAST_M3, push.wayM3 * PATIENCE) : push.wayM3 * RUN_ON,
      label:
        place.dries === undefined
          ? `Hand pump at the ${place.name.toLowerCase()} until it ${goal}`
          : `Draw from the jug with what it feeds until it ${goal}`,
    },
    ...(outlet ? [setValve(outlet, "open", "shut")] : []),
    ...turns.map((t) => setValve(t.control, t.to, t.from)),
    ...on,
  ];
};

/** What a push draws, and what holds after it of what was wet. */
const tryOut = (
  context: Context,
  push: Push,
  actions: readonly Action[],
): { readonly drawn: number; readonly gained: number; readonly strengthAtEnd: number } => {
  const tried = rehearse(context, actions);
  const drawn = tried.physical.drawnM3 - context.physical.drawnM3;
  const after = frostVerdict(
    context.network,
    tried.physical.contents,
    context.request.basis,
    tried.physical.measured,
  );
  const gained = push.wet.filter(
    (c) => (after.cells[c]?.holdsToC ?? Number.NEGATIVE_INFINITY) <= context.request.winterLowC,
  );
  const pushed = tried.effects.find((e) => e.push)?.push;
  return { drawn, gained: gained.length, strengthAtEnd: pushed?.strengthAtEnd ?? 0 };
};

const SAME_M3 = 2e-5;

const pushIn = (context: Context, place: Place, found: Push, strength: number): void => {
  const actionsOf = (push: Push): Action[] => rowsFor(context, place, push, strength);
  const by = tryOut(context, found, actionsOf(found));
  if (by.drawn <= 0 || by.gained === 0) return;
  // A valve that was turned for a shorter way alone stays as it is, where no more is drawn for it.
  const plain: Push = { ...found, turns: [] };
  const without = found.turns.length > 0 ? tryOut(context, plain, actionsOf(plain)) : by;
  const isNeedless =
    without.drawn > 0 && without.drawn <= by.drawn + SAME_M3 && without.gained >= by.gained;
  const push = isNeedless ? plain : found;
  const { drawn, strengthAtEnd } = isNeedless ? without : by;
  const { outlet, turns } = push;
  const goal = goalOf(push);
  const actions = actionsOf(push);
  const before = context.steps.filter((s) => s.id.startsWith(`fill:${place.id}:hand`)).length;
  addStep(context, {
    id: `fill:${place.id}:hand${before === 0 ? "" : `:${before + 1}`}`,
    stage: "fill",
    title:
      place.dries === undefined
        ? `Push antifreeze in at the ${place.name.toLowerCase()}`
        : `Antifreeze by the ${place.name}`,
    actions,
    why:
      place.dries === undefined
        ? "The pump cannot reach behind the inlet's check: this line is filled from outside."
        : "Sea or lake water has a system of its own, with its own pump and strainer: nothing that is drawn into the fresh side comes here.",
    cautions:
      place.dries === undefined
        ? []
        : ["The seacock is shut, and stays shut: opened with its hose off it floods the boat."],
    expect: `Antifreeze from the ${place.dries === undefined ? "inlet line" : "intake hose"} ${goal}, about ${v(drawn)} in all.`,
    asks: outlet ? [strengthAsk(context, outlet, push.watch, strengthAtEnd)] : [],
    parts: [
      ...place.parts,
      ...(outlet ? [outlet.part.id] : []),
      ...turns.map((t) => t.control.part.id),
    ],
    minutes: 5 + drawn / TAP_M3_PER_S / 60,
  });
};
