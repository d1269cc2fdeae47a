import { nextSplit, testSections } from "@uppershed/core/hold";
import { buildNetwork, type Lineup, type WaterMap } from "@uppershed/core/watermap";

export interface SplitAsked {
  readonly map: WaterMap;
  readonly cells: readonly number[];
  readonly lineup: Lineup;
  readonly gauge: number;
  readonly suspects: readonly string[];
}

/** As it comes back from beside the screen. */
export interface SplitFound {
  /** Keys of the valves that are shut for the next hold. */
  readonly shut: readonly string[];
  readonly near: readonly string[];
  readonly far: readonly string[];
}

/** Which valves halve what may leak: tried on the map beside the screen, so that a tap is never waited for. */
export const beside = {
  split: ({ map, cells, lineup, gauge, suspects }: SplitAsked): SplitFound | undefined => {
    const network = buildNetwork(map);
    const sections = testSections(network, new Set(cells));
    const found = nextSplit({ network, lineup, gauge, sections }, new Set(suspects));
    return (
      found && {
        shut: found.shut.map((c) => c.key),
        near: found.nearSuspects,
        far: found.farSuspects,
      }
    );
  },
};

export type SplitBeside = typeof beside;
