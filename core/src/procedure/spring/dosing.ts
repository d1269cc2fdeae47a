import { addStep, confirm, v } from "../winterize/context.ts";
import { gPerLOf } from "./dose.ts";
import { type Pass } from "./flush.ts";
import { type WaterContext } from "./request.ts";
import { inTanks, sourcesOf } from "./source.ts";
import { doseRows, emptyTanks, fillRows, FULL_SHARE, planFill, tankMgL } from "./tank.ts";
import { mgL, wetOf, tankTarget } from "./wet.ts";

/** Bleach into part-filled tanks, filled up, and brought to every outlet. */

const MIX_SHARE = 0.3;
const MOST_LEFT_SHARE = 0.5;
// An outlet that gets this share of what is wanted has it: a strip shows no less (our own).
const HAS_SHARE = 0.98;
const IS_DOSED = 0.93;

const CHLORINE_CAUTIONS = [
  "Plain unscented bleach only: no thickener, no scent. Gloves and eyes.",
  "Never with an acid, descaler, vinegar, ammonia or toilet chemicals: the gas kills. A descaler used today is rinsed out and proved first.",
];

/** @param first steps that must be signed before any bleach is aboard */
export const planDose = (context: WaterContext, first: readonly string[]): void => {
  const { chlorine } = context.request.water;
  const gPerL = gPerLOf(chlorine.bottle) * (context.request.bottleGives ?? 1);
  for (const source of sourcesOf(context)) {
    if (!source.pump) continue;
    const wet = wetOf(context, source);
    const target = tankTarget(chlorine.targetMgL, wet);
    const held = tankMgL(context, source);
    const { heldM3, fullM3 } = inTanks(context, source);
    if (held >= IS_DOSED * target) continue;
    if (heldM3 > MOST_LEFT_SHARE * fullM3 && held < 0.2 * target)
      emptyTanks(context, source, {
        id: `dose:empty:${source.key}`,
        stage: "dose",
        why: "A dose is mixed into a part-filled tank and filled up; poured into a full one it stays where it falls.",
      });
    planFill(context, source, MIX_SHARE, {
      id: `dose:part:${source.key}`,
      stage: "dose",
      title: "Part-fill",
      why: "Water first, bleach into it.",
    });
    const rows = doseRows(context, source, target, gPerL, FULL_SHARE);
    const bottleM3 = rows.reduce((s, r) => s + (r.type === "dose" ? r.bottleM3 : 0), 0);
    addStep(context, {
      id: `dose:bleach:${source.key}`,
      stage: "dose",
      title: `Bleach into the ${source.tanks.map((t) => context.network.cells[t]?.part?.name.toLowerCase() ?? "tank").join(" and ")}`,
      actions: [
        confirm("no-acid", "No descaler, vinegar or other product used on this unit today"),
        ...rows,
        confirm(
          "mixed",
          "Mixed into a bucket of water first, poured in at the filler, the bucket rinsed after it",
        ),
      ],
      why: `For ${mgL(target)} in the full tank: ${wet.heatersM3 > 0 ? `${v(wet.tanksM3)} in it, ${v(wet.linesM3)} in the lines and ${v(wet.heatersM3)} in the heater, which thins it to ${mgL(chlorine.targetMgL)}` : `what comes to every outlet is ${mgL(chlorine.targetMgL)}`}. The bottle gives ${gPerL.toFixed(0)} g/L.`,
      cautions: CHLORINE_CAUTIONS,
      needs: [...first],
      expect: `${v(bottleM3)} of ${chlorine.bottle.name.toLowerCase()} in all; the smell of it at the filler.`,
      parts: source.tanks.flatMap((t) => context.network.cells[t]?.part?.id ?? []),
      minutes: 6,
    });
    const after = fillRows(context, source, FULL_SHARE);
    if (after.length > 0)
      planFill(context, source, FULL_SHARE, {
        id: `dose:full:${source.key}`,
        stage: "dose",
        why: "The filling mixes it, and wets the tank to its top.",
        needs: [`dose:bleach:${source.key}`],
      });
  }
};

// Run by this share of its way at least: its own line may hold more, or more air, than was reckoned (our own).
const RUN_SHARE = 0.3;

export const spreadPass = (context: WaterContext): Pass => {
  const { chlorine } = context.request.water;
  const target = chlorine.targetMgL;
  const [pumped] = sourcesOf(context).filter((s) => s.pump);
  return {
    id: "spread",
    stage: "spread",
    wants: { chlorineAtLeast: target * HAS_SHARE },
    leastShare: RUN_SHARE,
    title: (name) => `${name}: run until it smells of chlorine`,
    row: "Smells of chlorine, or a strip shows it",
    why: "An outlet that was passed over keeps what grows in its line.",
    expect: (m3) => `About ${v(m3)}.`,
    chlorineMgL: target * 1.02,
    ...(pumped ? { tankMgL: tankTarget(target, wetOf(context, pumped)) } : {}),
    cautions: ["It bleaches cloth; air the place."],
  };
};
