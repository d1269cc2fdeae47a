import { z } from "zod";
import { formatQuantity, inMark, type UnitSystem } from "../quantity/index.ts";
import { PRODUCT_POINTS } from "./antifreeze.ts";
import { isChoice, RULE_SECTIONS, type RulePoint } from "./point.ts";
import { USE_POINTS } from "./use.ts";
import { WINTER_POINTS } from "./winter.ts";

const ALL: readonly RulePoint[] = [...WINTER_POINTS, ...PRODUCT_POINTS, ...USE_POINTS];

/** Every point of the house rules, in the order in which they are asked. */
export const RULE_POINTS: readonly RulePoint[] = RULE_SECTIONS.flatMap((section) =>
  ALL.filter((p) => p.section === section),
);

export type RuleValue = string | number;
/** What a workshop has chosen, by key; what it does not name is as it was shipped. */
export type RuleValues = Readonly<Record<string, RuleValue>>;

const pointSchema = (point: RulePoint): z.ZodType<RuleValue> =>
  isChoice(point)
    ? z.enum(point.schools.map((s) => s.value))
    : z.number().min(point.low, `at least ${point.low}`).max(point.high, `at most ${point.high}`);

/** What is kept of a workshop's choice: known keys only, every value in its range. */
export const ruleValuesSchema = z
  .strictObject(Object.fromEntries(RULE_POINTS.map((p) => [p.key, z.optional(pointSchema(p))])))
  .superRefine((values: Record<string, RuleValue | undefined>, context) => {
    const at = (key: string): number => Number(values[key] ?? RULE_STANDARDS[key]);
    const inOrder = (low: string, high: string): void => {
      if (at(low) > at(high))
        context.addIssue({
          code: "custom",
          path: [low],
          message: `above "${pointOf(high)?.question}"`,
        });
    };
    inOrder("supply.low", "supply.good");
    inOrder("supply.good", "supply.fail");
    inOrder("air.pressure", "air.ceiling");
    inOrder("sanitize.soak", "sanitize.latest");
  })
  .transform(
    (values) =>
      Object.fromEntries(
        Object.entries(values).filter(([, value]) => value !== undefined),
      ) as RuleValues,
  );

export const RULE_STANDARDS: RuleValues = Object.fromEntries(
  RULE_POINTS.map((p) => [p.key, p.standard]),
);

export const pointOf = (key: string): RulePoint | undefined =>
  RULE_POINTS.find((p) => p.key === key);

/** A value in words: what the school says, or the figure in the reader's units. */
export const ruleInWords = (key: string, value: RuleValue, units: UnitSystem): string => {
  const point = pointOf(key);
  if (!point) return String(value);
  if (isChoice(point)) return point.schools.find((s) => s.value === value)?.says ?? String(value);
  if (point.is !== "number") return formatQuantity(Number(value), point.is, units);
  return `${inMark(String(value), units)}${point.unit ? ` ${point.unit}` : ""}`;
};
