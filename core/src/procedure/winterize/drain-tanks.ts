import { emptyingTimeS, liquidIn, strengthOf, volumeOf } from "../../contents/index.ts";
import { type Control, kindOfPart, PIPE_SYSTEMS, roleOf } from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import {
  addStep,
  confirm,
  type Context,
  controlByKey,
  controlsOf,
  has,
  heldIn,
  NEARLY_EMPTY,
  rehearse,
  setValve,
  turn,
  v,
} from "./context.ts";

/** Water out of tanks, waste first. */

export const vessels = (
  context: Context,
  role: "fresh" | "waste",
): { cell: number; id: string; name: string }[] =>
  context.network.cells.flatMap((cell, i) =>
    cell.part &&
    cell.form === "vessel" &&
    roleOf(cell.part).vessel === role &&
    !context.blocked.has(cell.part.id)
      ? [{ cell: i, id: cell.part.id, name: cell.part.name }]
      : [],
  );

export const idOf = (context: Context, cell: number): string =>
  context.network.cells[cell]?.id ?? "";

const EMPTIED_SHARE = 0.05;
export const REFILLED_SHARE = 0.3;
const PRODUCT_STRENGTH = 0.15;

export const emptyWaste = (
  context: Context,
  time: "first" | "again" = "first",
  fromShare = EMPTIED_SHARE,
): void => {
  for (const tank of vessels(context, "waste")) {
    const fact = time === "first" ? `emptied:${tank.id}` : `emptied-again:${tank.id}`;
    const dump = context.network.openings.find((o) => o.part.id === tank.id && o.use === "dump");
    const control = dump?.gate && controlByKey(context, dump.gate.key);
    const holds = heldIn(context, tank.cell);
    if (
      !control ||
      has(context, fact) ||
      // Product that has run through to it is let stand: it does not freeze.
      (time === "again" &&
        strengthOf(liquidIn(context.physical.contents[tank.cell])) > PRODUCT_STRENGTH) ||
      holds < (context.network.cells[tank.cell]?.capacityM3 ?? 0) * fromShare
    )
      continue;
    addStep(context, {
      id: time === "first" ? `drain:${tank.id}` : `drain:${tank.id}:again`,
      stage: "drain",
      title: `Empty the ${tank.name.toLowerCase()}${time === "again" ? " again" : ""}`,
      actions: [
        ...turn(context, control, "open"),
        { type: "drain" },
        confirm(fact, "Emptied where that is allowed, rinsed"),
        shutAgain(control),
      ],
      why: "Nothing left to freeze, and room for what is flushed out later.",
      cautions: [
        "Sewage infects: gloves and eyes; never the drinking-water hose. Let it go only where that is allowed.",
      ],
      expect: `About ${v(holds)} out; level gauge or a look in says empty.`,
      asks: [],
      minutes: 10,
    });
  }
};

export const shutAgain = (control: Control): Action => setValve(control, "open", "shut");

/** The drain that empties a vessel on its own, found by trying each on the map. */
const drainFor = (
  context: Context,
  cell: number,
): { control: Control; boreM: number } | undefined => {
  const before = heldIn(context, cell);
  for (const control of controlsOf(context, "drain")) {
    const turns = turn(context, control, "open");
    if (turns.length === 0 || kindOfPart(control.part).role.vessel) continue;
    const { physical } = rehearse(context, [...turns, { type: "drain" }]);
    if (volumeOf(liquidIn(physical.contents[cell])) < before * 0.5) {
      const run = context.network.map.runs.find(
        (r) => r.from.part === control.part.id || r.to.part === control.part.id,
      );
      return { control, boreM: PIPE_SYSTEMS.get(run?.pipe ?? "")?.boreM ?? 0.013 };
    }
  }
  return undefined;
};

export const drainFresh = (context: Context): void => {
  for (const tank of vessels(context, "fresh")) {
    const cell = context.network.cells[tank.cell];
    const holds = heldIn(context, tank.cell);
    if (!cell || holds <= cell.drainRemainder * cell.capacityM3 * NEARLY_EMPTY) continue;
    const way = drainFor(context, tank.cell);
    if (!way) continue;
    const seconds = emptyingTimeS(
      cell.capacityM3,
      cell.topM - cell.bottomM,
      (holds / cell.capacityM3) * (cell.topM - cell.bottomM),
      way.boreM,
    );
    const actions: Action[] = [
      ...turn(context, way.control, "open"),
      { type: "wait", seconds: Math.round(seconds), label: "Runs until the stream breaks" },
      { type: "drain" },
    ];
    const after = rehearse(context, actions).physical;
    const out = holds - volumeOf(liquidIn(after.contents[tank.cell]));
    addStep(context, {
      id: `drain:${tank.id}`,
      stage: "drain",
      title: `Drain the ${tank.name.toLowerCase()}`,
      actions,
      why: "A drained tank has room for ice and thins no antifreeze. Its drain stays open for the winter.",
      expect: `About ${v(out)} in about ${Math.max(1, Math.round(seconds / 60))} min; done when the stream breaks. It goes on while you work.`,
      asks: [
        {
          key: `recovered:${tank.id}`,
          kind: "recovered",
          label: "How much came out",
          cell: idOf(context, tank.cell),
          required: false,
          expected: out,
        },
      ],
      parts: [tank.id, way.control.part.id],
      minutes: 3,
    });
  }
};
