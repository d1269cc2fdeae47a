import type { Action } from "../step.ts";
import { addStep, confirm, type Context, controlsOf, has, sortedByPlace, turn } from "./context.ts";
import type { Entry } from "./entry.ts";
import { heaterCells } from "./secure.ts";

const COUNTED = "antifreeze-counted";

/** Everything opened is put back or written down; the heater is tagged; nothing stays undone. */
export const planButtonUp = (context: Context, entry: Entry | undefined): void => {
  const jugIn =
    context.steps.some((s) => s.id === "fill:jug") ||
    context.physical.apart.length > 0 ||
    Object.values(context.physical.lineup).includes("in jug");
  const restore: Action[] = entry && jugIn ? entry.restore(context) : [];
  if (restore.length > 0)
    addStep(context, {
      id: "button-up:jug",
      stage: "button-up",
      title: entry?.kind === "pickup" ? "Jug hose out, selector back to the tank" : "Make the line good again",
      actions: restore,
      why:
        entry?.kind === "pickup"
          ? "Left on the pickup, the pump draws air in spring and nothing comes."
          : "An end left undone floods the locker in spring.",
      expect: "Capped or tight by hand, washer seen.",
      parts: entry?.parts ?? [],
      minutes: 3,
    });
  if (context.steps.some((s) => s.antifreezeM3 > 0) && !has(context, COUNTED))
    addStep(context, {
      id: "button-up:count",
      stage: "button-up",
      title: "Measure what is left in the jugs",
      actions: [confirm(COUNTED, "Jugs measured, lids on")],
      why: "What this unit really took replaces the forecast next year.",
      expect: "Brought, less what is left, is near the figure on the plan.",
      asks: [{ key: "antifreeze-left", kind: "antifreeze-left", label: "Antifreeze left in the jugs", required: false }],
      minutes: 1,
    });
  const caps = sortedByPlace(context, controlsOf(context, "cap")).flatMap((c) => turn(context, c, "shut"));
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
  for (const heater of heaterCells(context)) {
    const fact = `tagged:${heater.id}`;
    if (has(context, fact) || context.blocked.has(heater.id)) continue;
    const open = context.physical.lineup[`${heater.id}:plug`] === "open";
    addStep(context, {
      id: `button-up:${heater.id}:tag`,
      stage: "button-up",
      title: `Tag the ${heater.name.toLowerCase()}`,
      actions: [
        ...(open ? [confirm(`plug-kept:${heater.id}`, "Plug loose in the housing, seen there")] : []),
        confirm(fact, open ? "Tag hung: heater empty, do not switch on" : "Tag hung: heater holds antifreeze, do not switch on"),
      ],
      why: "Whoever switches it on empty burns the element out.",
      cautions: ["The breaker and the gas stay off until water runs from a hot tap without air."],
      expect: "Tag at the switch and at the heater.",
      parts: [heater.id],
      minutes: 2,
    });
  }
};
