import type { Reading, UnitId, UnitRun } from "@uppershed/contract";
import {
  type Figure,
  jobOf,
  methodLabel,
  type Method,
  type Year,
  yearOnYear,
} from "@uppershed/core/procedure";
import { ArrowDown, ArrowUp } from "lucide-react";
import { useMemo } from "react";
import { Link, useParams } from "react-router";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useReadingsQuery, useUnitQuery, useUnitRunsQuery } from "../../store/api.ts";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { clock, dayOf } from "../../ui/words.ts";
import { BarLink } from "../../shell/bar-link.tsx";

/** Readings that were taken while a run was open. */
const during = (readings: readonly Reading[], run: UnitRun, kind: string): number[] =>
  readings.flatMap((r) =>
    r.kind === kind && r.at >= run.startedAt && r.at <= (run.closedAt ?? "9") ? [r.value] : [],
  );

const figuresOf = (runs: readonly UnitRun[], readings: readonly Reading[]): Year[] =>
  yearOnYear(
    runs
      .filter((r) => r.closedAt !== null && jobOf(r.summary) === "winterize")
      .map((run) => {
        const recovered = during(readings, run, "recovered");
        const strengths = during(readings, run, "strength");
        return {
          runId: run.id,
          at: run.startedAt,
          method: run.method,
          usedM3: run.summary.measuredUseM3,
          recoveredM3: recovered.length > 0 ? recovered.reduce((a, b) => a + b, 0) : null,
          strength: strengths.length > 0 ? Math.min(...strengths) : null,
          minutes: run.summary.minutes,
          holdsToC: run.summary.holdsToC,
        };
      }),
  );

const SAYS = { more: "more than before", less: "less than before" } as const;

const Cell = ({ year, figure, text }: { year: Year; figure: Figure; text: string | undefined }) => {
  const way = year.standsOut[figure];
  return (
    <td className={`px-3 py-2 text-right tabular-nums ${way ? "bg-rust-soft font-bold" : ""}`}>
      {text ?? <span className="text-muted">not measured</span>}
      {way && (
        <span className="ml-1 inline-flex items-center text-rust">
          {way === "more" ? <ArrowUp aria-hidden size={15} /> : <ArrowDown aria-hidden size={15} />}
          <span className="sr-only">, {SAYS[way]}</span>
        </span>
      )}
    </td>
  );
};

/** A unit's winterizings beside one another: what was used, what came out, how strong, how long, and what stands out. */
export const YearsScreen = () => {
  const { unitId = "" } = useParams();
  const { data: unit, error } = useUnitQuery(unitId);
  const { data: runs } = useUnitRunsQuery(unitId as UnitId);
  const { data: readings } = useReadingsQuery({ unitId: unitId });
  const { q, holds } = useUnits();
  useTitle(unit ? `Year on year, ${unit.name}` : "Year on year");
  const years = useMemo(
    () => (runs && readings ? figuresOf(runs, readings.readings) : undefined),
    [runs, readings],
  );
  if (!unit || !years) return <Waiting error={error} />;
  const some = years.some((y) => Object.keys(y.standsOut).length > 0);
  return (
    <div className="p-5">
      <InBar>
        <BarLink to={`/units/${unit.id}`}>
          <b>{unit.name}</b> · {unit.craft}
        </BarLink>
        <span className="text-[15px] opacity-90">Year on year</span>
      </InBar>
      <h1 className="text-[19px] font-bold">
        {years.length === 0
          ? "Nothing has been signed on this unit yet."
          : years.length === 1
            ? "The first that is signed here: there is nothing to hold it against yet."
            : some
              ? "What stands out against the years before is marked."
              : "Nothing stands out against the years before."}
      </h1>
      {years.length > 0 && (
        <div className="mt-3 overflow-x-auto">
          <table className="w-full min-w-[760px] text-[15px]">
            <thead>
              <tr className="border-b-2 border-green text-left">
                <th className="px-3 py-2">Begun</th>
                <th className="px-3 py-2">Method</th>
                <th className="px-3 py-2 text-right">Antifreeze, measured</th>
                <th className="px-3 py-2 text-right">Came out, measured</th>
                <th className="px-3 py-2 text-right">Weakest read</th>
                <th className="px-3 py-2 text-right">At work</th>
                <th className="px-3 py-2 text-right">Held to</th>
              </tr>
            </thead>
            <tbody>
              {years.map((y) => (
                <tr key={y.runId} className="border-b border-line">
                  <th scope="row" className="px-3 py-2 text-left font-semibold">
                    <Link to={`/records/${y.runId}`} className="underline">
                      {dayOf(y.at)}
                    </Link>
                  </th>
                  <td className="px-3 py-2">{methodLabel(y.method as Method)}</td>
                  <Cell
                    year={y}
                    figure="usedM3"
                    text={y.usedM3 === null ? undefined : q(y.usedM3, "volume")}
                  />
                  <Cell
                    year={y}
                    figure="recoveredM3"
                    text={y.recoveredM3 === null ? undefined : q(y.recoveredM3, "volume")}
                  />
                  <Cell
                    year={y}
                    figure="strength"
                    text={y.strength === null ? undefined : q(y.strength, "fraction")}
                  />
                  <Cell
                    year={y}
                    figure="minutes"
                    text={y.minutes === null ? undefined : `${clock(y.minutes)} h`}
                  />
                  <Cell year={y} figure="holdsToC" text={holds(y.holdsToC)} />
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <p className="mt-3 text-[14px] text-muted">
        Each is held against the middle of those before it by the same method; a quarter more or
        less, or 4 K, is marked.
      </p>
    </div>
  );
};
