import type { WaterMap } from "../watermap/index.ts";

/** A pattern's map after somebody has been round the unit: typical figures count as looked at, what is not known stays so. */
export const lookedAt = (map: WaterMap): WaterMap => ({
  ...map,
  parts: map.parts.map(({ assumed: _assumed, ...part }) => part),
  runs: map.runs.map(({ assumed: _assumed, ...run }) => run),
});
