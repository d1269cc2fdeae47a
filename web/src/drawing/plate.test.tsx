import { cleanup, fireEvent, screen } from "@testing-library/react";
import { frostVerdict, startingContents } from "@uppershed/core/contents";
import { planWinterize, standardRequest, startPhysical } from "@uppershed/core/procedure";
import { buildNetwork, inUseLineup } from "@uppershed/core/watermap";
import { afterEach, describe, expect, it, vi } from "vitest";
import { mapOf, ME, show } from "../testing/house.tsx";
import { Plate } from "./plate.tsx";

afterEach(cleanup);
const network = buildNetwork(mapOf("teasel"));
const contents = startingContents(network);
const lineup = inUseLineup(network);
const verdict = frostVerdict(network, contents);
const done = planWinterize(standardRequest(network, startPhysical(network)));
const US = { ...ME, workshop: { ...ME.workshop, units: "us" as const } };

const plate = (id: string, me = ME, onClose = () => {}) =>
  show(
    <Plate
      network={network}
      id={id}
      contents={contents}
      lineup={lineup}
      verdict={verdict}
      onClose={onClose}
    />,
    me,
  );

describe("a part's plate", () => {
  it("says what it is, where, how to reach it, how it stands and what it holds, with where each came from", async () => {
    const { container } = await plate("heater");
    const text = container.textContent ?? "";
    for (const said of [
      "Storage heater",
      "Galley, behind the kick panel. Four screws.",
      "in and tight",
      "38.0 L water of 38.0 L (assumed)",
      "0 °C",
      "full of water (assumed)",
    ])
      expect(text).toContain(said);
    expect(text).toContain("Anode thickness at three places");
  });

  it("shows a valve by its tag and position, a three-way valve by what it joins", async () => {
    expect((await plate("v7")).container.textContent).toContain("V7Bypass");
    cleanup();
    expect((await plate("v2")).container.textContent).toMatch(/Stands\s*tank/u);
  });

  it("shows each cell of a part that has several", async () => {
    const { container } = await plate("shower");
    for (const cell of ["Cold cartridge", "Hot cartridge", "Hose and head"])
      expect(container.textContent).toContain(cell);
  });

  it("shows a pipe: what pipe, which service, how long, and a dip that keeps its water", async () => {
    const { container } = await plate("r-t-gc-c-t-bc-a");
    expect(container.textContent).toContain("15 mm tube, cold, 2.6 m");
    expect(container.textContent).toContain("hangs below both ends");
  });

  it("follows the workshop's units, parameters too", async () => {
    const { container } = await plate("heater", US);
    expect(container.textContent).toContain("10.0 US gal");
    expect(container.textContent).not.toMatch(/\d L\b|°C/u);
    cleanup();
    expect((await plate("pump", US)).container.textContent).toMatch(/Cut-out\s*40 psi/u);
  });

  it("says the strength of what it holds after the work, and that it was worked out", async () => {
    const { container } = await show(
      <Plate
        network={network}
        id="galley"
        contents={done.after.contents}
        lineup={done.after.lineup}
        verdict={done.verdict}
        onClose={() => {}}
      />,
    );
    expect(container.textContent).toMatch(/antifreeze of 20 mL, 4\d % \(worked out\)/u);
    expect(container.textContent).toMatch(/first ice below −2\d °C/u);
  });

  it("closes, and is nothing for what is not on the map", async () => {
    const close = vi.fn<() => void>();
    await plate("heater", ME, close);
    fireEvent.click(screen.getByRole("button", { name: "Close the plate" }));
    expect(close).toHaveBeenCalledOnce();
    cleanup();
    expect((await plate("no-such-part")).container.textContent).toBe("");
  });
});
