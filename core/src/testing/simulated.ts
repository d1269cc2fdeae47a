import { situationOf } from "../contents/index.ts";
import type { Physical } from "../procedure/index.ts";
import { simStart, type SimState } from "../simulation/index.ts";
import { liveOpenings, type Network } from "../watermap/index.ts";

/** The unit as the sandbox takes it: every hose that stands in a jug has one. */
export const asSimulated = (network: Network, physical: Physical, strength: number): SimState => {
  const pickups = liveOpenings(situationOf(network, physical)).filter((o) => o.use === "pickup");
  return {
    ...simStart(network, { lineup: physical.lineup, contents: physical.contents }),
    apart: physical.apart,
    jugs: strength > 0 ? Object.fromEntries(pickups.map((o) => [o.id, { strength }])) : {},
  };
};
