import type { UnitId } from "@uppershed/contract";
import {
  type Method,
  methodLabel,
  METHODS,
  proposedOf,
  type RunSetup,
  setupBy,
} from "@uppershed/core/procedure";
import { buildNetwork } from "@uppershed/core/watermap";
import { useCallback, useMemo, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { Doubts } from "../../frost/doubts.tsx";
import { FrostLadder } from "../../frost/ladder.tsx";
import { forecastFor } from "../../planning/forecast.ts";
import { jugPriceOf, productsOf, useHouseSetup } from "../../planning/house.ts";
import { BeginButton, useBeginning } from "../../planning/beginning.tsx";
import { Departures } from "../../planning/departures.tsx";
import { PlanSteps } from "../../planning/plan-steps.tsx";
import { RulesUsed } from "../../planning/rules-used.tsx";
import { useBegins } from "../../planning/use-begins.ts";
import { useUnitMap } from "../../planning/use-map.ts";
import { useVisitFor } from "../../planning/use-visit-for.ts";
import { useLayout } from "../../mapping/use-chart.ts";
import { useHeaterFilled, useMethods, usePlan } from "../../planning/use-plan.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import {
  useKitQuery,
  useUnitQuery,
  useTookElsewhereQuery,
  useUnitRunsQuery,
} from "../../store/api.ts";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { ageOf, clock } from "../../ui/words.ts";
import { AntifreezeFigure } from "./antifreeze.tsx";
import { Methods } from "./methods.tsx";
import { Carry, ComesTo, ReckonedFrom, Unprotected } from "./plan-says.tsx";
import { SetupForm } from "./setup-form.tsx";
import { BarLink } from "../../shell/bar-link.tsx";

const NOBODY: readonly never[] = [];
const NO_KIT: readonly never[] = [];

/** A setup with another method, with the house rules that it goes by. */
const withMethod = (setup: RunSetup, method: Method | undefined): RunSetup => {
  if (method === undefined || method === setup.method || !setup.rules) return setup;
  const { rules } = setup;
  const by = setupBy(rules, rules.winterLow, setup.product, method);
  return {
    ...setup,
    method,
    ...(by.rules ? { rules: { ...rules, values: { ...by.rules.values, ...rules.values } } } : {}),
  };
};

/** The address of the same plan, as a comparison or as its steps. */
const viewOf = (params: URLSearchParams, compares: boolean): URLSearchParams => {
  const next = new URLSearchParams(params);
  if (compares) next.set("view", "methods");
  else next.delete("view");
  return next;
};

const ViewSwitch = ({
  compares,
  onSwitch,
}: {
  compares: boolean;
  onSwitch: (compares: boolean) => void;
}) => (
  <div role="group" aria-label="What is shown" className="flex gap-2 px-4 pt-2">
    {[
      { label: "Steps", on: !compares, to: false },
      { label: `Compare ${METHODS.length} methods`, on: compares, to: true },
    ].map(({ label, on, to }) => (
      <button
        key={label}
        type="button"
        aria-pressed={on}
        onClick={() => onSwitch(to)}
        className={`min-h-11 border-b-4 px-3 text-[15px] font-semibold ${on ? "border-green text-green" : "border-transparent text-muted hover:text-ink"}`}
      >
        {label}
      </button>
    ))}
  </div>
);

/** The plan for this unit: what it takes, what it comes to, what stays unprotected, and its steps. */
export const PlanScreen = () => {
  const { unitId = "" } = useParams();
  const [params, setParams] = useSearchParams();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { map, revision, error } = useUnitMap(unitId);
  const visitId = useVisitFor(unitId, "winterize", params.get("visit"));
  const [chosen, setChosen] = useState<RunSetup>();
  const [wrong, setWrong] = useState<string>();
  const [good, setGood] = useState(true);
  const { system } = useUnits();
  useTitle(unit ? `Plan, ${unit.name}` : "Plan");
  const base = useHouseSetup(unit);
  const { data: kit } = useKitQuery();
  const { data: runs = [] } = useUnitRunsQuery(unitId as UnitId);
  const { data: others = NOBODY } = useTookElsewhereQuery(unitId as UnitId);
  const products = useMemo(() => productsOf(kit?.kit ?? []), [kit]);
  const [method, setMethod] = useState<Method>();
  const setup = useMemo(() => base && withMethod(chosen ?? base, method), [base, chosen, method]);
  const changed = useCallback((next: RunSetup | undefined, problem?: string) => {
    setGood(next !== undefined);
    setWrong(problem);
    if (next) setChosen(next);
  }, []);
  const begins = useBegins(unitId);
  const beginning = useBeginning({
    unitId,
    visitId,
    mapRevision: revision,
    setup: setup && base ? { ...setup, rules: setup.rules ?? base.rules } : undefined,
  });
  const { plan, busy, problem } = usePlan(map, setup, begins);
  const filledM3 = useHeaterFilled(map, setup, begins, busy ? undefined : plan);
  const compares = params.get("view") === "methods";
  const { all: methods, problem: notCompared } = useMethods(map, setup, begins, compares);
  const layout = useLayout(compares ? map : undefined);
  const medium = String(setup?.rules?.values["winter.medium"] ?? "");
  const network = useMemo(() => map && buildNetwork(map), [map]);
  if (!unit || !map || !network || !base || !setup) return <Waiting error={unitError ?? error} />;

  const forecast = plan && forecastFor(plan, setup, runs, others);
  const jugs = forecast?.jugs ?? 0;
  return (
    <div className="grid min-h-[calc(100dvh-var(--bar-height,52px))] grid-cols-1 lg:h-[calc(100dvh-var(--bar-height,52px))] lg:grid-cols-[350px_1fr_210px] lg:grid-rows-[auto_1fr]">
      <InBar>
        <BarLink to={`/units/${unit.id}`}>
          <b>{unit.name}</b> · {unit.craft}
        </BarLink>
        <span className="text-[15px] opacity-90">Plan: winterize. {methodLabel(setup.method)}</span>
      </InBar>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 border-b border-line px-5 py-3 lg:col-span-3">
        <ComesTo plan={plan} unitName={unit.name} marginC={setup.marginC} />
        {plan && forecast && (
          <p className="text-[15px]">
            <b>{plan.steps.length}</b> steps, about <b>{clock(forecast.minutes)}</b> h{" "}
            <span className="text-muted">
              {forecast.minutesFrom === undefined
                ? "(our estimate)"
                : `(as this unit took ${ageOf(forecast.minutesFrom)}; our estimate ${clock(plan.minutes)})`}
            </span>
          </p>
        )}
        <BeginButton beginning={beginning} ready={plan !== undefined && !busy && good} />
      </div>
      <div className="min-h-0 space-y-4 overflow-auto border-r border-line p-5">
        <SetupForm
          key={`${base.rules?.revision} ${base.winterLowC}`}
          base={base}
          products={products}
          system={system}
          onChange={changed}
        />
        <Departures
          departures={beginning.departures}
          reason={beginning.reason}
          onReason={beginning.setReason}
        />
        {(wrong ?? problem) && (
          <p role="alert" className="border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
            {wrong ?? problem}
          </p>
        )}
        {plan && (
          <AntifreezeFigure
            antifreeze={plan.antifreeze}
            filledM3={filledM3}
            setup={setup}
            forecast={forecast}
          />
        )}
        {plan && (
          <Carry
            carry={plan.carry}
            kit={kit?.kit ?? NO_KIT}
            product={setup.product.name}
            jugs={jugs}
          />
        )}
        <section aria-label="House rules">
          <h2 className="font-bold">House rules</h2>
          <RulesUsed setup={beginning.withReasons ?? setup} />
        </section>
      </div>
      <section
        aria-label={compares ? "Comparison" : "Steps"}
        className={`min-h-0 overflow-auto ${compares ? "lg:col-span-2" : "px-5 pt-1"}`}
      >
        <ViewSwitch compares={compares} onSwitch={(to) => setParams(viewOf(params, to))} />
        {compares && (
          <Methods
            all={methods}
            problem={notCompared}
            chosen={setup.method}
            proposal={methods.length === METHODS.length ? proposedOf(methods, medium) : undefined}
            winterLowC={setup.winterLowC}
            layout={layout}
            jugPrice={jugPriceOf(kit?.kit ?? [], setup)}
            onChoose={(to) => {
              setMethod(to);
              setParams(viewOf(params, false));
            }}
          />
        )}
        {!compares && plan && (
          <div className="mt-3">
            <Doubts doubts={plan.cannotTell} />
          </div>
        )}
        {!compares && plan && (
          <Unprotected
            plan={plan}
            winterLowC={setup.winterLowC}
            onCompare={() => setParams(viewOf(params, true))}
          />
        )}
        {!compares && plan && <ReckonedFrom plan={plan} begins={begins} />}
        {!compares && plan && <PlanSteps steps={plan.steps} network={network} />}
      </section>
      <div className={`hidden border-l border-line ${compares ? "" : "lg:block"}`}>
        {plan && <FrostLadder verdict={plan.verdict} winterLowC={setup.winterLowC} />}
      </div>
    </div>
  );
};
