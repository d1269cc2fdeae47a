import type { FindingOnFile, NewLook, PointLook } from "@uppershed/contract";
import {
  canBeMissing,
  type InspectionPoint,
  LOOK_MARK_LABELS,
  SEVERITY_LABELS,
  walkRound,
  type InspectionStop,
} from "@uppershed/core/inspection";
import { Fragment, useMemo, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import {
  type PictureNow,
  useFindingsNow,
  useLooksNow,
  usePicturesNow,
} from "../../sending/on-device.ts";
import { useSendLater } from "../../sending/use-sender.ts";
import { FindingForm } from "../../findings/finding-form.tsx";
import { useUnitMap } from "../../planning/use-map.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useUnitQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { capital, nowIso } from "../../ui/words.ts";
import { CorrectSheet, type Wish } from "./correct-sheet.tsx";
import { Point } from "./point.tsx";
import type { PointMarked } from "./use-point.ts";
import { BarLink } from "../../shell/bar-link.tsx";

const HALF_DAY_MS = 12 * 3600 * 1000;

// One and the same nothing.
const NONE: readonly never[] = [];

/** What stands open of the part that a point belongs to. */
const Standing = ({
  findings,
  point,
}: {
  findings: readonly FindingOnFile[];
  point: InspectionPoint;
}) => {
  const { text } = useUnits();
  return findings
    .filter((f) => f.partId !== null && f.partId === point.partId && f.state !== "mended")
    .map((f) => (
      <li key={f.id} className="border-t border-line px-4 pt-2 text-[14px]">
        <b className={f.severity === "unsafe" ? "text-rust" : ""}>
          Open finding, {SEVERITY_LABELS[f.severity]}:
        </b>{" "}
        {text(f.what)}
      </li>
    ));
};

/** One place of the walk-round: its points in their order, what is behind which panel, and what stands open there. */
const PlaceStop = ({
  unitId,
  stop,
  points,
  newest,
  isNow,
  findings,
  pictures,
  onLook,
  onFinding,
  onWish,
}: {
  unitId: string;
  stop: InspectionStop;
  /** Those of its points that are shown. */
  points: readonly InspectionPoint[];
  newest: ReadonlyMap<string, PointLook>;
  isNow: (key: string) => boolean;
  findings: readonly FindingOnFile[];
  pictures: readonly PictureNow[];
  onLook: (point: InspectionPoint, marked: PointMarked) => void;
  onFinding: (point: InspectionPoint) => void;
  onWish: (wish: Wish) => void;
}) => {
  if (points.length === 0) return null;
  return (
    <section aria-label={capital(stop.place)} className="mb-4 border-y border-line bg-paper">
      <h2 className="flex items-center justify-between bg-green-soft px-4 py-1 text-[17px] font-bold">
        {capital(stop.place)}
        <span className="flex items-center gap-3 text-[14px] font-normal">
          {stop.points.filter((p) => isNow(p.key)).length} of {stop.points.length}
          <Button look="quiet" onClick={() => onWish({ type: "found another", stop })}>
            Found another<span className="sr-only"> part, {stop.place}</span>
          </Button>
        </span>
      </h2>
      <ul>
        {points.map((point, i) => {
          const before = points[i - 1];
          const first = point.partId !== before?.partId;
          return (
            <Fragment key={point.key}>
              {point.access !== undefined && point.access !== before?.access && (
                <li className="border-t border-line px-4 pt-2 text-[14px] font-semibold">
                  Behind: {point.access}
                </li>
              )}
              {first && <Standing findings={findings} point={point} />}
              <Point
                unitId={unitId}
                point={point}
                last={newest.get(point.key)}
                now={isNow(point.key)}
                pictures={pictures}
                onLook={(marked) => onLook(point, marked)}
                onFinding={() => onFinding(point)}
              />
              {point.unknown && first && (
                <li className="px-4 pb-3">
                  <Button onClick={() => onWish({ type: "is fitted", point })}>
                    It is there: {point.name}
                  </Button>
                </li>
              )}
            </Fragment>
          );
        })}
      </ul>
    </section>
  );
};

/** The walk-round of a unit: what its map says is to be looked at, place by place, and what was found there. */
export const Walk = () => {
  const { unitId = "" } = useParams();
  const [params] = useSearchParams();
  const visitId = params.get("visit");
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { map, revision, error } = useUnitMap(unitId);
  const looks = useLooksNow(unitId);
  const pictures = usePicturesNow(unitId);
  const findings = useFindingsNow(unitId);
  const sendLater = useSendLater();
  const { text } = useUnits();
  const [said, setSaid] = useState("");
  const [wish, setWish] = useState<Wish>();
  const [finding, setFinding] = useState<InspectionPoint>();
  const [openOnly, setOpenOnly] = useState(false);
  const [began] = useState(() => Date.now());
  useTitle(unit ? `Walk-round of ${unit.name}` : "Walk-round");
  const stops = useMemo(() => (map ? walkRound(map) : []), [map]);
  const newest = useMemo(() => new Map((looks ?? []).map((l) => [l.key, l])), [looks]);
  if (!unit || !map || !looks) return <Waiting error={unitError ?? error} />;
  const all = stops.flatMap((s) => s.points);
  /** Looked at on this walk-round: on this visit, or without one, since this morning. */
  const isNow = (key: string): boolean => {
    const look = newest.get(key);
    return (
      look !== undefined &&
      (visitId ? look.visitId === visitId : began - Date.parse(look.at) < HALF_DAY_MS)
    );
  };
  const done = all.filter((p) => isNow(p.key)).length;
  const ever = all.filter((p) => newest.has(p.key)).length;
  const keep = async (point: InspectionPoint, marked: PointMarked): Promise<void> => {
    const look: NewLook = {
      key: point.key,
      pointId: point.pointId,
      partId: point.partId ?? null,
      point: point.point,
      at: nowIso(),
      visitId,
      ...marked,
    };
    const what = `${point.name}, ${text(point.point)}: ${LOOK_MARK_LABELS[marked.mark]}${look.note ? ` (${look.note})` : ""}`;
    await sendLater({
      id: look.id,
      unitId,
      kind: "looks",
      url: `/units/${unitId}/looks`,
      body: { looks: [look] },
      what,
      at: look.at,
    });
    setSaid(`${what}.`);
    if (look.mark === "not-fitted" && canBeMissing(map, point.partId))
      setWish({ type: "not-fitted", point });
  };
  return (
    <div className="mx-auto max-w-5xl pb-10">
      <InBar>
        <BarLink to={visitId ? `/visits/${visitId}` : `/units/${unitId}`}>
          <b>{unit.name}</b>
          <span className="hidden lg:inline"> · {unit.craft}</span>
        </BarLink>
      </InBar>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2 px-4 py-4">
        <h1 className="text-[24px] font-extrabold">Walk-round of {unit.name}</h1>
        <p className="text-[15px]">
          <b>{done}</b> of {all.length} points looked at now
          <span className="text-muted">, {ever} ever</span>
        </p>
        <label className="ml-auto flex min-h-11 items-center gap-2 text-[15px]">
          <input
            type="checkbox"
            className="size-5 accent-[var(--green)]"
            checked={openOnly}
            onChange={(e) => setOpenOnly(e.target.checked)}
          />
          only what is open
        </label>
      </div>
      {unit.accessNote && (
        <p className="mx-4 mb-3 border-l-4 border-green bg-green-soft p-2 text-[15px]">
          {unit.accessNote}
        </p>
      )}
      <p className="px-4 pb-3 text-[14px] text-muted">
        At a point: <kbd>1</kbd> good, <kbd>2</kbd> watch, <kbd>3</kbd> bad, <kbd>4</kbd> not
        reached, <kbd>5</kbd> not fitted; <kbd>n</kbd> note, <kbd>f</kbd> finding, <kbd>j</kbd> and{" "}
        <kbd>k</kbd> next and before.
      </p>
      {stops.map((stop) => (
        <PlaceStop
          key={stop.place}
          unitId={unitId}
          stop={stop}
          points={stop.points.filter((p) => !openOnly || !isNow(p.key))}
          newest={newest}
          isNow={isNow}
          findings={findings ?? NONE}
          pictures={pictures}
          onLook={(point, marked) => void keep(point, marked)}
          onFinding={setFinding}
          onWish={setWish}
        />
      ))}
      <p role="status" className="sr-only">
        {said}
      </p>
      {wish && (
        <CorrectSheet
          wish={wish}
          map={map}
          revision={revision}
          unitId={unitId}
          onClose={(words) => {
            setWish(undefined);
            if (words) setSaid(words);
          }}
        />
      )}
      {finding && (
        <FindingForm
          of={{ unitId, visitId, mapRevision: revision }}
          map={map}
          start={{ partId: finding.partId ?? null, what: `${finding.name}: ` }}
          onClose={() => setFinding(undefined)}
        />
      )}
    </div>
  );
};
