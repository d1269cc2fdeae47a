import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../../examples/index.ts";
import { roundTrip } from "../../testing/round-trip.ts";
import { METHOD_NAMES } from "../index.ts";

// The largest takes the sandbox half a minute: it is in the figures (npm run figures) with every method.
const LARGE = "yarrow";
const small = EXAMPLE_MAPS.filter((m) => m.id !== LARGE);

describe("from autumn to summer, done by the sandbox as it was planned", () => {
  it.each(small.map((m) => [m.name, m] as const))(
    "%s ends in use on its tank, clear at every outlet, its heater full before heat, its dose right and gone again",
    (_, map) => {
      const { failures, far } = roundTrip(map, "antifreeze");
      expect(failures).toEqual([]);
      expect(Math.abs((far?.shown ?? 0) / (far?.planned ?? 1) - 1)).toBeLessThan(0.05);
    },
    60_000,
  );

  it.each(METHOD_NAMES)("a small boat comes back from %s", (method) => {
    const map = EXAMPLE_MAPS.find((m) => m.id === "plover");
    expect(map && roundTrip(map, method).failures).toEqual([]);
  });
});
