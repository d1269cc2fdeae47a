import { totalAboard, volumeOf } from "../../contents/index.ts";
import { kindOfPart } from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import { addStep, byPlace, type Context, has, rehearse, v } from "./context.ts";
import { hotCells } from "./secure.ts";

/** A branch that ends at a plug keeps its water whatever passes by it: the plug comes out for as long as it takes to run out. */

const WORTH_M3 = 5e-6;

export const planDeadEnds = (context: Context): void => {
  if (!has(context, "lines-drained") || hotCells(context).size > 0) return;
  const { network, physical } = context;
  const { map } = network;
  const ends = map.parts
    .filter(
      (p) =>
        !context.blocked.has(p.id) &&
        kindOfPart(p).group === "line" &&
        !has(context, `end-drained:${p.id}`) &&
        !network.controls.some((c) => c.part.id === p.id) &&
        !network.openings.some((o) => o.part.id === p.id),
    )
    .flatMap((part) => {
      const runs = map.runs.filter((r) => r.from.part === part.id || r.to.part === part.id);
      const [run] = runs;
      return run && runs.length === 1 && run.service !== "waste" && run.service !== "raw"
        ? [{ part, run, end: run.from.part === part.id ? ("from" as const) : ("to" as const) }]
        : [];
    })
    .toSorted((a, b) => byPlace(context, a.part, b.part));
  // With the taps shut again nothing would let air in behind it.
  if (!Object.values(physical.lineup).includes("open")) return;
  for (const { part, run, end } of ends) {
    const actions: Action[] = [
      {
        type: "disconnect",
        run: run.id,
        end,
        jug: false,
        label: `Undo the ${part.name.toLowerCase()}, bucket under it`,
      },
      { type: "drain" },
      ...network.cells
        .filter((c) => c.ownerId === part.id && c.capacityM3 > 0)
        .map<Action>((c) => ({
          type: "suck",
          cell: c.id,
          label: `Tip the ${part.name.toLowerCase()} out`,
        })),
      {
        type: "reconnect",
        run: run.id,
        end,
        label: `${part.name} made good, seal seen`,
      },
      { type: "confirm", fact: `end-drained:${part.id}`, label: "Nothing more came" },
    ];
    const out =
      volumeOf(totalAboard(context.physical.contents)) -
      volumeOf(totalAboard(rehearse(context, actions).physical.contents));
    if (out < WORTH_M3) continue;
    addStep(context, {
      id: `drain:${part.id}:end`,
      stage: "drain",
      title: `Let the ${part.name.toLowerCase()} run out`,
      actions,
      why: "A dead end: nothing that is drawn or blown past it takes its water along.",
      expect: `About ${v(out)}.`,
      needs: ["drain:lines"],
      parts: [part.id],
      minutes: 4,
    });
  }
};
