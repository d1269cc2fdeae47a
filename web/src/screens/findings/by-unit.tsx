import type { FindingOnFile } from "@uppershed/contract";
import { SEVERITIES, SEVERITY_LABELS } from "@uppershed/core/inspection";
import { Link } from "react-router";
import { stands } from "../../findings/finding-list.tsx";
import { useUnits } from "../../ui/units.ts";
import { capital, dayOf } from "../../ui/words.ts";

interface Group<T> {
  readonly key: string;
  readonly of: readonly T[];
}

/** Gathers by a key; groups stand in the order of their first. */
const grouped = <T,>(all: readonly T[], keyOf: (one: T) => string): Group<T>[] => {
  const groups = new Map<string, T[]>();
  for (const one of all) {
    const of = groups.get(keyOf(one));
    if (of) of.push(one);
    else groups.set(keyOf(one), [one]);
  }
  return [...groups].map(([key, of]) => ({ key, of }));
};

const tally = (findings: readonly FindingOnFile[]): string => {
  const open = findings.filter((f) => f.state === "open");
  const counts = SEVERITIES.flatMap((s) => {
    const n = open.filter((f) => f.severity === s).length;
    return n > 0 ? [`${n} ${SEVERITY_LABELS[s]}`] : [];
  });
  return counts.length > 0 ? counts.join(", ") : "nothing stands open";
};

const Line = ({
  finding,
  onOpen,
}: {
  finding: FindingOnFile;
  onOpen: (finding: FindingOnFile) => void;
}) => {
  const { text } = useUnits();
  const isBad = finding.severity === "unsafe" && finding.state !== "mended";
  return (
    <li>
      <button
        type="button"
        className={`grid min-h-12 w-full grid-cols-1 gap-x-4 border-l-4 bg-raised px-3 py-2 text-left hover:bg-green-soft sm:grid-cols-[6.5rem_1fr_auto] ${isBad ? "border-rust" : finding.state === "open" ? "border-green" : "border-line"}`}
        onClick={() => onOpen(finding)}
      >
        <b className={isBad ? "text-rust" : finding.state === "open" ? "" : "text-muted"}>
          {capital(SEVERITY_LABELS[finding.severity])}
        </b>
        <span className="min-w-0">
          {text(finding.what)}
          {finding.advice && (
            <span className="block text-[14px] text-muted">Advised: {text(finding.advice)}</span>
          )}
          {finding.touches && finding.touches.length > 0 && (
            <span className="block text-[14px] text-muted">
              Touches {finding.touches.join(", ")}
            </span>
          )}
        </span>
        <span className="text-[14px] text-muted sm:text-right">
          {dayOf(finding.foundAt)}
          <br />
          {stands(finding)}
        </span>
      </button>
    </li>
  );
};

/** Findings by unit and, on it, by the place where one has to go; the unit with the worst comes first. */
export const FindingsByUnit = ({
  findings,
  onOpen,
}: {
  findings: readonly FindingOnFile[];
  onOpen: (finding: FindingOnFile) => void;
}) => (
  <>
    {grouped(findings, (f) => f.unitId).map(({ key, of }) => (
      <section key={key} aria-label={of[0]?.unitName ?? ""} className="mb-6">
        <div className="flex flex-wrap items-baseline gap-x-4 border-b-2 border-ink pb-1">
          <h2 className="text-[19px] font-bold">
            <Link to={`/units/${key}`} className="hover:underline">
              {of[0]?.unitName}
            </Link>
          </h2>
          <span className="text-[14px] text-muted">{tally(of)}</span>
          <Link
            to={`/units/${key}/map`}
            className="ml-auto flex min-h-11 items-center text-[14px] text-green underline"
          >
            On its map
          </Link>
        </div>
        {grouped(of, (f) => f.place).map((place) => (
          <div key={place.key} className="mt-2 grid gap-x-4 sm:grid-cols-[11rem_1fr]">
            <h3 className="pt-2 text-[14px] font-semibold text-muted">
              {capital(place.key || "place not said")}
            </h3>
            <ul className="grid gap-1">
              {place.of.map((f) => (
                <Line key={f.id} finding={f} onOpen={onOpen} />
              ))}
            </ul>
          </div>
        ))}
      </section>
    ))}
  </>
);
