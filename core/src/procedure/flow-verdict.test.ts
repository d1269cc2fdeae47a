import { describe, expect, it } from "vitest";
import { flowVerdict } from "./flow-verdict.ts";

const read = (...all: [string, number][]) =>
  all.map(([name, lPerMin]) => ({
    name,
    isHot: name.endsWith("hot"),
    m3PerS: (lPerMin * 1e-3) / 60,
  }));

describe("flows read at the outlets", () => {
  it("one weak among strong ones is its own screen", () => {
    expect(
      flowVerdict(read(["galley, cold", 7], ["basin, cold", 2], ["shower, cold", 6.5])),
    ).toEqual([expect.stringMatching(/^basin, cold gives less than half/u)]);
  });
  it("all hot ones weak is the heater, and none of them is blamed by itself", () => {
    expect(
      flowVerdict(
        read(["a, cold", 7], ["b, cold", 7], ["c, cold", 6], ["a, hot", 2], ["b, hot", 2.2]),
      ),
    ).toEqual(["All hot outlets are weak: the heater, its valves or its check."]);
  });
  it("weak alike is the pump's side; good alike, and two alone, say nothing", () => {
    expect(flowVerdict(read(["a", 2], ["b", 2.1], ["c", 1.9]))).toEqual([
      expect.stringMatching(/^Weak everywhere/u),
    ]);
    expect(flowVerdict(read(["a", 7], ["b", 6], ["c", 8]))).toEqual([]);
    expect(flowVerdict(read(["a", 7], ["b", 1]))).toEqual([]);
  });
});
