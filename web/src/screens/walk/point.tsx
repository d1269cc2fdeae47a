import type { NewLook, PointLook } from "@uppershed/contract";
import {
  type Dimension,
  type InspectionPoint,
  LOOK_MARK_LABELS,
  LOOK_MARKS,
  type LookMark,
  NEW_ROD_M,
  parseQuantity,
  rodVerdict,
  showFigure,
} from "@uppershed/core";
import { CircleAlert, CircleCheck, CircleX, EyeOff, Slash } from "lucide-react";
import { type KeyboardEvent, useRef, useState } from "react";
import type { PictureNow } from "../../sending/on-device.ts";
import { PictureButton } from "../../pictures/picture-button.tsx";
import { PictureStrip } from "../../pictures/picture-strip.tsx";
import { uuid } from "../../device/uuid.ts";
import { useLooksAtQuery, usePartsQuery } from "../../store/api.ts";
import { useUnits } from "../../ui/units.ts";
import { capital, dayOf } from "../../ui/words.ts";

const ICONS: Readonly<Record<LookMark, typeof CircleCheck>> = {
  good: CircleCheck,
  watch: CircleAlert,
  bad: CircleX,
  "not-reached": EyeOff,
  "not-fitted": Slash,
};

// What a reading can be typed as; dates and volts go into the note.
const DIMENSIONS: Readonly<Record<string, Dimension>> = {
  length: "length",
  pressure: "pressure",
  temperature: "temperature",
};

/** When a sacrificial rod is due, from every thickness ever taken of it. */
const RodDue = ({ unitId, point }: { unitId: string; point: InspectionPoint }) => {
  const { system } = useUnits();
  const { data: taken } = useLooksAtQuery({ unitId, key: point.key });
  const { data: register } = usePartsQuery({ unit: unitId });
  if (!taken || !register) return null;
  const fittedOn = register.parts.find((p) => p.partId === point.partId && p.item === "anode")?.life
    .fittedOn;
  const verdict = rodVerdict(
    { newM: NEW_ROD_M, ...(fittedOn ? { fittedOn } : {}) },
    taken.map((l) => ({ on: l.at, thicknessM: l.readings })),
  );
  if (!verdict.ok)
    return <p className="mt-1 text-[14px] text-muted">When it is due: {verdict.problem}</p>;
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

export type PointMarked = Pick<NewLook, "id" | "mark" | "note" | "readings">;

/** What was found at one point: a mark with one tap or one key, a note, figures and pictures where there are any. */
export const Point = ({
  unitId,
  point,
  last,
  now,
  pictures,
  onLook,
  onFinding,
}: {
  unitId: string;
  point: InspectionPoint;
  last: PointLook | undefined;
  /** Whether the last look belongs to this walk-round. */
  now: boolean;
  pictures: readonly PictureNow[];
  onLook: (look: PointMarked) => void;
  onFinding: () => void;
}) => {
  const { system, text } = useUnits();
  const [nextId, setNextId] = useState(uuid);
  const [note, setNote] = useState("");
  const [typed, setTyped] = useState<readonly string[]>([]);
  const [problem, setProblem] = useState<string>();
  const noteField = useRef<HTMLInputElement>(null);
  const { look } = point;
  const dimension = look.reading && DIMENSIONS[look.reading.is];
  const times = dimension && look.reading ? look.reading.times : 0;
  const mark = (to: LookMark): boolean => {
    const readings: number[] = [];
    for (const words of typed.filter((t) => t.trim() !== "")) {
      const read = dimension ? parseQuantity(words, dimension, system) : undefined;
      if (!read?.ok) {
        setProblem(read?.problem ?? "That is no figure.");
        return false;
      }
      readings.push(read.quantity.si);
    }
    setProblem(undefined);
    onLook({ id: nextId, mark: to, note, readings });
    setNextId(uuid());
    setNote("");
    setTyped([]);
    return true;
  };
  /** To the next point or the one before: by its first mark, so that Tab goes on from there. */
  const go = (from: HTMLElement, by: 1 | -1): void => {
    const all = [...document.querySelectorAll<HTMLElement>("[data-point]")];
    all[all.indexOf(from) + by]?.querySelector("button")?.focus();
  };
  const keys = (event: KeyboardEvent<HTMLElement>): void => {
    const field = event.target instanceof HTMLInputElement && event.target.type !== "file";
    if (field && (event.key === "Enter" || event.key === "Escape")) {
      event.preventDefault();
      event.currentTarget.querySelector("button")?.focus();
      return;
    }
    if (field || event.metaKey || event.ctrlKey || event.altKey) return;
    const nth = LOOK_MARKS[Number(event.key) - 1];
    if (nth) {
      event.preventDefault();
      if (mark(nth)) go(event.currentTarget, 1);
    } else if (event.key === "j" || event.key === "ArrowDown") {
      event.preventDefault();
      go(event.currentTarget, 1);
    } else if (event.key === "k" || event.key === "ArrowUp") {
      event.preventDefault();
      go(event.currentTarget, -1);
    } else if (event.key === "n") {
      event.preventDefault();
      noteField.current?.focus();
    } else if (event.key === "f") {
      event.preventDefault();
      onFinding();
    }
  };
  const about = now && last ? last.id : nextId;
  const shown = pictures.filter((p) => p.aboutId === last?.id || p.aboutId === nextId);
  return (
    // The keys work wherever in the point the focus is.
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <li
      className={`border-t border-line px-4 py-3 ${now ? "bg-green-soft/40" : ""}`}
      data-point={point.key}
      onKeyDown={keys}
    >
      <div className="flex flex-wrap items-start justify-between gap-x-4 gap-y-1">
        <p className="min-w-0 flex-1 text-[16px]">
          <b>
            {point.tag ? `${point.tag}, ` : ""}
            {point.name}
          </b>
          : {text(point.point)}
          {point.unknown && <span className="text-rust"> (not known yet whether it is there)</span>}
          <span className="block text-[14px] text-muted">
            {look.how} <b className="font-semibold">Passes:</b> {look.passes}{" "}
            <b className="font-semibold">Fails:</b> {look.fails}
          </span>
          {look.caution && (
            <span className="block text-[14px] font-semibold text-rust">{look.caution}</span>
          )}
        </p>
        <p className="w-full text-[14px] text-muted sm:w-44">
          {last ? (
            <>
              <b className={last.mark === "bad" ? "text-rust" : "text-ink"}>
                {capital(LOOK_MARK_LABELS[last.mark])}
              </b>{" "}
              {dayOf(last.at)}, {last.by}
              {last.readings.length > 0 && dimension && (
                <span className="block">
                  {last.readings
                    .map((r) => showFigure({ value: r, is: dimension }, system))
                    .join(", ")}{" "}
                  (measured)
                </span>
              )}
              {last.note && <span className="block">{last.note}</span>}
            </>
          ) : (
            "not looked at yet"
          )}
        </p>
      </div>
      <div
        role="group"
        aria-label={`${point.name}: ${text(point.point)}`}
        className="mt-2 flex flex-wrap items-center gap-2"
      >
        {LOOK_MARKS.map((name, i) => {
          const Icon = ICONS[name];
          const on = last?.mark === name;
          return (
            <button
              key={name}
              type="button"
              aria-pressed={on}
              aria-keyshortcuts={String(i + 1)}
              className={`inline-flex min-h-11 items-center gap-1.5 rounded border-[1.5px] px-3 text-[15px] ${on ? (now ? "border-green bg-green text-on-green" : "border-green bg-raised font-bold") : "border-line bg-raised hover:bg-green-soft"}`}
              onClick={() => mark(name)}
            >
              <Icon aria-hidden size={17} /> {capital(LOOK_MARK_LABELS[name])}
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
            onChange={(e) =>
              setTyped(
                Array.from({ length: times }, (_x, k) =>
                  k === i ? e.target.value : (typed[k] ?? ""),
                ),
              )
            }
          />
        ))}
        <input
          ref={noteField}
          className="field min-w-32 flex-1"
          aria-label={`Note on ${point.name}: ${text(point.point)}`}
          placeholder="Note"
          maxLength={1000}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
        <PictureButton
          unitId={unitId}
          about="look"
          aboutId={about}
          label={`Picture of ${point.name}: ${text(point.point)}`}
        />
        {(last?.mark === "bad" || last?.mark === "watch") && now && (
          <button
            type="button"
            className="inline-flex min-h-11 items-center rounded border-[1.5px] border-rust px-3 text-[15px] font-semibold text-rust hover:bg-rust-soft"
            onClick={onFinding}
          >
            Make it a finding
          </button>
        )}
      </div>
      <PictureStrip pictures={shown} />
      {look.reading?.is === "length" && <RodDue unitId={unitId} point={point} />}
      {problem && (
        <p role="alert" className="mt-1 text-[14px] text-rust">
          {problem}
        </p>
      )}
    </li>
  );
};
