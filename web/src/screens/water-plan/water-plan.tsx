import { type Job, JOB_NAMES, jobLabel, type Plan } from "@uppershed/core/procedure";
import { buildNetwork } from "@uppershed/core/watermap";
import { useCallback, useMemo, useState } from "react";
import { Navigate, useParams, useSearchParams } from "react-router";
import { BeginButton, useBeginning } from "../../planning/beginning.tsx";
import { Departures } from "../../planning/departures.tsx";
import { bottlesOf, useJobSetup } from "../../planning/house.ts";
import { PlanSteps } from "../../planning/plan-steps.tsx";
import { RulesUsed } from "../../planning/rules-used.tsx";
import { useBegins } from "../../planning/use-begins.ts";
import { useUnitMap } from "../../planning/use-map.ts";
import { useVisitFor } from "../../planning/use-visit-for.ts";
import { usePlan } from "../../planning/use-plan.ts";
import { BarLink } from "../../shell/bar-link.tsx";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useKitQuery, useUnitQuery } from "../../store/api.ts";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { ageOf, clock } from "../../ui/words.ts";
import { type Water, WaterForm } from "./water-form.tsx";

/** The working of a dose, line by line. */
const Working = ({ plan }: { plan: Plan }) => {
  const { text } = useUnits();
  const { water } = plan;
  if (!water || water.lines.length === 0) return null;
  return (
    <section aria-label="The dose">
      <h2 className="font-bold">The dose, worked out</h2>
      <dl className="text-[14px]">
        {water.lines.map((l) => (
          <div key={l.label} className="border-b border-line py-1">
            <dt className="text-muted">{l.label}</dt>
            <dd>{text(l.how)}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
};

const headline = (job: Job, plan: Plan, q: ReturnType<typeof useUnits>["q"]): string => {
  const { water } = plan;
  const filled = q(water?.filledM3 ?? 0, "volume");
  if (job === "spring")
    return `When done: in use on the tank, every outlet clear, heat released. ${filled} of water.`;
  return `${q(water?.bleachM3 ?? 0, "volume")} of bleach, ${filled} of water, rinsed with ${water?.refills ?? 0} tankful${water?.refills === 1 ? "" : "s"}.`;
};

/** The plan of a de-winterizing or a sanitizing of this unit: what it takes, its dose with the working, and its steps. */
export const WaterPlanScreen = () => {
  const { unitId = "", job: named = "" } = useParams();
  const job = JOB_NAMES.find((j) => j === named);
  return job === undefined || job === "winterize" ? (
    <Navigate to={`/units/${unitId}/plan`} replace />
  ) : (
    <WaterPlan key={job} unitId={unitId} job={job} />
  );
};

const NONE: readonly never[] = [];

const WaterPlan = ({ unitId, job }: { unitId: string; job: Exclude<Job, "winterize"> }) => {
  const [params] = useSearchParams();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { data: kit } = useKitQuery();
  const { map, revision, error } = useUnitMap(unitId);
  const visitId = useVisitFor(unitId, job, params.get("visit"));
  const base = useJobSetup(unit, job);
  const [water, setWater] = useState<Water>();
  const [good, setGood] = useState(true);
  const [now] = useState(() => Date.now());
  const { q, text } = useUnits();
  useTitle(unit ? `${jobLabel(job)}, ${unit.name}` : jobLabel(job));
  const begins = useBegins(unitId);
  const setup = useMemo(() => base && (water ? { ...base, water } : base), [base, water]);
  const { plan, busy, problem } = usePlan(map, setup, begins);
  const beginning = useBeginning({ unitId, visitId, mapRevision: revision, setup });
  const network = useMemo(() => map && buildNetwork(map), [map]);
  const bottles = useMemo(() => (kit ? bottlesOf(kit.kit, now) : NONE), [kit, now]);
  const changed = useCallback((next: Water | undefined): void => {
    setGood(next !== undefined);
    if (next) setWater(next);
  }, []);
  if (!unit || !map || !network || !base?.water || !setup || !base.rules)
    return <Waiting error={unitError ?? error} />;
  return (
    <div className="grid min-h-[calc(100dvh-var(--bar-height,52px))] grid-cols-1 lg:h-[calc(100dvh-var(--bar-height,52px))] lg:grid-cols-[350px_1fr] lg:grid-rows-[auto_1fr]">
      <InBar>
        <BarLink to={`/units/${unit.id}`}>
          <b>{unit.name}</b> · {unit.craft}
        </BarLink>
        <span className="text-[15px] opacity-90">Plan: {jobLabel(job).toLowerCase()}</span>
      </InBar>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 border-b border-line px-5 py-3 lg:col-span-2">
        <h1 className="min-w-0 flex-1 text-[19px] font-bold" aria-live="polite">
          {plan ? text(headline(job, plan, q)) : "Reckoning …"}
        </h1>
        {plan && (
          <p className="text-[15px]">
            <b>{plan.steps.length}</b> steps, about <b>{clock(plan.minutes)}</b> h{" "}
            <span className="text-muted">
              (our estimate{job === "sanitize" && ", without the stand"})
            </span>
          </p>
        )}
        <BeginButton beginning={beginning} ready={plan !== undefined && !busy && good} />
      </div>
      <div className="min-h-0 space-y-4 overflow-auto border-r border-line p-5">
        <WaterForm
          key={`${base.rules.revision} ${base.water.chlorine.bottle.name}`}
          job={job}
          base={base.water}
          bottles={bottles}
          onChange={changed}
        />
        <Departures
          departures={beginning.departures}
          reason={beginning.reason}
          onReason={beginning.setReason}
        />
        {problem && (
          <p role="alert" className="border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
            {problem}
          </p>
        )}
        {plan && <Working plan={plan} />}
        {plan && (
          <section aria-label="What to carry">
            <h2 className="font-bold">To carry</h2>
            <ul className="list-disc pl-5 text-[15px]">
              {plan.carry.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          </section>
        )}
        <section aria-label="House rules">
          <h2 className="font-bold">House rules</h2>
          <RulesUsed setup={beginning.withReasons ?? setup} />
        </section>
      </div>
      <section aria-label="Steps" className="min-h-0 overflow-auto px-5 pt-3">
        {plan?.water?.warnings.map((w) => (
          <p key={w} className="mb-2 border-l-4 border-rust bg-rust-soft px-3 py-1.5 text-[15px]">
            {text(w)}
          </p>
        ))}
        {plan && (
          <p className="text-[14px] text-muted">
            {begins?.from === "record"
              ? `Made from how its signed sheet left it ${ageOf(begins.at)}. What was worked on since is asked when you begin.`
              : job === "spring"
                ? "Nobody has written down how it was left: taken as if antifreeze stood in every line and the heater were empty, until it is seen otherwise."
                : "Reckoned as in use, full of water: nobody has written down how it was left."}
          </p>
        )}
        {plan && <PlanSteps steps={plan.steps} network={network} />}
      </section>
    </div>
  );
};
