import type { RegisteredPart } from "@uppershed/contract";
import { NO_LIFE } from "@uppershed/core/formats";
import { describe, expect, it } from "vitest";
import { lifeWords } from "./life-words.ts";

const line = (more: Partial<RegisteredPart>): RegisteredPart => ({
  unitId: "00000000-0000-4000-8000-000000000001",
  unitName: "Teasel",
  partId: "heater",
  item: "",
  kind: "storage-heater",
  name: "Heater",
  tag: "",
  place: "",
  onMap: true,
  life: NO_LIFE,
  dueOn: null,
  ...more,
});

describe("a part's life in words", () => {
  const today = "2026-11-25";
  it("says when it was fitted, how long ago, when its life is over and how it was found", () => {
    const heater = line({
      life: { ...NO_LIFE, fittedOn: "2020-05-01", condition: "watch", serial: "H9" },
      dueOn: "2026-05-01",
    });
    const anode = line({
      item: "anode",
      life: { ...NO_LIFE, fittedOn: "2026-01-25" },
      dueOn: "2028-01-25",
    });
    expect(lifeWords([heater, anode], "heater", today)).toEqual([
      {
        label: "Kept of it",
        words: "serial H9; fitted 1 May 2020, 6 years ago; life over since 1 May 2026; watch",
      },
      { label: "Anode", words: "fitted 25 Jan 2026, 10 months ago; life over 25 Jan 2028" },
    ]);
  });
  it("says nothing of what it does not know, and nothing of other parts", () => {
    expect(lifeWords([line({})], "heater", today)).toEqual([]);
    expect(lifeWords([line({ life: { ...NO_LIFE, serial: "X" } })], "pump", today)).toEqual([]);
  });
});
