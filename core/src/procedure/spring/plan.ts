import { frostVerdict } from "../../contents/index.ts";
import { doubtsOf } from "../doubt.ts";
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
    cannotTell: doubtsOf(network, request.start, [], verdict, {
      basis: request.basis,
      productStrength: 0,
      measured: physical.measured,
      winterLowC: 0,
    }).slice(0, 0),
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
      warnings: [],
      ...more,
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
