import { buildScene } from "@uppershed/core/drawing";
import type { WaterMap } from "@uppershed/core/watermap";
import { type ReactNode, useMemo } from "react";
import { Link } from "react-router";
import type { Badge } from "../../drawing/badges.tsx";
import { MapDrawing } from "../../drawing/map-drawing.tsx";
import { Plate } from "../../drawing/plate.tsx";
import { useLayout } from "../../mapping/use-chart.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";
import type { Picture, Wanted } from "./use-shown.ts";

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

const OverMap = ({ bad = false, children }: { bad?: boolean; children: ReactNode }) => (
  <p
    role="status"
    className={`absolute left-3 top-12 rounded border-2 bg-paper px-3 py-1 text-[15px] ${bad ? "border-rust" : "border-green"}`}
  >
    {children}
  </p>
);

/** What is seen, where it is not how the unit stands now. */
const Seen = ({
  day,
  revision,
  wanted,
  astray,
  onToday,
}: {
  day: string | undefined;
  revision: number | undefined;
  wanted: Wanted;
  astray: number;
  onToday: () => void;
}) => {
  if (day !== undefined)
    return (
      <OverMap>
        The map as on <b>{dayOf(day)}</b>, revision {revision}.{" "}
        <button type="button" className="min-h-11 px-1 text-green underline" onClick={onToday}>
          Back to today
        </button>
      </OverMap>
    );
  if (wanted.what !== "run" || astray === 0) return null;
  return (
    <OverMap bad>
      {astray} {astray === 1 ? "entry of this run has" : "entries of this run have"} no effect here:{" "}
      <Link to={`/records/${wanted.runId}`} className="text-green underline">
        its signed sheet names them
      </Link>
    </OverMap>
  );
};

/** The unit's map with what it holds, what is known of each part, and the plate of the part that is chosen. */
export const UnitMap = ({
  unitId,
  shown,
  wanted,
  day,
  revision,
  notKnown,
  badges,
  life,
  selected,
  onSelect,
  onToday,
}: {
  unitId: string;
  shown: Picture;
  wanted: Wanted;
  /** The day that is looked at; none is today. */
  day: string | undefined;
  revision: number | undefined;
  /** Parts and pipes that are not known to hold: what came after the record. */
  notKnown: readonly string[];
  badges: ReadonlyMap<string, Badge>;
  /** What is known of the life of the part that is chosen. */
  life: readonly { readonly label: string; readonly words: string }[];
  selected: string | undefined;
  onSelect: (id: string | undefined) => void;
  onToday: () => void;
}) => {
  const { network, contents, lineup, verdict } = shown;
  const layout = useLayout(network.map);
  const scene = useMemo(
    () => layout && buildScene(network, contents, lineup, layout),
    [network, contents, lineup, layout],
  );
  // What came after the record and is not known to hold is marked on the drawing, not in the words alone.
  const halos = useMemo(
    () => new Map(notKnown.map((id) => [id, { tone: "problem" as const }])),
    [notKnown],
  );
  const undrawn = network.map.parts.every((p) => p.kind === "unknown-part");
  return (
    <div className="relative min-h-0 overflow-hidden">
      {scene ? (
        <MapDrawing
          network={network}
          scene={scene}
          selected={selected}
          onSelect={onSelect}
          badges={badges}
          halos={halos}
        />
      ) : (
        <Waiting />
      )}
      <Seen
        day={day}
        revision={revision}
        wanted={wanted}
        astray={shown.astray ?? 0}
        onToday={onToday}
      />
      {undrawn && (
        <Link
          to={`/units/new?for=${unitId}`}
          className="absolute left-1/2 top-1/2 -translate-x-1/2 -translate-y-16 rounded bg-green px-5 py-4 text-[17px] font-semibold text-on-green"
        >
          Draw the map from a family
        </Link>
      )}
      <OpenQuestions map={network.map} onChoose={onSelect} />
      {selected && (
        <div className="absolute inset-y-0 right-0 w-[320px] max-w-full">
          <Plate
            network={network}
            id={selected}
            contents={contents}
            lineup={lineup}
            verdict={verdict}
            life={life}
            onClose={() => onSelect(undefined)}
          />
        </div>
      )}
    </div>
  );
};
