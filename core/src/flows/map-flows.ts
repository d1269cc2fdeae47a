import { type Contents, startingContents } from "../contents/index.ts";
import { BOILS_AT_PA, type HydraulicAnswer, solveHydraulics } from "../hydraulics/index.ts";
import type { Lineup, Network } from "../watermap/index.ts";
import { COMMON_FLOW_SETTINGS, type FlowSettings } from "./flow-settings.ts";
import { mapHydraulics } from "./map-hydraulics.ts";

export type MapFlows =
  | {
      readonly ok: true;
      /** m3/s by run, positive from the run's `from` to its `to`. */
      readonly flowsM3PerS: ReadonlyMap<string, number>;
      /** Pa above the air by part: its highest where it has several cells. Absent where it is closed off from every source and opening. */
      readonly pressuresPa: ReadonlyMap<string, number>;
      /** Parts where the water would boil before so much came: it does not come, the pump cavitates. Their pressure is told as the lowest that there is. */
      readonly boils: readonly string[];
      /** m3/s by opening. */
      readonly outM3PerS: ReadonlyMap<string, number>;
    }
  | { readonly ok: false; readonly problem: string };

/**
 * What flows where in a full system standing like this.
 * @param lineup positions by control @param contents what the pipes hold, for density and viscosity and the tanks' levels; in use where it is not said
 */
export const mapFlows = (
  network: Network,
  lineup: Lineup,
  settings: FlowSettings = COMMON_FLOW_SETTINGS,
  contents?: Contents,
): MapFlows => {
  const held = contents ?? startingContents(network);
  const made = mapHydraulics({ network, lineup, apart: [] }, held, settings);
  const solved: HydraulicAnswer = solveHydraulics(made.network);
  if (!solved.ok) return solved;
  const flows = new Map<string, number>();
  for (const run of network.map.runs) {
    const element = made.elementOf.get(run.id);
    if (element === undefined) continue;
    const q = solved.flowsM3PerS[element] ?? 0;
    flows.set(run.id, q);
  }
  const pressures = new Map<string, number>();
  const boils = new Set<string>();
  for (const [cell, at] of made.nodeOf) {
    const p = solved.pressuresPa[at];
    const { ownerId: owner, capacityM3 = 0 } = network.cells[cell] ?? {};
    if (p === undefined || owner === undefined) continue;
    if (p < BOILS_AT_PA) boils.add(owner);
    if (capacityM3 > 0)
      pressures.set(
        owner,
        Math.max(p, BOILS_AT_PA, pressures.get(owner) ?? Number.NEGATIVE_INFINITY),
      );
  }
  return {
    ok: true,
    flowsM3PerS: flows,
    pressuresPa: pressures,
    boils: [...boils].toSorted(),
    outM3PerS: new Map(made.network.outlets.map((o, i) => [o.id, solved.outM3PerS[i] ?? 0])),
  };
};
