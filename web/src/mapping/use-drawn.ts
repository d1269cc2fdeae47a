import { startingContents } from "@uppershed/core/contents";
import { buildScene, type Scene } from "@uppershed/core/drawing";
import { buildNetwork, inUseLineup, type Network, type WaterMap } from "@uppershed/core/watermap";
import { useMemo } from "react";
import { useLayout } from "./use-chart.ts";

/** A map drawn as it is in use; nothing while it is being laid out. */
export const useDrawn = (
  map: WaterMap | undefined,
): { readonly network: Network; readonly scene: Scene } | undefined => {
  const layout = useLayout(map);
  return useMemo(() => {
    if (!map || !layout) return undefined;
    const network = buildNetwork(map);
    return {
      network,
      scene: buildScene(network, startingContents(network), inUseLineup(network), layout),
    };
  }, [map, layout]);
};
