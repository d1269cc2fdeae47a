import { buildNetwork, type WaterMap } from "../watermap/index.ts";
import {
  type Method,
  METHOD_NAMES,
  type Plan,
  planWinterize,
  standardRequest,
  startPhysical,
  type WinterizeRequest,
} from "../procedure/index.ts";
import { AIR_LIMITS, HOUSE_LIMITS, type HouseLimits } from "../procedure/house-settings.ts";
import { type Judged, judgePlan } from "./checker/index.ts";
import { systemOf } from "./random-systems.ts";

/** Whether a method is a way of its own on a system: without a vessel that lacks a drain suction is the plain one. */
const isItsOwn = (method: Method, plan: Plan): boolean =>
  method !== "suction" || plan.steps.some((s) => s.id.endsWith(":suck"));

/** One system's plans by every method. */
export const judgeByAll = (seed: number): (SystemJudged & { readonly method: Method })[] =>
  METHOD_NAMES.flatMap((method) => {
    const judged = judgeSystem(seed, method);
    return judged.isRepeat ? [] : [{ ...judged, method }];
  });

/** What came of one system: the plan judged by the checker, or why there was none. */
export interface SystemJudged {
  readonly seed: number;
  readonly judged?: Judged;
  /** The planner threw, or made a plan without a fill and without a reason. */
  readonly failure?: string;
  /** The same as another method's plan. */
  readonly isRepeat?: boolean;
}

/** A plan that fills nothing although something is left unprotected says why nothing can be let in. */
const unexplained = (plan: Plan): string | undefined => {
  const fills = plan.steps.some((s) => s.stage === "fill" && s.antifreezeM3 > 0);
  if (fills || plan.unprotected.length === 0) return undefined;
  return plan.entry.startsWith("none") || plan.unprotected.every((u) => u.why !== "")
    ? undefined
    : "no fill and no reason";
};

/** A house that keeps the heater in line while a small compressor blows. */
export const BY_RECEIVER: HouseLimits = {
  ...HOUSE_LIMITS,
  air: { ...AIR_LIMITS, heater: "receiver", compressorM3: 0.011 },
};

/** The same map with the pressure on every storage heater's label read, bar. */
export const withRatedHeaters = (map: WaterMap, ratedBar = 7): WaterMap => ({
  ...map,
  parts: map.parts.map((p) =>
    p.kind === "storage-heater" ? { ...p, params: { ...p.params, ratedBar } } : p,
  ),
});

export const judgeMap = (
  map: WaterMap,
  method: Method = "antifreeze",
  house?: HouseLimits,
): { readonly plan: Plan; readonly judged: Judged } => {
  const made = planOf(map, method, house);
  return { plan: made.plan, judged: judgedPlan(map, made) };
};

interface MadePlan {
  readonly plan: Plan;
  readonly request: WinterizeRequest;
}

const planOf = (map: WaterMap, method: Method, house?: HouseLimits): MadePlan => {
  const network = buildNetwork(map);
  const request = {
    ...standardRequest(network, startPhysical(network)),
    method,
    ...(house ? { house } : {}),
  };
  return { plan: planWinterize(request), request };
};

const judgedPlan = (map: WaterMap, { plan, request }: MadePlan): Judged => {
  const { start } = request;
  return judgePlan(map, start.lineup, plan, {
    winterLowC: request.winterLowC,
    strength: request.product.strength,
    burst: true,
  });
};

export const judgeSystem = (seed: number, method: Method = "antifreeze"): SystemJudged => {
  try {
    const drawn = systemOf(seed);
    const isByReceiver = seed % 3 === 0;
    const map = isByReceiver ? withRatedHeaters(drawn) : drawn;
    const made = planOf(map, method, isByReceiver ? BY_RECEIVER : undefined);
    const { plan } = made;
    if (!isItsOwn(method, plan)) return { seed, isRepeat: true };
    const judged = judgedPlan(map, made);
    const failure = unexplained(plan);
    return { seed, judged, ...(failure ? { failure } : {}) };
  } catch (error) {
    return {
      seed,
      failure: error instanceof Error ? (error.stack ?? error.message) : String(error),
    };
  }
};
