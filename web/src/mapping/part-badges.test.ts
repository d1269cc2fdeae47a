import type { FindingOnFile, PointLook, RegisteredPart } from "@uppershed/contract";
import { NO_LIFE } from "@uppershed/core/formats";
import { describe, expect, it } from "vitest";
import { heldOpenBy, partBadges } from "./part-badges.ts";

const part = (partId: string, more: Partial<RegisteredPart>): RegisteredPart => ({
  unitId: "u",
  unitName: "",
  partId,
  item: "",
  kind: "pump",
  name: partId,
  tag: "",
  place: "",
  onMap: true,
  life: NO_LIFE,
  dueOn: null,
  ...more,
});
const look = (partId: string, mark: PointLook["mark"]): PointLook => ({
  id: "l",
  key: `${partId}/x`,
  partId,
  pointId: "x",
  point: "x",
  mark,
  note: "",
  readings: [],
  at: "2026-10-01T09:00:00.000Z",
  by: "",
  visitId: null,
});
const finding = (partId: string, more: Partial<FindingOnFile>): FindingOnFile =>
  ({
    id: "f",
    partId,
    what: "Weeps",
    severity: "wears",
    state: "open",
    foundAt: "2026-10-01T09:00:00.000Z",
    ...more,
  }) as FindingOnFile;

describe("what stays open", () => {
  it("by a refit stands beside what stays open by a pressure test", () => {
    const held = heldOpenBy(
      [
        {
          id: "t",
          outcome: "running",
          holdPoints: ["panel"],
          holdAt: ["pump"],
          retestOf: null,
        },
      ],
      [{ heldOpen: [{ what: "lining", at: ["pump", "tap"] }] }],
    );
    expect([...held]).toEqual([
      ["pump", "panel, lining"],
      ["tap", "lining"],
    ]);
  });
});

describe("signs at parts", () => {
  it("show the worst of what is known, and say all of it", () => {
    const badges = partBadges(
      [
        part("pump", { life: { ...NO_LIFE, condition: "watch" } }),
        part("heater", { item: "anode", dueOn: "2026-01-01" }),
        part("tank", { dueOn: "2027-01-01", life: { ...NO_LIFE, condition: "good" } }),
      ],
      [look("pump", "bad"), look("tap", "good"), look("shower", "watch")],
      [finding("tap", { state: "mended" }), finding("toilet", { severity: "unsafe" })],
      "2026-11-25",
      new Map([
        ["pump", "panel under the sink"],
        ["elbow", "panel under the sink"],
      ]),
    );
    expect([...badges].map(([id, b]) => [id, b.sign])).toEqual([
      ["toilet", "bad"],
      ["pump", "bad"],
      ["shower", "watch"],
      ["heater", "due"],
      ["elbow", "held"],
    ]);
    expect(badges.get("pump")?.says).toBe(
      "bad on 1 Oct 2026; stays open until its pressure test has passed: panel under the sink; watch in the register",
    );
    expect(badges.get("heater")?.says).toContain("anode life over since 1 Jan 2026");
  });
});
