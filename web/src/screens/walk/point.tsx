import type { PointLook } from "@uppershed/contract";
import {
  type InspectionPoint,
  LOOK_MARK_LABELS,
  LOOK_MARKS,
  type LookMark,
} from "@uppershed/core/inspection";
import { showFigure } from "@uppershed/core/reckon";
import { CircleAlert, CircleCheck, CircleX, EyeOff, Slash } from "lucide-react";
import { type KeyboardEvent, useRef } from "react";
import { PictureButton } from "../../pictures/picture-button.tsx";
import { PictureStrip } from "../../pictures/picture-strip.tsx";
import type { PictureNow } from "../../sending/on-device.ts";
import { useUnits } from "../../ui/units.ts";
import { capital, dayOf } from "../../ui/words.ts";
import { RodDue } from "./rod-due.tsx";
import { DIMENSIONS, type PointInHand, type PointMarked, usePoint } from "./use-point.ts";

const ICONS: Readonly<Record<LookMark, typeof CircleCheck>> = {
  good: CircleCheck,
  watch: CircleAlert,
  bad: CircleX,
  "not-reached": EyeOff,
  "not-fitted": Slash,
};

/** To the next point or the one before: by its first mark, so that Tab goes on from there. */
const go = (from: HTMLElement, by: 1 | -1): void => {
  const all = [...document.querySelectorAll<HTMLElement>("[data-point]")];
  all[all.indexOf(from) + by]?.querySelector("button")?.focus();
};

/** The keys of a point, wherever in it the focus is; while a figure or a note is typed only those that end it. */
const onKey = (
  event: KeyboardEvent<HTMLElement>,
  mark: PointInHand["mark"],
  toNote: () => void,
  onFinding: () => void,
): void => {
  const point = event.currentTarget;
  const field = event.target instanceof HTMLInputElement && event.target.type !== "file";
  const held = event.metaKey || event.ctrlKey || event.altKey;
  const nth = LOOK_MARKS[Number(event.key) - 1];
  const inField: Readonly<Record<string, () => void>> = {
    Enter: () => point.querySelector("button")?.focus(),
    Escape: () => point.querySelector("button")?.focus(),
  };
  const onPoint: Readonly<Record<string, () => void>> = {
    j: () => go(point, 1),
    ArrowDown: () => go(point, 1),
    k: () => go(point, -1),
    ArrowUp: () => go(point, -1),
    n: toNote,
    f: onFinding,
    ...(nth ? { [event.key]: () => mark(nth) && go(point, 1) } : {}),
  };
  const does = field ? inField[event.key] : held ? undefined : onPoint[event.key];
  if (!does) return;
  event.preventDefault();
  does();
};

interface PointProps {
  readonly unitId: string;
  readonly point: InspectionPoint;
  readonly last: PointLook | undefined;
  /** Whether the last look belongs to this walk-round. */
  readonly now: boolean;
  readonly pictures: readonly PictureNow[];
  readonly onLook: (look: PointMarked) => void;
  readonly onFinding: () => void;
}

/** What is to be looked at, how, and what was found there last. */
const Said = ({ point, last }: Pick<PointProps, "point" | "last">) => {
  const { system, text } = useUnits();
  const { look } = point;
  const dimension = look.reading && DIMENSIONS[look.reading.is];
  return (
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
  );
};

/** The marks of a point, one tap or one key each. */
const Marks = ({
  last,
  now,
  onMark,
}: Pick<PointProps, "last" | "now"> & { onMark: (mark: LookMark) => void }) =>
  LOOK_MARKS.map((name, i) => {
    const Icon = ICONS[name];
    const on = last?.mark === name;
    const look = !on
      ? "border-line bg-raised hover:bg-green-soft"
      : now
        ? "border-green bg-green text-on-green"
        : "border-green bg-raised font-bold";
    return (
      <button
        key={name}
        type="button"
        aria-pressed={on}
        aria-keyshortcuts={String(i + 1)}
        className={`inline-flex min-h-11 items-center gap-1.5 rounded border-[1.5px] px-3 text-[15px] ${look}`}
        onClick={() => onMark(name)}
      >
        <Icon aria-hidden size={17} /> {capital(LOOK_MARK_LABELS[name])}
      </button>
    );
  });

/** What was found at one point: a mark with one tap or one key, a note, figures and pictures where there are any. */
export const Point = (props: PointProps) => {
  const { unitId, point, last, now, pictures, onLook, onFinding } = props;
  const { system, text } = useUnits();
  const inHand = usePoint(point, system, onLook);
  const noteField = useRef<HTMLInputElement>(null);
  const { look } = point;
  const name = `${point.name}: ${text(point.point)}`;
  const shown = pictures.filter((p) => p.aboutId === last?.id || p.aboutId === inHand.id);
  return (
    // The keys work wherever in the point the focus is.
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <li
      className={`border-t border-line px-4 py-3 ${now ? "bg-green-soft/40" : ""}`}
      data-point={point.key}
      onKeyDown={(event) => onKey(event, inHand.mark, () => noteField.current?.focus(), onFinding)}
    >
      <Said point={point} last={last} />
      <div role="group" aria-label={name} className="mt-2 flex flex-wrap items-center gap-2">
        <Marks last={last} now={now} onMark={inHand.mark} />
        {inHand.typed.map((words, i) => (
          <input
            // The figures of a point are told apart by their number alone.
            // oxlint-disable-next-line react/no-array-index-key
            key={i}
            className="field w-24"
            aria-label={`${look.reading?.label} ${i + 1} of ${inHand.typed.length}`}
            placeholder={look.reading?.label}
            value={words}
            onChange={(e) => inHand.type(i, e.target.value)}
          />
        ))}
        <input
          ref={noteField}
          className="field min-w-32 flex-1"
          aria-label={`Note on ${name}`}
          placeholder="Note"
          maxLength={1000}
          value={inHand.note}
          onChange={(e) => inHand.setNote(e.target.value)}
        />
        <PictureButton
          unitId={unitId}
          about="look"
          aboutId={now && last ? last.id : inHand.id}
          label={`Picture of ${name}`}
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
      {inHand.problem && (
        <p role="alert" className="mt-1 text-[14px] text-rust">
          {inHand.problem}
        </p>
      )}
    </li>
  );
};
