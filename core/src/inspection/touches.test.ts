import { describe, expect, it } from "vitest";
import { PART_KINDS } from "../watermap/index.ts";
import { touchesOf } from "./touches.ts";

describe("what a finding touches", () => {
  it.each([
    ["storage-heater", "wears", ["people", "frost", "water"]],
    ["low-point-drain", "will-fail", ["frost", "water"]],
    ["mixer-tap", "wears", ["water"]],
    ["tee", "wears", ["water"]],
    ["waste-tank", "wears", ["people", "frost"]],
    ["pressure-regulator", "wears", ["people", "water"]],
  ] as const)("%s, %s: %j", (kind, severity, touches) => {
    expect(PART_KINDS.has(kind)).toBe(true);
    expect(touchesOf(kind, severity)).toEqual(touches);
  });

  it("is people wherever it is unsafe, and nothing that is made up where no part is named", () => {
    expect(touchesOf("tee", "unsafe")).toEqual(["people", "water"]);
    expect(touchesOf(undefined, "unsafe")).toEqual(["people"]);
    expect(touchesOf(undefined, "wears")).toEqual([]);
    expect(touchesOf("no such kind", "note")).toEqual([]);
  });
});
