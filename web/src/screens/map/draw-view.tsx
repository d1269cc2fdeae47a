import { partOf, PART_KINDS, pipeRunOf } from "@uppershed/core/watermap";
import { Palette } from "../../mapping/palette.tsx";
import { PartPlate } from "../../mapping/part-plate.tsx";
import { problemKey, ProblemMargin } from "../../mapping/problem-margin.tsx";
import { RunPlate } from "../../mapping/run-plate.tsx";
import type { Chart } from "../../mapping/use-chart.ts";
import { type Desk, plateOnRight } from "./desk.ts";
import type { Drawing } from "./use-draw.ts";

const Hint = ({ drawing, problem }: { drawing: Drawing; problem: string | undefined }) => {
  const { held, tagging } = drawing;
  if (!held && !tagging && problem === undefined) return null;
  return (
    <p
      role="status"
      className={`absolute left-1/2 top-3 z-20 max-w-[90%] -translate-x-1/2 rounded border-2 bg-paper px-4 py-2 text-[15px] font-semibold shadow ${problem ? "border-rust text-rust" : "border-green"}`}
    >
      {problem ??
        (held
          ? `${PART_KINDS.get(held)?.label}: tap a pipe, an open port, or an empty place`
          : "Tap each valve in turn: it gets the next tag. T or Escape ends it.")}
    </p>
  );
};

/** Over the drawing while it is drawn: what the hand is about, the palette, and the plate of what is chosen. */
export const DrawOver = ({
  desk,
  drawing,
  problem,
}: {
  desk: Desk;
  drawing: Drawing;
  /** Why the last edit could not be done. */
  problem: string | undefined;
}) => {
  const { map, network, selected, select, apply } = desk;
  const part = selected ? partOf(map, selected) : undefined;
  const run = selected ? pipeRunOf(map, selected) : undefined;
  const plate = {
    map,
    right: plateOnRight(desk.chart?.layout, selected),
    edit: apply,
    onClose: () => select(undefined),
    onSelect: select,
  };
  return (
    <>
      <Hint drawing={drawing} problem={problem} />
      {drawing.palette !== undefined && (
        <div className="absolute left-1/2 top-3 z-30 -translate-x-1/2">
          <Palette
            first={drawing.palette}
            onChoose={drawing.pick}
            onClose={() => drawing.openPalette(undefined)}
          />
        </div>
      )}
      {part && <PartPlate key={part.id} part={part} {...plate} />}
      {run && <RunPlate key={run.id} network={network} run={run} {...plate} />}
    </>
  );
};

/** Beside the drawing: what is wrong with the map, each with its mend. */
export const DrawMargin = ({ chart, drawing }: { chart: Chart; drawing: Drawing }) => {
  const { problems, sections } = chart.survey;
  if (problems.length === 0)
    return (
      <p className="px-4 py-1.5 text-[14px] text-muted">
        Nothing to mend on this map. {chart.map.parts.length} parts, {sections.length} sections
        between valves.
      </p>
    );
  return (
    <ProblemMargin
      problems={problems}
      chosen={drawing.problem && problemKey(drawing.problem)}
      onChoose={drawing.chooseProblem}
      onMend={drawing.mend}
    />
  );
};
