import { PART_KINDS } from "../watermap/index.ts";
import type { FindingSeverity } from "./lists.ts";

/** What a fault would do harm to, in the order in which it counts. */
export const TOUCHES = ["people", "frost", "water"] as const;
export type Touches = (typeof TOUCHES)[number];

/** Whatever is turned, opened or taken off in autumn: what fails there is found when it freezes. */
const TURNED_IN_AUTUMN: ReadonlySet<string> = new Set([
  "drain",
  "plug",
  "cap",
  "bowl",
  "valve",
  "selector",
  "check",
  "hose",
]);

/**
 * What a finding at a part touches, by what the part is: people, where it heats, keeps foul water or keeps it out of what is drunk, or where
 * the finding is unsafe; frost, where a winterizing counts on it; water, where clean water runs through it.
 * @param kind of the part; nothing where the finding is of no part on the map
 */
export const touchesOf = (
  kind: string | undefined,
  severity: FindingSeverity,
): readonly Touches[] => {
  const known = kind === undefined ? undefined : PART_KINDS.get(kind);
  const { role, controls = [], group } = known ?? {};
  const is: Readonly<Record<Touches, boolean>> = {
    people:
      severity === "unsafe" ||
      role?.energies !== undefined ||
      role?.vessel === "waste" ||
      role?.guard === "breaker" ||
      role?.guard === "regulator",
    frost: role?.vessel === "heater" || controls.some((c) => TURNED_IN_AUTUMN.has(c.role)),
    water: known !== undefined && group !== "waste",
  };
  return TOUCHES.filter((t) => is[t]);
};
