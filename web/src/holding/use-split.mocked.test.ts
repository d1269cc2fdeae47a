import { act, renderHook } from "@testing-library/react";
import type { PressureTest } from "@uppershed/core/hold";
import { afterEach, describe, expect, it, vi } from "vitest";
import { mapOf } from "../testing/house.tsx";

const asked = vi.hoisted(() => [] as { suspects: string[]; answer: (found: unknown) => void }[]);
vi.mock("../device/beside.ts", () => ({
  besideOf: () => ({
    split: ({ suspects }: { suspects: string[] }) =>
      new Promise((answer) => asked.push({ suspects, answer })),
  }),
}));
const { useSplit } = await import("./use-split.ts");

afterEach(() => {
  asked.length = 0;
});

const map = mapOf("teasel");
const planned = (): Pick<PressureTest, "plan"> =>
  ({ plan: { cells: [], lineup: {}, gaugeCell: "g" } }) as unknown as Pick<PressureTest, "plan">;
const answer = (split: unknown): Promise<void> =>
  act(async () => {
    asked.at(-1)?.answer(split);
  });

describe("which valves to shut next", () => {
  it("stays as it is where the same test is fetched again, and is asked anew where less is left", async () => {
    const { result, rerender } = renderHook(
      ({ test, suspects }) => useSplit(map, test, new Set(suspects)),
      { initialProps: { test: planned(), suspects: ["b", "a", "c"] } },
    );
    expect(result.current).toBeUndefined();
    expect(asked.at(-1)?.suspects).toEqual(["a", "b", "c"]);
    const found = { shut: ["v1"], near: ["a"], far: ["b", "c"] };
    await answer(found);
    expect(result.current).toEqual(found);
    rerender({ test: planned(), suspects: ["c", "b", "a"] });
    expect(result.current).toEqual(found);
    rerender({ test: planned(), suspects: ["b", "c"] });
    expect(result.current).toBeUndefined();
    await answer(undefined);
    // No valve parts what is left.
    expect(result.current).toBeNull();
  });

  it("asks nothing where one section is left", () => {
    const { result } = renderHook(() => useSplit(map, planned(), new Set(["a"])));
    expect(result.current).toBeNull();
    expect(asked).toEqual([]);
  });
});
