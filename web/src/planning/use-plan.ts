import type { Plan, RunBegins, RunSetup, WaterMap } from "@uppershed/core";
import { type Remote, wrap } from "comlink";
import { useEffect, useState } from "react";
import type { PlanWorker } from "./plan.worker.ts";

export interface Planned {
  readonly plan: Plan;
  readonly heaterFilled: Plan;
}

let shared: Remote<PlanWorker> | undefined;
const worker = (): Remote<PlanWorker> =>
  (shared ??= wrap<PlanWorker>(new Worker(new URL("plan.worker.ts", import.meta.url), { type: "module" })));

/** Plans a map once; used by the bench for what to load. */
export const planOnce = async (map: WaterMap, setup: RunSetup, begins: RunBegins | null): Promise<Planned> =>
  worker().plan(map, setup, begins);

/**
 * The plan of a map, made in a worker; the last one stays while a new one is being made.
 * @param begins what is known of the unit; null where nothing is, undefined while that is being asked
 */
export const usePlan = (
  map: WaterMap | undefined,
  setup: RunSetup | undefined,
  begins: RunBegins | null | undefined,
): { planned: Planned | undefined; busy: boolean; problem: string | undefined } => {
  const [made, setMade] = useState<{ map: WaterMap; setup: RunSetup; planned?: Planned | undefined; problem?: string }>();
  useEffect(() => {
    if (!map || !setup || begins === undefined) return undefined;
    let wanted = true;
    planOnce(map, setup, begins)
      .then((planned) => wanted && setMade({ map, setup, planned }))
      .catch((error: unknown) => {
        const problem = error instanceof Error ? error.message : "The plan could not be made.";
        if (wanted) setMade((before) => ({ map, setup, planned: before?.planned, problem }));
      });
    return () => {
      wanted = false;
    };
  }, [map, setup, begins]);
  return { planned: made?.planned, problem: made?.problem, busy: made === undefined || made.map !== map || made.setup !== setup };
};
