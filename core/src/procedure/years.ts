/** A unit's winterizings year on year: what stands out against the ones before. */

export interface YearFigures {
  readonly runId: string;
  /** When it was begun, ISO. */
  readonly at: string;
  readonly method: string;
  readonly usedM3: number | null;
  readonly recoveredM3: number | null;
  /** The weakest strength that was read. */
  readonly strength: number | null;
  readonly minutes: number | null;
  readonly holdsToC: number | null;
}

const FIGURES = ["usedM3", "recoveredM3", "strength", "minutes", "holdsToC"] as const;
export type Figure = (typeof FIGURES)[number];

export interface Year extends YearFigures {
  /** Figures that depart from the middle of those before, and which way. */
  readonly standsOut: Readonly<Partial<Record<Figure, "more" | "less">>>;
}

// A figure that departs from the middle of those before by more than this is said (our own); temperatures by so many kelvins.
const DEPARTS_SHARE = 0.25;
const DEPARTS_K = 4;

const middle = (values: readonly number[]): number | undefined => {
  const sorted = values.toSorted((a, b) => a - b);
  const half = Math.floor(sorted.length / 2);
  return sorted.length % 2 === 1
    ? sorted[half]
    : sorted.length === 0
      ? undefined
      : ((sorted[half - 1] as number) + (sorted[half] as number)) / 2;
};

const departs = (figure: Figure, value: number, before: number): "more" | "less" | undefined => {
  const over = value - before;
  const bound = figure === "holdsToC" ? DEPARTS_K : Math.abs(before) * DEPARTS_SHARE;
  if (Math.abs(over) <= bound) return undefined;
  return over > 0 ? "more" : "less";
};

/** Newest first, each against those of the same method before it. */
export const yearOnYear = (all: readonly YearFigures[]): Year[] => {
  const byTime = all.toSorted((a, b) => (a.at < b.at ? -1 : 1));
  return byTime
    .map<Year>((now, i) => {
      const before = byTime.slice(0, i).filter((y) => y.method === now.method);
      const standsOut: Partial<Record<Figure, "more" | "less">> = {};
      for (const figure of FIGURES) {
        const value = now[figure];
        const usual = middle(before.flatMap((y) => y[figure] ?? []));
        const way =
          value === null || usual === undefined ? undefined : departs(figure, value, usual);
        if (way) standsOut[figure] = way;
      }
      return { ...now, standsOut };
    })
    .toReversed();
};
