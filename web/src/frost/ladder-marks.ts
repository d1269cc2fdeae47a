import type { OwnerVerdict } from "@uppershed/core/contents";

/** A mark on the ladder: one or several parts that would be hurt at about the same temperature. */
export interface LadderMark {
  readonly temperatureC: number;
  readonly owners: readonly OwnerVerdict[];
  /** Place of the mark, and of its words after neighbours have been pushed apart; 0 at the top, 1 at the foot. */
  readonly at: number;
  readonly textAt: number;
}

export interface LadderScale {
  readonly topC: number;
  readonly footC: number;
  readonly ticks: readonly number[];
}

const TOP_C = 5;
const STEP_C = 10;

/** A scale that takes in the winter low and everything that has a limit. */
export const scaleFor = (temperatures: readonly number[], winterLowC: number): LadderScale => {
  const coldest = Math.min(winterLowC - 12, -30, ...temperatures);
  const footC = Math.floor((coldest - 2) / STEP_C) * STEP_C;
  const ticks = Array.from({ length: Math.floor(-footC / STEP_C) + 1 }, (_, i) =>
    i === 0 ? 0 : -i * STEP_C,
  );
  return { topC: TOP_C, footC, ticks };
};

export const placeOn = (scale: LadderScale, celsius: number): number =>
  Math.min(1, Math.max(0, (scale.topC - celsius) / (scale.topC - scale.footC)));

/** Pushes words apart that would lie on each other: each keeps its place or goes just below the one before. */
const spaced = (places: readonly number[], spacing: number): number[] =>
  places.reduce<number[]>(
    (all, at) => [...all, Math.max(at, (all.at(-1) ?? Number.NEGATIVE_INFINITY) + spacing)],
    [],
  );

/**
 * Places words of unlike height on a ladder: each at its mark or just below the one before, and where they would run over the foot, all
 * pushed up as far as that takes.
 * @param heights of each, as a share of the ladder's height
 */
export const spread = (places: readonly number[], heights: readonly number[]): number[] => {
  const tops: number[] = [];
  places.forEach((at, i) =>
    tops.push(i === 0 ? at : Math.max(at, (tops[i - 1] as number) + (heights[i - 1] as number))),
  );
  let foot = 1;
  for (let i = tops.length - 1; i >= 0; i--) {
    tops[i] = Math.max(0, Math.min(tops[i] as number, foot - (heights[i] as number)));
    foot = tops[i] as number;
  }
  return tops;
};

/** What is nearer to each other than this hangs from one mark. */
const TOGETHER_C = 2.5;

/** Gathers what hangs at about one temperature, warmest first. */
export const gathered = <T>(all: readonly T[], celsius: (one: T) => number): T[][] => {
  const groups: T[][] = [];
  for (const one of all.toSorted((a, b) => celsius(b) - celsius(a))) {
    const group = groups.at(-1);
    if (group?.[0] !== undefined && celsius(group[0]) - celsius(one) < TOGETHER_C) group.push(one);
    else groups.push([one]);
  }
  return groups;
};

/**
 * Hangs parts on the ladder: neighbours are gathered, words pushed apart, so that thirty parts can be read as well as three.
 * @param spacing least distance between two lines of words, as a share of the ladder's height
 */
export const hang = (
  owners: readonly OwnerVerdict[],
  scale: LadderScale,
  spacing: number,
): LadderMark[] => {
  const groups = gathered(
    owners.filter((o) => o.holdsToC !== null),
    (o) => o.holdsToC ?? 0,
  );
  const temperatures = groups.map((group) => group[0]?.holdsToC ?? 0);
  const places = temperatures.map((t) => placeOn(scale, t));
  const words = spaced(places, spacing);
  return groups.map((group, i) => ({
    temperatureC: temperatures[i] ?? 0,
    at: places[i] ?? 0,
    textAt: words[i] ?? 0,
    owners: group.sort((a, b) => b.rank - a.rank),
  }));
};
