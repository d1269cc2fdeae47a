import type { FindingOnFile } from "@uppershed/contract";
import { cleanup, fireEvent, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { show } from "../../testing/house.tsx";
import { FindingsByUnit } from "./by-unit.tsx";

afterEach(cleanup);

const finding = (
  id: string,
  unit: string,
  place: string,
  more: Partial<FindingOnFile> = {},
): FindingOnFile =>
  ({
    id,
    unitId: unit.toLowerCase(),
    unitName: unit,
    place,
    what: `Fault ${id}`,
    severity: "wears",
    state: "open",
    foundAt: "2026-10-28T09:00:00.000Z",
    advice: "",
    answer: null,
    mended: null,
    accepted: null,
    ...more,
  }) as FindingOnFile;

describe("findings by unit and place", () => {
  it("stand under their unit and their place, in the order that they were given, each once", async () => {
    const opened: string[] = [];
    await show(
      <FindingsByUnit
        findings={[
          finding("a", "Burdock", "service bay", {
            severity: "unsafe",
            advice: "New valve",
            touches: ["people", "frost"],
          }),
          finding("b", "Plover", "cuddy"),
          finding("c", "Burdock", ""),
          finding("d", "Burdock", "service bay", {
            state: "mended",
            mended: { at: "2026-10-29T09:00:00.000Z" } as FindingOnFile["mended"],
          }),
        ]}
        onOpen={(f) => opened.push(f.id)}
      />,
    );
    expect(screen.getAllByRole("heading", { level: 2 }).map((h) => h.textContent)).toEqual([
      "Burdock",
      "Plover",
    ]);
    const burdock = within(screen.getByRole("region", { name: "Burdock" }));
    expect(burdock.getAllByRole("heading", { level: 3 }).map((h) => h.textContent)).toEqual([
      "Service bay",
      "Place not said",
    ]);
    expect(burdock.getByText("1 unsafe, 1 wears")).toBeTruthy();
    expect(burdock.getByText("Advised: New valve")).toBeTruthy();
    expect(burdock.getByText("Touches people, frost")).toBeTruthy();
    expect(burdock.getAllByRole("button")).toHaveLength(3);
    expect(burdock.getByRole("link", { name: "On its map" }).getAttribute("href")).toBe(
      "/units/burdock/map",
    );
    fireEvent.click(burdock.getByRole("button", { name: /Fault d/u }));
    expect(opened).toEqual(["d"]);
  });
});
