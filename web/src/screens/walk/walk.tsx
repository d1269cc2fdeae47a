import { MARKS, type Mark, type NewLook, type PointLook } from "@uppershed/contract";
import { type Dimension, type InspectionPoint, parseQuantity, rodVerdict, showFigure, walkRound } from "@uppershed/core";
import { CircleAlert, CircleCheck, CircleX, EyeOff, Slash } from "lucide-react";
import { Fragment, useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { useUnitMap } from "../../planning/use-map.ts";
import { uuid } from "../../run/uuid.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { problemText, useAddLooksMutation, useLooksAtQuery, useLooksQuery, usePartsQuery, useUnitQuery } from "../../store/api.ts";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { capital, dayOf } from "../../ui/words.ts";

const ICONS: Readonly<Record<Mark, typeof CircleCheck>> = {
  good: CircleCheck,
  watch: CircleAlert,
  bad: CircleX,
  "not reached": EyeOff,
  "not fitted": Slash,
};

// What a reading can be typed as; dates and volts go into the note.
const DIMENSIONS: Readonly<Record<string, Dimension>> = { length: "length", pressure: "pressure", temperature: "temperature" };

// Three quarters of an inch: what a rod commonly is when new (common practice, no source).
const NEW_ROD_M = 0.019;

/** When a sacrificial rod is due, from every thickness ever taken of it. */
const RodDue = ({ unitId, point }: { unitId: string; point: InspectionPoint }) => {
  const { system } = useUnits();
  const { data: taken } = useLooksAtQuery({ unitId, key: point.key });
  const { data: register } = usePartsQuery({ unit: unitId });
  if (!taken || !register) return null;
  const fittedOn = register.parts.find((p) => p.partId === point.partId && p.item === "anode")?.life.fittedOn;
  const verdict = rodVerdict(
    { newM: NEW_ROD_M, ...(fittedOn ? { fittedOn } : {}) },
    taken.map((l) => ({ on: l.at, thicknessM: l.readings })),
  );
  if (!verdict.ok) return <p className="mt-1 text-[14px] text-muted">When it is due: {verdict.problem}</p>;
  return (
    <details className="mt-1 text-[14px]">
      <summary>
        {verdict.due ? (
          <b className="text-rust">Renew it now: a quarter of its metal or less is left</b>
        ) : (
          <b>Renew it by {dayOf(verdict.renewBy)}</b>
        )}{" "}
        (worked out)
      </summary>
      <ul className="pl-4">
        {verdict.working.map((line) => (
          <li key={line}>{line}</li>
        ))}
        <li>{showFigure({ value: NEW_ROD_M, is: "length" }, system)} when new (assumed)</li>
      </ul>
    </details>
  );
};

/** What was found at one point: a mark with one tap, a note and figures where there are any. */
const Point = ({
  unitId,
  point,
  last,
  onLook,
}: {
  unitId: string;
  point: InspectionPoint;
  last: PointLook | undefined;
  onLook: (look: Pick<NewLook, "mark" | "note" | "readings">) => void;
}) => {
  const { system, text } = useUnits();
  const [note, setNote] = useState("");
  const [typed, setTyped] = useState<readonly string[]>([]);
  const [problem, setProblem] = useState<string>();
  const { look } = point;
  const dimension = look.reading && DIMENSIONS[look.reading.is];
  const times = dimension && look.reading ? look.reading.times : 0;
  const mark = (to: Mark): void => {
    const readings: number[] = [];
    for (const words of typed.filter((t) => t.trim() !== "")) {
      const read = dimension ? parseQuantity(words, dimension, system) : undefined;
      if (!read?.ok) return setProblem(read?.problem ?? "That is no figure.");
      readings.push(read.quantity.si);
    }
    setProblem(undefined);
    onLook({ mark: to, note, readings });
    setNote("");
    setTyped([]);
  };
  return (
    <li className="border-t border-line px-4 py-3">
      <div className="flex flex-wrap items-start justify-between gap-x-4 gap-y-1">
        <p className="min-w-0 flex-1 text-[16px]">
          <b>
            {point.tag ? `${point.tag}, ` : ""}
            {point.name}
          </b>
          : {text(point.point)}
          {point.unknown && <span className="text-rust"> (not known yet whether it is there)</span>}
          <span className="block text-[14px] text-muted">
            {look.how} <b className="font-semibold">Passes:</b> {look.passes} <b className="font-semibold">Fails:</b> {look.fails}
          </span>
          {look.caution && <span className="block text-[14px] font-semibold text-rust">{look.caution}</span>}
        </p>
        <p className="w-44 text-[14px] text-muted">
          {last ? (
            <>
              <b className={last.mark === "bad" ? "text-rust" : "text-ink"}>{capital(last.mark)}</b> {dayOf(last.at)}, {last.by}
              {last.readings.length > 0 && dimension && (
                <span className="block">
                  {last.readings.map((r) => showFigure({ value: r, is: dimension }, system)).join(", ")} (measured)
                </span>
              )}
              {last.note && <span className="block">{last.note}</span>}
            </>
          ) : (
            "not looked at yet"
          )}
        </p>
      </div>
      <div role="group" aria-label={`${point.name}: ${text(point.point)}`} className="mt-2 flex flex-wrap items-center gap-2">
        {MARKS.map((name) => {
          const Icon = ICONS[name];
          return (
            <button
              key={name}
              type="button"
              aria-pressed={last?.mark === name}
              className={`inline-flex min-h-11 items-center gap-1.5 rounded border-[1.5px] px-3 text-[15px] ${last?.mark === name ? "border-green bg-green text-on-green" : "border-line bg-raised hover:bg-green-soft"}`}
              onClick={() => mark(name)}
            >
              <Icon aria-hidden size={17} /> {capital(name)}
            </button>
          );
        })}
        {Array.from({ length: times }, (_, i) => (
          <input
            key={i}
            className="field w-24"
            aria-label={`${look.reading?.label} ${i + 1} of ${times}`}
            placeholder={look.reading?.label}
            value={typed[i] ?? ""}
            onChange={(e) => setTyped(Array.from({ length: times }, (_x, k) => (k === i ? e.target.value : (typed[k] ?? ""))))}
          />
        ))}
        <input
          className="field min-w-32 flex-1"
          aria-label={`Note on ${point.name}: ${text(point.point)}`}
          placeholder="Note"
          maxLength={1000}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
      </div>
      {look.reading?.is === "length" && <RodDue unitId={unitId} point={point} />}
      {problem && (
        <p role="alert" className="mt-1 text-[14px] text-rust">
          {problem}
        </p>
      )}
    </li>
  );
};

const lookedAtNow = (point: InspectionPoint, look: Pick<NewLook, "mark" | "note" | "readings">): NewLook => ({
  id: uuid(),
  key: point.key,
  partId: point.partId ?? null,
  point: point.point,
  at: new Date().toISOString(),
  ...look,
});

/** The walk-round of a unit: what its map says is to be looked at, place by place, and what was found there. */
export const Walk = () => {
  const { unitId = "" } = useParams();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { map, error } = useUnitMap(unitId);
  const { data: looks } = useLooksQuery(unitId);
  const [add, adding] = useAddLooksMutation();
  const [said, setSaid] = useState("");
  useTitle(unit ? `Walk-round of ${unit.name}` : "Walk-round");
  const stops = useMemo(() => (map ? walkRound(map) : []), [map]);
  const newest = useMemo(() => new Map((looks ?? []).map((l) => [l.key, l])), [looks]);
  if (!unit || !map) return <Waiting error={unitError ?? error} />;
  const all = stops.flatMap((s) => s.points);
  const seen = all.filter((p) => newest.has(p.key)).length;
  const found = async (point: InspectionPoint, look: Pick<NewLook, "mark" | "note" | "readings">): Promise<void> => {
    const reply = await add({ unitId, looks: [lookedAtNow(point, look)] });
    if (!reply.error) setSaid(`${point.name}, ${point.point}: ${look.mark}.`);
  };
  return (
    <main className="mx-auto max-w-5xl pb-10">
      <InBar>
        <Link to={`/units/${unitId}`} className="truncate rounded border border-on-bar/60 px-3 py-1 text-[15px] text-on-bar">
          <b>{unit.name}</b>
          <span className="hidden lg:inline"> · {unit.craft}</span>
        </Link>
      </InBar>
      <div className="flex flex-wrap items-baseline justify-between gap-3 px-4 py-4">
        <h1 className="text-[24px] font-extrabold">Walk-round of {unit.name}</h1>
        <p className="text-[15px]">
          <b>{seen}</b> of {all.length} points looked at, ever
        </p>
      </div>
      {adding.error && (
        <p role="alert" className="mx-4 mb-2 border-l-4 border-rust bg-rust-soft px-3 py-2">
          {problemText(adding.error)}
        </p>
      )}
      {stops.map((stop) => (
        <section key={stop.place} aria-label={capital(stop.place)} className="mb-4 border-y border-line bg-paper">
          <h2 className="flex justify-between bg-green-soft px-4 py-2 text-[17px] font-bold">
            {capital(stop.place)}
            <span className="text-[14px] font-normal">
              {stop.points.filter((p) => newest.has(p.key)).length} of {stop.points.length}
            </span>
          </h2>
          <ul>
            {stop.points.map((point, i) => {
              const panel = point.access !== undefined && point.access !== stop.points[i - 1]?.access ? point.access : undefined;
              return (
                <Fragment key={point.key}>
                  {panel && <li className="border-t border-line px-4 pt-2 text-[14px] font-semibold">Behind: {panel}</li>}
                  <Point unitId={unitId} point={point} last={newest.get(point.key)} onLook={(look) => void found(point, look)} />
                </Fragment>
              );
            })}
          </ul>
        </section>
      ))}
      <p role="status" className="sr-only">
        {said}
      </p>
    </main>
  );
};
