import type { OutcomeName } from "./record.ts";

/** Places of a unit that nothing may be closed up over before they have held. */

/** A test as far as its hold points go. */
export interface HoldPointTest {
  readonly id: string;
  readonly outcome: OutcomeName;
  readonly holdPoints: readonly string[];
  readonly holdAt: readonly string[];
  readonly retestOf: string | null;
}

/** Tests that have not passed and that no later test of the same has passed for them. */
const notPassed = <T extends Pick<HoldPointTest, "id" | "outcome" | "retestOf">>(
  tests: readonly T[],
): T[] => {
  const passed = new Set(tests.filter((t) => t.outcome === "tight").map((t) => t.id));
  const isPassed = (id: string, seen = new Set<string>()): boolean => {
    if (passed.has(id)) return true;
    seen.add(id);
    return tests.some((t) => t.retestOf === id && !seen.has(t.id) && isPassed(t.id, seen));
  };
  return tests.filter((t) => !isPassed(t.id));
};

/** What may not be closed yet: the hold points of every test that has not passed. */
export const openHoldPoints = (tests: readonly Omit<HoldPointTest, "holdAt">[]): string[] => [
  ...new Set(notPassed(tests).flatMap((t) => t.holdPoints)),
];

/** Parts that lie behind what may not be closed yet, each with what stays open before it. */
export const heldOpenAt = (tests: readonly HoldPointTest[]): ReadonlyMap<string, string> =>
  new Map(
    notPassed(tests).flatMap((t) =>
      t.holdAt.map((part) => [part, t.holdPoints.join(", ")] as const),
    ),
  );
