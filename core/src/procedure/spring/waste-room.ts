import { liquidIn, situationOf, volumeOf, wasteTankBelow } from "../../contents/index.ts";
import type { Control } from "../../watermap/index.ts";
import { addStep, confirm, controlByKey, setValve, turn, v } from "../winterize/context.ts";
import type { Step } from "../step.ts";
import type { WaterContext } from "./request.ts";

/** What is run out at an outlet stands in a waste tank until somebody empties it: there must be room for it. */

// Full by this share of it, an outlet above it is no longer run into it: what is in it is seldom known better (our own).
const FULL_BY = 0.9;

/** The waste tank that an outlet's water ends in, by cell; none where it runs overboard, or to the ground. */
const wasteOf = (context: WaterContext, control: Control): number | undefined => {
  const { network, physical } = context;
  // Handles may share one spout, which then has no gate of its own.
  const mouths = network.openings.filter(
    (o) => o.part.id === control.part.id && o.use === "outlet",
  );
  const mouth = mouths.find((o) => o.gate?.key === control.key) ?? mouths[0];
  return mouth && wasteTankBelow(situationOf(network, physical), mouth);
};

/** What an outlet's waste tank has room for, m3; without end where its water runs overboard, or to the ground. */
export const roomBelow = (context: WaterContext, control: Control): number => {
  const index = wasteOf(context, control);
  if (index === undefined) return Infinity;
  const capacityM3 = context.network.cells[index]?.capacityM3 ?? 0;
  return FULL_BY * capacityM3 - volumeOf(liquidIn(context.physical.contents[index]));
};

/** Empties the waste tank below an outlet, where what the outlet is to bring finds no room in it. Nothing where its dump valve stands open already. */
export const planRoom = (
  context: WaterContext,
  control: Control,
  comesM3: number,
  step: { readonly id: string; readonly stage: Step["stage"] },
): void => {
  const { network, physical } = context;
  const index = wasteOf(context, control);
  const cell = index === undefined ? undefined : network.cells[index];
  if (index === undefined || !cell?.part) return;
  const { part } = cell;
  const heldM3 = volumeOf(liquidIn(physical.contents[index]));
  const heel = 0.05 * cell.capacityM3;
  if (heldM3 <= heel || heldM3 + comesM3 <= FULL_BY * cell.capacityM3) return;
  const dump = network.openings.find((o) => o.part.id === part.id && o.use === "dump");
  const gate = dump?.gate && controlByKey(context, dump.gate.key);
  if (!gate || physical.lineup[gate.key] !== "shut") return;
  const isTooMuch = comesM3 > FULL_BY * cell.capacityM3;
  const id = `room:${part.id}:${step.id}`;
  addStep(context, {
    id,
    stage: step.stage,
    title: `Empty the ${part.name.toLowerCase()}${isTooMuch ? ", and again as it fills" : ""}`,
    actions: [
      ...turn(context, gate, "open"),
      { type: "drain" },
      confirm(id, "Emptied where that is allowed"),
      setValve(gate, "open", "shut"),
    ],
    why: `It holds about ${v(heldM3)} of ${v(cell.capacityM3)}, and about ${v(comesM3)} comes next${isTooMuch ? ", more than it takes at once" : ""}: over its rim it rises in the lowest shower or bowl.`,
    cautions: [
      "Sewage infects: gloves and eyes; never the drinking-water hose. Let it go only where that is allowed.",
    ],
    expect: `About ${v(heldM3)} out; level gauge or a look in says empty.`,
    asks: [],
    minutes: 10,
  });
};
