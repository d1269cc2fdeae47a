import { liquidIn, strengthOf, volumeOf } from "../../contents/index.ts";
import { cellName } from "../../watermap/index.ts";
import { pouredFact } from "../physical.ts";
import { addStep, byPlace, type Context, has, v } from "./context.ts";

const DOSE_STEP_M3 = 1e-4;

/**
 * Volume to pour so that a trap of volume Vt reaches a strength, displacing as it mixes: V = −Vt ln((p − s)/(p − s0)),
 * the well-stirred overflow (standard textbook result), and never less than the house dose or twice the trap's volume.
 */
export const trapDose = (
  trapM3: number,
  from: number,
  to: number,
  productStrength: number,
  houseDoseM3: number,
): number => {
  const reachable = Math.min(to, productStrength * 0.95);
  const needed =
    reachable <= from
      ? 0
      : -trapM3 * Math.log((productStrength - reachable) / (productStrength - from));
  const dose = Math.max(houseDoseM3, 2 * trapM3, needed);
  return Math.ceil(dose / DOSE_STEP_M3 - 1e-9) * DOSE_STEP_M3;
};

/** Antifreeze into every trap and bowl, measured. */
export const planTraps = (context: Context, strength: number): void => {
  const traps = context.network.cells
    .flatMap((cell, i) =>
      cell.form === "trap" && cell.part && !context.blocked.has(cell.part.id)
        ? [{ cell, i, part: cell.part }]
        : [],
    )
    .sort((a, b) => byPlace(context, a.part, b.part));
  const weak = traps.filter(({ cell, i }) => {
    const liquid = liquidIn(context.physical.contents[i]);
    return (
      volumeOf(liquid) > 0.5 * cell.capacityM3 &&
      (strengthOf(liquid) < strength || !has(context, pouredFact(cell.id)))
    );
  });
  for (const { cell, i, part } of weak) {
    const now = has(context, pouredFact(cell.id))
      ? strengthOf(liquidIn(context.physical.contents[i]))
      : 0;
    const dose = trapDose(
      cell.capacityM3,
      now,
      strength,
      context.request.product.strength,
      context.request.trapDoseM3,
    );
    const name = cellName(context.network, i);
    addStep(context, {
      id: `traps:${cell.id}`,
      stage: "traps",
      title: `Pour into the ${name.toLowerCase().replace(", ", " ")}`,
      actions: [{ type: "pour", cell: cell.id, volumeM3: dose, label: `Pour ${v(dose)} slowly` }],
      where: part.place ?? "",
      why: `A splash over standing water is thinned to little: it holds ${v(cell.capacityM3)} of water now.`,
      expect: `Colour stays in the ${cell.label === "bowl" ? "bowl, above the seal" : "waste"}.`,
      parts: [part.id],
      minutes: 1,
    });
  }
};
