import type { UnitRun, UnitState } from "@uppershed/contract";
import { jobOf, jobWork } from "@uppershed/core/procedure";
import { Link } from "react-router";
import { useUnits } from "../../ui/units.ts";
import { dayOf } from "../../ui/words.ts";

/** What the map shows, when no day is chosen. */
export type Chosen =
  | { readonly what: "now" }
  | { readonly what: "run"; readonly runId: string }
  | { readonly what: "in use" };
export const NOW: Chosen = { what: "now" };

/** Along the foot: what the map shows, and the unit's records on it. */
export const RunStrip = ({
  runs,
  state,
  chosen,
  onChoose,
}: {
  runs: readonly UnitRun[];
  state: UnitState;
  chosen: Chosen | undefined;
  onChoose: (what: Chosen) => void;
}) => {
  const { holds } = useUnits();
  const oldestFirst = runs.toReversed();
  const chip = (on: boolean): string =>
    `min-h-11 rounded border-[1.5px] px-3 text-[14px] ${on ? "border-green bg-green text-on-green" : "border-line bg-raised hover:bg-green-soft"}`;
  return (
    <div
      role="group"
      aria-label="The map shows"
      className="flex flex-wrap items-center gap-2 px-5 py-2"
    >
      <span className="text-[14px] text-muted">The map shows</span>
      {oldestFirst.map((run) => (
        <span key={run.id} className="flex items-center">
          {run.closedAt && (
            <button
              type="button"
              aria-pressed={chosen?.what === "run" && chosen.runId === run.id}
              className={chip(chosen?.what === "run" && chosen.runId === run.id)}
              onClick={() => onChoose({ what: "run", runId: run.id })}
            >
              {jobOf(run.summary) === "winterize"
                ? `as left ${dayOf(run.closedAt)}, ${holds(run.summary.holdsToC)}`
                : `${jobWork(run.summary.job)} ${dayOf(run.closedAt)}`}
            </button>
          )}
          {run.closedAt && (
            <Link
              to={`/records/${run.id}`}
              className="flex min-h-11 items-center px-2 text-[14px] text-green underline"
            >
              signed sheet
            </Link>
          )}
        </span>
      ))}
      <button
        type="button"
        aria-pressed={chosen?.what === "now"}
        className={chip(chosen?.what === "now")}
        onClick={() => onChoose(NOW)}
      >
        {state.kind === "in-work"
          ? "as it is in the work now"
          : state.kind === "in-use"
            ? "as it is: in use, full of water"
            : "as it is now"}
      </button>
      {state.kind !== "in-use" && (
        <button
          type="button"
          aria-pressed={chosen?.what === "in use"}
          className={chip(chosen?.what === "in use")}
          onClick={() => onChoose({ what: "in use" })}
        >
          in use, full of water
        </button>
      )}
    </div>
  );
};
