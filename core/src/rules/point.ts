import type { Dimension } from "../quantity/index.ts";

/** A question on which able people do different things, each for a reason: the workshop chooses, and what it chose is printed. */
interface School {
  readonly value: string;
  readonly says: string;
  /** Why people do it so. */
  readonly because: string;
  /** What it costs: time, product, tools. */
  readonly costs: string;
  /** The risk that is left when all went well. */
  readonly leaves: string;
}

interface PointCommon {
  /** "winter.medium" */
  readonly key: string;
  readonly section: RuleSection;
  readonly question: string;
  /** What goes by it today; empty where nothing does yet. */
  readonly goesBy: string;
}

export interface ChoicePoint extends PointCommon {
  readonly schools: readonly School[];
  readonly standard: string;
}

export interface NumberPoint extends PointCommon {
  readonly is: Dimension | "number";
  /** Of a plain number. */
  readonly unit?: string;
  /** SI, or the plain number. */
  readonly standard: number;
  readonly low: number;
  readonly high: number;
  readonly source: string;
}

export type RulePoint = ChoicePoint | NumberPoint;

export const RULE_SECTIONS = [
  "Winterizing",
  "Heater",
  "Air",
  "Antifreeze",
  "Spring and sanitizing",
  "Pressure tests",
  "Supply and use",
  "Waste",
  "Joints and materials",
  "Keeping and countersigning",
] as const;
export type RuleSection = (typeof RULE_SECTIONS)[number];

export const isChoice = (point: RulePoint): point is ChoicePoint => "schools" in point;

/** Where figures come from that trade goes by without a book. */
export const PRACTICE = "common practice, no source";
export const OURS = "our own choice";

type SchoolRow = readonly [
  value: string,
  says: string,
  because: string,
  costs: string,
  leaves: string,
];

/** A point with its schools; the first is the house's where nobody chose. */
export const choice = (
  section: RuleSection,
  key: string,
  question: string,
  goesBy: string,
  rows: readonly [SchoolRow, ...SchoolRow[]],
): ChoicePoint => ({
  key,
  section,
  question,
  goesBy,
  standard: rows[0][0],
  schools: rows.map(([value, says, because, costs, leaves]) => ({
    value,
    says,
    because,
    costs,
    leaves,
  })),
});
