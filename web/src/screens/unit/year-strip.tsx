import { DAY_MS } from "@uppershed/core/quantity";

import { useMemo } from "react";
import { dayOf } from "../../ui/words.ts";

export interface YearMark {
  readonly day: string;
  readonly kind: "visit" | "finding" | "reading" | "record" | "test";
  readonly says: string;
}

const KINDS = {
  record: "signed sheet",
  visit: "visit",
  finding: "finding",
  reading: "reading",
  test: "pressure test",
} as const;
const LEAST_DAYS = 200;

const Sign = ({ kind }: { kind: YearMark["kind"] }) => (
  <svg width="14" height="14" viewBox="-7 -7 14 14" aria-hidden>
    {kind === "record" && <rect x="-6" y="-6" width="12" height="12" rx="2" fill="var(--green)" />}
    {kind === "visit" && (
      <rect
        x="-5"
        y="-5"
        width="10"
        height="10"
        fill="var(--raised)"
        stroke="var(--green)"
        strokeWidth="2.2"
      />
    )}
    {kind === "finding" && <path d="M0 -6.5L6.5 0L0 6.5L-6.5 0Z" fill="var(--rust)" />}
    {kind === "reading" && <circle r="4" fill="var(--muted)" />}
    {kind === "test" && (
      <path d="M-5 5A7 7 0 1 1 5 5M0 0L4 -4" fill="none" stroke="var(--green)" strokeWidth="2" />
    )}
  </svg>
);

/** The years along the foot: every visit, record, finding and reading is a mark that sets the map to its day. */
export const YearStrip = ({
  marks,
  chosen,
  onChoose,
}: {
  marks: readonly YearMark[];
  chosen: string | undefined;
  onChoose: (day: string | undefined) => void;
}) => {
  const days = useMemo(() => {
    const by = new Map<string, YearMark[]>();
    for (const mark of marks) by.set(mark.day, [...(by.get(mark.day) ?? []), mark]);
    return [...by].toSorted(([a], [b]) => (a < b ? -1 : 1));
  }, [marks]);
  const first = days[0]?.[0];
  const last = days.at(-1)?.[0];
  if (first === undefined || last === undefined) return null;
  const [from, to] = [
    Date.parse(first),
    Math.max(Date.parse(last), Date.parse(first) + LEAST_DAYS * DAY_MS),
  ];
  const at = (iso: string): number => ((Date.parse(iso) - from) / (to - from)) * 100;
  const years = Array.from(
    { length: new Date(to).getUTCFullYear() - new Date(from).getUTCFullYear() },
    (_, i) => new Date(from).getUTCFullYear() + 1 + i,
  );
  return (
    <div role="group" aria-label="The years" className="relative mx-6 h-12">
      <div className="absolute inset-x-0 top-[22px] border-t-2 border-line" aria-hidden />
      {years.map((year) => (
        <span
          key={year}
          aria-hidden
          className="absolute top-0 h-12 border-l border-line pl-1 text-[12px] text-muted"
          style={{ left: `${at(`${year}-01-01`)}%` }}
        >
          {year}
        </span>
      ))}
      {days.map(([day, of]) => {
        const kind =
          (Object.keys(KINDS) as YearMark["kind"][]).find((k) => of.some((m) => m.kind === k)) ??
          "visit";
        const says = `${dayOf(day)}: ${[...new Set(of.map((m) => m.says))].join("; ")}`;
        return (
          <button
            key={day}
            type="button"
            aria-pressed={chosen === day}
            aria-label={says}
            title={says}
            className={`absolute top-[11px] flex size-6 -translate-x-1/2 items-center justify-center rounded ${chosen === day ? "bg-paper outline outline-2 outline-green" : "hover:bg-green-soft"}`}
            style={{ left: `${at(day)}%` }}
            onClick={() => onChoose(chosen === day ? undefined : day)}
          >
            <span className="relative">
              <Sign kind={kind} />
              {kind !== "finding" && of.some((m) => m.kind === "finding") && (
                <span className="absolute -right-1.5 -top-2">
                  <Sign kind="finding" />
                </span>
              )}
            </span>
          </button>
        );
      })}
    </div>
  );
};
