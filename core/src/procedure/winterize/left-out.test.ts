import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../../examples/index.ts";
import { leftOut } from "../../testing/left-out.ts";

/** Nothing is on the sheet for show. All demo plans: npm run figures:left-out. */
describe("a step or a row that is left out", () => {
  it.each(["plover", "wagtail", "sundew"])(
    "of %s changes what the unit holds, how it stands or what it takes, or passes a hazard; else it is marked as good practice",
    (id) => {
      const map = EXAMPLE_MAPS.find((m) => m.id === id);
      if (!map) throw new Error(id);
      for (const method of ["antifreeze", "air-antifreeze", "air"] as const) {
        const found = leftOut(map, method);
        expect(found.forShow, method).toEqual([]);
        expect(found.rows).toBeGreaterThanOrEqual(3);
      }
    },
  );
});
