import { type Control, kindOfPart, roleOf } from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import {
  addStep,
  confirm,
  type Context,
  controlByKey,
  controlsOf,
  freshPumps,
  has,
  heldIn,
  inletCaps,
  NEARLY_EMPTY,
  type Rehearsal,
  rehearse,
  setValve,
  sortedByPlace,
  TAP_M3_PER_S,
  turn,
  turnedBack,
  v,
} from "./context.ts";
import { shutAgain, vessels } from "./drain-tanks.ts";
import { watchedBy } from "./watch.ts";

/** What gravity cannot take past a pump: it is run until it spits. */

export const LINES_DRAINED = "lines-drained";
const PUMPED_DRY = "pumped-dry";

/** The outlet whose way from the pump holds least, with what opens it; one that runs to the ground where a whole tank is to go. */
const nearestOutlet = (
  context: Context,
  pump: Control,
  toGround: boolean,
): { control: Control; watch: string; wayM3: number } | undefined => {
  const found = controlsOf(context, "outlet").flatMap((control) => {
    const watched = watchedBy(context, control, { kind: "pump", switchKey: pump.key });
    return watched ? [{ control, ...watched }] : [];
  });
  const falls = (watch: string): number =>
    context.network.openings.find((o) => o.id === watch)?.fallsTo === undefined ? 0 : 1;
  return found.sort(
    (a, b) => (toGround ? falls(a.watch) - falls(b.watch) : 0) || a.wayM3 - b.wayM3,
  )[0];
};

interface Emptying {
  readonly actions: readonly Action[];
  /** What is turned for it and back again. */
  readonly kept: readonly Action[];
  readonly tryOut: Rehearsal;
}

/** The actions as they are where they empty something; else with the one valve turned that stops the pump from going round. */
const emptying = (
  context: Context,
  actionsWith: (kept: readonly Action[]) => Action[],
): Emptying => {
  const tried = (kept: readonly Action[]): Emptying => {
    const actions = actionsWith(kept);
    return { actions, kept, tryOut: rehearse(context, actions) };
  };
  const plain = tried([]);
  const empties = ({ tryOut }: Emptying): boolean =>
    tryOut.effects.some((e) => e.push?.outcome === "reached");
  if (empties(plain)) return plain;
  const valves = sortedByPlace(context, [
    ...controlsOf(context, "valve"),
    ...controlsOf(context, "selector"),
  ]);
  for (const control of valves) {
    const others = control.spec.positions.filter(
      (p) => p.name !== (context.physical.lineup[control.key] ?? control.spec.inUse),
    );
    for (const position of others) {
      const turned = tried(turn(context, control, position.name));
      if (empties(turned)) return turned;
    }
  }
  return plain;
};

/** Draws the tank's line, strainer and pump empty through the nearest tap; gravity cannot pass the pump. */
export const pumpDry = (context: Context): void => {
  if (has(context, PUMPED_DRY)) return;
  for (const pump of freshPumps(context)) {
    // A tank without a drain of its own is emptied by the pump first.
    const inTanks = vessels(context, "fresh").reduce((sum, t) => {
      const spare =
        heldIn(context, t.cell) -
        (context.network.cells[t.cell]?.drainRemainder ?? 0) *
          (context.network.cells[t.cell]?.capacityM3 ?? 0) *
          NEARLY_EMPTY;
      return sum + Math.max(0, spare);
    }, 0);
    const near = nearestOutlet(context, pump, inTanks > 0);
    if (!near) continue;
    const open = turn(context, near.control, "open");
    const actionsWith = (kept: readonly Action[]): Action[] => [
      ...sortedByPlace(context, mayStandOpen(context)).flatMap((c) =>
        c.key === near.control.key ? [] : turn(context, c, "shut"),
      ),
      ...kept,
      ...open,
      ...turn(context, pump, "on"),
      {
        type: "pump",
        switch: pump.key,
        watch: near.watch,
        untilAir: 0.9,
        maxM3: Math.max(0.002, near.wayM3 * 3) + inTanks,
      },
      setValve(pump, "on", "off"),
      confirm(PUMPED_DRY, "Spat and ran dry"),
      // Where every tap is opened next it stays open.
      ...(open.length > 0 && has(context, LINES_DRAINED) ? [shutAgain(near.control)] : []),
      ...kept.flatMap((a) => turnedBack(context, a)),
    ];
    // Where the pump would send it back into a tank, the valve that lets it is shut meanwhile.
    const { actions, tryOut, kept } = emptying(context, actionsWith);
    const swept = tryOut.effects.find((e) => e.push)?.push?.swept ?? [];
    const suction = swept.filter((c) => heldIn(context, c) > 0 && !isVessel(context, c));
    if (suction.length === 0) continue;
    addStep(context, {
      id: `drain:${pump.part.id}:dry`,
      stage: "drain",
      title: `Run the ${pump.part.name.toLowerCase()} until it spits`,
      actions,
      where: [pump.part.place, near.control.part.place].filter(Boolean).join("; "),
      why: `${inTanks > 0 ? `The tank has no drain on this map: the pump takes out its ${v(inTanks)}. ` : ""}The tank's line, strainer and pump do not drain by gravity: the pump's valves hold them. Air drawn through takes most of it.${kept.length > 0 ? ` ${listed(kept.flatMap((a) => ("label" in a ? [a.label] : [])))} as shown meanwhile: else the pump sends it round, back into the tank.` : ""}`,
      cautions: ["Not longer than half a minute dry; the pump's maker may allow less."],
      expect: `${near.control.part.name} spits and gives only air.`,
      parts: [
        pump.part.id,
        near.control.part.id,
        ...kept.flatMap((a) =>
          a.type === "set-valve" ? (controlByKey(context, a.control)?.part.id ?? []) : [],
        ),
      ],
      minutes: 2 + inTanks / TAP_M3_PER_S / 60,
    });
  }
};

/** Taps, low points and inlets: open, the pump sends through them what is meant for elsewhere. The tank's own drain lies before it. */
export const mayStandOpen = (context: Context): Control[] => [
  ...controlsOf(context, "outlet"),
  ...controlsOf(context, "drain").filter(
    (c) => !kindOfPart(c.part).role.vessel && !emptiesVessel(context, c),
  ),
  ...inletCaps(context),
];

const isVessel = (context: Context, cell: number): boolean =>
  context.network.cells[cell]?.form === "vessel";

/** A drain on a fresh tank: it stays open. */
const emptiesVessel = (context: Context, control: Control): boolean => {
  const run = context.network.map.runs.find(
    (r) => r.from.part === control.part.id || r.to.part === control.part.id,
  );
  const other = run && (run.from.part === control.part.id ? run.to.part : run.from.part);
  const part = context.network.map.parts.find((p) => p.id === other);
  return part !== undefined && roleOf(part).vessel === "fresh";
};

export const listed = (names: readonly string[]): string => {
  const text = [...new Set(names)].map((n) => n.toLowerCase()).join(", ");
  return text.charAt(0).toUpperCase() + text.slice(1);
};
