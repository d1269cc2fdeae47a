import {
  comparedBy,
  type Method,
  type MethodCompared,
  type Plan,
  planSanitize,
  planSpring,
  planWinterize,
  type RunBegins,
  type RunSetup,
  WATER_SETTINGS,
} from "@uppershed/core/procedure";
import { type Complaint, explain, type Explained } from "@uppershed/core/symptoms";
import { buildNetwork, type WaterMap } from "@uppershed/core/watermap";
import { expose } from "comlink";
import { requestFor } from "./request.ts";

/** Plans are made beside the screen, so that it never stops. */
const worker = {
  plan: (map: WaterMap, setup: RunSetup, begins: RunBegins | null): Plan => {
    const request = { ...requestFor(map, setup, begins), water: setup.water ?? WATER_SETTINGS };
    if (setup.job === "spring") return planSpring(request);
    return setup.job === "sanitize" ? planSanitize(request) : planWinterize(request);
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

export type PlanWorker = typeof worker;
expose(worker);
