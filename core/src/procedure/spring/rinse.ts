import { addStep, confirm, has, v } from "../winterize/context.ts";
import { heaterCells } from "../winterize/secure.ts";
import { outletsOf, planPass } from "./flush.ts";
import { type WaterContext } from "./request.ts";
import { sourcesOf } from "./source.ts";
import { emptyTanks, FULL_SHARE, planFill, tankMgL } from "./tank.ts";
import { weakest, strip } from "./standing.ts";
import { mgL } from "./wet.ts";

/** Out again: drained, filled, run until a strip says so; heat after that. */

// Rinsed on to so much of the limit: a strip is read in steps (our own).
const RINSED_SHARE = 0.6;
// Run by this share of its way at least: its own line may hold more than was reckoned (our own).
const RUN_SHARE = 0.5;
const LEAST_M3 = 0.0005;
const MOST_REFILLS = 6;

export const planRinse = (context: WaterContext): { refills: number } => {
  const { chlorine } = context.request.water;
  const limit = Math.max(chlorine.limitMgL, chlorine.sourceMgL);
  let refills = 0;
  // Nothing goes out before it has stood and been read.
  const needs = context.steps.filter((s) => s.id.startsWith("stand:end")).map((s) => s.id);
  for (const source of sourcesOf(context)) {
    if (!source.pump) continue;
    for (let n = 0; n < MOST_REFILLS && tankMgL(context, source) > 0.6 * limit; n++) {
      emptyTanks(context, source, {
        id: `rinse:empty:${source.key}`,
        stage: "rinse",
        needs,
        why: "Drained and filled again it is thinned at once; filled up over it, never.",
        cautions: [
          "Where it goes: this place's way for chlorinated water, neutralised or thinned first; never overboard, on the ground by a well, or into a toilet tank with its chemicals.",
        ],
      });
      planFill(context, source, FULL_SHARE, {
        id: `rinse:fill:${source.key}`,
        stage: "rinse",
        needs,
        why: "Clean water for the lines and the heater.",
      });
      refills++;
    }
  }
  const far = weakest(context)?.run.control.key;
  const strips = chlorine.endpoint === "strip";
  const before = context.steps.length;
  const hot = outletsOf(context)
    .filter((c) => c.spec.name === "hot")
    .at(-1)?.key;
  planPass(context, {
    id: "rinse",
    stage: "rinse",
    needs,
    wants: { chlorineAtMost: RINSED_SHARE * limit },
    leastShare: RUN_SHARE,
    leastM3: LEAST_M3,
    title: (name) => `${name}: run until the chlorine is gone`,
    row: strips ? "No smell left" : "No smell and no colour",
    why: "Pipes, then the heater, which mixes: it takes several of its own volumes.",
    expect: (m3) => `About ${v(m3)}; ${mgL(limit)} or less.`,
    asks: (run, place) =>
      strips &&
      (place.isFirst || place.isLast || run.control.key === far || run.control.key === hot)
        ? [
            strip(context, `chlorine:${run.control.key}`, "Free chlorine left", run, {
              atMost: limit,
              expected: RINSED_SHARE * limit,
            }),
          ]
        : [],
    cautions: ["The nose tires within minutes: ask somebody who comes in."],
  });
  refills += context.steps.slice(before).filter((s) => s.id.startsWith("rinse:fill:")).length;
  return { refills };
};

export const planHeatAgain = (context: WaterContext): void => {
  for (const heater of heaterCells(context)) {
    if (context.blocked.has(heater.id) || has(context, `heat:${heater.id}`)) continue;
    const vessel = context.network.cells[heater.cell]?.form === "vessel";
    const needs = context.steps.filter((s) => s.stage === "rinse").map((s) => s.id);
    addStep(context, {
      id: `prove:${heater.id}:heat`,
      stage: "prove",
      title: `Heat may go on at the ${heater.name.toLowerCase()}`,
      actions: [
        ...(vessel
          ? [confirm(`still-full:${heater.id}`, "A hot tap ran 30 seconds with no air in it")]
          : []),
        confirm(`heat:${heater.id}`, "Rinsed to the limit; bypass in use; tag off"),
      ],
      why: "Chlorine that is heated eats metal and gasses out: it goes first.",
      expect: "No smell of chlorine when it is warm.",
      needs,
      parts: [heater.id],
      minutes: 2,
    });
  }
};
