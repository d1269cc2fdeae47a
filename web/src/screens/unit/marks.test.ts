import type { TestLine } from "@uppershed/contract";
import { describe, expect, it } from "vitest";
import { marksOf } from "./marks.ts";

const line = (more: Partial<TestLine>): TestLine => ({
  id: "3f0e2f5e-0a1b-4a57-9c6f-0e6b8f3a2d11",
  unitId: "u",
  unitName: "Haywain",
  visitId: null,
  mapRevision: 1,
  title: "Pressure side",
  outcome: "tight",
  at: "2026-05-25T09:00:00.000Z",
  endedAt: "2026-05-26T01:00:00.000Z",
  holdPoints: [],
  holdAt: [],
  retestOf: null,
  openedSince: null,
  ...more,
});

describe("the years of a unit", () => {
  it("have a mark for a pressure test on the day it ended, or began where it runs, with what it came to", () => {
    const marks = marksOf(
      [],
      [],
      [],
      [],
      [line({}), line({ outcome: "running", endedAt: null })],
      "2026-12-01",
    );
    expect(marks.map((m) => [m.day, m.says])).toEqual([
      ["2026-05-26", "pressure test, tight"],
      ["2026-05-25", "pressure test, running"],
    ]);
  });
});
