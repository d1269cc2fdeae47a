import { liquidIn, volumeOf } from "../../contents/index.ts";
import { kindOfPart, paramsOf } from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import { usesProduct } from "../method.ts";
import {
  addStep,
  confirm,
  type Context,
  has,
  rehearse,
  seaIsShut,
  setValve,
  sortedByPlace,
  turn,
  v,
} from "./context.ts";

/** Bowls that hang below their ports keep their water whatever is drained or blown: they are taken off and tipped out. */

const WORTH_M3 = 5e-6;

export const emptied = (partId: string): string => `bowl-emptied:${partId}`;

/** Where product goes through a strainer it fills its bowl; a cartridge is taken out by every method. */
export const planBowls = (context: Context): void => {
  const { network } = context;
  const filled = usesProduct(context.request.method ?? "antifreeze");
  const bowls = sortedByPlace(
    context,
    network.controls.filter((control) => {
      const opening = network.openings.find(
        (o) => o.gate?.key === control.key && o.use === "bowl" && o.part.id === control.part.id,
      );
      const kind = kindOfPart(control.part);
      const isHeater = kind.role.energies !== undefined;
      return (
        opening !== undefined &&
        !isHeater &&
        (kind.role.emptied !== undefined || !filled) &&
        network.cells[opening.cell]?.form === "fitting" &&
        network.cells[opening.cell]?.side === "fresh" &&
        !context.blocked.has(control.part.id) &&
        !has(context, emptied(control.part.id))
      );
    }),
  );
  if (!seaIsShut(context)) return;
  for (const control of bowls) {
    const words = kindOfPart(control.part).role.emptied?.(paramsOf(control.part));
    const actions: Action[] = [
      ...turn(context, control, "open"),
      { type: "drain" },
      confirm(emptied(control.part.id), words ?? "Bowl tipped out and wiped, mesh rinsed"),
      setValve(control, "open", "shut"),
    ];
    const before = context.physical;
    const after = rehearse(context, actions).physical;
    const mine = network.cells.flatMap((c, i) => (c.ownerId === control.part.id ? [i] : []));
    const out = mine.reduce(
      (sum, i) =>
        sum + volumeOf(liquidIn(before.contents[i])) - volumeOf(liquidIn(after.contents[i])),
      0,
    );
    if (out < WORTH_M3) continue;
    addStep(context, {
      id: `drain:${control.part.id}:bowl`,
      stage: "drain",
      title: `Empty the ${control.part.name.toLowerCase()}`,
      actions,
      why:
        words === undefined
          ? "Its bowl hangs below its ports: neither gravity nor air takes its water out."
          : "What it is filled with keeps water; left wet, it and its vessel split, and it thins what comes after. Refitted empty.",
      cautions: ["Pressure off first: a bowl under pressure leaves its thread like a cork."],
      expect: `About ${v(out)}; back hand tight, its seal greased.`,
      needs: ["secure:pump-and-supply"],
      parts: [control.part.id],
      minutes: 4,
    });
  }
};
