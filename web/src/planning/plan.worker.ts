import { buildNetwork, planWinterize, type RunBegins, type RunSetup, standardRequest, startRun, type WaterMap } from "@uppershed/core";
import { expose } from "comlink";

/** Plans are made beside the screen, so that it never stops. */
const worker = {
  /** The plan, and the same with the heater filled on purpose, which shows what a bypass saves. */
  plan: (map: WaterMap, setup: RunSetup, begins: RunBegins | null) => {
    const network = buildNetwork(map);
    const request = { ...standardRequest(network, startRun(network, setup, begins ?? undefined).physical), ...setup };
    return { plan: planWinterize(request), heaterFilled: planWinterize({ ...request, heaterInLine: true }) };
  },
};

export type PlanWorker = typeof worker;
expose(worker);
