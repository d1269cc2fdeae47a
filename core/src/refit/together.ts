import type { WaterMap } from "../watermap/index.ts";

/**
 * Both maps as one, to be drawn and never to be reckoned with: the proposed one with what is taken out beside it, so that a port may hold two pipes,
 * the old and the new.
 */
export const bothMaps = (today: WaterMap, proposed: WaterMap): WaterMap => {
  const there = new Set<string>([...proposed.parts, ...proposed.runs].map((x) => x.id));
  return {
    ...proposed,
    places: [...new Set([...today.places, ...proposed.places])],
    parts: [...proposed.parts, ...today.parts.filter((p) => !there.has(p.id))],
    runs: [...proposed.runs, ...today.runs.filter((r) => !there.has(r.id))],
  };
};
