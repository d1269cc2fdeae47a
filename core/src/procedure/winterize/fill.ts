import { liquidIn, type PushResult, strengthOf, volumeOf } from "../../contents/index.ts";
import { type Control, kindOfPart } from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import {
  addStep,
  confirm,
  type Context,
  controlsOf,
  inletCaps,
  isNoGood,
  pct,
  rehearse,
  setValve,
  TAP_M3_PER_S,
  turn,
  v,
} from "./context.ts";
import type { Entry } from "./entry.ts";
import { hotCells } from "./secure.ts";
import { planCushions } from "./cushions.ts";
import { planLegs } from "./legs.ts";
import { afterMachine, beforeMachine, machineCautions } from "./programme.ts";
import { strengthAsk, watchedBy } from "./watch.ts";

/** One opening to run until it holds: a side of a tap, a low point, an inlet's check pressed in. */
interface Side {
  readonly control: Control;
  readonly position: string;
  readonly rest: string;
  /** Cap that is off for as long as it runs. */
  readonly under?: Control;
  readonly watch: string;
  readonly wayM3: number;
  readonly cells: readonly number[];
}

// A way may take this many times its volume before the planner gives up on reaching the strength.
const PATIENCE = 6;
const AT_LEAST_M3 = 0.003;
const ELSEWHERE_SHARE = 0.02;
const HOLDS = 0.97;

const drive = (entry: Entry): Parameters<typeof watchedBy>[2] =>
  entry.pump ? { kind: "pump", switchKey: entry.pump.key } : { kind: "push", cell: entry.start };

const sideFor = (
  context: Context,
  entry: Entry,
  control: Control,
  position: string,
  rest: string,
): Side[] => {
  const watched = watchedBy(context, control, drive(entry), position);
  const hot = hotCells(context);
  if (watched?.order.some((cell) => hot.has(cell))) return [];
  return watched
    ? [
        {
          control,
          position,
          rest,
          watch: watched.watch,
          wayM3: watched.wayM3,
          cells: watched.order,
        },
      ]
    : [];
};

/** Whether a side already holds what it should, from an earlier part of the run. */
const holds = (context: Context, side: Side, strength: number): boolean =>
  side.cells.every((c) => {
    const cell = context.network.cells[c];
    if (!cell || cell.form === "vessel" || cell.capacityM3 <= 0) return true;
    const liquid = liquidIn(context.physical.contents[c]);
    return volumeOf(liquid) > 0.9 * cell.capacityM3 && strengthOf(liquid) >= strength * HOLDS;
  });

const push = (entry: Entry, side: Side, context: Context, strength: number): Action => {
  const vesselsM3 = side.cells.reduce((sum, c) => {
    const cell = context.network.cells[c];
    return sum + (cell?.form === "vessel" && cell.kind?.role.energies ? cell.capacityM3 : 0);
  }, 0);
  const maxM3 = Math.max(AT_LEAST_M3, side.wayM3 * PATIENCE) + vesselsM3 * 4;
  return entry.pump
    ? { type: "pump", switch: entry.pump.key, watch: side.watch, untilStrength: strength, maxM3 }
    : {
        type: "push-by-hand",
        cell: context.network.cells[entry.start]?.id ?? "",
        watch: side.watch,
        untilStrength: strength,
        maxM3,
        label: "Pump by hand",
      };
};

const sideName = (side: Side): string => {
  const { part, spec } = side.control;
  return spec.name === "main" || spec.name === "flush" || side.control.spec.role === "check"
    ? part.name
    : `${part.name}, ${spec.name}`;
};

const TITLE = {
  outlet: (side: Side): string => `${sideName(side)}: run to full strength, read it`,
  drain: (side: Side): string => `${sideName(side)}: let out until it runs at full strength`,
  check: (side: Side): string =>
    `${sideName(side)}: press its check in until it runs at full strength`,
  cap: (side: Side): string => `${sideName(side)}: loosen its cap until it runs at full strength`,
} as const;

const titleOf = (side: Side): string => {
  const { role } = side.control.spec;
  if (kindOfPart(side.control.part).role.flushes)
    return `${side.control.part.name}: flush in short bursts to full strength`;
  return (role === "drain" || role === "check" || role === "cap" ? TITLE[role] : TITLE.outlet)(
    side,
  );
};

/** Whether most of it would run out elsewhere than where it is watched. */
const runsToWaste = (context: Context, side: Side, { left, drawnM3 }: PushResult): boolean => {
  const own = context.network.openings.find((o) => o.id === side.watch)?.part.id;
  const elsewhere = left.filter(
    (s) => context.network.openings.find((o) => o.id === s.from)?.part.id !== own,
  );
  return elsewhere.reduce((sum, s) => sum + volumeOf(s.liquid), 0) > ELSEWHERE_SHARE * drawnM3;
};

/** The side of a part that is run last: hot comes before cold, whose shorter way then has the hose that both share to clear again. */
const lastSideOf = (context: Context, partId: string): string | undefined =>
  controlsOf(context, "outlet")
    .filter((c) => c.part.id === partId)
    .map((c) => c.spec.name)
    .toSorted()
    .at(0);

const runSide = (context: Context, entry: Entry, side: Side, strength: number): void => {
  const { control } = side;
  const { part } = control;
  const isLast = control.spec.name === lastSideOf(context, part.id);
  const actions: Action[] = [
    ...beforeMachine(context, part, "product"),
    ...turn(context, side.under, "open"),
    ...turn(context, control, side.position),
    // That it has come and that it is strong enough are two things.
    ...(control.spec.role === "outlet"
      ? [confirm(`colour:${control.key}`, "Colour has come, right through the stream")]
      : []),
    push(entry, side, context, strength),
    setValve(control, side.position, side.rest),
    ...(isLast ? afterMachine(context, part, "product") : []),
    ...(side.under ? [setValve(side.under, "open", "shut")] : []),
  ];
  const rehearsed = rehearse(context, actions);
  const result = rehearsed.effects.find((e) => e.push)?.push;
  if (!result || result.drawnM3 === 0 || runsToWaste(context, side, result)) return;
  const arrives =
    result.arrivalM3 === undefined
      ? ""
      : ` Colour after about ${v(result.arrivalM3)}, strength after about ${v(result.drawnM3)}.`;
  addStep(context, {
    id: `fill:${control.key}`,
    stage: "fill",
    title: titleOf(side),
    actions,
    why: `Colour shows that it has arrived, not that it is strong enough.${arrives}`,
    cautions:
      control.spec.role === "cap"
        ? [
            "The pump presses behind the cap: loosen it slowly with a rag over it, and take it off no further than it takes to run.",
          ]
        : machineCautions(part),
    expect:
      result.outcome === "reached" && result.blind
        ? `Pink from the first, which proves nothing: what is in the hose came from the other side. Draw about ${v(result.drawnM3)}, by the jug, then it reads ${pct(strength)} or more.`
        : result.outcome === "reached" && result.shown
          ? `Pink from the first, from the other side: when that has gone it spits or comes pale. From then on it is this side's, and reads ${pct(strength)} or more after about ${v(result.drawnM3)}.`
          : result.outcome === "reached"
            ? `Reads ${pct(strength)} or more after about ${v(result.drawnM3)}.`
            : `Does not reach ${pct(strength)}: ends at about ${pct(result.strengthAtEnd)} after ${v(result.drawnM3)}.`,
    asks: [strengthAsk(context, control, side.watch, result.strengthAtEnd)],
    minutes: 1.5 + result.drawnM3 / TAP_M3_PER_S / 60,
  });
};

/** Product in: jug connected, pump primed, low points, every outlet and the inlets that a pump can reach, then what only a hand pump can. */
export const planFill = (
  context: Context,
  entry: Entry,
  strength: number,
  suffix: string,
): void => {
  const wantsFill = fillSides(context, entry, true).some((s) => !holds(context, s, strength));
  if (!wantsFill) return;
  const connect = entry.connect(context);
  if (connect.length > 0)
    addStep(context, {
      id: `fill:jug${suffix}`,
      stage: "fill",
      title:
        entry.kind === "pickup"
          ? "Pickup hose into the jug"
          : entry.kind === "pump-inlet-hose"
            ? "Jug hose on the pump's inlet"
            : "Hand pump on the inlet",
      actions: connect,
      why:
        entry.kind === "pickup"
          ? "The pump then draws antifreeze and nothing from the tank."
          : entry.kind === "pump-inlet-hose"
            ? "This unit has no winterizing pickup: the line before the pump is undone instead, and must be made again."
            : "This unit has no pickup and no pump line to undo: product goes in at the inlet.",
      cautions: [
        "Only propylene glycol marked for drinking water; never automotive coolant. Mop up: it is slippery.",
      ],
      expect: "Hose end under the surface, jug standing firm.",
      asks: [
        {
          key: "antifreeze-in",
          kind: "antifreeze-in",
          label: "Antifreeze brought to the unit",
          required: false,
        },
      ],
      parts: entry.parts,
      minutes: 3,
    });
  if (entry.pump) {
    const on = turn(context, entry.pump, "on");
    if (on.length > 0)
      addStep(context, {
        id: `fill:pump-on${suffix}`,
        stage: "fill",
        title: "Every tap shut, then pump on",
        actions: [...on, confirm(`pump-stops${suffix}`, "Pump draws and stops by itself")],
        why: "If it does not stop, something is open: look before the jug is empty.",
        expect: "Stops within a minute.",
        minutes: 1.5,
      });
  }
  for (const side of fillSides(context, entry, false))
    if (!holds(context, side, strength) && !isNoGood(context))
      runSide(context, entry, side, strength);
  if (isNoGood(context)) return;
  planLegs(context, entry, strength);
  planCushions(context, entry, strength);
  if (entry.pump) {
    const off = turn(context, entry.pump, "off");
    if (off.length > 0)
      addStep(context, {
        id: `fill:pump-off${suffix}`,
        stage: "fill",
        title: "Pump off, pressure off",
        actions: [
          ...off,
          confirm(`fill-pressure-off${suffix}`, "One tap opened and shut: no pressure left"),
        ],
        why: "Nothing more is drawn by accident, and a cartridge full of antifreeze under pressure has no room.",
        expect: "Tap gives a short spurt and stops.",
        minutes: 1,
      });
  }
};

/** Low points; then every side in the order farthest first, both sides of a part together; then inlets. */
const fillSides = (context: Context, entry: Entry, beforeConnect: boolean): Side[] => {
  const prepared: Context = beforeConnect
    ? {
        ...context,
        steps: [...context.steps],
        physical: rehearse(context, entry.connect(context)).physical,
      }
    : context;
  const outlets = controlsOf(context, "outlet").flatMap((c) =>
    sideFor(prepared, entry, c, "open", "shut"),
  );
  const farthest = new Map<string, number>();
  for (const s of outlets)
    farthest.set(s.control.part.id, Math.max(farthest.get(s.control.part.id) ?? 0, s.wayM3));
  const sign = context.request.nearestFirst === true ? -1 : 1;
  outlets.sort(
    (a, b) =>
      sign * ((farthest.get(b.control.part.id) ?? 0) - (farthest.get(a.control.part.id) ?? 0)) ||
      (a.control.part.id < b.control.part.id
        ? -1
        : a.control.part.id > b.control.part.id
          ? 1
          : 0) ||
      (a.control.key < b.control.key ? 1 : -1),
  );
  const low = controlsOf(context, "drain")
    .filter((c) => !kindOfPart(c.part).role.vessel && context.physical.lineup[c.key] === "shut")
    .flatMap((c) => sideFor(prepared, entry, c, "open", "shut"));
  // Caps are on while the pump runs; each inlet that the pump can reach is let out at, for as long as it takes.
  const caps = inletCaps(context).filter(
    (cap) => entry.kind !== "hand-pump" || !entry.parts.includes(cap.part.id),
  );
  const inlets = caps.flatMap((cap) => {
    const plain = sideFor(prepared, entry, cap, "open", "shut");
    const check = controlsOf(context, "check").find((c) => c.part.id === cap.part.id);
    if (plain.length > 0 || !check) return plain;
    const lineup = { ...prepared.physical.lineup, [cap.key]: "open" };
    const uncapped: Context = { ...prepared, physical: { ...prepared.physical, lineup } };
    return sideFor(uncapped, entry, check, "pressed in", "working").map((side) => ({
      ...side,
      under: cap,
    }));
  });
  const checks = controlsOf(context, "check")
    .filter((c) => !caps.some((cap) => cap.part.id === c.part.id))
    .flatMap((c) => sideFor(prepared, entry, c, "pressed in", "working"));
  // What was left in the mains goes out at their low points, before it thins what is driven up to the outlets.
  return [...low, ...outlets, ...inlets, ...checks];
};
