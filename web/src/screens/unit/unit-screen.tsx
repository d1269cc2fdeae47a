import type {
  FindingOnFile,
  Reading,
  Unit,
  UnitRun,
  UnitStandingTold,
  Visit,
} from "@uppershed/contract";
import {
  heatersInWords,
  buildNetwork,
  buildScene,
  type Contents,
  contentsSaid,
  frostVerdict,
  inUseLineup,
  layOut,
  type Lineup,
  type Network,
  readWaterMap,
  replayRun,
  startingContents,
  type Verdict,
  verdictNow,
  type WaterMap,
} from "@uppershed/core";
import { useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { useFindingsNow, useLooksNow, useReadingsNow } from "../../sending/on-device.ts";
import { usePending } from "../../device/outbox.ts";
import { useSendLater } from "../../sending/use-sender.ts";
import { uuid } from "../../device/uuid.ts";
import { MapDrawing } from "../../drawing/map-drawing.tsx";
import { Plate } from "../../drawing/plate.tsx";
import { FrostLadder } from "../../frost/ladder.tsx";
import { lifeWords } from "../../mapping/life-words.ts";
import { partBadges } from "../../mapping/part-badges.ts";
import { useUnitMap } from "../../planning/use-map.ts";
import { EVER } from "../../planning/use-visit-here.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import {
  useMapAtQuery,
  useMeQuery,
  useNotesQuery,
  usePartsQuery,
  useRunQuery,
  useStandingQuery,
  useUnitQuery,
  useUnitRunsQuery,
  useVisitsQuery,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf, nowIso } from "../../ui/words.ts";
import { Drawer } from "./drawer.tsx";
import { NotesSheet } from "./notes-sheet.tsx";
import { type Chosen, NOW, RunStrip } from "./run-strip.tsx";
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
        {state.cannotTell.length > 0 ? "Work recorded" : "Winterized"} {when} by antifreeze, holds
        to <b>{holds(state.holdsToC)}</b>
        {stand.length > 0 && `, ${stand.join("; ")}`}
        {state.weakestPart && `; weakest part: ${state.weakestPart}`}
        {state.since.length === 0 ? "; nothing recorded since." : "; "}
        {state.since.length > 0 && <b className="text-rust">{state.since.join("; ")}.</b>}
        {state.cannotTell.length > 0 && (
          <span className="text-rust"> Cannot tell for {state.cannotTell.join(", ")}.</span>
        )}
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
      In use{when && ` since ${when}`}, full of water (assumed): holds to{" "}
      <b className="text-rust">{holds(0)}</b>.
    </>
  );
};

interface Picture {
  readonly network: Network;
  readonly contents: Contents;
  readonly lineup: Lineup;
  readonly verdict: Verdict;
  /** How many entries of the run have no effect on it. */
  readonly astray?: number;
}

/** How the unit stands now, on today's map, with what came after its record. */
const pictureNow = (map: WaterMap, told: UnitStandingTold): Picture => {
  const network = buildNetwork(map);
  const lineup = { ...inUseLineup(network), ...told.lineup };
  if (told.contents === null) {
    const contents = startingContents(network);
    return {
      network,
      contents,
      lineup,
      verdict: frostVerdict(network, contents, "by-part", undefined, { powered: true }),
    };
  }
  const verdict = {
    holdsToC: told.holdsToC,
    weakest: told.owners.find((o) => o.id === told.weakest) ?? null,
    owners: told.owners,
  };
  return {
    network,
    contents: contentsSaid(network, new Map(Object.entries(told.contents))),
    lineup,
    verdict,
  };
};

/** What is to be looked at. */
type Wanted =
  /** How it stands now, or stood at the end of a day. */
  | { readonly what: "standing"; readonly asOf: string | undefined }
  /** As a run has left it, on the map of that day. */
  | { readonly what: "run"; readonly runId: string }
  | { readonly what: "in use" };

/** What the map shows, and which of its parts and pipes are not known to hold. */
const useShown = (unitId: string, wanted: Wanted) => {
  const { map: newest, revision: newestRevision, error } = useUnitMap(unitId);
  const asOf = wanted.what === "standing" ? wanted.asOf : undefined;
  const { currentData: told, error: standingError } = useStandingQuery({
    id: unitId,
    ...(asOf === undefined ? {} : { asOf }),
  });
  const { data: older } = useMapAtQuery(
    { id: unitId, revision: told?.mapRevision ?? 1 },
    { skip: asOf === undefined || told === undefined },
  );
  const { data: run } = useRunQuery(wanted.what === "run" ? wanted.runId : "", {
    skip: wanted.what !== "run",
  });
  const shown = useMemo<Picture | undefined>(() => {
    if (wanted.what === "run") {
      const then = run?.id === wanted.runId ? readWaterMap(run.map) : undefined;
      if (!run || !then?.ok) return undefined;
      const { setup, begins, events, unread } = run;
      const replayed = replayRun({
        network: buildNetwork(then.map),
        setup,
        begins: begins ?? undefined,
        events,
        unread,
      });
      const state = replayed.whole ? replayed.state : replayed.stateWithout;
      const { contents, lineup } = state.physical;
      return {
        network: state.network,
        contents,
        lineup,
        verdict: verdictNow(state),
        astray: replayed.whole ? 0 : replayed.astray.length,
      };
    }
    if (!newest) return undefined;
    if (wanted.what === "in use") {
      const network = buildNetwork(newest);
      const contents = startingContents(network);
      return {
        network,
        contents,
        lineup: inUseLineup(network),
        verdict: frostVerdict(network, contents, "by-part", undefined, { powered: true }),
      };
    }
    if (!told) return undefined;
    if (wanted.asOf === undefined)
      return told.mapRevision === newestRevision ? pictureNow(newest, told) : undefined;
    const read = older?.revision === told.mapRevision ? readWaterMap(older.document) : undefined;
    return read?.ok ? pictureNow(read.map, told) : undefined;
  }, [newest, newestRevision, told, older, run, wanted]);
  return {
    network: shown?.network,
    shown,
    revision: told?.mapRevision,
    notKnown: wanted.what === "standing" ? (told?.notKnown ?? NONE) : NONE,
    error: error ?? standingError,
  };
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
            <button
              type="button"
              className="min-h-11 text-left hover:bg-green-soft"
              onClick={() => onChoose(p.id)}
            >
              <b>{p.name}</b>: {p.unknown?.ask ?? "look and say what it is"}
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
};

const marksOf = (
  runs: readonly UnitRun[],
  visits: readonly Visit[],
  findings: readonly FindingOnFile[],
  readings: readonly Reading[],
  now: string,
): YearMark[] => [
  ...runs.flatMap((r) =>
    r.closedAt
      ? [{ day: r.closedAt.slice(0, 10), kind: "record" as const, says: "winterizing, record" }]
      : [],
  ),
  ...visits
    .filter((v) => v.startsAt < now)
    .map((v) => ({ day: v.startsAt.slice(0, 10), kind: "visit" as const, says: v.asked })),
  ...findings.map((f) => ({
    day: f.foundAt.slice(0, 10),
    kind: "finding" as const,
    says: `found: ${f.what}`,
  })),
  ...readings.map((r) => ({ day: r.at.slice(0, 10), kind: "reading" as const, says: "readings" })),
];

export const UnitScreen = () => {
  const { unitId = "" } = useParams();
  const [params] = useSearchParams();
  const visitId = params.get("visit");
  const { data: me } = useMeQuery();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { data: runs = [] } = useUnitRunsQuery(unitId);
  const [chosen, setChosen] = useState<Chosen>(NOW);
  const [day, setDay] = useState<string>();
  const [selected, setSelected] = useState<string>();
  const [reading, setReading] = useState(false);
  const { data: notes } = useNotesQuery(unitId);
  const sendLater = useSendLater();
  const { data: register } = usePartsQuery({ unit: unitId });
  const { data: visits = [] } = useVisitsQuery({ ...EVER, unit: unitId });
  const findings = useFindingsNow(unitId) ?? NONE;
  const looks = useLooksNow(unitId) ?? NONE;
  const readings = useReadingsNow(unitId);
  const [now] = useState(() => new Date().toISOString());
  const today = now.slice(0, 10);
  useTitle(unit?.name ?? "Unit");
  const current = unit?.state.runId ?? undefined;
  const fillWaits = usePending().some(
    (e) => e.kind === "in-use" && e.unitId === unitId && e.refused === undefined,
  );
  // On a day of the past the map is the one of that day, and what it held is what the last record before it says.
  const dayEnd = day === undefined ? undefined : `${day}T23:59:59.999Z`;
  // A run that is open is the present state itself; a closed one is seen through what came after it.
  const openRun = unit?.state.kind === "in-work" ? current : undefined;
  const wanted = useMemo<Wanted>(() => {
    if (dayEnd !== undefined) return { what: "standing", asOf: dayEnd };
    if (chosen.what === "in use") return chosen;
    const runId = chosen.what === "run" ? chosen.runId : openRun;
    return runId === undefined ? { what: "standing", asOf: undefined } : { what: "run", runId };
  }, [dayEnd, chosen, openRun]);
  const { network, shown, revision, notKnown, error } = useShown(unitId, wanted);
  const marks = useMemo(
    () => marksOf(runs, visits, findings, readings, now),
    [runs, visits, findings, readings, now],
  );
  const badges = useMemo(
    () =>
      partBadges(
        register?.parts ?? [],
        dayEnd === undefined ? looks : looks.filter((l) => l.at <= dayEnd),
        dayEnd === undefined
          ? findings
          : findings.filter((f) => f.foundAt <= dayEnd && (f.mended?.at ?? "9") > dayEnd),
        day ?? today,
      ),
    [register, looks, findings, day, dayEnd, today],
  );
  const layout = useMemo(() => network && layOut(network.map), [network]);
  const scene = useMemo(
    () => network && shown && layout && buildScene(network, shown.contents, shown.lineup, layout),
    [network, shown, layout],
  );
  // What came after the record and is not known to hold is marked on the drawing, not in the words alone.
  const halos = useMemo(
    () => new Map(notKnown.map((id) => [id, { tone: "problem" as const }])),
    [notKnown],
  );
  const verdict = shown?.verdict;
  if (!unit || !network || !shown || !scene || !verdict || !me)
    return <Waiting error={unitError ?? error} />;
  const undrawn = network.map.parts.every((p) => p.kind === "unknown-part");
  const fillAgain = (): void => {
    const id = uuid();
    const at = nowIso();
    void sendLater({
      id,
      unitId,
      kind: "in-use",
      url: `/units/${unitId}/in-use`,
      body: { id, at },
      what: `${unit.name}: filled again, in use`,
      at,
    });
  };
  const open: UnitRun | undefined = runs.find((r) => r.closedAt === null);
  return (
    <div className="grid min-h-[560px] grid-cols-1 grid-rows-[auto_62dvh_auto_auto] lg:h-[calc(100dvh-var(--bar-height,52px))] lg:grid-rows-[auto_1fr_auto] lg:grid-cols-[1fr_310px]">
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
              stand={
                wanted.what === "standing" && dayEnd === undefined && unit.state.kind === "as-left"
                  ? heatersInWords(network, shown.contents, shown.lineup)
                  : []
              }
            />
          </p>
          <p className="text-[14px] text-muted">
            <Link
              to={`/customers/${unit.customerId}`}
              className="underline-offset-4 hover:underline"
            >
              {unit.owner}
            </Link>
            {[
              unit.phone && `, ${unit.phone}`,
              unit.plate && ` · ${unit.plate}`,
              unit.hull && ` · ${unit.hull}`,
              unit.berth && ` · lies at ${unit.berth}`,
            ]}{" "}
            · map revision {unit.mapRevision} ·{" "}
            <Link to={`/units/${unit.id}/edit`} className="text-green underline">
              change
            </Link>
          </p>
          {unit.unsafe && (
            <p className="text-[15px] font-semibold text-rust">
              An unsafe finding stands open on this unit.
            </p>
          )}
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
          <Button onClick={fillAgain} disabled={fillWaits}>
            {fillWaits ? "Filled again: kept here, not sent yet" : "Filled again, in use"}
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
        <MapDrawing
          network={network}
          scene={scene}
          selected={selected}
          onSelect={setSelected}
          badges={badges}
          halos={halos}
        />
        {day !== undefined && (
          <p
            role="status"
            className="absolute left-3 top-12 rounded border-2 border-green bg-paper px-3 py-1 text-[15px]"
          >
            The map as on <b>{dayOf(day)}</b>, revision {revision}.{" "}
            <button
              type="button"
              className="min-h-11 px-1 text-green underline"
              onClick={() => setDay(undefined)}
            >
              Back to today
            </button>
          </p>
        )}
        {wanted.what === "run" && shown.astray ? (
          <p
            role="status"
            className="absolute left-3 top-12 rounded border-2 border-rust bg-paper px-3 py-1 text-[15px]"
          >
            {shown.astray}{" "}
            {shown.astray === 1 ? "entry of this run has" : "entries of this run have"} no effect
            here:{" "}
            <Link to={`/records/${wanted.runId}`} className="text-green underline">
              its record names them
            </Link>
          </p>
        ) : null}
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
          frost={
            <FrostLadder
              verdict={verdict}
              winterLowC={me.workshop.winterLowC}
              onChoose={setSelected}
            />
          }
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
          state={unit.state}
          chosen={day === undefined ? chosen : undefined}
          onChoose={(what) => {
            setDay(undefined);
            setChosen(what);
          }}
        />
        <YearStrip marks={marks} chosen={day} onChoose={setDay} />
      </div>
      {reading && <NotesSheet unitId={unit.id} onClose={() => setReading(false)} />}
    </div>
  );
};
