import type { NumberStyle } from "./numbers.ts";

/** How a workshop measures and writes numbers, as one word: "us", "metric.comma", "imperial.F.point". */

export const UNIT_BASES = ["us", "metric", "imperial"] as const;
export type UnitBase = (typeof UNIT_BASES)[number];

const DEGREES = ["", ".C", ".F"] as const;
const MARKS = ["", ".point", ".comma"] as const;

export type UnitSystem = `${UnitBase}${(typeof DEGREES)[number]}${(typeof MARKS)[number]}`;

/** Every way there is. Without a degree it is the system's own; without a mark, the system's own where it has one. */
export const UNIT_SYSTEMS: readonly UnitSystem[] = UNIT_BASES.flatMap((base) =>
  DEGREES.flatMap((degree) => MARKS.map((mark) => `${base}${degree}${mark}` as const)),
);

export interface Measures {
  readonly base: UnitBase;
  readonly degrees: "C" | "F";
  /** Which mark is the decimal one; where nobody said and the system has none of its own, what can be read two ways is asked about. */
  readonly mark: NumberStyle | undefined;
}

const known = new Map<UnitSystem, Measures>();

/** What the word says. English-speaking systems have a decimal point and commas for thousands. */
export const measuresOf = (system: UnitSystem): Measures => {
  const there = known.get(system);
  if (there) return there;
  const [base = "metric", ...rest] = system.split(".");
  const measures: Measures = {
    base: base as UnitBase,
    degrees: rest.includes("F") || (base === "us" && !rest.includes("C")) ? "F" : "C",
    mark: rest.includes("comma")
      ? "comma"
      : rest.includes("point") || base !== "metric"
        ? "point"
        : undefined,
  };
  known.set(system, measures);
  return measures;
};

/** The word for what is chosen; what a system has by itself is not said. */
export const systemOf = (
  base: UnitBase,
  degrees: "C" | "F",
  mark: NumberStyle | undefined,
): UnitSystem => {
  const own = measuresOf(base);
  const degree = degrees === own.degrees ? "" : (`.${degrees}` as const);
  const written = mark === own.mark || mark === undefined ? "" : (`.${mark}` as const);
  return `${base}${degree}${written}`;
};
