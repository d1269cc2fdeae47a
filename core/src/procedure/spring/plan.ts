import { chlorineOf, frostVerdict, liquidIn, strengthOf, volumeOf } from "../../contents/index.ts";
import { heaterCells } from "../winterize/secure.ts";
import { unknownParts } from "../doubt-readings.ts";
import type { Plan, WaterFigures } from "../plan.ts";
import type { Step } from "../step.ts";
import type { WaterContext, WaterRequest } from "./request.ts";

const sumOf = (steps: readonly Step[], type: "fill" | "dose"): number =>
  steps.reduce(
    (all, s) =>
      all +
      s.actions.reduce(
        (sum, a) =>
          sum +
          (type === "fill" && a.type === "fill"
            ? a.volumeM3
            : type === "dose" && a.type === "dose"
              ? a.bottleM3
              : 0),
        0,
      ),
    0,
  );

/** What rests on a part that nobody knows yet is as drawn, and may not be so. */
const notKnown = (network: WaterContext["network"]): string[] => {
  const names = unknownParts(network).map((p) => p.name.toLowerCase());
  return names.length === 0
    ? []
    : [
        `Not known yet: ${names.slice(0, 8).join(", ")}${names.length > 8 ? ` and ${names.length - 8} more` : ""}. What is said of the ways past them is as the map draws it: look, smell and read there all the more.`,
      ];
};

/** What the plan does not reach: outlets that are not as they should be at its end, heaters that no hot tap proves full. */
const notReached = (context: WaterContext): string[] => {
  const { network, physical, request } = context;
  const { tasteAtMost, chlorine } = request.water;
  const limit = Math.max(chlorine.limitMgL, chlorine.sourceMgL);
  const left = network.openings.flatMap((o) => {
    const cell = network.cells[o.cell];
    if (o.use !== "outlet" || cell?.side !== "fresh" || context.blocked.has(o.part.id)) return [];
    const held = liquidIn(physical.contents[o.cell]);
    const isOff =
      strengthOf(held) > tasteAtMost ||
      chlorineOf(held) > limit ||
      volumeOf(held) < DRY_SHARE * cell.capacityM3;
    return isOff ? [o.part.name] : [];
  });
  const cold = heaterCells(context)
    .filter((h) => !context.steps.some((s) => s.id === `prove:${h.id}:heat`))
    .map((h) => h.name);
  const names = (all: readonly string[]): string => [...new Set(all)].join(", ");
  return [
    ...(left.length > 0
      ? [
          `Nothing that is pressed clears ${names(left)}: what stands there stays. Find out why before it is used.`,
        ]
      : []),
    ...(cold.length > 0
      ? [`No hot tap proves ${names(cold)} full: heat must not go on there.`]
      : []),
  ];
};

const DRY_SHARE = 0.5;

/** A plan of water in the shape of every plan: nothing of antifreeze, nothing held against the cold. */
export const asPlan = (
  context: WaterContext,
  request: WaterRequest,
  more: Partial<WaterFigures> = {},
): Plan => {
  const { network, physical, steps } = context;
  const verdict = frostVerdict(network, physical.contents, request.basis, physical.measured);
  const actions = steps.flatMap((s) => s.actions);
  return {
    method: request.method ?? "antifreeze",
    steps,
    antifreeze: {
      medianM3: 0,
      p90M3: 0,
      workedM3: 0,
      lines: [],
      jugs: 0,
      ruleOfThumb: { volumeM3: 0, text: "" },
    },
    targetStrength: 0,
    holdsToC: verdict.holdsToC,
    weakest: verdict.weakest,
    unprotected: [],
    meetsMargin: true,
    cannotTell: [],
    verdict,
    minutes: steps.reduce((sum, s) => sum + s.minutes, 0),
    carry: carryOf(steps),
    entry: "",
    after: physical,
    water: {
      filledM3: sumOf(steps, "fill"),
      bleachM3: sumOf(steps, "dose"),
      chlorineMg: actions.reduce((s, a) => s + (a.type === "dose" ? a.chlorineMg : 0), 0),
      refills: 0,
      lines: [],
      ...more,
      warnings: [...notKnown(network), ...notReached(context), ...(more.warnings ?? [])],
    },
  };
};

const carryOf = (steps: readonly Step[]): string[] => {
  const actions = steps.flatMap((s) => s.actions);
  const asks = new Set(steps.flatMap((s) => s.asks.map((a) => a.kind)));
  const has = (type: string): boolean => actions.some((a) => a.type === type);
  return [
    ...(has("fill") || has("supply") ? ["Hose for drinking water, regulator for the post"] : []),
    ...(steps.some((s) => s.id.endsWith(":plug"))
      ? ["Socket for the heater's plug, thread tape, brush for the threads"]
      : []),
    ...(has("reconnect") ? ["New washers and wrenches for the lines that were undone"] : []),
    ...(has("dose") ? ["Plain unscented bleach, measuring cup, bucket, gloves and eyes"] : []),
    ...(asks.has("chlorine") ? ["Chlorine strips, 0 to 200 mg/L and 0 to 10 mg/L, in date"] : []),
    ...(asks.has("strength") ? ["Refractometer"] : []),
    ...(asks.has("flow") ? ["Bucket with a mark and a watch, for the flow"] : []),
    "Multimeter, lamp, dry cloth",
  ];
};
