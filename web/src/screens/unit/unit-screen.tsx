import type { FindingOnFile, Reading, Unit, UnitRun, Visit } from "@uppershed/contract";
import {
  buildNetwork,
  buildScene,
  type Contents,
  type FrostVerdict,
  frostVerdict,
  inUseLineup,
  layOut,
  type Lineup,
  type Network,
  readWaterMap,
  replayRun,
  standing,
  startingContents,
  verdictNow,
  type WaterMap,
} from "@uppershed/core";
import { useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { useFindingsNow, useLooksNow, useReadingsNow } from "../../device/on-device.ts";
import { MapDrawing } from "../../drawing/map-drawing.tsx";
import { Plate } from "../../drawing/plate.tsx";
import { FrostLadder } from "../../frost/ladder.tsx";
import { lifeWords } from "../../mapping/life-words.ts";
import { partBadges } from "../../mapping/part-badges.ts";
import { useUnitMap } from "../../planning/use-map.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import {
  useInUseMutation,
  useMapAtQuery,
  useMeQuery,
  useNotesQuery,
  usePartsQuery,
  useRevisionsQuery,
  useRunQuery,
  useUnitQuery,
  useUnitRunsQuery,
  useVisitsQuery,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";
import { Drawer } from "./drawer.tsx";
import { NotesSheet } from "./notes-sheet.tsx";
import { RunStrip } from "./run-strip.tsx";
import { YearStrip, type YearMark } from "./year-strip.tsx";

// One and the same nothing, so that what is worked out from it is not worked out again.
const NONE: readonly never[] = [];

/** The unit's present state in one sentence. */
const Sentence = ({ unit, stand }: { unit: Unit; stand: readonly string[] }) => {
  const { holds } = useUnits();
  const { state } = unit;
  const when = state.at ? dayOf(state.at) : "";
  if (state.kind === "as-left")
    return (
      <>
        {state.cannotTell.length > 0 ? "Work recorded" : "Winterized"} {when} by antifreeze, holds to <b>{holds(state.holdsToC)}</b>
        {stand.length > 0 && `, ${stand.join("; ")}`}
        {state.weakestPart && `; weakest part: ${state.weakestPart}`}.{" "}
        {state.cannotTell.length > 0 && <span className="text-rust">Cannot tell for {state.cannotTell.join(", ")}. </span>}
        Nothing recorded since.
      </>
    );
  if (state.kind === "in-work")
    return (
      <>
        In work since {when}; now holds to <b className="text-rust">{holds(state.holdsToC)}</b>
        {state.weakestPart && `, set by ${state.weakestPart}`}.
      </>
    );
  return (
    <>
      In use{when && ` since ${when}`}, full of water (assumed): holds to <b className="text-rust">{holds(0)}</b>.
    </>
  );
};

/** What the map shows: the unit in use on the map of a day, or as a run has left it on the map of that day. */
const useShown = (unitId: string, runId: string | undefined, revision: number | undefined) => {
  const { map: newest, error } = useUnitMap(unitId);
  const { data: older } = useMapAtQuery({ id: unitId, revision: revision ?? 1 }, { skip: revision === undefined });
  const map = useMemo(() => {
    if (revision === undefined || older?.revision !== revision) return newest;
    const read = readWaterMap(older.document);
    return read.ok ? read.map : newest;
  }, [newest, older, revision]);
  const { data: run } = useRunQuery(runId ?? "", { skip: runId === undefined });
  const shown = useMemo<{ network: Network; contents: Contents; lineup: Lineup; verdict: FrostVerdict } | undefined>(() => {
    if (runId !== undefined) {
      const then = run?.id === runId ? readWaterMap(run.map) : undefined;
      if (!run || !then?.ok) return undefined;
      const { state } = replayRun(buildNetwork(then.map), run.setup, run.events);
      const { contents, lineup } = state.physical;
      return { network: state.network, contents, lineup, verdict: verdictNow(state) };
    }
    if (!map) return undefined;
    const network = buildNetwork(map);
    const contents = startingContents(network);
    return { network, contents, lineup: inUseLineup(network), verdict: frostVerdict(network, contents) };
  }, [map, run, runId]);
  return { network: shown?.network, shown, error };
};

/** What of the map is not known yet: it blocks the word "protected" for whatever rests on it. */
const OpenQuestions = ({ map, onChoose }: { map: WaterMap; onChoose: (id: string) => void }) => {
  const open = map.parts.filter((p) => p.unknown);
  if (open.length === 0) return null;
  return (
    <details className="absolute bottom-3 left-3 max-w-[min(460px,70%)] rounded border-2 border-rust bg-paper p-2 text-[14px]">
      <summary className="min-h-9 content-center font-semibold">
        {open.length} {open.length === 1 ? "thing" : "things"} not known on this map
      </summary>
      <ul>
        {open.map((p) => (
          <li key={p.id}>
            <button type="button" className="min-h-11 text-left hover:bg-green-soft" onClick={() => onChoose(p.id)}>
              <b>{p.name}</b>: {p.unknown?.ask ?? "look and say what it is"}
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
};

/** Years of a unit's life, in one span that never ends. */
const EVER = { from: "2000-01-01T00:00:00.000Z", to: "2100-01-01T00:00:00.000Z" } as const;

const marksOf = (
  runs: readonly UnitRun[],
  visits: readonly Visit[],
  findings: readonly FindingOnFile[],
  readings: readonly Reading[],
  now: string,
): YearMark[] => [
  ...runs.flatMap((r) => (r.closedAt ? [{ day: r.closedAt.slice(0, 10), kind: "record" as const, says: "winterizing, record" }] : [])),
  ...visits.filter((v) => v.startsAt < now).map((v) => ({ day: v.startsAt.slice(0, 10), kind: "visit" as const, says: v.asked })),
  ...findings.map((f) => ({ day: f.foundAt.slice(0, 10), kind: "finding" as const, says: `found: ${f.what}` })),
  ...readings.map((r) => ({ day: r.at.slice(0, 10), kind: "reading" as const, says: "readings" })),
];

export const UnitScreen = () => {
  const { unitId = "" } = useParams();
  const [params] = useSearchParams();
  const visitId = params.get("visit");
  const { data: me } = useMeQuery();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { data: runs = [] } = useUnitRunsQuery(unitId);
  const [chosenRun, setChosenRun] = useState<string | undefined | null>(null);
  const [day, setDay] = useState<string>();
  const [selected, setSelected] = useState<string>();
  const [reading, setReading] = useState(false);
  const { data: notes } = useNotesQuery(unitId);
  const [fillAgain, filling] = useInUseMutation();
  const { data: register } = usePartsQuery({ unit: unitId });
  const { data: revisions } = useRevisionsQuery(unitId);
  const { data: visits = [] } = useVisitsQuery({ ...EVER, unit: unitId });
  const findings = useFindingsNow(unitId) ?? NONE;
  const looks = useLooksNow(unitId) ?? NONE;
  const readings = useReadingsNow(unitId);
  const [now] = useState(() => new Date().toISOString());
  const today = now.slice(0, 10);
  useTitle(unit?.name ?? "Unit");
  const current = unit?.state.runId ?? undefined;
  // On a day of the past the map is the one of that day, and what it held is what the last record before it says.
  const dayEnd = day === undefined ? undefined : `${day}T23:59:59.999Z`;
  const runOfDay = dayEnd === undefined ? undefined : runs.find((r) => r.closedAt !== null && r.closedAt.slice(0, 10) === day)?.id;
  const revisionOfDay = dayEnd === undefined ? undefined : (revisions?.find((r) => r.at <= dayEnd) ?? revisions?.at(-1))?.revision;
  const shownRun = day === undefined ? (chosenRun === null ? current : chosenRun) : runOfDay;
  const { network, shown, error } = useShown(unitId, shownRun, revisionOfDay);
  const marks = useMemo(() => marksOf(runs, visits, findings, readings, now), [runs, visits, findings, readings, now]);
  const badges = useMemo(
    () =>
      partBadges(
        register?.parts ?? [],
        dayEnd === undefined ? looks : looks.filter((l) => l.at <= dayEnd),
        dayEnd === undefined ? findings : findings.filter((f) => f.foundAt <= dayEnd && (f.mended?.at ?? "9") > dayEnd),
        day ?? today,
      ),
    [register, looks, findings, day, dayEnd, today],
  );
  const layout = useMemo(() => network && layOut(network.map), [network]);
  const scene = useMemo(
    () => network && shown && layout && buildScene(network, shown.contents, shown.lineup, layout),
    [network, shown, layout],
  );
  const verdict = shown?.verdict;
  if (!unit || !network || !shown || !scene || !verdict || !me) return <Waiting error={unitError ?? error} />;
  const undrawn = network.map.parts.every((p) => p.kind === "unknown-part");
  const open: UnitRun | undefined = runs.find((r) => r.closedAt === null);
  return (
    <div className="grid min-h-[560px] grid-cols-1 grid-rows-[auto_62dvh_auto_auto] lg:h-[calc(100dvh-52px)] lg:grid-rows-[auto_1fr_auto] lg:grid-cols-[1fr_310px]">
      <InBar>
        <span className="truncate rounded border border-on-bar/60 px-3 py-1 text-[15px]">
          <b>{unit.name}</b> · {unit.craft}
        </span>
      </InBar>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-line px-5 py-3 lg:col-span-2">
        <div className="min-w-0 flex-1 basis-full sm:basis-80">
          <h1 className="sr-only">{unit.name}</h1>
          <p className="text-[17px]">
            <Sentence
              unit={unit}
              stand={shownRun === current && shownRun !== undefined ? standing(network, shown.contents, shown.lineup) : []}
            />
          </p>
          <p className="text-[14px] text-muted">
            <Link to={`/customers/${unit.customerId}`} className="underline-offset-4 hover:underline">
              {unit.owner}
            </Link>
            {[
              unit.phone && `, ${unit.phone}`,
              unit.mark && ` · ${unit.mark}`,
              unit.hull && ` · ${unit.hull}`,
              unit.berth && ` · lies at ${unit.berth}`,
            ]}{" "}
            · map revision {unit.mapRevision} ·{" "}
            <Link to={`/units/${unit.id}/edit`} className="text-green underline">
              change
            </Link>
          </p>
          {unit.unsafe && <p className="text-[15px] font-semibold text-rust">An unsafe finding stands open on this unit.</p>}
        </div>
        <Link
          to={`/units/${unit.id}/map`}
          className="inline-flex min-h-[54px] items-center rounded border-[1.5px] border-green bg-raised px-5 text-[17px] font-semibold text-green"
        >
          Draw the map
        </Link>
        <Link
          to={`/units/${unit.id}/walk`}
          className="inline-flex min-h-[54px] items-center rounded border-[1.5px] border-green bg-raised px-5 text-[17px] font-semibold text-green"
        >
          Walk-round
        </Link>
        <Button big onClick={() => setReading(true)}>
          Notes{notes && notes.length > 0 ? ` (${notes.length})` : ""}
        </Button>
        {unit.state.kind === "as-left" && (
          <Button onClick={() => void fillAgain(unit.id)} disabled={filling.isLoading}>
            Filled again, in use
          </Button>
        )}
        {open ? (
          <Link
            to={`/runs/${open.id}`}
            className="inline-flex min-h-[54px] items-center rounded bg-rust px-5 text-[17px] font-semibold text-on-rust"
          >
            Go on with the winterizing
          </Link>
        ) : (
          <Link
            to={`/units/${unit.id}/plan${visitId ? `?visit=${visitId}` : ""}`}
            className="inline-flex min-h-[54px] items-center rounded bg-green px-5 text-[17px] font-semibold text-on-green"
          >
            Plan a winterizing
          </Link>
        )}
      </div>
      <div className="relative min-h-0 overflow-hidden">
        <MapDrawing network={network} scene={scene} selected={selected} onSelect={setSelected} badges={badges} />
        {day !== undefined && (
          <p role="status" className="absolute left-3 top-12 rounded border-2 border-green bg-paper px-3 py-1 text-[15px]">
            The map as on <b>{dayOf(day)}</b>, revision {revisionOfDay}.{" "}
            <button type="button" className="min-h-11 px-1 text-green underline" onClick={() => setDay(undefined)}>
              Back to today
            </button>
          </p>
        )}
        {undrawn && (
          <Link
            to={`/units/new?for=${unit.id}`}
            className="absolute left-1/2 top-1/2 -translate-x-1/2 -translate-y-16 rounded bg-green px-5 py-4 text-[17px] font-semibold text-on-green"
          >
            Draw the map from a family
          </Link>
        )}
        <OpenQuestions map={network.map} onChoose={setSelected} />
        {selected && (
          <div className="absolute inset-y-0 right-0 w-[320px] max-w-full">
            <Plate
              network={network}
              id={selected}
              contents={shown.contents}
              lineup={shown.lineup}
              verdict={verdict}
              life={lifeWords(register?.parts ?? [], selected, today)}
              onClose={() => setSelected(undefined)}
            />
          </div>
        )}
      </div>
      <div className="min-h-[420px] border-t border-line lg:min-h-0 lg:border-l lg:border-t-0">
        <Drawer
          unit={unit}
          map={network.map}
          frost={<FrostLadder verdict={verdict} winterLowC={me.workshop.winterLowC} onChoose={setSelected} />}
          findings={findings}
          visits={visits.toReversed()}
          readings={readings}
          register={register?.parts ?? []}
          today={today}
        />
      </div>
      <div className="border-t border-line lg:col-span-2">
        <RunStrip
          runs={runs}
          chosen={shownRun}
          onChoose={(id) => {
            setDay(undefined);
            setChosenRun(id);
          }}
        />
        <YearStrip marks={marks} chosen={day} onChoose={setDay} />
      </div>
      {reading && <NotesSheet unitId={unit.id} onClose={() => setReading(false)} />}
    </div>
  );
};
