/** What a unit itself has read before: a reading that departs from it is said, whatever the trade would expect. */

export interface Earlier {
  readonly value: number;
  /** ISO. */
  readonly at: string;
}

export interface FromHistory {
  /** Middle one of the earlier readings, SI. */
  readonly middle: number;
  /** How many it is the middle of. */
  readonly of: number;
  /** By how much the reading differs, as a share of the middle; nothing where there is nothing to compare it with. */
  readonly share: number | undefined;
  /** Whether that is more than the house lets pass. */
  readonly departs: boolean;
}

// Older than the last five a unit may have been another: pipes are laid anew.
const MOST = 5;
// One earlier reading alone is no history.
const LEAST = 2;

/** Whether a share of a figure says anything: degrees begin nowhere. */
export const isComparable = (dimension: string): boolean => dimension !== "temperature";

/**
 * Holds a reading against the same one of earlier visits.
 * @param value SI; none where nothing was read yet: then only what was before is told
 * @param earlier of the same part, opening and kind, in any order
 * @param limit from which share on it departs, 0 to 1
 * @returns nothing where there is no history
 */
export const againstHistory = (
  value: number | undefined,
  earlier: readonly Earlier[],
  limit: number,
): FromHistory | undefined => {
  if (earlier.length < LEAST) return undefined;
  const last = earlier
    .toSorted((a, b) => b.at.localeCompare(a.at))
    .slice(0, MOST)
    .map((e) => e.value)
    .toSorted((a, b) => a - b);
  const half = Math.floor(last.length / 2);
  const middle =
    last.length % 2 === 1 ? (last[half] ?? 0) : ((last[half - 1] ?? 0) + (last[half] ?? 0)) / 2;
  const share =
    value === undefined
      ? undefined
      : middle === 0
        ? value === 0
          ? 0
          : Infinity
        : value / middle - 1;
  return {
    middle,
    of: last.length,
    share,
    departs: share !== undefined && Math.abs(share) > limit + 1e-9,
  };
};
