import type { Reading } from "@uppershed/contract";
import {
  againstHistory,
  type FromHistory,
  isComparable,
  type ReadingOf,
  readingKey,
} from "@uppershed/core/inspection";
import type { Dimension } from "@uppershed/core/quantity";
import { useUnits } from "../ui/units.ts";

/** What a unit itself has read before at a part and opening, and how a reading stands to that. */
export const fromHistory = (
  readings: readonly Reading[],
  of: ReadingOf,
  before: string | undefined,
  value: number | undefined,
  limit: number,
): FromHistory | undefined => {
  const key = readingKey(of);
  const earlier = readings.filter(
    (r) => r.key === key && isComparable(r.dimension) && (before === undefined || r.at < before),
  );
  return againstHistory(value, earlier, limit);
};

/** The same in words: said on the spot, and on the record. */
export const HistoryLine = ({
  found,
  dimension,
}: {
  found: FromHistory | undefined;
  dimension: Dimension;
}) => {
  const { q } = useUnits();
  if (!found) return null;
  const usual = `${q(found.middle, dimension)} (middle of ${found.of} earlier)`;
  if (!found.departs || found.share === undefined)
    return <span className="block text-[13.5px] text-muted">This unit’s own: {usual}</span>;
  const by = Number.isFinite(found.share) ? `${Math.round(Math.abs(found.share) * 100)} %` : "all";
  return (
    <span role="status" className="block border-l-4 border-rust bg-rust-soft px-2 text-[14px]">
      {found.share > 0 ? "More" : "Less"} than this unit’s own by {by}: {usual}. Read again, or note
      why.
    </span>
  );
};
