import type { KitItem, UnitId } from "@uppershed/contract";
import {
  instrumentsSchema,
  planTest,
  testChoices,
  type TestPlan,
  type TestWay,
  TEST_WAYS,
  WAY_LABELS,
} from "@uppershed/core/hold";
import { parseQuantity } from "@uppershed/core/quantity";
import { buildNetwork, type Network } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { uuid } from "../../device/uuid.ts";
import { useTestEntry } from "../../holding/use-test-entry.ts";
import { testHouseOf } from "../../holding/house.ts";
import { useUnitMap } from "../../planning/use-map.ts";
import { useVisitHere } from "../../planning/use-visit-here.ts";
import { BarLink } from "../../shell/bar-link.tsx";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useKitQuery, useRulesQuery, useTestsOfUnitQuery, useUnitQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { useMay } from "../../ui/use-may.ts";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";
import { OUTCOMES, span } from "../../holding/words.ts";

/** Pressure tests of a unit: those that were made, and the next one worked out from its map. */

interface GaugeChoice {
  readonly name: string;
  readonly stepPa: number;
  readonly rangePa?: number;
  readonly certificate: string;
  readonly calibratedUntil?: string;
}

const gaugesOf = (kit: readonly KitItem[]): GaugeChoice[] =>
  kit.flatMap(({ name, givenUp, facts }) =>
    !givenUp &&
    facts.kind === "instrument" &&
    (facts.what === "gauge" || facts.what === "logger") &&
    facts.stepPa !== undefined
      ? [
          {
            name,
            stepPa: facts.stepPa,
            certificate: facts.certificate,
            ...(facts.rangePa === undefined ? {} : { rangePa: facts.rangePa }),
            ...(facts.calibratedUntil === undefined
              ? {}
              : { calibratedUntil: facts.calibratedUntil }),
          },
        ]
      : [],
  );

const kj = (j: number): string => (j >= 100 ? `${(j / 1000).toFixed(1)} kJ` : `${j.toFixed(1)} J`);

/** What the plan comes to, with what makes it safe. */
const Planned = ({ plan }: { plan: TestPlan }) => {
  const { q, text } = useUnits();
  if (plan.refused !== undefined)
    return (
      <p role="alert" className="mt-3 border-l-4 border-rust bg-rust-soft p-3 text-[16px]">
        <b>Not done:</b> {text(plan.refused)}
      </p>
    );
  const isAir = plan.by === "air" || plan.by === "low-air";
  const isLevel = plan.by === "brim" || plan.by === "head";
  return (
    <>
      <dl className="mt-3 grid grid-cols-2 gap-x-6 gap-y-1 text-[15px] sm:grid-cols-3">
        {[
          ["Pressed to", text(`{g:${plan.pressurePa}}`)],
          ["Held for", span(plan.holdS)],
          ["Under test", `${q(plan.held.volumeM3, "volume")}, ${plan.joints} joints`],
          ["Bears least", `${plan.weakest.name}, ${q(plan.weakest.pa, "pressure")}`],
          ["Leak that matters", text(`{m3:${plan.smallestM3S * 86_400}} a day`)],
          ...(isLevel
            ? []
            : [["Stored", `air ${kj(plan.airJ)}, the same in water ${kj(plan.waterJ)}`]]),
          ...(plan.panelN === undefined ? [] : [["On the largest panel", q(plan.panelN, "force")]]),
        ].map(([label, value]) => (
          <div key={label}>
            <dt className="text-[13px] text-muted">{label}</dt>
            <dd className="font-semibold">{value}</dd>
          </div>
        ))}
      </dl>
      {isAir && (
        <p className="mt-2 border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
          Water first where it does no harm: at this pressure it stores next to nothing. Makers of
          plastic pipe, and codes, often forbid air.
        </p>
      )}
      {plan.tooCoarse !== undefined && (
        <p className="mt-2 border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
          {text(plan.tooCoarse)}
        </p>
      )}
      <ol className="mt-3" aria-label="Steps of the test">
        {plan.steps.map((s, i) => (
          <li key={s.id} className="border-t border-line py-2">
            <p className="font-semibold">
              {i + 1}. {text(s.title)}
            </p>
            <p className="text-[14px] text-muted">{text(s.why)}</p>
          </li>
        ))}
      </ol>
    </>
  );
};

const PlanTest = ({
  unitId,
  network,
  revision,
}: {
  unitId: UnitId;
  network: Network;
  revision: number;
}) => {
  const { system, text } = useUnits();
  const { data: kit } = useKitQuery();
  const { data: rules } = useRulesQuery();
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const visit = useVisitHere(unitId, params.get("visit"));
  const retestOf = params.get("retest") ?? undefined;
  const targets = useMemo(() => testChoices(network), [network]);
  const [key, setKey] = useState(targets[0]?.key ?? "");
  const choice = targets.find((t) => t.key === key) ?? targets[0];
  const [wanted, setBy] = useState<TestWay>();
  const by = choice?.ways.find((w) => w === wanted) ?? choice?.ways[0];
  const gauges = useMemo(() => gaugesOf(kit?.kit ?? []), [kit]);
  const [gaugeName, setGauge] = useState("");
  const [limit, setLimit] = useState("");
  const [open, setOpen] = useState("");
  const [isUnknown, setUnknown] = useState(false);
  const [id] = useState(uuid);
  const [today] = useState(() => new Date().toISOString());
  const [problem, setProblem] = useState<string>();
  const enter = useTestEntry({
    unitId,
    testId: id,
    visitId: visit?.id ?? null,
    mapRevision: revision,
  });
  const read = limit.trim() === "" ? undefined : parseQuantity(limit, "pressure", system);
  const limitPa = read?.ok ? read.quantity.si : undefined;
  // The gauge that was chosen; else the finest that reaches far enough.
  const { gauge, plan } = useMemo(() => {
    const by1 = (g: GaugeChoice | undefined) =>
      choice && by && g
        ? planTest({
            network,
            target: choice.target,
            by,
            gauge: g,
            house: testHouseOf(rules?.now.values ?? {}),
            isUnknown,
            ...(limitPa === undefined ? {} : { tankLimitPa: limitPa }),
          })
        : undefined;
    const chosen = gauges.find((g) => g.name === gaugeName);
    const fits = gauges
      .toSorted((a, b) => a.stepPa - b.stepPa)
      .find((g) => by1(g)?.refused === undefined);
    const taken = chosen ?? fits ?? gauges[0];
    return { gauge: taken, plan: by1(taken) };
  }, [network, choice, by, gauges, gaugeName, rules, isUnknown, limitPa]);
  if (!choice || !by) return <p>Nothing on this map can be pressed.</p>;
  if (!gauge)
    return (
      <p>
        No gauge with its step is in the kit:{" "}
        <Link className="text-green underline" to="/workshop/kit">
          write one down
        </Link>{" "}
        first.
      </p>
    );
  const begin = (): void => {
    if (!plan || !gauge) return;
    const wrong = enter({
      type: "begun",
      plan,
      instruments: instrumentsSchema.parse({
        gauge: {
          stepPa: gauge.stepPa,
          ...(gauge.rangePa === undefined ? {} : { rangePa: gauge.rangePa }),
        },
      }),
      gauge: {
        name: gauge.name,
        certificate: gauge.certificate,
        ...(gauge.calibratedUntil === undefined ? {} : { calibratedUntil: gauge.calibratedUntil }),
      },
      ...(retestOf === undefined ? {} : { retestOf }),
      holdPoints: open
        .split(",")
        .map((w) => w.trim())
        .filter(Boolean),
    });
    if (wrong) setProblem(wrong);
    else void navigate(`/units/${unitId}/tests/${id}`);
  };
  const overdue = gauge.calibratedUntil !== undefined && gauge.calibratedUntil < today;
  return (
    <section aria-label="Plan a test" className="border-t-2 border-green pt-3">
      <h2 className="text-[19px] font-bold">
        {retestOf === undefined ? "Plan a test" : "Test again, after the mend"}
      </h2>
      <div className="mt-2 grid gap-3 sm:grid-cols-2">
        <label className="text-[15px]">
          <span className="font-semibold">What is tested</span>
          <select
            className="field mt-1 w-full"
            value={choice.key}
            onChange={(e) => setKey(e.target.value)}
          >
            {targets.map((t) => (
              <option key={t.key} value={t.key}>
                {t.label}
              </option>
            ))}
          </select>
        </label>
        <label className="text-[15px]">
          <span className="font-semibold">With what</span>
          <select
            className="field mt-1 w-full"
            value={by}
            onChange={(e) => setBy(TEST_WAYS.find((w) => w === e.target.value))}
          >
            {choice.ways.map((w) => (
              <option key={w} value={w}>
                {WAY_LABELS[w]}
              </option>
            ))}
          </select>
        </label>
        <label className="text-[15px]">
          <span className="font-semibold">Gauge</span>
          <select
            className="field mt-1 w-full"
            value={gauge.name}
            onChange={(e) => setGauge(e.target.value)}
          >
            {gauges.map((g) => (
              <option key={g.name} value={g.name}>
                {g.name}, steps of {text(`{g:${g.stepPa}}`)}
              </option>
            ))}
          </select>
        </label>
        {by === "low-air" && (
          <Field
            label="What its maker allows, or its owner has signed for"
            value={limit}
            onChange={(e) => setLimit(e.target.value)}
            problem={read && !read.ok ? read.problem : undefined}
          />
        )}
        <Field
          label="Must stay open until it has passed: panels, walls"
          value={open}
          maxLength={400}
          onChange={(e) => setOpen(e.target.value)}
        />
        <label className="flex min-h-11 items-center gap-2 self-end text-[15px]">
          <input
            type="checkbox"
            className="size-6"
            checked={isUnknown}
            onChange={(e) => setUnknown(e.target.checked)}
          />
          Nobody knows this system yet
        </label>
      </div>
      {overdue && (
        <p className="mt-2 text-rust">
          The calibration of this gauge ran out on {dayOf(gauge.calibratedUntil ?? "")}.
        </p>
      )}
      {plan && <Planned plan={plan} />}
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
      {plan && plan.refused === undefined && (
        <div className="mt-4">
          <Button look="act" big onClick={begin}>
            Begin this test
          </Button>
        </div>
      )}
    </section>
  );
};

export const Tests = () => {
  const { unitId = "" } = useParams();
  const { data: unit, error } = useUnitQuery(unitId);
  const { data: tests } = useTestsOfUnitQuery(unitId);
  const { map, revision } = useUnitMap(unitId);
  const network = useMemo(() => map && buildNetwork(map), [map]);
  const mayWork = useMay("work");
  useTitle(unit ? `Pressure tests, ${unit.name}` : "Pressure tests");
  if (!unit || !network || !tests) return <Waiting error={error} />;
  return (
    <main className="mx-auto max-w-[900px] p-5">
      <InBar>
        <BarLink to={`/units/${unit.id}`}>
          <b>{unit.name}</b> · pressure tests
        </BarLink>
      </InBar>
      <h1 className="text-[22px] font-bold">Pressure tests of {unit.name}</h1>
      {tests.length === 0 ? (
        <p className="my-3 text-muted">None has been made yet.</p>
      ) : (
        <ul className="my-3" aria-label="Tests">
          {tests.map((t) => (
            <li key={t.id} className="border-t border-line">
              <Link
                to={`/units/${unit.id}/tests/${t.id}`}
                className="flex min-h-12 flex-wrap items-baseline gap-x-4 py-2 hover:bg-green-soft"
              >
                <span className="tabular-nums">{dayOf(t.at)}</span>
                <span className="min-w-0 flex-1">{t.title}</span>
                <span className={OUTCOMES[t.outcome].bad ? "font-semibold text-rust" : ""}>
                  {OUTCOMES[t.outcome].sign} {OUTCOMES[t.outcome].word}
                  {t.openedSince && `, opened since (${dayOf(t.openedSince)})`}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
      {mayWork && <PlanTest unitId={unit.id} network={network} revision={revision} />}
    </main>
  );
};
