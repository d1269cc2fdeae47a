import type { Unit } from "@uppershed/contract";
import { cleanup, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { show, unitOf } from "../../testing/house.tsx";
import { LotLadder } from "./lot-ladder.tsx";

afterEach(cleanup);

const holding = (
  name: string,
  holdsToC: number | null,
  weakestPart: string | null = null,
): Unit => {
  const unit = unitOf({ name, craft: "caravan" }, `id-${name}`);
  return {
    ...unit,
    state: {
      ...unit.state,
      holdsToC,
      weakestPart,
      kind: weakestPart === null ? "in-use" : "as-left",
    },
  };
};

/** Top of a unit's words, as a share of the ladder. */
const topOf = (name: RegExp): number => {
  const words = screen.getByRole("link", { name }).closest<HTMLElement>("[style*='top']");
  return Number.parseFloat(words?.style.top ?? "") / 100;
};

describe("the frost ladder of the lot", () => {
  it("says once what ten units hold, names each, and leaves the others at their own place", async () => {
    const full = Array.from({ length: 10 }, (_, i) => holding(`Caravan ${i + 1}`, 0));
    await show(
      <LotLadder units={[...full, holding("Teasel", -26, "Heater")]} found={11} winterLowC={-18} />,
    );
    expect(screen.getByText(/^0 °C: 10 units, all full of water \(assumed\)$/u)).toBeTruthy();
    for (const { id, name } of full) {
      const link = screen.getByRole("link", { name: new RegExp(`^${name}\\s0\\s°C$`, "u") });
      expect(link.getAttribute("href")).toBe(`/units/${id}`);
    }
    expect(within(screen.getByRole("link", { name: /^Teasel/u })).getByText("Heater")).toBeTruthy();
    // Above the winter low stand those that frost hurts, below it the one that it does not.
    const low = (5 + 18) / (5 + 40);
    expect(topOf(/^Caravan 1 /u)).toBeLessThan(low);
    expect(topOf(/^Teasel/u)).toBeGreaterThan(low);
  });

  it("keeps two that hold the same apart, and whatever bears all at the foot, on the ladder", async () => {
    await show(
      <LotLadder
        units={[
          holding("Burdock", 0),
          holding("Plover", 0),
          holding("Dipper", null, ""),
          holding("Wagtail", -30, "Pump"),
        ]}
        found={40}
        winterLowC={-18}
      />,
    );
    expect(topOf(/^Plover/u) - topOf(/^Burdock/u)).toBeGreaterThan(0.08);
    expect(topOf(/^Dipper/u)).toBeGreaterThan(topOf(/^Wagtail/u));
    expect(topOf(/^Dipper/u)).toBeLessThan(0.95);
    expect(screen.getByText(/the 4 that bear least of 40/u)).toBeTruthy();
  });
});
