import type { FindingOnFile } from "@uppershed/contract";
import { screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { json } from "../testing/device.ts";
import { mapOf, ME, show } from "../testing/house.tsx";
import { FindingSheet } from "./finding-sheet.tsx";

const UNIT = "00000000-0000-4000-8000-0000000000cc";
const AT = "2026-10-14T09:00:00.000Z";
const finding: FindingOnFile = {
  id: "00000000-0000-4000-8000-0000000000f1",
  unitId: UNIT,
  unitName: "Teasel",
  visitId: null,
  mapRevision: 1,
  partId: null,
  place: "bow",
  what: "Hose cracked",
  severity: "wears",
  cause: "",
  advice: "",
  partsNeeded: "",
  minutes: null,
  state: "open",
  foundAt: AT,
  foundBy: "R. Amadi",
  entries: [],
};
const open = (f: FindingOnFile) =>
  show(
    <FindingSheet
      of={{ unitId: UNIT, visitId: null, mapRevision: 1 }}
      finding={f}
      map={mapOf("teasel")}
      onClose={() => undefined}
    />,
  );

afterEach(() => {
  vi.unstubAllGlobals();
});

describe("a finding's sheet", () => {
  it("names what is kept of it and has no effect, with the reason", async () => {
    vi.stubGlobal("fetch", (input: Request) =>
      Promise.resolve(input.url.endsWith("/me") ? json(200, ME) : json(200, { pictures: [] })),
    );
    const lost = {
      id: "00000000-0000-4000-8000-0000000000e1",
      at: AT,
      by: "T. Brookes",
      type: "mended",
      problem: "It is mended already.",
    };
    const { unmount } = await open({ ...finding, withoutEffect: [lost] });
    const beside = screen.getByRole("region", { name: "Without effect" });
    expect(beside.textContent).toMatch(
      /1 entry has no effect on this finding.*“mended”, T\. Brookes.*It is mended already\./u,
    );
    unmount();
    await open(finding);
    expect(screen.queryByRole("region", { name: "Without effect" })).toBeNull();
  });
});
