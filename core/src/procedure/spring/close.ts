import { liquidIn, situationOf, strengthOf, volumeOf } from "../../contents/index.ts";
import {
  type Control,
  inUseLineup,
  kindOfPart,
  type Lineup,
  paramsOf,
  roleOf,
} from "../../watermap/index.ts";
import { forcedReach } from "../fill-lineup.ts";
import type { Action, Step } from "../step.ts";
import {
  addStep,
  confirm,
  type Context,
  has,
  sortedByPlace,
  turn,
  v,
} from "../winterize/context.ts";
import { heaterCells, isApart } from "../winterize/secure.ts";
import type { WaterContext } from "./request.ts";
import { sourcesOf } from "./source.ts";

/** From how the unit was left to how it is used: everything closed, refitted, reconnected and turned, before any water. */

const ownerName = (context: Context, runId: string, end: "from" | "to"): string => {
  const run = context.network.map.runs.find((r) => r.id === runId);
  return (
    context.network.map.parts.find((p) => p.id === run?.[end].part)?.name.toLowerCase() ?? "line"
  );
};

/** Lines that stand undone: one step each, for each of them floods its locker. */
const reconnect = (context: Context): void => {
  for (const end of context.physical.apart) {
    const run = context.network.map.runs.find((r) => r.id === end.run);
    if (!run || !isApart(context, end)) continue;
    const part = run[end.end].part;
    if (context.blocked.has(part)) continue;
    const name = ownerName(context, end.run, end.end);
    addStep(context, {
      id: `close:${end.run}:${end.end}`,
      stage: "close",
      title: `Connect the line at the ${name} again`,
      actions: [
        {
          type: "reconnect",
          run: end.run,
          end: end.end,
          label: end.jug
            ? `Jug hose off, line back on the ${name}, washer seen`
            : `Line back on the ${name}, washer seen`,
        },
      ],
      why: "It was left undone in autumn: water would run into the locker, and what it feeds would have none.",
      expect: "Tight by hand and a little; marked, to be looked at under pressure.",
      parts: [part],
      minutes: 4,
    });
  }
};

// Weaker than this in a heater is flushed on with the rest (our own).
const WEAK = 0.02;

/** A heater that was filled with antifreeze: let out at the plug, for rinsing it by the taps takes five times its volume. */
const letOut = (
  context: Context,
  heater: { readonly id: string; readonly name: string; readonly cell: number },
  plug: Control,
): void => {
  const { capacityM3 = 0 } = context.network.cells[heater.cell] ?? {};
  const held = liquidIn(context.physical.contents[heater.cell]);
  if (strengthOf(held) < WEAK || volumeOf(held) < 0.3 * capacityM3) return;
  const relief = context.network.controls.find(
    (c) => c.part.id === heater.id && c.spec.role === "relief",
  );
  const actions: Action[] = [
    ...turn(context, relief, "open"),
    ...turn(context, plug, "open"),
    { type: "drain" },
    ...turn(context, relief, "open").flatMap((a) =>
      a.type === "set-valve" ? [{ ...a, position: a.from, from: a.position }] : [],
    ),
  ];
  addStep(context, {
    id: `close:${heater.id}:let-out`,
    stage: "close",
    title: `Let the antifreeze out of the ${heater.name.toLowerCase()}`,
    actions,
    why: "It was filled in autumn. Rinsed out by the taps it takes five times its volume in water, and all of it tastes.",
    cautions: [
      "Relief valve first, then the plug. Caught, not on the ground.",
      "Heater off and tagged; it stays off until it is proved full.",
    ],
    expect: `About ${v(volumeOf(held))}, coloured.`,
    parts: [heater.id],
    minutes: 8,
  });
};

const plugs = (context: Context): void => {
  for (const heater of heaterCells(context)) {
    const plug = context.network.controls.find(
      (c) => c.part.id === heater.id && c.spec.role === "plug",
    );
    if (!plug || context.blocked.has(heater.id)) continue;
    letOut(context, heater, plug);
    const rows = turn(context, plug, "shut");
    if (rows.length === 0) continue;
    const { anode } = paramsOf(plug.part);
    addStep(context, {
      id: `close:${heater.id}:plug`,
      stage: "close",
      title: `Plug back into the ${heater.name.toLowerCase()}`,
      actions: [
        ...(anode === true
          ? [
              confirm(
                `anode-seen:${heater.id}`,
                "Rod measured at three places and written down; a new one where a quarter or less is left",
              ),
            ]
          : []),
        confirm(
          `threads:${heater.id}`,
          "Threads cleaned, new tape, started by hand: three turns before any tool",
        ),
        ...rows,
      ],
      why: "Out since autumn: the first water would pour out of the hole. Started with a tool it crosses its thread.",
      cautions: ["Heater off and tagged; it stays off until it is proved full."],
      expect: "Turns in by hand, then tight; dry later under pressure.",
      parts: [heater.id],
      minutes: 6,
    });
  }
};

/** Controls of some roles that stand otherwise than in use, in one step. */
const closeAll = (
  context: Context,
  step: Pick<Step, "id" | "title" | "why" | "expect"> & Partial<Pick<Step, "cautions">>,
  of: (control: Control) => boolean,
): void => {
  const use = inUseLineup(context.network);
  const rows = sortedByPlace(
    context,
    context.network.controls.filter((c) => !context.blocked.has(c.part.id) && of(c)),
  ).flatMap((c) => turn(context, c, use[c.key] ?? c.spec.inUse));
  if (rows.length === 0) return;
  addStep(context, { ...step, stage: "close", actions: rows, minutes: 1 + rows.length });
};

const raises = (context: Context, control: Control): boolean =>
  context.network.openings.some((o) => o.part.id === control.part.id && o.use === "raw") ||
  roleOf(control.part).ashore === true;

/** Valves that stand otherwise than in use and whose turning would let water into a heater that is kept out of the loop, or take it from an outlet. */
const heldBack = (context: WaterContext): Control[] => {
  const use = inUseLineup(context.network);
  const { network, physical } = context;
  const sources = sourcesOf(context);
  const heaters = heaterCells(context).filter((h) => network.cells[h.cell]?.form === "vessel");
  const outlets = network.openings.filter((o) => o.use === "outlet").map((o) => o.cell);
  const reached = (lineup: Lineup): { heaters: Set<number>; outlets: Set<number> } => {
    const met = new Set(
      sources.flatMap((s) => [
        ...forcedReach(situationOf(network, { lineup, apart: physical.apart }), s.start),
      ]),
    );
    return {
      heaters: new Set(heaters.filter((h) => met.has(h.cell)).map((h) => h.cell)),
      outlets: new Set(outlets.filter((c) => met.has(c))),
    };
  };
  let lineup = physical.lineup;
  let kept = valvesOut(context);
  // What one turn made harmless another may follow: again until nothing changes.
  for (let more = true; more;) {
    const before = reached(lineup);
    const free = kept.find((c) => {
      const after = reached({ ...lineup, [c.key]: use[c.key] ?? c.spec.inUse });
      return (
        ![...after.heaters].some((h) => !before.heaters.has(h)) &&
        ![...before.outlets].some((o) => !after.outlets.has(o))
      );
    });
    more = free !== undefined;
    if (free) {
      lineup = { ...lineup, [free.key]: use[free.key] ?? free.spec.inUse };
      kept = kept.filter((c) => c !== free);
    }
  }
  return kept;
};

/** Valves of the drinking side that stand otherwise than in use. */
export const valvesOut = (context: WaterContext): Control[] => {
  const use = inUseLineup(context.network);
  return context.network.controls.filter(
    (c) =>
      (c.spec.role === "valve" || c.spec.role === "selector") &&
      !raises(context, c) &&
      !context.blocked.has(c.part.id) &&
      context.network.cells.some((cell) => cell.ownerId === c.part.id && cell.side === "fresh") &&
      (context.physical.lineup[c.key] ?? c.spec.inUse) !== (use[c.key] ?? c.spec.inUse),
  );
};

const isWaste = (context: Context, control: Control): boolean =>
  context.network.openings.some((o) => o.use === "dump" && o.gate?.key === control.key);

/** Everything that is to be as in use before water comes; what keeps a heater out of the loop stays until the lines are clean. */
export const planClose = (context: WaterContext): void => {
  reconnect(context);
  plugs(context);
  const role = (c: Control): string => c.spec.role;
  closeAll(
    context,
    {
      id: "close:drains",
      title: "Shut every drain and low point",
      why: "Each that is forgotten pours out what is filled in.",
      expect: "Every one across or screwed in; fingers on each.",
    },
    (c) => (role(c) === "drain" || role(c) === "plug") && !isWaste(context, c),
  );
  closeAll(
    context,
    {
      id: "close:bowls",
      title: "Bowls and housings on",
      why: "They were taken off or loosened in autumn. A cartridge goes in later, when the water is clean.",
      expect: "Seal greased, hand tight.",
    },
    (c) => role(c) === "bowl" || role(c) === "hose",
  );
  closeAll(
    context,
    {
      id: "close:pickup",
      title: "Selector back to the tank, jug hose capped",
      why: "Left on the jug the pump draws air, and nothing comes.",
      expect: "Selector at tank; the hose's cap on.",
    },
    (c) =>
      (role(c) === "selector" || role(c) === "cap") &&
      context.network.openings.some((o) => o.use === "pickup" && o.part.id === c.part.id),
  );
  closeAll(
    context,
    {
      id: "close:taps",
      title: "Taps, relief valves and gates shut",
      why: "What stands open runs as soon as water comes.",
      expect: "Every tap shut, each relief lever down.",
      cautions: [],
    },
    (c) =>
      (role(c) === "outlet" ||
        role(c) === "relief" ||
        role(c) === "check" ||
        isWaste(context, c) ||
        (role(c) === "cap" && !raises(context, c))) &&
      !context.network.openings.some((o) => o.use === "pickup" && o.part.id === c.part.id),
  );
  const kept = new Set(heldBack(context).map((c) => c.key));
  closeAll(
    context,
    {
      id: "close:valves",
      title: "Valves to where they stand in use",
      why:
        kept.size > 0
          ? "All but those that keep the heater out: antifreeze is flushed past it first."
          : "As the record says they were turned, each is turned back.",
      expect: "Handles as shown.",
    },
    (c) =>
      (role(c) === "valve" || role(c) === "selector") && !kept.has(c.key) && !raises(context, c),
  );
};

/** What a technician looks at before anything is closed: power, and that nobody has heated what is empty. */
export const planBegin = (context: WaterContext): void => {
  for (const heater of heaterCells(context)) {
    const fact = `locked:${heater.id}`;
    if (has(context, fact) || context.blocked.has(heater.id)) continue;
    addStep(context, {
      id: `close:${heater.id}:locked`,
      stage: "close",
      title: `Keep the ${heater.name.toLowerCase()} off`,
      actions: [
        confirm(fact, "Breaker, gas and switch off, tag still on; asked who has been aboard since"),
      ],
      why: "An element burns out in seconds in an empty heater.",
      cautions: ["Gas and mains belong to licensed people: switch off only, open nothing."],
      expect: "Off, and nobody can turn it on unseen.",
      parts: [heater.id],
      minutes: 2,
    });
  }
  const pump = context.network.controls.find(
    (c) => c.spec.role === "switch" && !kindOfPart(c.part).role.byHand,
  );
  const off = context.network.controls
    .filter((c) => c.spec.role === "switch")
    .flatMap((c) => turn(context, c, "off"));
  if (pump && !has(context, "battery"))
    addStep(context, {
      id: "close:battery",
      stage: "close",
      title: off.length > 0 ? "Battery back, pump off for now" : "Battery back",
      actions: [
        confirm(
          "battery",
          "Which wire is plus, by meter: the colours of wires contradict each other",
        ),
        ...off,
      ],
      why: "The pump needs it; a battery the wrong way round burns what is on it.",
      cautions: ["Last the minus, or the sparks are at the battery."],
      expect: "12 V or more at the pump's wires.",
      parts: [pump.part.id],
      minutes: 5,
    });
};
