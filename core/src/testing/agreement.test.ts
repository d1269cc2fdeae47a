import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { PATTERNS, starterMap } from "../patterns/index.ts";
import { disagreements } from "./agreement.ts";

/** The whole of the demo and of the families is held to the same by `npm run figures:safety`. */
const maps = [...EXAMPLE_MAPS, ...PATTERNS.map(starterMap)].filter((m) =>
  ["plover", "dipper", "p01", "p02", "p14"].includes(m.id),
);

describe("planner and trial", () => {
  it.each(maps.map((m) => [m.name, m] as const))(
    "move the same at every action of a plan: %s",
    (_, map) => {
      const all = disagreements(map);
      expect(all.length).toBeGreaterThan(20);
      // Of what moved, and points of strength of what came out.
      expect(all.filter((d) => d.volumeShare > 0.01 || d.strengthPoints > 0.01)).toEqual([]);
    },
  );
});
