import {
  applyMend,
  buildNetwork,
  buildScene,
  controlsOfPart,
  duplicate,
  inUseLineup,
  PART_KINDS,
  type PartLife,
  partOf,
  type Problem,
  readWaterMap,
  removePart,
  removePipeRun,
  pipeRunOf,
  lifeKey,
  type WaterMap,
} from "@uppershed/core";
import { useCallback, useEffect, useMemo, useReducer, useState } from "react";
import { Link, useBlocker, useParams } from "react-router";
import { MapDrawing } from "../../drawing/map-drawing.tsx";
import { edit, isChanged, newEditor } from "../../mapping/editor.ts";
import { FileSheet } from "../../mapping/file-sheet.tsx";
import { type Shown, surveyHalos } from "../../mapping/halos.ts";
import { LineupPanel } from "../../mapping/lineup-panel.tsx";
import {
  correctMode,
  lineupOf,
  nextPosition,
  type LineupName,
  turnable,
} from "../../mapping/lineups.ts";
import { Palette } from "../../mapping/palette.tsx";
import { type Edit, PartPlate } from "../../mapping/part-plate.tsx";
import { entryId, problemKey, ProblemMargin } from "../../mapping/problem-margin.tsx";
import { RunPlate } from "../../mapping/run-plate.tsx";
import { TurnPlate } from "../../mapping/turn-plate.tsx";
import { useChart } from "../../mapping/use-chart.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import {
  problemText,
  useMapQuery,
  useMeQuery,
  usePartsQuery,
  useSaveMapMutation,
  useUnitQuery,
} from "../../store/api.ts";
import { KeepSheet } from "../../trying/keep-sheet.tsx";
import { Playback } from "../../trying/playback.tsx";
import { TryPanel } from "../../trying/try-panel.tsx";
import { Button } from "../../ui/button.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { Waiting } from "../../ui/waiting.tsx";
import { dropPart, nudge, tagNext, useDrawTools } from "./bench-state.ts";
import { SaveSheet } from "./save-sheet.tsx";
import { SisterSheet } from "./sister-sheet.tsx";
import { type BenchMode, ToolBar } from "./tool-bar.tsx";
import { useBenchKeys } from "./use-keys.ts";
import { useKnownLineups } from "./use-known-lineups.ts";
import { useTry } from "./use-try.ts";

const NOTHING: readonly string[] = [];

/** Draw or correct a unit's water map. Loads the newest revision, then hands it to the bench. */
export const MapBench = () => {
  const { unitId = "" } = useParams();
  const { data, error } = useMapQuery(unitId, { refetchOnMountOrArgChange: true });
  const read = useMemo(() => (data ? readWaterMap(data.document) : undefined), [data]);
  if (!data || !read?.ok)
    return (
      <Waiting
        error={
          read && !read.ok
            ? { data: { error: { message: "This unit's map is not sound." } } }
            : error
        }
      />
    );
  return <Bench key={unitId} unitId={unitId} first={read.map} firstRevision={data.revision} />;
};

const Bench = ({
  unitId,
  first,
  firstRevision,
}: {
  unitId: string;
  first: WaterMap;
  firstRevision: number;
}) => {
  const { data: unit } = useUnitQuery(unitId);
  const { data: me } = useMeQuery();
  const { data: register } = usePartsQuery({ unit: unitId });
  const [editor, dispatch] = useReducer(edit, first, newEditor);
  const [revision, setRevision] = useState(firstRevision);
  const [pendingLives, setPendingLives] = useState<Readonly<Record<string, PartLife>>>({});
  const [siblingRevision, setSiblingRevision] = useState<number>();
  const [mode, setMode] = useState<BenchMode>("draw");
  const [shown, setShown] = useState<Shown>("contents");
  const [selected, setSelected] = useState<string>();
  const [palette, setPalette] = useState<string>();
  const [held, setHeld] = useState<string>();
  const [tagging, setTagging] = useState(false);
  const [problemChosen, setProblemChosen] = useState<Problem>();
  const [sheet, setSheet] = useState<"save" | "files" | "sister" | "keep" | null>(null);
  const lineups = useKnownLineups(unitId, revision);
  const [from, setFrom] = useState<LineupName>();
  const [to, setTo] = useState<LineupName>("draw antifreeze");
  const [said, setSaid] = useState("");
  const [saveMap, saving] = useSaveMapMutation();
  useTitle(unit ? `Map of ${unit.name}` : "Map");

  const { map } = editor;
  const network = useMemo(() => buildNetwork(map), [map]);
  const chart = useChart(map);
  const apply = useCallback<Edit>((how) => dispatch({ do: "edit", edit: how }), []);
  const letGo = useCallback(() => setHeld(undefined), []);
  const tools = useDrawTools(map, held, selected, apply, letGo);
  const drawing = mode === "draw";
  const changed = isChanged(editor) || Object.keys(pendingLives).length > 0;
  const blocker = useBlocker(changed && !saving.isLoading);

  // A part just made is in hand: its plate is open.
  const [made, setMade] = useState(editor.made);
  if (made !== editor.made) {
    setMade(editor.made);
    if (editor.made) setSelected(editor.made);
  }
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent): void => {
      if (changed) event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [changed]);

  const { known } = lineups;
  const trying = mode === "try";
  const tryOut = useTry(unitId, map, network, trying, setMode);
  const { flows } = tryOut;
  const lineup = useMemo(
    () =>
      mode === "lineups" ? lineupOf(network, to, known) : (tryOut.lineup ?? inUseLineup(network)),
    [network, mode, tryOut.lineup, to, known],
  );
  const layout = chart?.layout;
  const scene = useMemo(
    () => layout && buildScene(network, tryOut.contents, lineup, layout),
    [network, tryOut.contents, lineup, layout],
  );
  const halos = useMemo(() => {
    if (trying) return tryOut.halos;
    if (problemChosen)
      return new Map(problemChosen.parts.map((id) => [id, { tone: "problem" as const }]));
    return chart && shown !== "contents" ? surveyHalos(chart.survey, shown) : undefined;
  }, [trying, tryOut.halos, problemChosen, chart, shown]);

  const turn = (key: string, position: string): void => {
    if (trying) tryOut.sandbox.act({ do: "turn", control: key, to: position });
    else if (to === "as found") lineups.tap(key, position);
    else if (to === "as left") setSaid("How it was left is not changed here.");
    else if (to === "in use")
      apply((now) => ({ ...now, lineup: { ...now.lineup, [key]: position } }));
    else apply((now) => correctMode(now, network, to, key, position));
  };

  const choose = (id: string | undefined): void => {
    setProblemChosen(undefined);
    if (drawing && tagging && id && partOf(map, id)) {
      apply((now) => tagNext(now, id));
      setSelected(undefined);
      return;
    }
    const controls = !drawing && id ? turnable(network, id) : [];
    const [only] = controls;
    if (only && controls.length === 1)
      turn(only.key, nextPosition(only, lineup[only.key] ?? only.spec.inUse));
    setSelected(id);
  };

  /** A part from the palette goes onto the pipe or open port that is chosen; without one it stays in the hand until it is dropped. */
  const pick = (kind: string): void => {
    setPalette(undefined);
    const label = PART_KINDS.get(kind)?.label ?? kind;
    if (selected && pipeRunOf(map, selected)) {
      apply((now) => dropPart(now, kind, { on: "run", run: selected, share: 0.5 }));
      setSaid(`${label} put on the pipe.`);
      return;
    }
    const port = selected ? tools.openPorts.get(selected)?.[0] : undefined;
    if (selected && port) {
      apply((now) => dropPart(now, kind, { on: "port", end: { part: selected, port } }));
      setSaid(`${label} put on the open port.`);
      return;
    }
    setHeld(kind);
    setSelected(undefined);
  };

  const remove = (): void => {
    if (!selected) return;
    apply((now) =>
      partOf(now, selected) ? removePart(now, selected) : removePipeRun(now, selected),
    );
    setSelected(undefined);
  };

  useBenchKeys(drawing && sheet === null && palette === undefined, {
    undo: () => dispatch({ do: "undo" }),
    redo: () => dispatch({ do: "redo" }),
    remove,
    duplicate: () => selected && partOf(map, selected) && apply((now) => duplicate(now, selected)),
    save: () => changed && setSheet("save"),
    add: (letters) => setPalette(letters),
    tag: () => setTagging((now) => !now),
    letGo: () => {
      setHeld(undefined);
      setTagging(false);
      setSelected(undefined);
      setProblemChosen(undefined);
    },
    nudge: (dx, dy) =>
      selected && partOf(map, selected) && apply((now) => nudge(now, selected, dx, dy)),
  });

  const save = async (why: string): Promise<void> => {
    const lives = Object.keys(pendingLives).length > 0 ? { lives: pendingLives } : {};
    const reply = await saveMap({
      id: unitId,
      asked: {
        basedOn: revision,
        why,
        document: map,
        ...lives,
        ...(siblingRevision === undefined ? {} : { siblingRevision }),
      },
    });
    if (reply.error) return;
    setRevision(reply.data.revision);
    setPendingLives({});
    setSiblingRevision(undefined);
    dispatch({ do: "saved", map });
    setSheet(null);
    setSaid(`Saved as revision ${reply.data.revision}.`);
  };

  const lives = useMemo(
    () =>
      new Map(
        (register?.parts ?? []).map((p) => [
          lifeKey(p.partId, p.item),
          pendingLives[lifeKey(p.partId, p.item)] ?? p.life,
        ]),
      ),
    [register, pendingLives],
  );
  if (!scene || !chart || !unit) return <Waiting />;
  const part = selected ? partOf(map, selected) : undefined;
  const run = selected ? pipeRunOf(map, selected) : undefined;
  // The plate opens on the side where what was tapped does not stand.
  const chosenX =
    layout?.parts.find((p) => p.id === selected)?.at.x ??
    layout?.runs.find((r) => r.id === selected)?.points[0]?.x;
  const plateRight =
    layout !== undefined &&
    chosenX !== undefined &&
    chosenX < (layout.bounds.left + layout.bounds.right) / 2;
  const chosenKey = problemChosen && problemKey(problemChosen);
  const [lookAt] = problemChosen?.parts ?? [];
  // With nothing to say, the margin leaves its place to the drawing.
  const quiet = drawing && chart.survey.problems.length === 0;
  return (
    <div
      className={`grid h-[calc(100dvh-var(--bar-height,52px))] min-h-[520px] grid-cols-1 ${quiet ? "grid-rows-[auto_minmax(0,1fr)_auto]" : "grid-rows-[auto_minmax(0,1fr)_minmax(0,38%)] lg:grid-cols-[minmax(0,1fr)_330px] lg:grid-rows-[auto_minmax(0,1fr)]"}`}
    >
      <InBar>
        <Link
          to={`/units/${unitId}`}
          className="truncate rounded border border-on-bar/60 px-3 py-1 text-[15px] text-on-bar"
        >
          <b>{unit.name}</b>
          <span className="hidden lg:inline"> · {unit.craft}</span>
        </Link>
        <span className="hidden whitespace-nowrap text-[14px] opacity-90 lg:inline">
          map revision {revision}
          {changed && ", not saved"}
        </span>
        <span className="whitespace-nowrap text-[14px] opacity-90 lg:hidden">
          rev. {revision}
          {changed && "*"}
        </span>
        <Link
          to={`/units/${unitId}/map/revisions`}
          className="min-h-11 content-center whitespace-nowrap text-[14px] text-on-bar underline"
        >
          revisions
        </Link>
        <button
          type="button"
          className="min-h-11 whitespace-nowrap text-[14px] text-on-bar underline"
          onClick={() => setSheet("sister")}
        >
          sister unit
        </button>
      </InBar>
      <h1 className="sr-only">Map of {unit.name}</h1>
      <div className={quiet ? "" : "lg:col-span-2"}>
        <ToolBar
          mode={mode}
          onMode={(next) => {
            setMode(next);
            setSelected(undefined);
            setHeld(undefined);
            setTagging(false);
          }}
          shown={shown}
          onShown={(next) => (setShown(next), setProblemChosen(undefined))}
          canUndo={editor.past.length > 0}
          canRedo={editor.future.length > 0}
          changed={changed}
          tagging={tagging}
          onAdd={() => setPalette("")}
          onTag={() => setTagging(!tagging)}
          onUndo={() => dispatch({ do: "undo" })}
          onRedo={() => dispatch({ do: "redo" })}
          onFiles={() => setSheet("files")}
          onSave={() => setSheet("save")}
        />
      </div>
      <div className="flex min-h-0 flex-col">
        <div className="relative min-h-0 flex-1 overflow-hidden">
          <MapDrawing
            network={network}
            scene={scene}
            selected={selected}
            onSelect={choose}
            walkPipes
            still={drawing}
            near={problemChosen?.parts ?? NOTHING}
            {...(halos ? { halos } : {})}
            {...(flows ? { flows } : {})}
            {...(drawing ? { draw: tools } : {})}
            {...(lookAt && chosenKey ? { tether: { to: lookAt, entry: entryId(chosenKey) } } : {})}
          />
          {(held || tagging || editor.problem) && (
            <p
              role="status"
              className={`absolute left-1/2 top-3 z-20 max-w-[90%] -translate-x-1/2 rounded border-2 bg-paper px-4 py-2 text-[15px] font-semibold shadow ${editor.problem ? "border-rust text-rust" : "border-green"}`}
            >
              {editor.problem ??
                (held
                  ? `${PART_KINDS.get(held)?.label}: tap a pipe, an open port, or an empty place`
                  : "Tap each valve in turn: it gets the next tag. T or Escape ends it.")}
            </p>
          )}
          {palette !== undefined && (
            <div className="absolute left-1/2 top-3 z-30 -translate-x-1/2">
              <Palette first={palette} onChoose={pick} onClose={() => setPalette(undefined)} />
            </div>
          )}
          {drawing && part && (
            <PartPlate
              key={part.id}
              map={map}
              part={part}
              right={plateRight}
              edit={apply}
              onClose={() => setSelected(undefined)}
              onSelect={setSelected}
            />
          )}
          {drawing && run && (
            <RunPlate
              key={run.id}
              map={map}
              network={network}
              run={run}
              right={plateRight}
              edit={apply}
              onClose={() => setSelected(undefined)}
              onSelect={setSelected}
            />
          )}
          {!drawing && part && controlsOfPart(part).length > 1 && (
            <TurnPlate
              network={network}
              partId={part.id}
              lineup={lineup}
              right={plateRight}
              onTurn={turn}
              onClose={() => setSelected(undefined)}
            />
          )}
        </div>
        {trying && tryOut.verdict && (
          <Playback network={network} sandbox={tryOut.sandbox} verdict={tryOut.verdict} />
        )}
      </div>
      <div
        className={`flex min-h-0 flex-col overflow-hidden border-t border-line bg-paper ${quiet ? "" : "lg:border-l lg:border-t-0"}`}
      >
        {quiet && (
          <p className="px-4 py-1.5 text-[14px] text-muted">
            Nothing to mend on this map. {map.parts.length} parts, {chart.survey.sections.length}{" "}
            sections between valves.
          </p>
        )}
        {drawing && !quiet && (
          <ProblemMargin
            problems={chart.survey.problems}
            chosen={chosenKey}
            onChoose={(problem) => {
              setProblemChosen(problem);
              setSelected(undefined);
            }}
            onMend={(mend) => {
              apply((now) => applyMend(now, mend));
              setProblemChosen(undefined);
            }}
          />
        )}
        {trying && tryOut.verdict && (
          <TryPanel
            network={network}
            sandbox={tryOut.sandbox}
            verdict={tryOut.verdict}
            winterLowC={me?.workshop.winterLowC ?? -18}
            standing={tryOut.standing}
            onBegin={tryOut.begin}
            onKeep={() => setSheet("keep")}
            notKept={changed ? "Save the map first: a note goes with a revision." : undefined}
            recorded={tryOut.recorded}
            onChoose={setSelected}
            tab={tryOut.tab}
            onTab={tryOut.setTab}
          />
        )}
        {mode === "lineups" && (
          <LineupPanel
            map={map}
            network={network}
            known={known}
            leftAt={lineups.leftAt}
            found={{
              ...lineups.found,
              keep: changed ? "Save the map first: it goes with a revision." : lineups.found.keep,
            }}
            from={from ?? (known.left ? "as left" : "in use")}
            to={to}
            onFrom={setFrom}
            onTo={setTo}
            onProposal={() =>
              apply((now) => ({
                ...now,
                modes: Object.fromEntries(
                  Object.entries(now.modes).filter(([name]) => name !== to),
                ),
              }))
            }
          />
        )}
      </div>
      <p role="status" className="sr-only">
        {said}
      </p>
      <SaveSheet
        open={sheet === "save"}
        problem={saving.error ? problemText(saving.error) : undefined}
        busy={saving.isLoading}
        onSave={(why) => void save(why)}
        onClose={() => setSheet(null)}
      />
      {sheet === "keep" && (
        <KeepSheet
          unitId={unitId}
          tried={{
            mapRevision: revision,
            start: tryOut.sandbox.state.start,
            lineup: tryOut.sandbox.state.lineup,
            actions: tryOut.sandbox.state.done.map((d) => d.action),
          }}
          onKept={() => {
            setSheet(null);
            setSaid("Kept as a note on the unit.");
          }}
          onClose={() => setSheet(null)}
        />
      )}
      <FileSheet
        open={sheet === "files"}
        onClose={() => setSheet(null)}
        map={map}
        lineup={lineup}
        layout={layout}
        lives={lives}
        onTake={(next, nextLives) => {
          apply(() => next);
          setPendingLives((now) => ({ ...now, ...nextLives }));
        }}
      />
      <SisterSheet
        open={sheet === "sister"}
        onClose={() => setSheet(null)}
        unit={unit}
        map={map}
        onBring={(next, upTo) => {
          apply(() => next);
          setSiblingRevision(upTo);
        }}
      />
      <Sheet
        open={blocker.state === "blocked"}
        onClose={() => blocker.reset?.()}
        title="The map is not saved"
      >
        <p>What was changed on the bench is kept nowhere else yet.</p>
        <div className="mt-4 flex gap-2">
          <Button look="act" big onClick={() => blocker.reset?.()}>
            Stay
          </Button>
          <Button look="rust" big onClick={() => blocker.proceed?.()}>
            Leave without it
          </Button>
        </div>
      </Sheet>
    </div>
  );
};
