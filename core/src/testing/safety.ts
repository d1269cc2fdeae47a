import { buildNetwork, type WaterMap } from "../watermap/index.ts";
import {
  type Method,
  type Plan,
  planWinterize,
  standardRequest,
  startPhysical,
} from "../procedure/index.ts";
import { type Judged, judgePlan } from "./checker/index.ts";
import { systemOf } from "./random-systems.ts";

/** What came of one system: the plan judged by the checker, or why there was none. */
export interface SystemJudged {
  readonly seed: number;
  readonly judged?: Judged;
  /** The planner threw, or made a plan without a fill and without a reason. */
  readonly failure?: string;
}

/** A plan that fills nothing although something is left unprotected says why nothing can be let in. */
const unexplained = (plan: Plan): string | undefined => {
  const fills = plan.steps.some((s) => s.stage === "fill" && s.antifreezeM3 > 0);
  if (fills || plan.unprotected.length === 0) return undefined;
  return plan.entry.startsWith("none") || plan.unprotected.every((u) => u.why !== "")
    ? undefined
    : "no fill and no reason";
};

export const judgeMap = (
  map: WaterMap,
  method: Method = "antifreeze",
): { readonly plan: Plan; readonly judged: Judged } => {
  const network = buildNetwork(map);
  const start = startPhysical(network);
  const request = { ...standardRequest(network, start), method };
  const plan = planWinterize(request);
  const judged = judgePlan(map, start.lineup, plan, {
    winterLowC: request.winterLowC,
    strength: request.product.strength,
    burst: true,
  });
  return { plan, judged };
};

export const judgeSystem = (seed: number, method: Method = "antifreeze"): SystemJudged => {
  try {
    const { plan, judged } = judgeMap(systemOf(seed), method);
    const failure = unexplained(plan);
    return { seed, judged, ...(failure ? { failure } : {}) };
  } catch (error) {
    return {
      seed,
      failure: error instanceof Error ? (error.stack ?? error.message) : String(error),
    };
  }
};
