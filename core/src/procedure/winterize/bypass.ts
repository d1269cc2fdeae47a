import { type Control, kindOfPart } from "../../watermap/index.ts";
import { findFillLineup } from "../fill-lineup.ts";
import type { Entry } from "./entry.ts";
import {
  addStep,
  type Context,
  controlsOf,
  controlByKey,
  has,
  labelOf,
  rehearse,
  sortedByPlace,
  turn,
  v,
} from "./context.ts";
import { emptied } from "./bowls.ts";
import { heaterCells, offFact } from "./secure.ts";

/** Turns the valves so that product, or air, reaches every outlet and stays out of the heater, if the map has a way round it. */
export const planBypass = (
  context: Context,
  entry: Pick<Entry, "start" | "suctionControls">,
  medium: "product" | "air" = "product",
  throughHeaters = context.request.heaterInLine === true,
): void => {
  const suction = new Set(entry.suctionControls);
  const past = passedBy(context);
  const valves: Control[] = [
    ...controlsOf(context, "valve"),
    ...controlsOf(context, "selector"),
  ].filter((c) => !suction.has(c.key) && !past.includes(c));
  const fill = findFillLineup(
    context.network,
    rehearse(
      context,
      past.flatMap((c) => turn(context, c, c.spec.stored)),
    ).physical,
    entry.start,
    valves,
    throughHeaters,
    medium === "product" ? context.keptOut : new Set(),
  );
  const turned = sortedByPlace(context, [...valves, ...past]).flatMap((c) =>
    turn(context, c, past.includes(c) ? c.spec.stored : (fill.turns[c.key] ?? "")),
  );
  const heaters = heaterCells(context);
  const inLine = heaters.filter((h) => fill.heaters.includes(h.id));
  const plugs = inLine.flatMap((h) => {
    const opening = context.network.openings.find((o) => o.part.id === h.id && o.use === "plug");
    return context.blocked.has(h.id) || !opening?.gate
      ? []
      : turn(context, controlByKey(context, opening.gate.key), "shut");
  });
  const bypassed = heaters.filter((h) => !fill.heaters.includes(h.id));
  if (turned.length > 0) {
    const saved = bypassed.reduce(
      (sum, h) => sum + (context.network.cells[h.cell]?.capacityM3 ?? 0),
      0,
    );
    const opened = turned.flatMap((a) =>
      a.type === "set-valve" && a.position !== "shut" ? [a] : [],
    )[0];
    addStep(context, {
      id: `${medium === "air" ? "air:" : ""}bypass:${turned.map((a) => (a.type === "set-valve" ? `${a.control}=${a.position}` : "")).join(",")}`,
      stage: "bypass",
      title:
        bypassed.length > 0
          ? `Take the ${bypassed[0]?.name.toLowerCase() ?? "heater"} out of the loop`
          : medium === "air"
            ? "Set the valves for the air"
            : "Set the valves for the fill",
      actions: turned,
      why:
        medium === "air"
          ? bypassed.length > 0
            ? "Air goes to the branches alone, and the heater is no air vessel."
            : throughHeaters
              ? "The empty heater stands in line as a receiver: air passes through it to the hot side."
              : "Every outlet must be joined to where the air comes in."
          : saved > 0
            ? `${pastWords(past)}Keeps ${v(saved)} of antifreeze out of the heater.${opened ? ` With ${nameOf(context, opened.control)} left at ${fromLabel(context, opened)} the hot side gets none.` : ""}`
            : `${pastWords(past)}Every outlet must be joined to the pump.`,
      cautions: energised(
        context,
        bypassed.map((h) => h.id),
      ),
      expect: "Handles as shown; move each once, it must hold.",
      needs: bypassed.map((h) => `secure:${h.id}:off`),
      minutes: 4 + turned.length,
    });
  }
  if (plugs.length > 0)
    addStep(context, {
      id: `${medium === "air" ? "air:" : ""}bypass:${inLine.map((h) => h.id).join(",")}:plug`,
      stage: "bypass",
      title: "Refit the heater's plug",
      actions: plugs,
      why:
        medium === "air"
          ? `${throughHeaters ? "The heater is a receiver while air is on" : "There is no way round the heater on this unit"}: with its plug out the air would leave there and sweep no branch.`
          : `There is no way round the heater on this unit: antifreeze fills it, ${v(inLine.reduce((s, h) => s + (context.network.cells[h.cell]?.capacityM3 ?? 0), 0))} more. Joining its two hoses would save that.`,
      cautions: ["Start the thread by hand; scale crosses it. The heater stays off and tagged."],
      expect: "Plug in by hand first, then tight.",
      needs: inLine.map((h) => `drain:${h.id}`),
      minutes: 4,
    });
};

/** Levers by which what has been emptied by hand is passed by: product would fill it again, and spoils a resin. */
const passedBy = (context: Context): Control[] =>
  controlsOf(context, "selector").filter(
    (c) => kindOfPart(c.part).role.emptied !== undefined && has(context, emptied(c.part.id)),
  );

const pastWords = (past: readonly Control[]): string =>
  past.length === 0
    ? ""
    : `What was emptied stays so: ${past.map((c) => c.part.name.toLowerCase()).join(", ")}. `;

const nameOf = (context: Context, key: string): string => {
  const control = controlByKey(context, key);
  return control?.part.tag ?? control?.part.name ?? key;
};

const fromLabel = (context: Context, action: { control: string; from: string }): string => {
  const control = controlByKey(context, action.control);
  return control ? labelOf(control, action.from) : action.from;
};

const energised = (context: Context, heaters: readonly string[]): string[] =>
  heaters.length > 0 && heaters.every((id) => context.physical.facts.includes(offFact(id)))
    ? ["Heater element and gas must be off before this, and stay off."]
    : heaters.length > 0
      ? ["The heater has not been signed off: it must be off before its valves are turned."]
      : [];
