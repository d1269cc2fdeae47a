import type { UnitId } from "@uppershed/contract";
import type { FromHistory } from "@uppershed/core/inspection";
import {
  antifreezeUse,
  type AskedBody,
  readingOf,
  type RunReading,
  type RunState,
} from "@uppershed/core/procedure";
import { RulesUsed } from "../../planning/rules-used.tsx";
import { useRule } from "../../planning/use-rule.ts";
import { fromHistory, HistoryLine } from "../../run/own-history.tsx";
import { dimensionOf } from "../../run/read-value.ts";
import { useReadingsQuery } from "../../store/api.ts";
import { useUnits } from "../../ui/units.ts";
import { CorrectReading } from "./correct.tsx";

const Line = ({ label, children }: { label: string; children: React.ReactNode }) => (
  <div className="border-b border-line py-1.5">
    <dt className="text-[13px] text-muted">{label}</dt>
    <dd className="text-[15px]">{children}</dd>
  </div>
);

/** A reading as it stands, what stood there before, and a way to correct it. */
const Read = ({
  reading,
  title,
  found,
  add,
}: {
  reading: RunReading;
  title: string;
  /** How it stands to what this unit read before. */
  found: FromHistory | undefined;
  add?: Add | undefined;
}) => {
  const { q } = useUnits();
  return (
    <li className="flex items-start justify-between gap-2">
      <span>
        {title}: <b>{reading.typed}</b>
        {reading.instrument && <span className="text-muted"> with {reading.instrument}</span>}
        {reading.expected !== undefined && reading.kind === "recovered" && (
          <span className="text-muted"> of {q(reading.expected, "volume")} worked out</span>
        )}
        {reading.earlier.map((e) => (
          <span key={e.typed + e.reason} className="text-muted">
            {" "}
            (was {e.typed}: {e.reason})
          </span>
        ))}
        {found?.departs === true && (
          <HistoryLine found={found} dimension={dimensionOf(reading.kind)} />
        )}
      </span>
      {add && <CorrectReading reading={reading} add={add} />}
    </li>
  );
};

type Add = (body: AskedBody) => Promise<string | undefined>;

/** What was used and what was read; with a way to add to the run, each reading can be corrected. */
export const Figures = ({
  state,
  unitId,
  begun,
  add,
}: {
  state: RunState;
  unitId: UnitId;
  /** When it was begun: what was read before is compared with. */
  begun: string;
  add?: Add;
}) => {
  const { q } = useUnits();
  const { data } = useReadingsQuery({ unitId });
  const limit = Number(useRule("reading.departure"));
  const foundFor = (r: RunReading): FromHistory | undefined =>
    data && fromHistory(data.readings, readingOf(state.network, r), begun, r.si, limit);
  const use = antifreezeUse(state);
  const { product } = state.setup;
  const strengths = state.readings.filter((r) => r.kind === "strength");
  const others = state.readings.filter((r) => r.kind !== "strength");
  const titleOf = (r: RunReading): string =>
    state.done.find((d) => d.step.id === r.stepId)?.step.title ?? r.label;
  return (
    <dl className="mt-4 md:mt-0">
      <Line label="Antifreeze">
        {product.name}, {Math.round(product.strength * 100)} %
        {product.lot ? `, ${product.lot}` : ", lot not written down"}
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
          {state.firstPlan
            ? `planned ${q(state.firstPlan.antifreeze.medianM3, "volume")}, allowed ${q(state.firstPlan.antifreeze.p90M3, "volume")}`
            : "nothing was planned yet"}
        </span>
      </Line>
      <Line label="Strength read (measured)">
        {strengths.length === 0 ? (
          <b>strength not read</b>
        ) : (
          <ul>
            {strengths.map((r) => (
              <Read
                key={r.event}
                reading={r}
                found={foundFor(r)}
                title={titleOf(r).split(":")[0] ?? r.label}
                add={add}
              />
            ))}
          </ul>
        )}
      </Line>
      {others.length > 0 && (
        <Line label="Caught and measured">
          <ul>
            {others.map((r) => (
              <Read
                key={r.event}
                reading={r}
                found={foundFor(r)}
                title={r.kind.startsWith("antifreeze") ? r.label : titleOf(r)}
                add={add}
              />
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
      <Line label="House rules">
        <RulesUsed setup={state.setup} />
      </Line>
    </dl>
  );
};
