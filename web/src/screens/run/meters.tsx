import { type Verdict } from "@uppershed/core/contents";
import { antifreezeUse, linesNow, type RunState } from "@uppershed/core/procedure";
import { useMemo } from "react";
import { WetBar } from "../../drawing/wet-bar.tsx";
import { useUnits } from "../../ui/units.ts";
import { useNow } from "../../ui/use-now.ts";
import { clock } from "../../ui/words.ts";
import { Big, Meter } from "./meter.tsx";

const MINUTE = 60_000;

/** The strip of live meters. */
export const Meters = ({
  state,
  verdict,
  startedAt,
}: {
  state: RunState;
  verdict: Verdict;
  startedAt: string;
}) => {
  const { holds, q, parts } = useUnits();
  const now = useNow(MINUTE / 4);
  const { plan, firstPlan } = state;
  const use = antifreezeUse(state);
  const drawn = parts(use.usedM3 ?? use.workedOutM3, "volume");
  const wet = useMemo(() => linesNow(state), [state]);
  const left = parts(wet.totalM3, "volume");
  const end = state.closed ? Date.parse(state.closed.at) : now;
  const bad = verdict.holdsToC !== null && verdict.holdsToC > state.setup.winterLowC;
  return (
    <dl
      className="grid grid-cols-2 border-t border-line bg-paper md:grid-cols-4 xl:grid-cols-[1.35fr_1.3fr_1.15fr_0.7fr]"
      aria-label="Meters"
    >
      <Meter label={`Holds to, now (${verdict.weakest?.source ?? "worked out"})`}>
        <Big rust={bad}>{holds(verdict.holdsToC)}</Big>{" "}
        <span className="text-muted">{verdict.weakest?.name ?? "nothing aboard has a limit"}</span>
        {plan && plan.cannotTell.length > 0 && (
          <span className="block text-[13px] text-rust">
            cannot tell for {[...new Set(plan.cannotTell.map((d) => d.becauseName))].join(", ")}
          </span>
        )}
        {plan && state.todo.length > 0 && (
          <span className="block text-[13px] text-muted">{holds(plan.holdsToC)} when done</span>
        )}
      </Meter>
      <Meter
        label={
          use.usedM3 === undefined ? "Antifreeze drawn (worked out)" : "Antifreeze used (measured)"
        }
      >
        <Big>{drawn.value}</Big>{" "}
        <span className="text-muted">
          {drawn.unit}
          {firstPlan &&
            ` of ${q(firstPlan.antifreeze.medianM3, "volume")}, allow ${q(firstPlan.antifreeze.p90M3, "volume")}`}
        </span>
      </Meter>
      <Meter label="Water in lines (worked out)" roomy>
        <Big>{left.value}</Big> <span className="text-muted">{left.unit}</span>
        <WetBar wet={wet} />
      </Meter>
      <Meter label="On the clock" roomy>
        <Big>{clock(Math.max(0, (end - Date.parse(startedAt)) / MINUTE))}</Big>
        {firstPlan && (
          <span className="block text-[13px] text-muted">
            of {clock(firstPlan.minutes)}, estimated
          </span>
        )}
      </Meter>
    </dl>
  );
};
