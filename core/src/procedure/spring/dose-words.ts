import { bleachFor, chlorineBy, QUARTER_CUP_RULE } from "../../fluid/index.ts";
import { paramsOf } from "../../watermap/index.ts";
import type { WaterFigures } from "../plan.ts";
import { pct, v } from "../winterize/context.ts";
import { gPerLOf } from "./dose.ts";
import { type WaterContext } from "./request.ts";
import { sourcesOf } from "./source.ts";
import { mgL, wetOf, tankTarget } from "./wet.ts";

/** The working of a dose in words, and what must be known before it. */

export const linesOf = (
  context: WaterContext,
  bleachM3: number,
  far: number | undefined,
): WaterFigures["lines"] => {
  const { chlorine } = context.request.water;
  const { bottle, targetMgL } = chlorine;
  const gives = gPerLOf(bottle);
  const source = sourcesOf(context).find((s) => s.pump);
  const wet = source && wetOf(context, source);
  if (!wet) return [];
  const all = wet.tanksM3 + wet.linesM3 + wet.heatersM3;
  const thumb = QUARTER_CUP_RULE * wet.tanksM3;
  const target = tankTarget(targetMgL, wet);
  return [
    { label: "Wanted at the outlet that gets least", how: mgL(targetMgL) },
    {
      label: "Tank, lines, heater",
      how: `${v(wet.tanksM3)} + ${v(wet.linesM3)} + ${v(wet.heatersM3)} = ${v(all)}`,
    },
    { label: "In the tank therefore", how: mgL(target) },
    {
      label: "The bottle",
      how: `${(bottle.strength * 100).toFixed(2)} % on the label${bottle.days === undefined ? ", age not written down" : `, open ${Math.round(bottle.days)} days`}: ${gives.toFixed(1)} g/L`,
    },
    {
      label: "Bleach",
      how: `${mgL(target)} × ${v(wet.tanksM3)} ÷ ${gives.toFixed(1)} g/L = ${v(bleachFor(wet.tanksM3, target, gives))}`,
    },
    ...(bleachM3 > 0 && far !== undefined
      ? [{ label: "Comes to the outlet that gets least", how: mgL(far) }]
      : []),
    {
      label: "The trade's quarter cup for each 15 gal of the tank",
      how: `${v(thumb)}: ${mgL(chlorineBy(thumb, gives, wet.tanksM3))} in the tank and ${mgL(chlorineBy(thumb, gives, all))} over all that is wet, with this bottle`,
    },
  ];
};

export const warningsOf = (context: WaterContext): string[] => {
  const { bottle } = context.request.water.chlorine;
  const { network } = context;
  const anodes = network.map.parts.filter((p) => paramsOf(p)["anode"] === true);
  return [
    ...(bottle.days === undefined
      ? ["Nobody wrote down when the bottle was opened: the strip at the start decides."]
      : bottle.days > 180
        ? [
            `The bottle has been open for ${Math.round(bottle.days / 30)} months: by its age it has ${pct(gPerLOf(bottle) / gPerLOf({ ...bottle, days: 0 }))} left, give or take much. A new one is better; the strip at the start decides.`,
          ]
        : []),
    "A tank of aluminium is sanitized by its maker's method, not by this sheet: look before you begin.",
    ...(anodes.length > 0
      ? ["The rod in the heater sees chlorine: no longer than the latest hour."]
      : []),
  ];
};
