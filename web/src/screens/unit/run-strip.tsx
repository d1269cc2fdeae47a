import type { UnitRun } from "@uppershed/contract";
import { Link } from "react-router";
import { useUnits } from "../../ui/units.ts";
import { dayOf } from "../../ui/words.ts";

/** Along the foot: what the map shows, and the unit's records on it. */
export const RunStrip = ({
  runs,
  chosen,
  onChoose,
}: {
  runs: readonly UnitRun[];
  chosen: string | undefined;
  onChoose: (id: string | undefined) => void;
}) => {
  const { holds } = useUnits();
  const oldestFirst = runs.toReversed();
  const chip = (on: boolean): string =>
    `min-h-11 rounded border-[1.5px] px-3 text-[14px] ${on ? "border-green bg-green text-on-green" : "border-line bg-raised hover:bg-green-soft"}`;
  return (
    <div role="group" aria-label="The map shows" className="flex flex-wrap items-center gap-2 px-5 py-2">
      <span className="text-[14px] text-muted">The map shows</span>
      {oldestFirst.map((run) => (
        <span key={run.id} className="flex items-center">
          <button type="button" aria-pressed={chosen === run.id} className={chip(chosen === run.id)} onClick={() => onChoose(run.id)}>
            {run.closedAt ? `as left ${dayOf(run.closedAt)}, ${holds(run.summary.holdsToC)}` : "as it is in the work now"}
          </button>
          {run.closedAt && (
            <Link to={`/records/${run.id}`} className="flex min-h-11 items-center px-2 text-[14px] text-green underline">
              record
            </Link>
          )}
        </span>
      ))}
      <button type="button" aria-pressed={chosen === undefined} className={chip(chosen === undefined)} onClick={() => onChoose(undefined)}>
        in use, full of water
      </button>
    </div>
  );
};
