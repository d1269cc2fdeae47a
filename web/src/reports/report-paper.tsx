import type { ReportData } from "@uppershed/contract";
import { litMapSvg } from "@uppershed/core/formats";
import {
  ANSWERS_TOLD,
  LOOK_MARK_LABELS,
  type LookMark,
  type Report,
  type ReportFinding,
  reportFrom,
  SEVERITY_LABELS,
  stateInWords,
} from "@uppershed/core/inspection";
import { fillIn } from "@uppershed/core/quantity";
import { readWaterMap } from "@uppershed/core/watermap";
import { type ReactNode, useMemo } from "react";
import { PictureView } from "../pictures/picture-strip.tsx";
import { capital, dayOf } from "../ui/words.ts";

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <section aria-label={title} className="mt-5">
    <h2 className="border-b-2 border-green pb-0.5 text-[17px] font-bold">{title}</h2>
    <div className="mt-2">{children}</div>
  </section>
);

type Rule = (text: string) => string;

const Pictures = ({ pictures, base }: { pictures: ReportData["pictures"]; base: string }) =>
  pictures.length > 0 && (
    <div className="mt-2 flex flex-wrap gap-2">
      {pictures.map((p) => (
        <PictureView
          key={p.id}
          picture={p}
          base={base}
          className="w-60 max-w-full border border-line"
        />
      ))}
    </div>
  );

/** One finding, as it is told to the owner. */
const Finding = ({
  finding: f,
  number,
  data,
  pictureBase,
}: {
  finding: ReportFinding;
  /** Its number on the map; 0 where it has none. */
  number: number;
  data: ReportData;
  pictureBase: string;
}) => {
  const rule: Rule = (text) => fillIn(text, data.workshop.units);

  const pictures = data.pictures.filter((p) => p.aboutId === f.id);
  return (
    <li className="break-inside-avoid border-b border-line py-2">
      <p className="text-[16px]">
        {number > 0 && (
          <span className="mr-2 inline-flex size-6 items-center justify-center rounded-full bg-rust text-[14px] font-bold text-on-rust">
            {number}
          </span>
        )}
        <b className={f.severity === "unsafe" ? "text-rust" : ""}>
          {capital(SEVERITY_LABELS[f.severity])}:
        </b>{" "}
        <b>{rule(f.what)}</b>
        {f.place && <span className="text-muted"> ({f.place})</span>}
      </p>
      {f.cause && <p>Cause: {rule(f.cause)}</p>}
      {f.advice && <p>Advised: {rule(f.advice)}</p>}
      {(f.partsNeeded || f.minutes !== null) && (
        <p className="text-muted">
          Needs:{" "}
          {[f.partsNeeded, f.minutes === null ? "" : `about ${f.minutes} minutes`]
            .filter(Boolean)
            .join(", ")}
        </p>
      )}
      {f.answer && (
        <p className="text-muted">
          Your answer: {ANSWERS_TOLD[f.answer.answer]} ({f.answer.who}, {dayOf(f.answer.at)})
        </p>
      )}
      {f.mended && (
        <p>
          Mended {dayOf(f.mended.at)}: {f.mended.how}. Proved by: {f.mended.proof}.
        </p>
      )}
      {f.accepted && <p className="text-muted">Left so: {f.accepted.why}</p>}
      <Pictures pictures={pictures} base={pictureBase} />
    </li>
  );
};

/** Whose unit, which visit, what was asked, and how it stands. */
const Head = ({ data, report }: { data: ReportData; report: Report }) => (
  <>
    <p className="text-muted">
      {data.workshop.name}, {data.workshop.place}
    </p>
    <h1 className="text-[28px] font-extrabold leading-tight">Report on {data.unit.name}</h1>
    <p className="text-muted">
      {[data.unit.craft, data.unit.plate, data.unit.owner].filter(Boolean).join(" · ")} · visit of{" "}
      {dayOf(data.visit.startsAt)} · map revision {data.mapRevision} ·{" "}
      {data.edition
        ? `edition ${data.edition.number}, ${dayOf(data.edition.at)}`
        : "draft, not handed over"}
    </p>
    <p className="mt-2">
      Asked for: {data.visit.asked}.{" "}
      {data.visit.ownerSaid && (
        <>
          You said: <q className="italic">{data.visit.ownerSaid}</q>
        </>
      )}
    </p>
    <p>
      On {dayOf(data.asOf)} it <b>{stateInWords(data.unit.state, data.workshop.units)}</b>.{" "}
      <b>
        {report.seen} of {report.inAll}
      </b>{" "}
      points looked at, {report.good} of them good; {report.open.length}{" "}
      {report.open.length === 1 ? "thing stands" : "things stand"} open.
    </p>
  </>
);

interface Told {
  report: Report;
  rule: Rule;
}

const Looked = ({ report, rule }: Told) => (
  <Part title="What was looked at">
    {report.places.length === 0 && (
      <p className="text-muted">No walk-round was done on this visit.</p>
    )}
    {report.places.map((place) => (
      <div key={place.place} className="break-inside-avoid">
        <h3 className="mt-2 font-bold">{capital(place.place)}</h3>
        <ul className="columns-1 gap-8 sm:columns-2 print:columns-2">
          {place.lines.map((line) => (
            <li key={`${line.name}/${line.point}`} className="break-inside-avoid text-[14px]">
              {line.name}: {rule(line.point)},{" "}
              <b className={line.mark === "bad" ? "text-rust" : ""}>
                {LOOK_MARK_LABELS[line.mark as LookMark] ?? line.mark}
              </b>
              {line.note && <span className="text-muted"> ({line.note})</span>}
            </li>
          ))}
        </ul>
      </div>
    ))}
  </Part>
);

const NotReached = ({ report, rule }: Told) => (
  <Part title="What was not reached">
    {report.notReached.length + report.notLooked.length === 0 && (
      <p className="text-muted">Every point of the walk-round was reached.</p>
    )}
    {report.notReached.length > 0 && (
      <ul className="text-[14px]">
        {report.notReached.map((n) => (
          <li key={`${n.name}/${n.point}`}>
            {n.name}: {rule(n.point)} <span className="text-muted">({n.why})</span>
          </li>
        ))}
      </ul>
    )}
    {report.notLooked.length > 0 && (
      <>
        <h3 className="mt-2 font-bold">Not looked at on this visit</h3>
        <ul className="columns-1 gap-8 text-[14px] sm:columns-2 print:columns-2">
          {report.notLooked.map((n) => (
            <li key={n.name} className="break-inside-avoid">
              {n.name}:{" "}
              <span className="text-muted">{n.points.map((p) => rule(p)).join("; ")}</span>
            </li>
          ))}
        </ul>
      </>
    )}
  </Part>
);

/** What was told in sections, each a title and its lines. */
const Sections = ({
  of,
  rule,
}: {
  of: readonly { readonly title: string; readonly lines: readonly string[] }[];
  rule: (text: string) => string;
}) =>
  of.map((s) => (
    <div key={s.title} className="break-inside-avoid">
      <h3 className="mt-2 font-bold">{s.title}</h3>
      <ul className="list-disc pl-5 text-[14px]">
        {s.lines.map((line) => (
          <li key={line}>{rule(line)}</li>
        ))}
      </ul>
    </div>
  ));

/** The report to an owner, from the same figures as the PDF file: for the screen, for paper, and for the owner's own page. */
export const ReportPaper = ({ data, pictureBase }: { data: ReportData; pictureBase: string }) => {
  const read = useMemo(() => readWaterMap(data.map), [data.map]);
  const report = useMemo(() => reportFrom(data.report, data.findings), [data]);
  const svg = useMemo(
    () =>
      read.ok
        ? `data:image/svg+xml,${encodeURIComponent(litMapSvg(read.map, report.lit))}`
        : undefined,
    [read, report],
  );
  const rule = (text: string): string => fillIn(text, data.workshop.units);
  const finding = (f: ReportFinding, numbered: boolean) => (
    <Finding
      key={f.id}
      finding={f}
      number={numbered && f.partId ? report.lit.indexOf(f.partId) + 1 : 0}
      data={data}
      pictureBase={pictureBase}
    />
  );
  return (
    <article className="text-[15px]">
      <Head data={data} report={report} />
      {report.declined.length > 0 && (
        <p className="mt-2 border-l-4 border-rust bg-rust-soft p-2">
          <b>Unsafe and declined</b>, so it stands on every report:{" "}
          {report.declined.map((f) => rule(f.what)).join("; ")}
        </p>
      )}
      {data.winterizing && (
        <Part title={`Winterized on ${dayOf(data.winterizing.at)}`}>
          <Sections of={data.winterizing.sections} rule={rule} />
          <Pictures pictures={data.pictures.filter((p) => p.about === "run")} base={pictureBase} />
        </Part>
      )}
      {data.waterWork.map((w) => (
        <Part
          key={w.job}
          title={`${w.job === "spring" ? "De-winterized" : "Sanitized"} on ${dayOf(w.at)}`}
        >
          <Sections of={w.sections} rule={rule} />
        </Part>
      ))}
      {data.tests.length > 0 && (
        <Part title="Pressure tests">
          {data.tests.map((t) => (
            <ul key={t.at} className="list-disc break-inside-avoid pl-5 text-[14px]">
              {t.lines.map((line) => (
                <li key={line}>{rule(line)}</li>
              ))}
            </ul>
          ))}
        </Part>
      )}
      <Part title="What is advised, most urgent first">
        {report.open.length === 0 ? (
          <p className="text-muted">Nothing stands open.</p>
        ) : (
          <ol>{report.open.map((f) => finding(f, true))}</ol>
        )}
        {svg && report.lit.length > 0 && (
          <img
            src={svg}
            alt={`Map of ${data.unit.name} with the parts marked that are spoken of`}
            className="mt-3 w-full border border-line"
          />
        )}
      </Part>
      {report.mended.length > 0 && (
        <Part title="Mended on this visit">
          <ul>{report.mended.map((f) => finding(f, false))}</ul>
        </Part>
      )}
      {report.accepted.length > 0 && (
        <Part title="Left as it is">
          <ul>{report.accepted.map((f) => finding(f, false))}</ul>
        </Part>
      )}
      {data.handover.length > 0 && (
        <Part title="Using the water of this unit">
          <Sections of={data.handover} rule={rule} />
        </Part>
      )}
      <Looked report={report} rule={rule} />
      <NotReached report={report} rule={rule} />
      <p className="mt-5 text-[13px] text-muted">
        Gas, mains electricity and pressure vessels are for licensed trades; the maker's
        instructions and local codes come before this sheet.
      </p>
    </article>
  );
};
