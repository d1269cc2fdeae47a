import { buildNetwork, planWinterize, type RunSetup, standardRequest, startPhysical, type WaterMap } from "@uppershed/core";
import { expose } from "comlink";

/** Plans are made beside the screen, so that it never stops. */
const worker = {
  /** The plan, and the same with the heater filled on purpose, which shows what a bypass saves. */
  plan: (map: WaterMap, setup: RunSetup) => {
    const network = buildNetwork(map);
    const request = { ...standardRequest(network, startPhysical(network)), ...setup };
    return { plan: planWinterize(request), heaterFilled: planWinterize({ ...request, heaterInLine: true }) };
  },
};

export type PlanWorker = typeof worker;
expose(worker);
