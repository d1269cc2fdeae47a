import type { Plan, RunSetup, WaterMap } from "@uppershed/core";
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
export const planOnce = async (map: WaterMap, setup: RunSetup): Promise<Planned> => worker().plan(map, setup);

/** The plan of a map, made in a worker; the last one stays while a new one is being made. */
export const usePlan = (
  map: WaterMap | undefined,
  setup: RunSetup | undefined,
): { planned: Planned | undefined; busy: boolean; problem: string | undefined } => {
  const [made, setMade] = useState<{ map: WaterMap; setup: RunSetup; planned?: Planned | undefined; problem?: string }>();
  useEffect(() => {
    if (!map || !setup) return undefined;
    let wanted = true;
    planOnce(map, setup)
      .then((planned) => wanted && setMade({ map, setup, planned }))
      .catch((error: unknown) => {
        const problem = error instanceof Error ? error.message : "The plan could not be made.";
        if (wanted) setMade((before) => ({ map, setup, planned: before?.planned, problem }));
      });
    return () => {
      wanted = false;
    };
  }, [map, setup]);
  return { planned: made?.planned, problem: made?.problem, busy: made === undefined || made.map !== map || made.setup !== setup };
};
