import { describe, expect, it } from "vitest";
import {
  burdock,
  dipper,
  EXAMPLE_MAPS,
  foxglove,
  sundew,
  teasel,
  wagtail,
} from "../examples/index.ts";
import { networkOf } from "../testing/variants.ts";
import { handoverOf } from "./handover.ts";

const titlesOf = (map: Parameters<typeof networkOf>[0]): string[] =>
  handoverOf(networkOf(map)).map((s) => s.title);
const linesOf = (map: Parameters<typeof networkOf>[0], title: RegExp, rules = {}): string =>
  handoverOf(networkOf(map), rules)
    .filter((s) => title.test(s.title))
    .flatMap((s) => s.lines)
    .join(" ");

describe("how the water of a unit is used", () => {
  it("tells only what applies to it", () => {
    expect(titlesOf(teasel)).toEqual([
      "On a site's supply",
      "Filling the tank",
      "The pump",
      "The heater",
      "The waste tanks",
      "Before it moves, and while nobody is there",
      "Frost",
    ]);
    // No heater, no inlet, no waste tank aboard.
    expect(titlesOf(wagtail)).not.toContain("The heater");
    expect(titlesOf(sundew)).not.toContain("The waste tank");
    expect(titlesOf(dipper)).not.toContain("The waste tank");
  });

  it("points at parts that are on the map", () => {
    for (const map of EXAMPLE_MAPS) {
      const ids = new Set(map.parts.map((p) => p.id));
      const named = handoverOf(networkOf(map)).flatMap((s) => s.parts);
      expect(named.filter((id) => !ids.has(id))).toEqual([]);
    }
  });

  it("says how much of a tankful each waste tank takes, and that a supply has no end (E46)", () => {
    // 95 L of fresh water above 60 L of grey: by hand from the map's own figures.
    const burdocks = linesOf(burdock, /waste/u);
    expect(burdocks).toContain("grey tank takes {m3:0.06} of a tankful of {m3:0.095}");
    expect(burdocks).toContain("nothing bounds");
    expect(linesOf(foxglove, /waste/u)).toContain(
      "grey tank, {m3:0.4}, takes a whole tankful of {m3:0.2}",
    );
  });

  it("goes by the house: who leaves the pump on says nothing of switching it off, and the supply's limit is the house's", () => {
    expect(linesOf(teasel, /pump/u)).toContain("Nobody aboard, or under way: off.");
    expect(linesOf(teasel, /pump/u, { "use.unattended": "pump-on" })).not.toContain(
      "Nobody aboard",
    );
    expect(linesOf(teasel, /supply/u, { "supply.fail": 400_000 })).toContain("{pa:400000}");
  });
});
