import type { Unit, UnitRun } from "@uppershed/contract";
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
  startingContents,
  verdictNow,
  type WaterMap,
} from "@uppershed/core";
import { useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { MapDrawing } from "../../drawing/map-drawing.tsx";
import { Plate } from "../../drawing/plate.tsx";
import { FrostLadder } from "../../frost/ladder.tsx";
import { lifeWords } from "../../mapping/life-words.ts";
import { useUnitMap } from "../../planning/use-map.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import {
  useInUseMutation,
  useMeQuery,
  useNotesQuery,
  usePartsQuery,
  useRunQuery,
  useUnitQuery,
  useUnitRunsQuery,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";
import { NotesSheet } from "./notes-sheet.tsx";
import { RunStrip } from "./run-strip.tsx";

/** The unit's present state in one sentence. */
const Sentence = ({ unit }: { unit: Unit }) => {
  const { holds } = useUnits();
  const { state } = unit;
  const when = state.at ? dayOf(state.at) : "";
  if (state.kind === "as left")
    return (
      <>
        {state.cannotTell.length > 0 ? "Work recorded" : "Winterized"} {when}, holds to <b>{holds(state.holdsToC)}</b>
        {state.weakestPart && `; weakest part: ${state.weakestPart}`}.{" "}
        {state.cannotTell.length > 0 && <span className="text-rust">Cannot tell for {state.cannotTell.join(", ")}. </span>}
        Nothing recorded since.
      </>
    );
  if (state.kind === "in work")
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

/** What the map shows: the unit in use on its newest map, or as a run has left it on the map of that day. */
const useShown = (unitId: string, runId: string | undefined) => {
  const { map, error } = useUnitMap(unitId);
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

export const UnitScreen = () => {
  const { unitId = "" } = useParams();
  const [params] = useSearchParams();
  const visitId = params.get("visit");
  const { data: me } = useMeQuery();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { data: runs = [] } = useUnitRunsQuery(unitId);
  const [chosenRun, setChosenRun] = useState<string | undefined | null>(null);
  const [selected, setSelected] = useState<string>();
  const [reading, setReading] = useState(false);
  const { data: notes } = useNotesQuery(unitId);
  const [fillAgain, filling] = useInUseMutation();
  const { data: register } = usePartsQuery({ unit: unitId });
  const [today] = useState(() => new Date().toISOString().slice(0, 10));
  useTitle(unit?.name ?? "Unit");
  const current = unit?.state.runId ?? undefined;
  const shownRun = chosenRun === null ? current : chosenRun;
  const { network, shown, error } = useShown(unitId, shownRun);
  const layout = useMemo(() => network && layOut(network.map), [network]);
  const scene = useMemo(
    () => network && shown && layout && buildScene(network, shown.contents, shown.lineup, layout),
    [network, shown, layout],
  );
  const verdict = shown?.verdict;
  if (!unit || !network || !shown || !scene || !verdict || !me) return <Waiting error={unitError ?? error} />;
  const open: UnitRun | undefined = runs.find((r) => r.closedAt === null);
  return (
    <div className="grid h-[calc(100dvh-52px)] min-h-[560px] grid-cols-1 grid-rows-[auto_1fr_auto] lg:grid-cols-[1fr_190px]">
      <InBar>
        <span className="truncate rounded border border-on-bar/60 px-3 py-1 text-[15px]">
          <b>{unit.name}</b> · {unit.craft}
        </span>
      </InBar>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-line px-5 py-3 lg:col-span-2">
        <div className="min-w-0 flex-1">
          <h1 className="sr-only">{unit.name}</h1>
          <p className="text-[17px]">
            <Sentence unit={unit} />
          </p>
          <p className="text-[14px] text-muted">
            {unit.owner}, {unit.phone} · {unit.mark} · lies at {unit.berth} · map revision {unit.mapRevision}
          </p>
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
        {unit.state.kind === "as left" && (
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
        <MapDrawing network={network} scene={scene} selected={selected} onSelect={setSelected} />
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
      <div className="hidden border-l border-line lg:block">
        <FrostLadder verdict={verdict} winterLowC={me.workshop.winterLowC} onChoose={setSelected} />
      </div>
      <div className="border-t border-line lg:col-span-2">
        <RunStrip runs={runs} chosen={shownRun} onChoose={setChosenRun} />
      </div>
      {reading && <NotesSheet unitId={unit.id} onClose={() => setReading(false)} />}
    </div>
  );
};
