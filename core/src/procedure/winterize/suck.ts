import { liquidIn, volumeOf } from "../../contents/index.ts";
import { type Control, kindOfPart } from "../../watermap/index.ts";
import { remainsFact } from "../physical.ts";
import type { Action } from "../step.ts";
import {
  addStep,
  type Context,
  controlByKey,
  controlsOf,
  has,
  heldIn,
  rehearse,
  setValve,
  sortedByPlace,
  turn,
  v,
} from "./context.ts";
import { coolFact, heaterCells, offFact } from "./secure.ts";

/** A heater without a drain is sucked out: a hose through its cold joint, and air let in on that side of its check which lets it follow. */

// What a suction hose leaves (common practice, no source: 8.5 of 10 L come).
const LEFT_SHARE = 0.15;
const WORTH_SHARE = 1.3;
const JUST = 1e-6;

/** Whether it has a hole of its own that runs out by gravity. */
const hasDrain = (context: Context, id: string): boolean =>
  context.network.openings.some(
    (o) => o.part.id === id && (o.use === "plug" || o.use === "low-point") && o.gate !== undefined,
  );

/** Ends of the pipes at a heater, the cold one first. */
const jointsOf = (
  context: Context,
  id: string,
): { run: Extract<Action, { type: "disconnect" }>["run"]; end: "from" | "to"; isHot: boolean }[] =>
  context.network.map.runs
    .flatMap((r) =>
      (["from", "to"] as const).flatMap((end) =>
        r[end].part === id ? [{ run: r.id, end, isHot: r[end].port === "hot" }] : [],
      ),
    )
    .toSorted((a, b) => Number(a.isHot) - Number(b.isHot));

interface Way {
  readonly before: readonly Action[];
  readonly after: readonly Action[];
  readonly air: string;
}

/** How air may follow: an outlet that is joined to it opened, else its hot joint undone, on its own side of any check. */
const waysForAir = (context: Context, id: string): Way[] => {
  const joints = jointsOf(context, id);
  const hot = joints.find((j) => j.isHot);
  const outlets = sortedByPlace(
    context,
    controlsOf(context, "outlet").filter((c) => !kindOfPart(c.part).role.flushes),
  );
  const opened = (control: Control): Way => ({
    before: turn(context, control, "open"),
    after: turn(context, control, "open").length > 0 ? [setValve(control, "open", "shut")] : [],
    air: `the ${control.part.name.toLowerCase()} open`,
  });
  const relief = context.network.openings.find((o) => o.part.id === id && o.use === "relief");
  const lifted = relief?.gate && controlByKey(context, relief.gate.key);
  return [
    ...outlets.map(opened),
    ...(lifted ? [{ ...opened(lifted), air: "its relief lifted" }] : []),
    ...(hot
      ? [
          {
            before: [
              {
                type: "disconnect" as const,
                run: hot.run,
                end: hot.end,
                jug: false,
                label: "Undo the hot joint at the heater, on the heater's side of its check",
              },
            ],
            after: [
              {
                type: "reconnect" as const,
                run: hot.run,
                end: hot.end,
                label: "Hot joint made good, washer seen",
              },
            ],
            air: "its hot joint undone: no air follows from the taps, its check forbids it",
          },
        ]
      : []),
  ];
};

/** Sucks out every heater that nothing else empties. */
export const planSuck = (context: Context): void => {
  for (const heater of heaterCells(context)) {
    const cell = context.network.cells[heater.cell];
    const holds = heldIn(context, heater.cell);
    // Sucked out before: it stays so.
    if (
      cell?.form === "vessel" &&
      !hasDrain(context, heater.id) &&
      holds <= LEFT_SHARE * cell.capacityM3 * WORTH_SHARE
    )
      context.keptOut.add(heater.id);
    if (
      !cell ||
      cell.form !== "vessel" ||
      hasDrain(context, heater.id) ||
      context.blocked.has(heater.id) ||
      has(context, remainsFact(cell.id)) ||
      holds <= LEFT_SHARE * cell.capacityM3 * WORTH_SHARE ||
      !has(context, offFact(heater.id)) ||
      !has(context, coolFact(heater.id))
    )
      continue;
    suck(context, heater, holds);
  }
};

const suck = (
  context: Context,
  heater: { id: string; name: string; cell: number },
  holds: number,
): void => {
  const cell = context.network.cells[heater.cell];
  const [cold] = jointsOf(context, heater.id);
  if (!cell || !cold) return;
  const actionsFor = (way: Way): Action[] => [
    ...way.before,
    {
      type: "disconnect",
      run: cold.run,
      end: cold.end,
      jug: false,
      label: "Undo the cold joint at the heater, bucket under it",
    },
    { type: "suck", cell: cell.id, label: "Suck it out through the cold joint until it gives air" },
    { type: "reconnect", run: cold.run, end: cold.end, label: "Cold joint made good, washer seen" },
    ...way.after,
  ];
  const follows = (way: Way): boolean => {
    const tried = rehearse(context, actionsFor(way)).physical;
    return volumeOf(liquidIn(tried.contents[heater.cell])) < holds - JUST;
  };
  const way = waysForAir(context, heater.id).find(follows);
  if (!way) return;
  const actions = actionsFor(way);
  const after = rehearse(context, actions).physical;
  const out = holds - volumeOf(liquidIn(after.contents[heater.cell]));
  if (out <= JUST) return;
  addStep(context, {
    id: `drain:${heater.id}:suck`,
    stage: "drain",
    title: `Suck the ${heater.name.toLowerCase()} out`,
    actions,
    why: `It has no drain. Air pushed in by its cold dip bubbles out and empties nothing: water out by the dip, air in behind it, with ${way.air}.`,
    cautions: [
      "Scald: energy off, cooled, pressure off, then the joint. A vacuum that takes water, plugged in through a ground-fault outlet.",
      "Tag it: heater empty, do not switch on.",
    ],
    expect: `About ${v(out)} of ${v(cell.capacityM3)} comes; ${v(holds - out)} stays below the dip, ${Math.round(((holds - out) / cell.capacityM3) * 100)} % full with air above it: ice has room up to 91 %.`,
    asks: [
      {
        key: `recovered:${heater.id}`,
        kind: "recovered",
        label: "How much was sucked out",
        cell: cell.id,
        required: true,
        expected: out,
      },
    ],
    needs: [`secure:${heater.id}:off`, `secure:${heater.id}:cool`, "secure:pump-and-supply"],
    parts: [heater.id],
    minutes: 15,
  });
  if (context.steps.some((s) => s.id === `drain:${heater.id}:suck`)) context.keptOut.add(heater.id);
};
