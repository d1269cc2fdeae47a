import type { Me } from "@uppershed/contract";
import { buildScene } from "@uppershed/core/drawing";
import { type FindingSeverity, SEVERITY_LABELS } from "@uppershed/core/inspection";
import {
  jobOf,
  jobWork,
  looseEnds,
  type RunState,
  type Signature,
  type TurnSaid,
  turnsOf,
  verdictNow,
  waitsForCountersign,
  methodLabel,
} from "@uppershed/core/procedure";
import { Printer } from "lucide-react";
import { useMemo } from "react";
import { useLayout } from "../../mapping/use-chart.ts";
import { Link, useParams } from "react-router";
import { PictureStrip } from "../../pictures/picture-strip.tsx";
import { usePicturesNow } from "../../sending/on-device.ts";
import { PaperMap } from "../../drawing/map-drawing.tsx";
import { type LiveRun, useRun } from "../../run/use-run.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useMeQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf, timeOf } from "../../ui/words.ts";
import { AgainToday, ClocksAhead, AstrayEntries } from "./beside.tsx";
import { Figures } from "./figures.tsx";
import { NotDone } from "./not-done.tsx";
import { StepsDone } from "./steps-done.tsx";
import { WaterFigures, WaterTold } from "./water.tsx";
import { BarLink } from "../../shell/bar-link.tsx";

const Turns = ({ turns, empty }: { turns: readonly TurnSaid[]; empty: string }) => {
  if (turns.length === 0) return <p className="text-[14.5px]">{empty}</p>;
  return (
    <ul className="text-[14.5px]">
      {turns.map((t) => (
        <li key={t.control}>
          {t.tag && <b>{t.tag} </b>}
          {t.name}: <b>{t.now}</b>
          <span className="text-muted"> (in use: {t.inUse})</span>
        </li>
      ))}
    </ul>
  );
};

const Section = ({ title, children }: { title: string; children: React.ReactNode }) => (
  <section aria-label={title} className="mt-5 break-inside-avoid">
    <h2 className="border-b-2 border-green pb-0.5 text-[16px] font-bold">{title}</h2>
    <div className="mt-2">{children}</div>
  </section>
);

/** Who was signed in, and any other name that was given. */
const Signed = ({ signature: { name, role, dictated } }: { signature: Signature }) => (
  <>
    <b>{name}</b>, {role}
    {dictated !== undefined && ` (name given: ${dictated})`}
  </>
);

/** How cold it holds, who did it, and what can be done with the record. */
const RecordHead = ({ live, me }: { live: LiveRun; me: Me }) => {
  const { holds, text } = useUnits();
  const { run, state: shown } = live;
  const verdict = verdictNow(shown);
  const isWinter = jobOf(shown.setup) === "winterize";
  const bad = verdict.holdsToC !== null && verdict.holdsToC > shown.setup.winterLowC;
  const countersign =
    me.person.role !== "apprentice" &&
    waitsForCountersign(shown) &&
    !shown.events.some((e) => e.body.type === "closed" && e.by.id === me.person.id);
  return (
    <header className="flex flex-wrap items-start justify-between gap-4">
      <div>
        <p className="text-[14px] text-muted">
          {me.workshop.name} · {jobWork(shown.setup.job)}
          {isWinter && `: ${methodLabel(shown.setup.method).toLowerCase()}`} · map revision{" "}
          {run.mapRevision}
        </p>
        <h1 className="text-[28px] font-extrabold leading-tight">
          {isWinter ? (
            <>
              {run.unitName} holds to{" "}
              <span className={bad ? "text-rust" : "text-green"}>{holds(verdict.holdsToC)}</span>
            </>
          ) : (
            `${run.unitName}: ${shown.setup.job === "spring" ? "de-winterized" : "sanitized"}`
          )}
        </h1>
        <p className={isWinter ? "text-[16px]" : "hidden"}>
          Weakest part: <b>{verdict.weakest?.name ?? "none"}</b>
          {verdict.weakest && `, ${text(verdict.weakest.evidence)}`}. Winter low here{" "}
          {holds(shown.setup.winterLowC)}.
        </p>
        <AgainToday state={shown} />
        {run.unitNameNow !== run.unitName && (
          <p className="text-[14.5px] text-muted">The unit is called {run.unitNameNow} now.</p>
        )}
        {run.setAsideAt && (
          <p className="text-[14.5px] font-semibold text-rust">
            Set aside {dayOf(run.setAsideAt)}: two runs were open on this unit, and work went on in
            the other.
          </p>
        )}
        <p className="mt-1 text-[14.5px] text-muted">
          {shown.closed ? (
            <>
              Begun {dayOf(run.startedAt)} {timeOf(run.startedAt)} by {run.startedBy}; signed off{" "}
              {dayOf(shown.closed.at)} {timeOf(shown.closed.at)} by{" "}
              <Signed signature={shown.closed} />
              {shown.countersigned && (
                <>
                  , countersigned by <Signed signature={shown.countersigned} />
                </>
              )}
            </>
          ) : (
            <>
              Begun {dayOf(run.startedAt)} {timeOf(run.startedAt)} by {run.startedBy};{" "}
              <b className="text-rust">not closed yet</b>
            </>
          )}
        </p>
      </div>
      <div className="no-print flex gap-2">
        {!shown.closed && (
          <Link
            to={`/runs/${run.id}`}
            className="inline-flex min-h-[44px] items-center rounded bg-rust px-4 font-semibold text-on-rust"
          >
            Go on
          </Link>
        )}
        {countersign && (
          <Button
            look="act"
            onClick={() => void live.add({ type: "countersigned", name: me.person.name })}
          >
            Countersign
          </Button>
        )}
        {shown.closed && isWinter && (
          <Link
            to={`/records/${run.id}/tag`}
            className="inline-flex min-h-[44px] items-center rounded border-[1.5px] border-green bg-raised px-4 font-semibold text-green"
          >
            Tag
          </Link>
        )}
        <Button onClick={() => window.print()}>
          <Printer aria-hidden size={18} /> Print
        </Button>
      </div>
    </header>
  );
};

/** The pictures that were taken when it was left; none that came after the signature. */
const LeftPictures = ({ run, until }: { run: LiveRun["run"]; until: string | undefined }) => (
  <PictureStrip
    pictures={usePicturesNow(run.unitId).filter(
      (p) => p.aboutId === run.id && (until === undefined || Date.parse(p.at) <= Date.parse(until)),
    )}
  />
);

/** How everything stands and hangs loose: as it was signed; while nothing is signed yet, as it stands. */
const AsLeft = ({ run, state: shown }: { run: LiveRun["run"]; state: RunState }) => {
  const left = shown.asLeft ?? {
    turns: turnsOf(shown.network, shown.physical.lineup),
    ends: looseEnds(shown.network, shown.physical, shown.physical.lineup),
    tagged: [],
  };
  const ends = left.ends.filter((e) => e.mustTag);
  const isWinter = jobOf(shown.setup) === "winterize";
  return (
    <Section title={isWinter ? "As left: to turn back in spring" : "As left"}>
      <Turns turns={left.turns} empty="Everything as in use." />
      {ends.length > 0 && (
        <ul className="mt-2 text-[14.5px]">
          {ends.map((end) => (
            <li key={end.id}>
              <b>Loose end:</b> {end.text}. Tag:{" "}
              {left.tagged.find((t) => t.id === end.id)?.tag ?? "none yet"}
            </li>
          ))}
        </ul>
      )}
      {shown.asLeft?.note && <p className="mt-1 text-[14.5px] italic">{shown.asLeft.note}</p>}
      <LeftPictures run={run} until={shown.closed?.at} />
      {isWinter && (
        <p className="mt-2 border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
          Heater: do not switch on before water runs from a hot tap without air. Breaker and gas
          stay off until then.
        </p>
      )}
    </Section>
  );
};

const Noted = ({ state: shown }: { state: RunState }) => {
  if (shown.notes.length === 0) return null;
  return (
    <Section title="Noted on the way">
      <ul className="text-[14.5px]">
        {shown.notes.map((note) => (
          <li key={`${note.by.at}${note.text}`} className="border-b border-line py-1">
            {note.severity && note.severity !== "note" && (
              <b className="mr-2 uppercase text-rust">
                {SEVERITY_LABELS[note.severity as FindingSeverity] ?? note.severity}
              </b>
            )}
            {note.text}
            <span className="text-muted">
              {" "}
              {note.part && `(${shown.network.map.parts.find((p) => p.id === note.part)?.name}) `}
              {note.by.name}, {timeOf(note.by.at)}
            </span>
          </li>
        ))}
      </ul>
    </Section>
  );
};

/** The finished record, to be read next year by somebody else, and printed. What was not done comes first. */
export const RecordScreen = () => {
  const { runId = "" } = useParams();
  const { data: me } = useMeQuery();
  const { live, error } = useRun(runId);
  const run = live?.run;
  const shown = live?.state;
  useTitle(run ? `Signed sheet, ${run.unitName}` : "Signed sheet");
  const layout = useLayout(shown?.network.map);
  const scene = useMemo(
    () =>
      shown &&
      layout &&
      buildScene(shown.network, shown.physical.contents, shown.physical.lineup, layout),
    [shown, layout],
  );
  if (!live || !run || !shown || !scene || !me) return <Waiting error={error} />;
  const isWinter = jobOf(shown.setup) === "winterize";
  return (
    <article className="mx-auto max-w-5xl px-6 pb-16 pt-5">
      <InBar>
        <BarLink to={`/units/${run.unitId}`}>
          <b>{run.unitName}</b> · {run.craft}
        </BarLink>
        <span className="text-[15px] opacity-90">Signed sheet</span>
      </InBar>
      <RecordHead live={live} me={me} />
      <AstrayEntries astray={live.astray} />
      {isWinter ? <NotDone state={shown} /> : <WaterTold state={shown} />}
      <div className="mt-5 grid gap-x-8 md:grid-cols-[1fr_290px]">
        <div className="self-start border border-line bg-ground p-2">
          <PaperMap scene={scene} name={run.unitName} />
        </div>
        {isWinter ? (
          <Figures state={shown} unitId={run.unitId} begun={run.startedAt} add={live.add} />
        ) : (
          <WaterFigures state={shown} add={live.add} />
        )}
      </div>
      <div className="grid gap-x-8 md:grid-cols-2">
        <Section title="As found">
          <Turns turns={shown.asFound?.turns ?? []} empty="Everything as in use." />
          {shown.asFound?.note && <p className="mt-1 text-[14.5px] italic">{shown.asFound.note}</p>}
        </Section>
        <AsLeft run={run} state={shown} />
      </div>
      <Noted state={shown} />
      <Section title="Done, step by step">
        <StepsDone state={shown} />
        <ClocksAhead aheadS={run.clocksAheadS} />
      </Section>
    </article>
  );
};
