import { antifreezeUse, type RunState } from "@uppershed/core";
import { useUnits } from "../../ui/units.ts";

const Line = ({ label, children }: { label: string; children: React.ReactNode }) => (
  <div className="border-b border-line py-1.5">
    <dt className="text-[13px] text-muted">{label}</dt>
    <dd className="text-[15px]">{children}</dd>
  </div>
);

/** What was used and what was read. */
export const Figures = ({ state }: { state: RunState }) => {
  const { q } = useUnits();
  const use = antifreezeUse(state);
  const { product } = state.setup;
  const strengths = state.readings.filter((r) => r.kind === "strength");
  const others = state.readings.filter((r) => r.kind === "recovered" || r.kind === "temperature");
  return (
    <dl className="mt-4 md:mt-0">
      <Line label="Antifreeze">
        {product.name}, {Math.round(product.strength * 100)} %{product.lot ? `, ${product.lot}` : ", lot not written down"}
      </Line>
      <Line label="Used">
        {use.usedM3 !== undefined ? (
          <>
            <b>{q(use.usedM3, "volume")}</b> measured; {q(use.workedOutM3, "volume")} worked out
          </>
        ) : (
          <>
            <b>{q(use.workedOutM3, "volume")}</b> worked out; what was left was not measured
          </>
        )}
        <br />
        <span className="text-muted">
          planned {q(state.firstPlan.antifreeze.medianM3, "volume")}, allowed {q(state.firstPlan.antifreeze.p90M3, "volume")}
        </span>
      </Line>
      <Line label="Strength read (measured)">
        {strengths.length === 0 ? (
          <b>strength not read</b>
        ) : (
          <ul>
            {strengths.map((r) => (
              <li key={r.event}>
                {state.done.find((d) => d.step.id === r.stepId)?.step.title.split(":")[0] ?? r.label}: <b>{r.typed}</b>
                {r.earlier.map((e) => (
                  <span key={e.typed + e.reason} className="text-muted">
                    {" "}
                    (was {e.typed}: {e.reason})
                  </span>
                ))}
              </li>
            ))}
          </ul>
        )}
      </Line>
      {others.length > 0 && (
        <Line label="Caught and measured">
          <ul>
            {others.map((r) => (
              <li key={r.event}>
                {state.done.find((d) => d.step.id === r.stepId)?.step.title ?? r.label}: <b>{r.typed}</b>
                {r.expected !== undefined && r.kind === "recovered" && (
                  <span className="text-muted"> of {q(r.expected, "volume")} worked out</span>
                )}
              </li>
            ))}
          </ul>
        </Line>
      )}
      <Line label="Protected means">
        {state.setup.basis === "by-part"
          ? "nothing bursts in pipe; no ice in pump, bowl and cartridges"
          : state.setup.basis === "burst"
            ? "nothing bursts"
            : "no ice anywhere"}
      </Line>
    </dl>
  );
};
