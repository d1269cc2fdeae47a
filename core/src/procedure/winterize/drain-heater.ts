import { liquidIn, strengthOf, volumeOf } from "../../contents/index.ts";
import type { Control } from "../../watermap/index.ts";
import { remainsFact } from "../physical.ts";
import { type Action, CAUGHT_AGAIN } from "../step.ts";
import {
  addStep,
  confirm,
  type Context,
  controlByKey,
  has,
  heldIn,
  houseOf,
  NEARLY_EMPTY,
  rehearse,
  turn,
  v,
} from "./context.ts";
import { idOf, shutAgain } from "./drain-tanks.ts";
import { coolFact, offFact } from "./secure.ts";

/** Water out of a heater, and what is asked where less of it came than should. */

/** Not for choice: what was caught says that most is still in it: blocked, sloping, or not all of it measured. Asked at once, and tried again, before anything else is done. */
const askAgain = (context: Context, heater: { id: string; name: string; cell: number }): void => {
  const cell = context.network.cells[heater.cell];
  const tried = `tried-again:${heater.id}`;
  const holds = heldIn(context, heater.cell);
  if (
    !cell ||
    !has(context, remainsFact(cell.id)) ||
    has(context, tried) ||
    holds <= cell.capacityM3 * (1 - houseOf(context).recoveredMin)
  )
    return;
  addStep(context, {
    id: `drain:${heater.id}:again`,
    stage: "drain",
    title: `${v(cell.capacityM3 - holds)} of ${v(cell.capacityM3)} came: blocked, sloping, or not measured?`,
    actions: [
      confirm(
        tried,
        "Hole probed, relief lifted again, unit tilted towards the plug; what came was caught",
      ),
    ],
    why: `About ${v(holds)} is still in the ${heater.name.toLowerCase()} by what was caught. Scale lies over the hole, the unit slopes away from it, no air comes in, or some ran past the bucket.`,
    cautions: [
      "Probe with a soft rod, face and hands out of the way: scale that lets go lets a jet out.",
    ],
    expect: `Up to ${v(holds)} more. What is not caught is taken as still there, and the heater as not protected.`,
    asks: [
      {
        key: `${CAUGHT_AGAIN}${heater.id}`,
        kind: "recovered",
        label: "How much more came out, with what had run past the bucket",
        cell: idOf(context, heater.cell),
        required: true,
        expected: holds,
      },
    ],
    needs: [`secure:${heater.id}:off`, `secure:${heater.id}:cool`],
    parts: [heater.id],
    minutes: 10,
  });
};

export const drainHeater = (
  context: Context,
  heater: { id: string; name: string; cell: number },
): void => {
  askAgain(context, heater);
  const cell = context.network.cells[heater.cell];
  const holds = heldIn(context, heater.cell);
  const done =
    !cell ||
    holds <= cell.drainRemainder * cell.capacityM3 * NEARLY_EMPTY ||
    strengthOf(liquidIn(context.physical.contents[heater.cell])) > 0.05;
  if (done || context.blocked.has(heater.id)) return;
  // Not for choice: no plug is pulled before energy is off and the water has cooled.
  if (!has(context, offFact(heater.id)) || !has(context, coolFact(heater.id))) return;
  const control = (use: "plug" | "relief" | "low-point"): Control | undefined => {
    const opening = context.network.openings.find((o) => o.part.id === heater.id && o.use === use);
    return opening?.gate && controlByKey(context, opening.gate.key);
  };
  const relief = control("relief");
  const plug = control("plug") ?? control("low-point");
  if (!plug) return;
  const isLever = plug.spec.role === "drain";
  const actions: Action[] = [
    confirm(`pressure-off:${heater.id}`, "A hot tap opened: no pressure left"),
    ...turn(context, relief, "open"),
    ...turn(context, plug, "open"),
    { type: "drain" },
    ...(relief ? [shutAgain(relief)] : []),
  ];
  const after = rehearse(context, actions).physical;
  const out = holds - volumeOf(liquidIn(after.contents[heater.cell]));
  if (out <= 0) return;
  addStep(context, {
    id: `drain:${heater.id}`,
    stage: "drain",
    title: `Drain the ${heater.name.toLowerCase()}`,
    actions,
    why: isLever
      ? "A spoonful left in its tubes splits them."
      : "Isolated is not drained: a heater shut in full splits. The plug stays in the housing for the winter.",
    cautions: [
      `Scald and a jet of water: energy off, cooled, relief lifted first, then the ${isLever ? "lever" : "plug"}.`,
      "Tag it: heater empty, do not switch on.",
    ],
    expect: `About ${v(out)} of ${v(cell.capacityM3)} comes out; less means a dip, a slope or a valve.`,
    asks: [
      {
        key: `recovered:${heater.id}`,
        kind: "recovered",
        label: "How much came out",
        cell: idOf(context, heater.cell),
        required: !isLever,
        expected: out,
      },
    ],
    needs: [`secure:${heater.id}:off`, `secure:${heater.id}:cool`, "secure:pump-and-supply"],
    parts: [heater.id],
    minutes: 12,
  });
};
