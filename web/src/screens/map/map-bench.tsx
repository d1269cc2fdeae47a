import type { Unit } from "@uppershed/contract";
import { buildScene } from "@uppershed/core/drawing";
import { buildNetwork, readWaterMap, type WaterMap } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { useParams } from "react-router";
import { MapDrawing } from "../../drawing/map-drawing.tsx";
import { type Shown, surveyHalos } from "../../mapping/halos.ts";
import { useChart } from "../../mapping/use-chart.ts";
import { useTitle } from "../../shell/slots.tsx";
import { useMapQuery, useUnitQuery } from "../../store/api.ts";
import { Playback } from "../../trying/playback.tsx";
import { useKeys } from "../../ui/use-keys.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { BenchBar } from "./bench-bar.tsx";
import { type BenchSheet, BenchSheets } from "./bench-sheets.tsx";
import type { Desk } from "./desk.ts";
import { DrawMargin, DrawOver } from "./draw-view.tsx";
import { LineupsMargin } from "./lineups-margin.tsx";
import { type BenchMode, ToolBar } from "./tool-bar.tsx";
import { TryMargin } from "./try-margin.tsx";
import { TurnOver } from "./turn-over.tsx";
import { useMapDocument } from "./use-document.ts";
import { useDraw } from "./use-draw.ts";
import { useLineups } from "./use-lineups.ts";
import { useTry } from "./use-try.ts";

/** Draw or correct a unit's water map. Loads the newest revision, then hands it to the bench. */
export const MapBench = () => {
  const { unitId = "" } = useParams();
  const { data: unit } = useUnitQuery(unitId);
  const { data, error } = useMapQuery(unitId, { refetchOnMountOrArgChange: true });
  const read = useMemo(() => (data ? readWaterMap(data.document) : undefined), [data]);
  useTitle(unit ? `Map of ${unit.name}` : "Map");
  if (read && !read.ok)
    return <Waiting error={{ data: { error: { message: "This unit's map is not sound." } } }} />;
  if (!data || !read || !unit) return <Waiting error={error} />;
  return <Bench key={unitId} unit={unit} first={read.map} firstRevision={data.revision} />;
};

const GRID = "grid h-[calc(100dvh-var(--bar-height,52px))] min-h-[520px] grid-cols-1";
const WITH_MARGIN =
  "grid-rows-[auto_minmax(0,1fr)_minmax(0,38%)] lg:grid-cols-[minmax(0,1fr)_330px] lg:grid-rows-[auto_minmax(0,1fr)]";
// With nothing to say, the margin leaves its place to the drawing.
const WITHOUT_MARGIN = "grid-rows-[auto_minmax(0,1fr)_auto]";

/** A proposal on the bench: what it is called, where it is kept, and where one goes back to. */
export interface OnBench {
  readonly name: string;
  readonly back: string;
  readonly keep: (map: WaterMap, why: string) => Promise<string | undefined>;
}

export const Bench = ({
  unit,
  first,
  firstRevision,
  proposal,
}: {
  unit: Unit;
  first: WaterMap;
  firstRevision: number;
  proposal?: OnBench;
}) => {
  const document = useMapDocument(unit.id, first, firstRevision, proposal?.keep);
  const [mode, setMode] = useState<BenchMode>("draw");
  const [shown, setShown] = useState<Shown>("contents");
  const [selected, select] = useState<string>();
  const [sheet, setSheet] = useState<BenchSheet>();
  const [said, say] = useState("");
  const { editor, changed } = document;
  const { map } = editor;
  const network = useMemo(() => buildNetwork(map), [map]);
  const chart = useChart(map);
  const surveyed = useMemo(
    () => (chart && shown !== "contents" ? surveyHalos(chart.survey, shown) : undefined),
    [chart, shown],
  );
  const desk: Desk = {
    unitId: unit.id,
    map,
    network,
    chart,
    revision: document.revision,
    changed,
    apply: document.apply,
    selected,
    select,
    say,
  };
  const drawing = useDraw(desk, document, mode === "draw", surveyed);
  const trying = useTry(desk, mode === "try", setMode);
  const lineups = useLineups(desk, mode === "lineups", surveyed);
  const { contents, lineup, choose, ...seen } = { draw: drawing, try: trying, lineups }[mode]
    .onDrawing;
  useKeys(
    true,
    {
      "$mod+s": (event) => {
        event.preventDefault();
        if (changed) setSheet("save");
      },
    },
    { whileTyping: true },
  );
  const layout = chart?.layout;
  const scene = useMemo(
    () => layout && buildScene(network, contents, lineup, layout),
    [network, contents, lineup, layout],
  );
  if (!scene || !chart) return <Waiting />;
  const quiet = mode === "draw" && chart.survey.problems.length === 0;
  return (
    <div className={`${GRID} ${quiet ? WITHOUT_MARGIN : WITH_MARGIN}`}>
      <BenchBar
        unit={unit}
        revision={document.revision}
        changed={changed}
        onSister={() => setSheet("sister")}
        proposal={proposal}
      />
      <h1 className="sr-only">
        {proposal ? `Proposal for ${unit.name}: ${proposal.name}` : `Map of ${unit.name}`}
      </h1>
      <div className={quiet ? "" : "lg:col-span-2"}>
        <ToolBar
          mode={mode}
          onMode={(next) => {
            drawing.letGo();
            setMode(next);
          }}
          shown={shown}
          onShown={(next) => (setShown(next), drawing.chooseProblem(undefined))}
          document={document}
          drawing={drawing}
          onSheet={setSheet}
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
            still={mode === "draw"}
            {...seen}
          />
          {mode === "draw" && <DrawOver desk={desk} drawing={drawing} problem={editor.problem} />}
          {mode === "try" && <TurnOver desk={desk} lineup={lineup} onTurn={trying.turn} />}
          {mode === "lineups" && <TurnOver desk={desk} lineup={lineup} onTurn={lineups.turn} />}
        </div>
        {mode === "try" && trying.verdict && (
          <Playback network={network} sandbox={trying.sandbox} verdict={trying.verdict} />
        )}
      </div>
      <div
        className={`flex min-h-0 flex-col overflow-hidden border-t border-line bg-paper ${quiet ? "" : "lg:border-l lg:border-t-0"}`}
      >
        {mode === "draw" && <DrawMargin chart={chart} drawing={drawing} />}
        {mode === "try" && <TryMargin desk={desk} trying={trying} />}
        {mode === "lineups" && <LineupsMargin desk={desk} lineups={lineups} />}
      </div>
      <p role="status" className="sr-only">
        {said}
      </p>
      <BenchSheets
        unit={unit}
        document={document}
        sheet={sheet}
        lineup={lineup}
        layout={layout}
        proposal={proposal !== undefined}
        onSaved={(revision) => {
          setSheet(undefined);
          say(proposal ? "The proposal is saved." : `Saved as revision ${revision}.`);
        }}
        onClose={() => setSheet(undefined)}
      />
    </div>
  );
};
