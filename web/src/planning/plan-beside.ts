import {
  comparedBy,
  type Method,
  type MethodCompared,
  jobOf,
  type Plan,
  planWinterize,
  type RunBegins,
  type RunSetup,
  WATER_SETTINGS,
} from "@uppershed/core/procedure";
import { type Complaint, explain, type Explained } from "@uppershed/core/symptoms";
import { buildNetwork, type WaterMap } from "@uppershed/core/watermap";
import { requestFor } from "./request.ts";

/** Plans are made beside the screen, so that it never stops. */
export const beside = {
  plan: async (map: WaterMap, setup: RunSetup, begins: RunBegins | null): Promise<Plan> => {
    const request = { ...requestFor(map, setup, begins), water: setup.water ?? WATER_SETTINGS };
    const job = jobOf(setup);
    if (job === "winterize") return planWinterize(request);
    const { planWater } = await import("./plan-water.ts");
    return planWater(job, request);
  },
  /** What may be behind a complaint, tried on the map. */
  explain: (
    map: WaterMap,
    asked: Omit<Complaint, "network" | "turned"> & { readonly turned: readonly string[] },
  ): Explained => explain({ ...asked, turned: new Set(asked.turned), network: buildNetwork(map) }),
  /** What one method comes to on this unit, for the comparison. */
  compare: (
    map: WaterMap,
    setup: RunSetup,
    begins: RunBegins | null,
    method: Method,
  ): MethodCompared => {
    const request = { ...requestFor(map, setup, begins), method };
    return comparedBy(request.network, planWinterize(request));
  },
  /** Antifreeze that half of the jobs would take with the heater filled on purpose, m3: it shows what a bypass saves. */
  heaterFilledM3: (map: WaterMap, setup: RunSetup, begins: RunBegins | null): number =>
    planWinterize({ ...requestFor(map, setup, begins), heaterInLine: true }).antifreeze.medianM3,
};

export type PlanBeside = typeof beside;
