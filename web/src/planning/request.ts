import {
  type planWinterize,
  type RunBegins,
  type RunSetup,
  standardRequest,
  startRun,
} from "@uppershed/core/procedure";
import { buildNetwork, type WaterMap } from "@uppershed/core/watermap";

/** What a plan is asked for with: the setup, and how the unit stands where that is known. */
export const requestFor = (
  map: WaterMap,
  setup: RunSetup,
  begins: RunBegins | null,
): Parameters<typeof planWinterize>[0] => {
  const network = buildNetwork(map);
  return {
    ...standardRequest(network, startRun(network, setup, begins ?? undefined).physical),
    ...setup,
  };
};
