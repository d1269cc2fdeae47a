import { cleanup, fireEvent, screen } from "@testing-library/react";
import { frostVerdict, startingContents } from "@uppershed/core/contents";
import { planWinterize, standardRequest, startPhysical } from "@uppershed/core/procedure";
import { buildNetwork } from "@uppershed/core/watermap";
import { afterEach, describe, expect, it, vi } from "vitest";
import { mapOf, ME, show } from "../testing/house.tsx";
import { FrostLadder } from "./ladder.tsx";

afterEach(cleanup);
const network = buildNetwork(mapOf("teasel"));
const wet = frostVerdict(network, startingContents(network));
const plan = planWinterize(standardRequest(network, startPhysical(network)));

describe("the frost ladder on screen", () => {
  it("names the worst first, counts the rest, and says in words what the sign says", async () => {
    const choose = vi.fn<(id: string) => void>();
    await show(<FrostLadder verdict={wet} winterLowC={-18} onChoose={choose} />);
    fireEvent.click(
      screen.getByRole("button", {
        name: /^Heater, .* and \d+ more, hurt above the winter low: 0 °C$/u,
      }),
    );
    expect(choose).toHaveBeenCalledWith("heater");
    expect(screen.getByText("winter low −18 °C")).toBeTruthy();
  });

  it("shows a safe boat's parts as safe, and how many have no limit", async () => {
    await show(<FrostLadder verdict={plan.verdict} winterLowC={-18} />);
    const marks = screen.getAllByRole("button");
    expect(marks.length).toBeGreaterThan(1);
    for (const mark of marks)
      expect(mark.getAttribute("aria-label")).toContain("safe at the winter low");
    expect(screen.getByText(/^No limit: \d+ parts empty, or with room for ice$/u)).toBeTruthy();
  });

  it("marks what the plan will come to, and follows the workshop's units", async () => {
    const { container } = await show(
      <FrostLadder verdict={wet} winterLowC={-18} afterC={plan.holdsToC} />,
      {
        ...ME,
        workshop: { ...ME.workshop, units: "us" },
      },
    );
    expect(screen.getByText("when done")).toBeTruthy();
    expect(screen.getByText("winter low 0 °F")).toBeTruthy();
    expect(container.textContent).not.toContain("°C");
  });

  it("lifts the words of 'when done' off a part that is hurt there", async () => {
    await show(<FrostLadder verdict={wet} winterLowC={-18} afterC={0} />);
    expect(screen.getByText("when done").className).toContain("-translate-y");
  });
});
