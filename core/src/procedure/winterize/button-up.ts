import { liquidIn, strengthOf } from "../../contents/index.ts";
import { freezingPointC } from "../../fluid/index.ts";
import type { Action } from "../step.ts";
import {
  addStep,
  confirm,
  type Context,
  controlsOf,
  houseOf,
  has,
  heldIn,
  NEARLY_EMPTY,
  sortedByPlace,
  turn,
  v,
} from "./context.ts";
import { forcedReach } from "../fill-lineup.ts";
import type { Entry } from "./entry.ts";
import { heaterCells } from "./secure.ts";

// Water grows by 9.07 % on freezing (IAPWS R10-06): a vessel less than 10/11 full has room for it.
const FULL_SHARE = 10 / 11;

/** Not for choice: a heater is never left shut in and full. One that could not be drained gets a valve opened again. */
const freeShutIn = (context: Context, heater: { id: string; name: string; cell: number }): void => {
  const { network } = context;
  const cell = network.cells[heater.cell];
  if (!cell || heldIn(context, heater.cell) < cell.capacityM3 * FULL_SHARE) return;
  const outlets = new Set(network.openings.filter((o) => o.use === "outlet").map((o) => o.cell));
  const free = (lineup: Context["physical"]["lineup"]): boolean =>
    [...forcedReach({ network, lineup, apart: context.physical.apart }, heater.cell)].some((c) =>
      outlets.has(c),
    );
  if (free(context.physical.lineup)) return;
  const shut = [...controlsOf(context, "valve"), ...controlsOf(context, "selector")].flatMap((c) =>
    c.spec.positions.flatMap((p) =>
      free({ ...context.physical.lineup, [c.key]: p.name }) ? turn(context, c, p.name) : [],
    ),
  );
  const [opened] = shut;
  if (opened)
    addStep(context, {
      id: `button-up:${heater.id}:free`,
      stage: "button-up",
      title: `Do not leave the ${heater.name.toLowerCase()} shut in`,
      actions: [opened],
      why: "It is still full. Shut in, its water has nowhere to grow when it freezes or is heated. This does not protect it: drain it before frost.",
      cautions: [
        "A full heater that is shut in splits in frost and lifts its relief valve when heated.",
      ],
      expect: "Handle as shown; antifreeze stays in the lines.",
      minutes: 2,
    });
};

/** What the tag may say of a heater: what it holds, never what it was meant to hold. */
const heaterHolds = (context: Context, index: number): string => {
  const cell = context.network.cells[index];
  const held = heldIn(context, index);
  if (!cell || held <= cell.drainRemainder * cell.capacityM3 * NEARLY_EMPTY) return "heater empty";
  const strength = strengthOf(liquidIn(context.physical.contents[index]));
  const holds = freezingPointC(Math.min(strength, 0.6));
  if (strength > 0 && holds.ok && holds.value <= context.request.winterLowC)
    return "heater holds antifreeze";
  return held < cell.capacityM3 * FULL_SHARE
    ? `heater not empty, about ${v(held)} left in it`
    : "heater full, not safe from frost";
};

const COUNTED = "antifreeze-counted";

/** The jug's hose off, the line that was undone for it made good. */
export const planMakeGood = (context: Context, entry: Entry | undefined, number: number): void => {
  const jugIn =
    context.steps.some((s) => s.id === `fill:jug${number === 0 ? "" : `:${number + 1}`}`) ||
    context.physical.apart.some((e) => e.jug) ||
    Object.values(context.physical.lineup).includes("in jug");
  const restore: Action[] = entry && jugIn ? entry.restore(context) : [];
  if (restore.length > 0)
    addStep(context, {
      id: `button-up:jug${number === 0 ? "" : `:${number + 1}`}`,
      stage: "button-up",
      title:
        entry?.kind === "pickup"
          ? "Jug hose out, selector back to the tank"
          : "Make the line good again",
      actions: restore,
      why:
        entry?.kind === "pickup"
          ? "Left on the pickup, the pump draws air in spring and nothing comes."
          : "An end left undone floods the locker in spring.",
      expect: "Capped or tight by hand, washer seen.",
      parts: entry?.parts ?? [],
      minutes: 3,
    });
};

/** Waste gates as the house has them through the winter. */
const planGates = (context: Context): void => {
  const open = houseOf(context).wasteGates === "open";
  const gates = sortedByPlace(
    context,
    context.network.controls.filter(
      (c) =>
        context.network.openings.some((o) => o.use === "dump" && o.gate?.key === c.key) &&
        !context.blocked.has(c.part.id) &&
        !has(context, `gate:${c.key}`),
    ),
  );
  if (gates.length === 0) return;
  const words = (c: (typeof gates)[number]): string =>
    open
      ? `${c.part.name}: gate left open, cap off, nothing under it that minds a drip`
      : `${c.part.name}: gate shut, a cup of antifreeze poured down to it`;
  addStep(context, {
    id: "button-up:gates",
    stage: "button-up",
    title: open ? "Leave the waste gates open" : "Waste gates shut and dosed",
    actions: gates.flatMap((c) => [
      ...turn(context, c, open ? "open" : "shut"),
      confirm(`gate:${c.key}`, words(c)),
    ]),
    why: open
      ? "Nothing can stand on a gate that is open (house rule)."
      : "What seeps down through the winter stands on the gate and would freeze there (house rule).",
    cautions: ["Sewage infects: gloves and eyes. Only where nothing can run out that must not."],
    expect: open ? "Each handle pulled, a drip at the most." : "Each handle in, nothing drips.",
    minutes: gates.length,
  });
};

/** Everything opened is put back or written down; the heater is tagged; nothing stays undone. @param number which of the ways in was the last, from 0 */
export const planButtonUp = (context: Context, entry: Entry | undefined, number: number): void => {
  planMakeGood(context, entry, Math.max(0, number));
  if (context.steps.some((s) => s.antifreezeM3 > 0) && !has(context, COUNTED))
    addStep(context, {
      id: "button-up:count",
      stage: "button-up",
      title: "Measure what is left in the jugs",
      actions: [confirm(COUNTED, "Jugs measured, lids on")],
      why: "What this unit really took replaces the forecast next year.",
      expect: "Brought, less what is left, is near the figure on the plan.",
      asks: [
        {
          key: "antifreeze-left",
          kind: "antifreeze-left",
          label: "Antifreeze left in the jugs",
          required: false,
        },
      ],
      minutes: 1,
    });
  const caps = sortedByPlace(context, controlsOf(context, "cap")).flatMap((c) =>
    turn(context, c, "shut"),
  );
  if (caps.length > 0)
    addStep(context, {
      id: "button-up:caps",
      stage: "button-up",
      title: "Caps back on the inlets",
      actions: caps,
      why: "Keeps insects and rain out.",
      expect: "Each cap hand tight.",
      minutes: 1,
    });
  planGates(context);
  for (const heater of heaterCells(context)) freeShutIn(context, heater);
  for (const heater of heaterCells(context)) {
    const fact = `tagged:${heater.id}`;
    if (has(context, fact) || context.blocked.has(heater.id)) continue;
    const open = context.physical.lineup[`${heater.id}:plug`] === "open";
    addStep(context, {
      id: `button-up:${heater.id}:tag`,
      stage: "button-up",
      title: `Tag the ${heater.name.toLowerCase()}`,
      actions: [
        ...(open
          ? [confirm(`plug-kept:${heater.id}`, "Plug loose in the housing, seen there")]
          : []),
        confirm(fact, `Tag hung: ${heaterHolds(context, heater.cell)}, do not switch on`),
      ],
      why: "Whoever switches it on empty burns the element out.",
      cautions: ["The breaker and the gas stay off until water runs from a hot tap without air."],
      expect: "Tag at the switch and at the heater.",
      parts: [heater.id],
      minutes: 2,
    });
  }
};
