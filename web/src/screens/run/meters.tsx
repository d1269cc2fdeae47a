import { antifreezeUse, type FrostVerdict, type RunState, waterInLines } from "@uppershed/core";
import { useMemo } from "react";
import { useUnits } from "../../ui/units.ts";
import { useNow } from "../../ui/use-now.ts";
import { clock } from "../../ui/words.ts";

const MINUTE = 60_000;

const Meter = ({ label, children, roomy = false }: { label: string; children: React.ReactNode; roomy?: boolean }) => (
  <div className={`${roomy ? "hidden md:block " : ""}min-w-0 border-l border-line px-3 py-1.5 first:border-l-0 xl:px-4 xl:py-2`}>
    <dt className="text-[13px] text-muted">{label}</dt>
    <dd className="text-[14px] leading-snug xl:text-[15px]">{children}</dd>
  </div>
);

const Big = ({ children, rust = false }: { children: React.ReactNode; rust?: boolean }) => (
  <b className={`text-[21px] font-extrabold xl:text-[25px] leading-none ${rust ? "text-rust" : ""}`}>{children}</b>
);

const CORE = ["suction", "cold", "hot"] as const;

/** How much water is still in the lines, and where. */
const WetBar = ({ state }: { state: RunState }) => {
  const { q } = useUnits();
  const share = useMemo(() => {
    const sums = { suction: 0, cold: 0, hot: 0, capacity: 0 };
    state.network.cells.forEach((cell, i) => {
      const service = cell.run?.service;
      if (service !== "suction" && service !== "cold" && service !== "hot") return;
      sums.capacity += cell.capacityM3;
      const plugs = state.physical.contents[i]?.plugs ?? [];
      const glycol = plugs.reduce((s, p) => s + p.glycolM3, 0);
      const all = plugs.reduce((s, p) => s + p.glycolM3 + p.waterM3, 0);
      if (glycol <= 0.02 * all) sums[service] += all;
    });
    return sums;
  }, [state]);
  const dash = { suction: "var(--muted)", cold: "var(--water)", hot: "var(--rust)" };
  return (
    <svg aria-hidden viewBox="0 0 200 12" preserveAspectRatio="none" className="mt-1 h-3 w-full max-w-48 border border-ink">
      {
        CORE.reduce<{ x: number; bars: React.ReactNode[] }>(
          ({ x, bars }, service) => {
            const width = (200 * share[service]) / Math.max(share.capacity, 1e-9);
            return {
              x: x + width,
              bars: [
                ...bars,
                <rect key={service} x={x} y="0" width={width} height="12" fill={dash[service]}>
                  <title>{`${service} ${q(share[service], "volume")}`}</title>
                </rect>,
              ],
            };
          },
          { x: 0, bars: [] },
        ).bars
      }
    </svg>
  );
};

/** The strip of live meters. */
export const Meters = ({ state, verdict, startedAt }: { state: RunState; verdict: FrostVerdict; startedAt: string }) => {
  const { holds, q, parts } = useUnits();
  const now = useNow(MINUTE / 4);
  const use = antifreezeUse(state);
  const drawn = parts(use.usedM3 ?? use.workedOutM3, "volume");
  const left = parts(waterInLines(state, state.physical), "volume");
  const end = state.closed ? Date.parse(state.closed.at) : now;
  const bad = verdict.holdsToC !== null && verdict.holdsToC > state.setup.winterLowC;
  return (
    <dl className="grid grid-cols-2 border-t border-line bg-paper md:grid-cols-4 xl:grid-cols-[1.4fr_1.3fr_1fr_0.8fr]" aria-label="Meters">
      <Meter label={`Holds to, now (${verdict.weakest?.source ?? "worked out"})`}>
        <Big rust={bad}>{holds(verdict.holdsToC)}</Big>{" "}
        <span className="text-muted">{verdict.weakest?.name ?? "nothing aboard has a limit"}</span>
        {state.todo.length > 0 && <span className="block text-[13px] text-muted">{holds(state.plan.holdsToC)} when done</span>}
      </Meter>
      <Meter label={use.usedM3 === undefined ? "Antifreeze drawn (worked out)" : "Antifreeze used (measured)"}>
        <Big>{drawn.value}</Big>{" "}
        <span className="text-muted">
          {drawn.unit} of {q(state.firstPlan.antifreeze.medianM3, "volume")}, allow {q(state.firstPlan.antifreeze.p90M3, "volume")}
        </span>
      </Meter>
      <Meter label="Water in the lines (worked out)" roomy>
        <Big>{left.value}</Big> <span className="text-muted">{left.unit}</span>
        <WetBar state={state} />
      </Meter>
      <Meter label="On the clock" roomy>
        <Big>{clock(Math.max(0, (end - Date.parse(startedAt)) / MINUTE))}</Big>{" "}
        <span className="text-muted">of {clock(state.firstPlan.minutes)}</span>
      </Meter>
    </dl>
  );
};
