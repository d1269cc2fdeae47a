import type { UnitId } from "@uppershed/contract";
import {
  instrumentsSchema,
  type JointChoice,
  jointChoices,
  planTest,
  type PressureTest,
  testChoices,
  type TestPlan,
  type TestRequest,
  type TestWay,
  TEST_WAYS,
  WAY_LABELS,
} from "@uppershed/core/hold";
import { parseQuantity } from "@uppershed/core/quantity";
import type { Network } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { uuid } from "../../device/uuid.ts";
import { testHouseOf } from "../../holding/house.ts";
import {
  asNamed,
  type Barometer,
  barometersOf,
  type GaugeChoice,
  gaugesOf,
  type Thermometer,
  thermometersOf,
} from "../../holding/instruments.ts";
import { useTestEntry } from "../../holding/use-test-entry.ts";
import { useVisitHere } from "../../planning/use-visit-here.ts";
import { useKitQuery, useRulesQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { useUnits } from "../../ui/units.ts";
import { dayOf } from "../../ui/words.ts";
import { Choose } from "./choose.tsx";
import { Planned } from "./planned.tsx";

const ONE_JOINT = "one joint";
const NOT_READ = "";

/** Joints by where they lie, in the order of the walk round the unit. */
const byPlace = (
  joints: readonly JointChoice[],
): { label: string; options: [string, string][] }[] =>
  [...new Set(joints.map((j) => j.place))].map((place) => ({
    label: place || "no place written down",
    options: joints.flatMap((j): [string, string][] =>
      j.place === place ? [[j.key, j.label]] : [],
    ),
  }));

/** What can be tested: sides, sections, tanks and hatches; or one joint out of all. As it was before, where a test is made again. */
const useTarget = (network: Network, before: PressureTest | undefined) => {
  const targets = useMemo(() => testChoices(network), [network]);
  const joints = useMemo(() => jointChoices(network), [network]);
  const same = useMemo(() => {
    const wanted = JSON.stringify(before?.plan.target ?? null);
    const is = (t: { target: unknown }): boolean => JSON.stringify(t.target) === wanted;
    return { target: targets.find(is)?.key, joint: joints.find(is)?.key };
  }, [before, targets, joints]);
  const [key, setKey] = useState(
    () => same.target ?? (same.joint ? ONE_JOINT : (targets[0]?.key ?? "")),
  );
  const [jointKey, setJoint] = useState(() => same.joint ?? joints[0]?.key ?? "");
  const joint = joints.find((j) => j.key === jointKey) ?? joints[0];
  const choice = key === ONE_JOINT ? joint : (targets.find((t) => t.key === key) ?? targets[0]);
  return { targets, joints, key, setKey, joint, setJoint, choice };
};

/** The instruments of the list; the finest thermometer and barometer are taken where nobody says otherwise. */
const useInstruments = () => {
  const { data: kit } = useKitQuery();
  return useMemo(() => {
    const all = kit?.kit ?? [];
    return {
      gauges: gaugesOf(all),
      thermometers: thermometersOf(all),
      barometers: barometersOf(all),
    };
  }, [kit]);
};

const taken = <T extends { readonly name: string }>(
  of: readonly T[],
  name: string | undefined,
): T | undefined => (name === undefined ? of[0] : of.find((i) => i.name === name));

/** In what steps each instrument reads; as shipped where nobody wrote it down. */
const readWith = (
  gauge: GaugeChoice,
  thermometer: Thermometer | undefined,
  barometer: Barometer | undefined,
) =>
  instrumentsSchema.parse({
    gauge: {
      stepPa: gauge.stepPa,
      ...(gauge.rangePa === undefined ? {} : { rangePa: gauge.rangePa }),
    },
    ...(thermometer?.stepK === undefined ? {} : { thermometerStepK: thermometer.stepK }),
    ...(barometer?.stepPa === undefined ? {} : { barometerStepPa: barometer.stepPa }),
  });

/** The plan with the gauge that was chosen; else with the finest that reaches far enough. */
const usePlanned = (
  of: Omit<TestRequest, "gauge" | "target" | "by" | "house">,
  choice: Pick<JointChoice, "target"> | undefined,
  by: TestWay | undefined,
  gauges: readonly GaugeChoice[],
  gaugeName: string,
): { readonly gauge: GaugeChoice | undefined; readonly plan: TestPlan | undefined } => {
  const { data: rules } = useRulesQuery();
  const { network, isUnknown, holdPoints, tankLimitPa } = of;
  return useMemo(() => {
    const planWith = (gauge: GaugeChoice | undefined) =>
      choice && by && gauge
        ? planTest({
            network,
            target: choice.target,
            by,
            gauge,
            house: testHouseOf(rules?.now.values ?? {}),
            ...(isUnknown === undefined ? {} : { isUnknown }),
            ...(holdPoints === undefined ? {} : { holdPoints }),
            ...(tankLimitPa === undefined ? {} : { tankLimitPa }),
          })
        : undefined;
    const chosen = gauges.find((g) => g.name === gaugeName);
    const fits = gauges
      .toSorted((a, b) => a.stepPa - b.stepPa)
      .find((g) => planWith(g)?.refused === undefined);
    const gauge = chosen ?? fits ?? gauges[0];
    return { gauge, plan: planWith(gauge) };
  }, [network, choice, by, gauges, gaugeName, rules, isUnknown, holdPoints, tankLimitPa]);
};

/** What lies behind a panel that stays open: parts under test, to be marked on the map. */
const Behind = ({
  network,
  plan,
  chosen,
  onChange,
}: {
  network: Network;
  plan: TestPlan;
  chosen: readonly string[];
  onChange: (ids: readonly string[]) => void;
}) => {
  const parts = network.map.parts.filter(
    (p) => plan.owners.includes(p.id) || chosen.includes(p.id),
  );
  return (
    <fieldset className="mt-2 border-l-4 border-rust pl-3">
      <legend className="text-[15px] font-semibold">Behind it lie: marked on the map</legend>
      <div className="grid max-h-48 overflow-y-auto sm:grid-cols-2">
        {parts.map((p) => (
          <label key={p.id} className="flex min-h-9 items-center gap-2 text-[14px]">
            <input
              type="checkbox"
              className="size-5"
              checked={chosen.includes(p.id)}
              onChange={(e) =>
                onChange(e.target.checked ? [...chosen, p.id] : chosen.filter((id) => id !== p.id))
              }
            />
            {p.name}
            {p.place && <span className="text-muted">{p.place}</span>}
          </label>
        ))}
      </div>
    </fieldset>
  );
};

/** A pressure test worked out from the map, to be begun. */
export const PlanTest = ({
  unitId,
  network,
  revision,
  again,
}: {
  unitId: UnitId;
  network: Network;
  revision: number;
  /** The test that is made once more. */
  again?: { readonly id: string; readonly test: PressureTest };
}) => {
  const { system, text } = useUnits();
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const visit = useVisitHere(unitId, params.get("visit"));
  const before = again?.test;
  const { targets, joints, key, setKey, joint, setJoint, choice } = useTarget(network, before);
  const [wanted, setBy] = useState<TestWay | undefined>(before?.plan.by);
  const by = choice?.ways.find((w) => w === wanted) ?? choice?.ways[0];
  const { gauges, thermometers, barometers } = useInstruments();
  const [gaugeName, setGauge] = useState(before?.gauge.name ?? "");
  const [thermometerName, setThermometer] = useState<string>();
  const [barometerName, setBarometer] = useState<string>();
  const [limit, setLimit] = useState("");
  const [open, setOpen] = useState(before?.holdPoints.join(", ") ?? "");
  const [behind, setBehind] = useState<readonly string[]>(before?.holdAt ?? []);
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
  const holdPoints = useMemo(
    () =>
      open
        .split(",")
        .map((w) => w.trim())
        .filter(Boolean),
    [open],
  );
  const { gauge, plan } = usePlanned(
    {
      network,
      isUnknown,
      holdPoints,
      ...(read?.ok ? { tankLimitPa: read.quantity.si } : {}),
    },
    choice,
    by,
    gauges,
    gaugeName,
  );
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
  const thermometer = taken(thermometers, thermometerName);
  const barometer = taken(barometers, barometerName);
  const held = behind.filter((p) => network.map.parts.some((part) => part.id === p));
  const begin = (): void => {
    if (!plan) return;
    const wrong = enter({
      type: "begun",
      plan,
      instruments: readWith(gauge, thermometer, barometer),
      gauge: asNamed(gauge),
      ...(thermometer ? { thermometer: asNamed(thermometer) } : {}),
      ...(barometer ? { barometer: asNamed(barometer) } : {}),
      ...(again ? { retestOf: again.id } : {}),
      holdPoints,
      holdAt: holdPoints.length > 0 ? held : [],
    });
    if (wrong) setProblem(wrong);
    else void navigate(`/units/${unitId}/tests/${id}`);
  };
  const overdue = [gauge, thermometer, barometer].filter(
    (i) => i?.calibratedUntil !== undefined && i.calibratedUntil < today,
  );
  return (
    <section aria-label="Plan a test" className="border-t-2 border-green pt-3">
      <h2 className="text-[19px] font-bold">
        {again ? "Test again, after the mend" : "Plan a test"}
      </h2>
      <div className="mt-2 grid gap-3 sm:grid-cols-2">
        <Choose
          label="What is tested"
          value={key}
          onChange={setKey}
          options={[
            ...targets.map((t): [string, string] => [t.key, t.label]),
            ...(joints.length > 0 ? ([[ONE_JOINT, "One joint: new, or mended"]] as const) : []),
          ]}
        />
        {key === ONE_JOINT && (
          <Choose
            label="Which joint"
            value={joint?.key ?? ""}
            onChange={setJoint}
            groups={byPlace(joints)}
          />
        )}
        <Choose
          label="With what"
          value={by}
          onChange={(v) => setBy(TEST_WAYS.find((w) => w === v))}
          options={choice.ways.map((w) => [w, WAY_LABELS[w]])}
        />
        <Choose
          label="Gauge"
          value={gauge.name}
          onChange={setGauge}
          options={gauges.map((g) => [g.name, `${g.name}, steps of ${text(`{g:${g.stepPa}}`)}`])}
        />
        <Choose
          label="Thermometer"
          value={thermometer?.name ?? NOT_READ}
          onChange={setThermometer}
          options={[
            ...thermometers.map((t): [string, string] => [t.name, t.name]),
            [NOT_READ, "none: the answer is wider"],
          ]}
        />
        <Choose
          label="Barometer"
          value={barometer?.name ?? NOT_READ}
          onChange={setBarometer}
          options={[
            ...barometers.map((t): [string, string] => [t.name, t.name]),
            [NOT_READ, "none: the answer is wider"],
          ]}
        />
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
      {holdPoints.length > 0 && plan && (
        <Behind network={network} plan={plan} chosen={held} onChange={setBehind} />
      )}
      {overdue.map((i) => (
        <p key={i?.name} className="mt-2 text-rust">
          The calibration of {i?.name} ran out on {dayOf(i?.calibratedUntil ?? "")}.
        </p>
      ))}
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
