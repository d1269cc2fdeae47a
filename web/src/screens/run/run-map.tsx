import type { Verdict } from "@uppershed/core/contents";
import { buildScene } from "@uppershed/core/drawing";
import type { RunState } from "@uppershed/core/procedure";
import type { Lineup } from "@uppershed/core/watermap";
import { Map as MapIcon } from "lucide-react";
import { useEffect, useEffectEvent, useMemo, useState } from "react";
import { MapDrawing } from "../../drawing/map-drawing.tsx";
import { Plate } from "../../drawing/plate.tsx";
import { useLayout } from "../../mapping/use-chart.ts";
import type { LiveRun } from "../../run/use-run.ts";
import { Waiting } from "../../ui/waiting.tsx";

const PHONE_PX = 700;

/** Parts to ring: what the hand must turn, and what it has turned. */
const ringsOf = (state: RunState): Map<string, "turn" | "done"> => {
  const rings = new Map<string, "turn" | "done">();
  const step = state.todo[0];
  if (!step || state.phase !== "steps") return rings;
  const partOf = (control: string): string =>
    state.network.controls.find((c) => c.key === control)?.part.id ?? "";
  for (const part of step.parts) rings.set(part, "turn");
  const left = new Set<string>();
  step.actions.forEach((action, i) => {
    if (action.type === "set-valve" && !state.ticked.includes(`${i}:set-valve`))
      left.add(partOf(action.control));
  });
  const turned = step.actions.flatMap((a) => (a.type === "set-valve" ? [partOf(a.control)] : []));
  for (const part of turned) if (!left.has(part)) rings.set(part, "done");
  return rings;
};

const NOTHING_MOVES: ReadonlySet<string> = new Set();

/** What the step in hand will move: the same, however many of its rows are ticked. */
const useMovedNext = ({ state, movedNext }: LiveRun): ReadonlySet<string> => {
  const [moved, setMoved] = useState(NOTHING_MOVES);
  const stepId = state.todo[0]?.id;
  const { physical } = state;
  const ask = useEffectEvent(movedNext);
  useEffect(() => {
    let wanted = true;
    if (stepId !== undefined)
      void ask()
        .then((now) => wanted && setMoved(now))
        // The map stands all the same; it only does not show what comes next.
        .catch(() => undefined);
    return () => {
      wanted = false;
    };
  }, [stepId, physical]);
  return stepId === undefined ? NOTHING_MOVES : moved;
};

/** The live map beside the step in hand: what is to be turned, what moves next, and the plate of the part that is chosen. */
export const RunMap = ({
  live,
  verdict,
  lineup,
  selected,
  onSelect,
}: {
  live: LiveRun;
  verdict: Verdict;
  lineup: Lineup;
  selected: string | undefined;
  onSelect: (id: string | undefined) => void;
}) => {
  // On a phone the whole map is too small to read: it opens near the step in hand.
  const [close, setClose] = useState(() => window.innerWidth < PHONE_PX);
  const [mapOnPhone, setMapOnPhone] = useState(false);
  const { state } = live;
  const { network, physical } = state;
  // The drawing is laid out once; only what it shows changes.
  const layout = useLayout(network.map);
  const scene = useMemo(
    () => layout && buildScene(network, physical.contents, lineup, layout),
    [network, physical.contents, lineup, layout],
  );
  const todo = state.todo[0];
  const flowing = useMovedNext(live);
  const rings = useMemo(() => ringsOf(state), [state]);
  const near = close && state.phase === "steps" ? todo?.parts : undefined;
  return (
    <section
      aria-label="The map"
      className={`relative order-1 min-h-0 overflow-hidden md:order-1 md:block md:h-auto lg:order-2 ${mapOnPhone ? "h-[45dvh]" : "h-12 md:h-auto"}`}
    >
      <button
        type="button"
        aria-expanded={mapOnPhone}
        onClick={() => setMapOnPhone((v) => !v)}
        className="flex h-12 w-full items-center justify-center gap-2 border-b border-line bg-green-soft font-semibold text-green md:hidden"
      >
        <MapIcon aria-hidden size={20} /> {mapOnPhone ? "Hide the map" : "Show the map"}
      </button>
      <div
        className={`absolute inset-x-0 bottom-0 top-12 md:top-0 ${mapOnPhone ? "" : "hidden md:block"}`}
      >
        {scene ? (
          <MapDrawing
            network={state.network}
            scene={scene}
            rings={rings}
            flowing={flowing}
            selected={selected}
            onSelect={onSelect}
            {...(near ? { near } : {})}
          />
        ) : (
          <Waiting />
        )}
        <button
          type="button"
          aria-pressed={close}
          onClick={() => setClose((v) => !v)}
          className="absolute bottom-3 left-3 min-h-11 rounded border-[1.5px] border-green bg-raised px-3 text-[14px] font-semibold text-green"
        >
          {close ? "Whole map" : "Close to this step"}
        </button>
        {selected && (
          <div className="absolute inset-y-0 right-0 w-[320px] max-w-full">
            <Plate
              network={state.network}
              id={selected}
              contents={state.physical.contents}
              lineup={lineup}
              verdict={verdict}
              onClose={() => onSelect(undefined)}
            />
          </div>
        )}
      </div>
    </section>
  );
};
