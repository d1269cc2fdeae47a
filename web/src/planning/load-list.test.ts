import { describe, expect, it } from "vitest";
import { loadList } from "./load-list.ts";

describe("what to load for several jobs", () => {
  it("names each thing once, by the words that say most of it", () => {
    expect(
      loadList([
        "Refractometer",
        "For the heater: 27 mm socket; thread tape",
        "Refractometer",
        "For the heater: 27 mm socket; thread tape, a rod in case it is used up",
      ]),
    ).toEqual([
      "Refractometer",
      "For the heater: 27 mm socket; thread tape, a rod in case it is used up",
    ]);
  });

  it("keeps what only looks alike", () => {
    const two = ["Socket 24 mm", "Socket 27 mm"];
    expect(loadList(two)).toEqual(two);
  });
});
