import { buildScene } from "@uppershed/core/drawing";
import { startingContents } from "@uppershed/core/contents";
import { lineupNow } from "@uppershed/core/procedure";
import { type Explained, type Symptom, SYMPTOM_NAMES, SYMPTOMS } from "@uppershed/core/symptoms";
import {
  type ApartEnd,
  buildNetwork,
  inUseLineup,
  type Lineup,
  type Network,
  type WaterMap,
} from "@uppershed/core/watermap";
import { useEffect, useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { MapDrawing } from "../../drawing/map-drawing.tsx";
import { useLayout } from "../../mapping/use-chart.ts";
import { explainOnce } from "../../planning/use-plan.ts";
import { useUnitMap } from "../../planning/use-map.ts";
import { useRun } from "../../run/use-run.ts";
import { BarLink } from "../../shell/bar-link.tsx";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useStandingQuery, useUnitQuery } from "../../store/api.ts";
import { Waiting } from "../../ui/waiting.tsx";

/** Complaints that are about one outlet. */
const AT_OUTLET: ReadonlySet<Symptom> = new Set([
  "nothing-comes",
  "spits",
  "lukewarm",
  "weak-here",
  "weak-everywhere",
]);

interface OutletChoice {
  readonly key: string;
  readonly name: string;
}

const outletsOf = (network: Network): OutletChoice[] =>
  network.controls.flatMap((c) =>
    c.spec.role === "outlet" &&
    network.openings.some((o) => o.gate?.key === c.key && network.cells[o.cell]?.side === "fresh")
      ? [
          {
            key: c.key,
            name: ["main", "flush"].includes(c.spec.name)
              ? c.part.name
              : `${c.part.name}, ${c.spec.name}`,
          },
        ]
      : [],
  );

/** The causes that are left, likeliest first; a press shows where on the map. */
const Causes = ({
  told,
  chosen,
  onChoose,
}: {
  told: Explained;
  chosen: string | undefined;
  onChoose: (id: string) => void;
}) => (
  <ol aria-label="What may be behind it" className="mt-3">
    {told.causes.map((cause, i) => (
      <li key={cause.id}>
        <button
          type="button"
          aria-pressed={chosen === cause.id}
          onClick={() => onChoose(cause.id)}
          className={`flex min-h-12 w-full items-baseline gap-3 border-t border-line px-2 py-1.5 text-left hover:bg-green-soft ${chosen === cause.id ? "bg-green-soft" : ""}`}
        >
          <b className="w-6 shrink-0 text-right">{i + 1}</b>
          <span className="min-w-0 flex-1 text-[16px]">
            {cause.what}
            <span className="block text-[13.5px] text-muted">
              {cause.from === "worked out"
                ? "tried on this map"
                : "common practice, not worked out"}
              {cause.because && `; ${cause.because}`}
            </span>
          </span>
        </button>
      </li>
    ))}
  </ol>
);

/** The one look or turn that tells most. */
const Telling = ({ test }: { test: NonNullable<Explained["test"]> }) => (
  <section aria-label="What tells most" className="border-l-[6px] border-green bg-green-soft p-3">
    <h2 className="text-[17px] font-bold">{test.ask}</h2>
    <dl className="mt-1 text-[15px]">
      <dt className="font-semibold">Yes</dt>
      <dd>{test.yes.join("; ")}</dd>
      <dt className="mt-1 font-semibold">No</dt>
      <dd>{test.no.join("; ")}</dd>
    </dl>
  </section>
);

/** How everything stands, and by what that is told apart from how it stood before. */
interface Stands {
  readonly lineup: Lineup;
  readonly apart: readonly ApartEnd[];
  readonly of: string;
}

/** Something is wrong when the unit is used again: what may be behind it, tried on its own map as it is written down to stand. */
export const TroubleScreen = () => {
  const [params] = useSearchParams();
  const run = params.get("run");
  return run === null ? <OfUnit /> : <OfRun key={run} runId={run} />;
};

const OfUnit = () => {
  const { unitId = "" } = useParams();
  const { data: standing, error } = useStandingQuery({ id: unitId });
  const now = useMemo(
    () =>
      standing && {
        lineup: standing.lineup,
        apart: standing.apart,
        of: standing.at ?? "never written down",
      },
    [standing],
  );
  return now ? <Trouble now={now} /> : <Waiting error={error} />;
};

/** In the middle of a sheet it stands as the sheet has it by now, not as the last signed sheet left it. */
const OfRun = ({ runId }: { runId: string }) => {
  const { live, error } = useRun(runId);
  const state = live?.state;
  const now = useMemo(
    () =>
      state && {
        lineup: lineupNow(state),
        apart: state.physical.apart,
        of: `${state.events.length}`,
      },
    [state],
  );
  return now ? <Trouble now={now} /> : <Waiting error={error} />;
};

interface Asked {
  readonly map: WaterMap | undefined;
  readonly now: Stands;
  readonly symptom: (typeof SYMPTOM_NAMES)[number] | undefined;
  readonly outlet: string;
  readonly turned: readonly string[] | undefined;
}

/** What may be behind it, tried on the map; nothing while it is being tried. */
const useExplained = ({
  map,
  now,
  symptom,
  outlet,
  turned,
}: Asked): { readonly told: Explained | undefined; readonly problem: string | undefined } => {
  const [made, setMade] = useState<{ of: string; told?: Explained; problem?: string }>();
  const of = symptom && turned ? `${symptom} ${outlet} ${now.of}` : undefined;
  useEffect(() => {
    if (!map || !turned || !symptom || of === undefined) return undefined;
    let wanted = true;
    explainOnce(map, {
      symptom,
      lineup: now.lineup,
      apart: now.apart,
      turned,
      ...(outlet ? { outlet } : {}),
    })
      .then((told) => wanted && setMade({ of, told }))
      .catch((cause: unknown) => {
        const problem = cause instanceof Error ? cause.message : "It could not be tried.";
        if (wanted) setMade({ of, problem });
      });
    return () => {
      wanted = false;
    };
    // What comes of it hangs on these alone.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [of, map]);
  const latest = made?.of === of ? made : undefined;
  return { told: latest?.told, problem: latest?.problem };
};

const Seen = ({
  symptom,
  outlet,
  network,
  onSet,
}: {
  symptom: Asked["symptom"];
  outlet: string;
  network: Network;
  onSet: (key: "symptom" | "outlet", to: string) => void;
}) => (
  <section
    aria-label="What is seen"
    className="min-h-0 overflow-auto border-r border-line px-4 py-3"
  >
    <h1 className="text-[20px] font-bold">What is seen?</h1>
    <div className="mt-2 flex flex-col gap-1">
      {SYMPTOMS.map((s) => (
        <button
          key={s.symptom}
          type="button"
          aria-pressed={symptom === s.symptom}
          onClick={() => onSet("symptom", s.symptom)}
          className={`min-h-11 rounded border-[1.5px] px-3 text-left text-[15.5px] ${symptom === s.symptom ? "border-green bg-green text-on-green" : "border-line bg-raised hover:bg-green-soft"}`}
        >
          {s.label}
        </button>
      ))}
    </div>
    {symptom && AT_OUTLET.has(symptom) && (
      <label className="mt-3 block text-[15px] font-semibold">
        At which outlet?
        <select
          className="field mt-1 w-full font-normal"
          value={outlet}
          onChange={(e) => onSet("outlet", e.target.value)}
        >
          <option value="">the one that gives most</option>
          {outletsOf(network).map((o) => (
            <option key={o.key} value={o.key}>
              {o.name}
            </option>
          ))}
        </select>
      </label>
    )}
  </section>
);

const Trouble = ({ now }: { now: Stands }) => {
  const { unitId = "" } = useParams();
  const [params, setParams] = useSearchParams();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { data: standing, error: standingError } = useStandingQuery({ id: unitId });
  const { map, error } = useUnitMap(unitId);
  const layout = useLayout(map);
  const network = useMemo(() => map && buildNetwork(map), [map]);
  const symptom = SYMPTOM_NAMES.find((s) => s === params.get("symptom"));
  const outlet = params.get("outlet") ?? "";
  const [chosen, setChosen] = useState<string>();
  useTitle(unit ? `Something is wrong, ${unit.name}` : "Something is wrong");
  const { told, problem } = useExplained({
    map,
    now,
    symptom,
    outlet,
    turned: standing?.turnedLast,
  });
  const cause = told?.causes.find((c) => c.id === chosen) ?? told?.causes[0];
  const rings = useMemo(
    () => new Map((cause?.parts ?? []).map((p) => [p, "turn" as const])),
    [cause],
  );
  const scene = useMemo(
    () =>
      network &&
      layout &&
      buildScene(
        network,
        startingContents(network),
        { ...inUseLineup(network), ...now.lineup },
        layout,
      ),
    [network, layout, now],
  );
  if (!unit || !network || !standing)
    return <Waiting error={unitError ?? standingError ?? error} />;
  const run = params.get("run");
  const set = (key: string, to: string): void => {
    const next = new URLSearchParams(params);
    next.set(key, to);
    setChosen(undefined);
    setParams(next, { replace: true });
  };
  return (
    <div className="grid min-h-[calc(100dvh-var(--bar-height,52px))] grid-cols-1 lg:h-[calc(100dvh-var(--bar-height,52px))] lg:grid-cols-[300px_minmax(360px,440px)_1fr]">
      <InBar>
        <BarLink to={run ? `/runs/${run}` : `/units/${unit.id}`}>
          <b>{unit.name}</b> · {unit.craft}
        </BarLink>
        <span className="text-[15px] opacity-90">Something is wrong</span>
      </InBar>
      <Seen symptom={symptom} outlet={outlet} network={network} onSet={set} />
      <section
        aria-label="Judgement"
        className="min-h-0 overflow-auto px-4 py-3"
        aria-live="polite"
      >
        {!symptom && (
          <p className="text-muted">
            Say what is seen. Each thing that may stand or be otherwise is then tried on this unit's
            own map, as it is written down to stand.
          </p>
        )}
        {symptom && !told && problem === undefined && (
          <p className="text-muted">Trying each on the map …</p>
        )}
        {problem !== undefined && (
          <p role="alert" className="border-l-4 border-rust bg-rust-soft p-2">
            {problem}
          </p>
        )}
        {told?.asWritten && (
          <p className="border-l-[6px] border-rust bg-rust-soft p-3 text-[16px]">
            {told.asWritten}
          </p>
        )}
        {told?.test && <Telling test={told.test} />}
        {told && told.causes.length === 0 && (
          <p>
            No single thing on this map would make it so. Two at once, or something that the map
            does not show: begin with a pressure test.
          </p>
        )}
        {told && <Causes told={told} chosen={cause?.id} onChoose={setChosen} />}
        {told && (
          <p className="mt-3 text-[14px] text-muted">
            Leaks are found by a{" "}
            <Link to={`/units/${unit.id}/tests`} className="underline">
              pressure test
            </Link>
            . Gas and mains belong to licensed people.
          </p>
        )}
      </section>
      <div className="relative min-h-[360px]">
        {scene ? (
          <MapDrawing
            network={network}
            scene={scene}
            rings={rings}
            legend={<p className="text-[14px] text-muted">Ringed: what is thought of</p>}
          />
        ) : (
          <Waiting />
        )}
      </div>
    </div>
  );
};
