import type { FindingOnFile, Snapshot, Visit } from "@uppershed/contract";
import {
  buildNetwork,
  JOBS,
  staysOnSheets,
  USUAL_NEXT,
  VISIT_STATE_LABELS,
  type VisitWait,
  WAIT_LABELS,
  WAITS,
  type WaterMap,
} from "@uppershed/core";
import { addMinutes } from "date-fns";
import { useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import {
  useFindingsNow,
  useLooksNow,
  useReadingsNow,
  useSnapshotsNow,
} from "../../sending/on-device.ts";
import { FindingForm } from "../../findings/finding-form.tsx";
import { FindingList } from "../../findings/finding-list.tsx";
import { FindingSheet } from "../../findings/finding-sheet.tsx";
import { useUnitMap } from "../../planning/use-map.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import {
  problemText,
  useChangeVisitMutation,
  useUnitQuery,
  useVisitQuery,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { ACT_LINK, PLAIN_LINK } from "../../ui/field.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { SheetForm } from "../../ui/sheet-form.tsx";
import { useNow } from "../../ui/use-now.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { capital, clock, countdown, dayOf, shortDay, timeOf } from "../../ui/words.ts";

const WaitSheet = ({ visit, onClose }: { visit: Visit; onClose: () => void }) => {
  const [change] = useChangeVisitMutation();
  const [what, setWhat] = useState<VisitWait>("soaking");
  const [minutes, setMinutes] = useState("");
  const go = (): string | undefined => {
    const time = minutes.trim() === "" ? undefined : Number(minutes);
    if (time !== undefined && !(time > 0 && time < 100_000))
      return "Minutes until it is to be looked at, or nothing.";
    const waitingUntil = time === undefined ? null : addMinutes(new Date(), time).toISOString();
    void change({ id: visit.id, change: { state: "waiting", waitingFor: what, waitingUntil } });
    return undefined;
  };
  return (
    <Sheet open onClose={onClose} title="What does it wait for?">
      <SheetForm act="It waits" onAct={go} onClose={onClose}>
        <fieldset className="flex flex-wrap gap-x-5">
          <legend className="sr-only">What it waits for</legend>
          {WAITS.map((w) => (
            <label key={w} className="flex min-h-11 items-center gap-2">
              <input
                type="radio"
                name="wait"
                className="size-5 accent-[var(--green)]"
                checked={what === w}
                onChange={() => setWhat(w)}
              />
              {WAIT_LABELS[w]}
            </label>
          ))}
        </fieldset>
        <label className="mt-2 block text-[15px] font-semibold">
          Minutes, where they are known
          <input
            className="field mt-1 w-28 font-normal"
            inputMode="numeric"
            value={minutes}
            onChange={(e) => setMinutes(e.target.value)}
          />
        </label>
      </SheetForm>
    </Sheet>
  );
};

const Countdown = ({ visit }: { visit: Visit }) => {
  const now = useNow(1000);
  if (visit.state !== "waiting") return null;
  const what = visit.waitingFor === "" ? "" : WAIT_LABELS[visit.waitingFor];
  if (!visit.waitingUntil) return <b> for {what}</b>;
  const over = Date.parse(visit.waitingUntil) < now;
  return (
    <b className={over ? "text-rust" : ""}>
      {" "}
      for {what}, {countdown(visit.waitingUntil, now)} {over ? "over" : "to go"}
    </b>
  );
};

/** Panels, and what must be moved to get behind them: first on every job card. */
const Access = ({ note, map, unitId }: { note: string; map: WaterMap; unitId: string }) => {
  const panels = new Map<string, string[]>();
  for (const part of map.parts)
    if (part.access)
      panels.set(part.access, [...(panels.get(part.access) ?? []), part.tag ?? part.name]);
  return (
    <section aria-label="Getting at it" className="border-l-4 border-green bg-green-soft p-3">
      <h2 className="text-[16px] font-bold">Getting at it</h2>
      {note && <p className="whitespace-pre-wrap">{note}</p>}
      {panels.size > 0 && (
        <ul className="mt-1 text-[15px]">
          {[...panels].map(([access, names]) => (
            <li key={access}>
              <b>{capital(access)}</b>: {names.join(", ")}
            </li>
          ))}
        </ul>
      )}
      {!note && panels.size === 0 && (
        <p className="text-[15px] text-muted">
          Nothing is written down yet.{" "}
          <Link to={`/units/${unitId}/edit`} className="text-green underline">
            Write it
          </Link>
        </p>
      )}
    </section>
  );
};

/** One line of the card: a piece of the work, what there is of it, and where it is done. */
const Work = ({
  title,
  said,
  to,
  act,
}: {
  title: string;
  said: string;
  to: string;
  act: string;
}) => (
  <li className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line py-2">
    <span className="min-w-0 flex-1">
      <b className="block text-[17px]">{title}</b>
      <span className="text-[15px] text-muted">{said}</span>
    </span>
    <Link
      to={to}
      className="inline-flex min-h-[54px] min-w-36 items-center justify-center rounded border-[1.5px] border-green bg-raised px-4 text-[16px] font-semibold text-green"
    >
      {act}
    </Link>
  </li>
);

const NAMED = 4;

/** How it stood, in words: what was otherwise than in use. */
const stood = (snapshot: Snapshot | undefined, none: string): string => {
  if (!snapshot) return none;
  const { turns, at, by, note } = snapshot;
  const named = turns.slice(0, NAMED).map((t) => `${t.tag || t.name} ${t.now}`);
  const more = turns.length - named.length;
  const what =
    turns.length === 0
      ? "all as in use"
      : `${named.join(", ")}${more > 0 ? ` and ${more} more` : ""}`;
  return `${what}; ${timeOf(at)}, ${by}${note ? `: ${note}` : ""}`;
};

const LABELS = new Map<string, string>(JOBS.map((j) => [j.id, j.label]));

/** The job card of a visit: how to get at it, what is unsafe, what is asked for, how far the work is. */
export const VisitScreen = () => {
  const { visitId = "" } = useParams();
  const { data: visit, error } = useVisitQuery(visitId);
  const unitId = visit?.unitId ?? "";
  const { data: unit } = useUnitQuery(unitId, { skip: unitId === "" });
  useTitle(visit ? `Visit of ${visit.unitName}` : "Visit");
  if (!visit || !unit) return <Waiting error={error} />;
  return <Card visit={visit} unit={unit} />;
};

const Card = ({
  visit,
  unit,
}: {
  visit: Visit;
  unit: NonNullable<ReturnType<typeof useUnitQuery>["data"]>;
}) => {
  const { map, revision, error } = useUnitMap(unit.id);
  const findings = useFindingsNow(unit.id) ?? [];
  const looks = useLooksNow(unit.id) ?? [];
  const readings = useReadingsNow(unit.id);
  const network = useMemo(() => map && buildNetwork(map), [map]);
  const snapshots = useSnapshotsNow(unit.id, visit.id, network);
  const [change, changing] = useChangeVisitMutation();
  const [sheet, setSheet] = useState<"wait" | "found" | FindingOnFile>();
  if (!map) return <Waiting error={error} />;
  const of = { unitId: unit.id, visitId: visit.id, mapRevision: revision };
  const onSheets = findings.filter(staysOnSheets);
  const found = snapshots.findLast((s) => s.kind === "as-found");
  const left = snapshots.findLast((s) => s.kind === "as-left");
  const seen = looks.filter((l) => l.visitId === visit.id);
  const taken = readings.filter((r) => r.at >= visit.startsAt.slice(0, 10)).length;
  const opened =
    typeof sheet === "object" ? (findings.find((f) => f.id === sheet.id) ?? sheet) : undefined;
  const run = visit.run;
  return (
    <div className="mx-auto max-w-5xl p-4 pb-12">
      <InBar>
        <Link
          to={`/units/${unit.id}`}
          className="truncate rounded border border-on-bar/60 px-3 py-1 text-[15px] text-on-bar"
        >
          <b>{unit.name}</b>
          <span className="hidden lg:inline"> · {unit.craft}</span>
        </Link>
      </InBar>
      <Access note={unit.accessNote} map={map} unitId={unit.id} />
      <div className="mt-4 flex flex-wrap items-start justify-between gap-4">
        <div className="min-w-0 flex-1">
          <h1 className="text-[24px] font-extrabold leading-tight">
            {visit.unitName}: {visit.asked}
          </h1>
          <p className="text-[15px] text-muted">
            {shortDay(visit.startsAt)} {timeOf(visit.startsAt)}, {clock(visit.minutes)} h
            {visit.bay && `, ${visit.bay}`} · {unit.owner}, {unit.phone}
            {unit.plate && ` · ${unit.plate}`}
          </p>
          {visit.ownerSaid && (
            <p className="mt-1 text-[17px]">
              The owner says: <q className="italic">{visit.ownerSaid}</q>
            </p>
          )}
          <p className="mt-1 text-[16px]">
            It is <b>{VISIT_STATE_LABELS[visit.state]}</b>
            <Countdown visit={visit} />
            {visit.arrivedAt && (
              <span className="text-muted">
                {" "}
                · here since {dayOf(visit.arrivedAt)} {timeOf(visit.arrivedAt)}
              </span>
            )}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          {USUAL_NEXT[visit.state].map(([state, label], i) => (
            <Button
              key={state}
              big
              look={i === 0 ? "act" : "plain"}
              disabled={changing.isLoading}
              onClick={() => void change({ id: visit.id, change: { state } })}
            >
              {label}
            </Button>
          ))}
          {(visit.state === "in-work" || visit.state === "arrived") && (
            <Button big onClick={() => setSheet("wait")}>
              It waits
            </Button>
          )}
        </div>
      </div>
      {changing.error && (
        <p role="alert" className="mt-2 text-rust">
          {problemText(changing.error)}
        </p>
      )}
      <div className="mt-4 flex flex-wrap gap-2">
        {run && run.summary.phase !== "closed" ? (
          <Link to={`/runs/${run.id}`} className={ACT_LINK}>
            Go on with the winterizing
          </Link>
        ) : run ? (
          <Link to={`/records/${run.id}`} className={PLAIN_LINK}>
            Record of the winterizing
          </Link>
        ) : (
          <Link
            to={`/units/${unit.id}/plan?visit=${visit.id}`}
            className={visit.jobs.includes("winterize") ? ACT_LINK : PLAIN_LINK}
          >
            Plan a winterizing
          </Link>
        )}
        <Link to={`/units/${unit.id}`} className={PLAIN_LINK}>
          The unit
        </Link>
        <Button big onClick={() => setSheet("found")}>
          A finding
        </Button>
      </div>
      <ul className="mt-4" aria-label="The work">
        <Work
          title="As found"
          said={stood(found, "how everything stood when it came: not written down yet")}
          to={`/visits/${visit.id}/found`}
          act={found ? "Look, correct" : "Write it down"}
        />
        <Work
          title="Walk-round"
          said={
            seen.length > 0
              ? `${seen.length} points looked at on this visit`
              : "nothing looked at on this visit yet"
          }
          to={`/units/${unit.id}/walk?visit=${visit.id}`}
          act={seen.length > 0 ? "Go on" : "Begin"}
        />
        <Work
          title="Gauge and meter"
          said={
            taken > 0
              ? `${taken} readings since it came`
              : "supply pressure, polarity, plug, tank level"
          }
          to={`/units/${unit.id}/gauge?visit=${visit.id}`}
          act="Take readings"
        />
        <Work
          title="Other systems"
          said="battery, gas, fridge, furnace, lights: a look, kept apart from the water"
          to={`/units/${unit.id}/spring?visit=${visit.id}`}
          act="Spring look"
        />
        <Work
          title="As left"
          said={stood(left, "how everything stands as it goes: not written down yet")}
          to={`/visits/${visit.id}/left`}
          act={left ? "Look, correct" : "Write it down"}
        />
        <Work
          title="Report to the owner"
          said={`${onSheets.length} ${onSheets.length === 1 ? "finding" : "findings"} open; on paper, as PDF, by a link`}
          to={`/visits/${visit.id}/report`}
          act="Open"
        />
      </ul>
      {visit.jobs.length > 0 && (
        <p className="mt-2 text-[14px] text-muted">
          Booked for: {visit.jobs.map((j) => LABELS.get(j) ?? j).join(", ")}
        </p>
      )}
      <section aria-label="Findings" className="mt-5">
        <h2 className="text-[17px] font-bold">Findings that stand open</h2>
        {onSheets.some((f) => f.severity === "unsafe" && f.answer?.answer === "no") && (
          <p className="border-l-4 border-rust bg-rust-soft p-2 text-[15px]">
            Unsafe, and declined by the owner: it stands on every sheet until it is mended.
          </p>
        )}
        {onSheets.length === 0 && <p className="text-muted">None.</p>}
        <FindingList findings={onSheets} onOpen={setSheet} />
      </section>
      {sheet === "wait" && <WaitSheet visit={visit} onClose={() => setSheet(undefined)} />}
      {sheet === "found" && <FindingForm of={of} map={map} onClose={() => setSheet(undefined)} />}
      {opened && (
        <FindingSheet of={of} finding={opened} map={map} onClose={() => setSheet(undefined)} />
      )}
    </div>
  );
};
