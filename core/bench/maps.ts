import { EXAMPLE_MAPS } from "../src/examples/index.ts";
import { mapFromPattern, PATTERNS, starterMap, UNKNOWN } from "../src/patterns/index.ts";
import type { WaterMap } from "../src/watermap/index.ts";

const known = (map: WaterMap): WaterMap => ({
  ...map,
  parts: map.parts.map(({ unknown: _unknown, ...part }) => part),
});

/**
 * A map to measure with: a unit of the demo by its id, "known ID" for the same with nothing unknown in it, "family ID" for a family as it
 * starts, "unasked ID" for one of which no question was answered.
 * @throws where there is none
 */
export const mapNamed = (name: string): WaterMap => {
  const [what = "", id = name] = name.includes(" ") ? name.split(" ") : [];
  const pattern = PATTERNS.find((p) => p.id === id);
  if (pattern)
    return what === "unasked"
      ? mapFromPattern(pattern, Object.fromEntries(pattern.questions.map((q) => [q, UNKNOWN])), {
          id,
          name: pattern.label,
          craft: pattern.craft,
        })
      : starterMap(pattern);
  const map = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!map) throw new Error(`no map "${name}"`);
  return what === "known" ? known(map) : map;
};
