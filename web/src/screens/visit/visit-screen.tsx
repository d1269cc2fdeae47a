import { type FindingOnFile, type Visit, WAITS } from "@uppershed/contract";
import { JOBS, staysOnSheets, type WaterMap } from "@uppershed/core";
import { addMinutes } from "date-fns";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { useFindingsNow, useLooksNow, useReadingsNow, useSnapshotsNow } from "../../device/on-device.ts";
import { FindingForm } from "../../findings/finding-form.tsx";
import { FindingList } from "../../findings/finding-list.tsx";
import { FindingSheet } from "../../findings/finding-sheet.tsx";
import { useUnitMap } from "../../planning/use-map.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { problemText, useChangeVisitMutation, useUnitQuery, useVisitQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { ACT_LINK, PLAIN_LINK } from "../../ui/field.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { SheetForm } from "../../ui/sheet-form.tsx";
import { useNow } from "../../ui/use-now.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { capital, clock, countdown, dayOf, shortDay, timeOf } from "../../ui/words.ts";

const STATES: Readonly<Record<Visit["state"], string>> = {
  booked: "booked",
  arrived: "here, not begun",
  "in-work": "in-work",
  waiting: "waiting",
  ready: "ready to hand over",
  gone: "gone",
};

const NEXT: Readonly<Record<Visit["state"], readonly (readonly [Visit["state"], string])[]>> = {
  booked: [["arrived", "It is here"]],
  arrived: [["in-work", "Begin"]],
  "in-work": [["ready", "Ready to hand over"]],
  waiting: [["in-work", "Go on"]],
  ready: [
    ["gone", "Handed over"],
    ["in-work", "Back into work"],
  ],
  gone: [["arrived", "It is back"]],
};

const WaitSheet = ({ visit, onClose }: { visit: Visit; onClose: () => void }) => {
  const [change] = useChangeVisitMutation();
  const [what, setWhat] = useState<(typeof WAITS)[number]>("soaking");
  const [minutes, setMinutes] = useState("");
  const go = (): string | undefined => {
    const time = minutes.trim() === "" ? undefined : Number(minutes);
    if (time !== undefined && !(time > 0 && time < 100_000)) return "Minutes until it is to be looked at, or nothing.";
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
              <input type="radio" name="wait" className="size-5 accent-[var(--green)]" checked={what === w} onChange={() => setWhat(w)} />
              {w}
            </label>
          ))}
        </fieldset>
        <label className="mt-2 block text-[15px] font-semibold">
          Minutes, where they are known
          <input className="field mt-1 w-28 font-normal" inputMode="numeric" value={minutes} onChange={(e) => setMinutes(e.target.value)} />
        </label>
      </SheetForm>
    </Sheet>
  );
};

const Countdown = ({ visit }: { visit: Visit }) => {
  const now = useNow(1000);
  if (visit.state !== "waiting") return null;
  if (!visit.waitingUntil) return <b> for {visit.waitingFor}</b>;
  const over = Date.parse(visit.waitingUntil) < now;
  return (
    <b className={over ? "text-rust" : ""}>
      {" "}
      for {visit.waitingFor}, {countdown(visit.waitingUntil, now)} {over ? "over" : "to go"}
    </b>
  );
};

/** Panels, and what must be moved to get behind them: first on every job card. */
const Access = ({ note, map, unitId }: { note: string; map: WaterMap; unitId: string }) => {
  const panels = new Map<string, string[]>();
  for (const part of map.parts) if (part.access) panels.set(part.access, [...(panels.get(part.access) ?? []), part.tag ?? part.name]);
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
const Work = ({ title, said, to, act }: { title: string; said: string; to: string; act: string }) => (
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

const Card = ({ visit, unit }: { visit: Visit; unit: NonNullable<ReturnType<typeof useUnitQuery>["data"]> }) => {
  const { map, revision, error } = useUnitMap(unit.id);
  const findings = useFindingsNow(unit.id) ?? [];
  const looks = useLooksNow(unit.id) ?? [];
  const readings = useReadingsNow(unit.id);
  const snapshots = useSnapshotsNow(unit.id, visit.id);
  const [change, changing] = useChangeVisitMutation();
  const [sheet, setSheet] = useState<"wait" | "found" | FindingOnFile>();
  if (!map) return <Waiting error={error} />;
  const of = { unitId: unit.id, visitId: visit.id, mapRevision: revision };
  const onSheets = findings.filter(staysOnSheets);
  const found = snapshots.findLast((s) => s.kind === "as-found");
  const left = snapshots.findLast((s) => s.kind === "as-left");
  const seen = looks.filter((l) => l.visitId === visit.id);
  const taken = readings.filter((r) => r.at >= visit.startsAt.slice(0, 10)).length;
  const opened = typeof sheet === "object" ? (findings.find((f) => f.id === sheet.id) ?? sheet) : undefined;
  const stood = (s: typeof found, none: string): string =>
    s ? `${Object.keys(s.lineup).length} turned otherwise than in use; ${timeOf(s.at)}, ${s.by}${s.note ? `: ${s.note}` : ""}` : none;
  const run = visit.run;
  return (
    <div className="mx-auto max-w-5xl p-4 pb-12">
      <InBar>
        <Link to={`/units/${unit.id}`} className="truncate rounded border border-on-bar/60 px-3 py-1 text-[15px] text-on-bar">
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
            {shortDay(visit.startsAt)} {timeOf(visit.startsAt)}, {clock(visit.minutes)} h{visit.bay && `, ${visit.bay}`} · {unit.owner},{" "}
            {unit.phone}
            {unit.mark && ` · ${unit.mark}`}
          </p>
          {visit.ownerSaid && (
            <p className="mt-1 text-[17px]">
              The owner says: <q className="italic">{visit.ownerSaid}</q>
            </p>
          )}
          <p className="mt-1 text-[16px]">
            It is <b>{STATES[visit.state]}</b>
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
          {NEXT[visit.state].map(([state, label], i) => (
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
          <Link to={`/units/${unit.id}/plan?visit=${visit.id}`} className={visit.jobs.includes("winterize") ? ACT_LINK : PLAIN_LINK}>
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
          said={seen.length > 0 ? `${seen.length} points looked at on this visit` : "nothing looked at on this visit yet"}
          to={`/units/${unit.id}/walk?visit=${visit.id}`}
          act={seen.length > 0 ? "Go on" : "Begin"}
        />
        <Work
          title="Gauge and meter"
          said={taken > 0 ? `${taken} readings since it came` : "supply pressure, polarity, plug, tank level"}
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
        <p className="mt-2 text-[14px] text-muted">Booked for: {visit.jobs.map((j) => LABELS.get(j) ?? j).join(", ")}</p>
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
      {opened && <FindingSheet of={of} finding={opened} map={map} onClose={() => setSheet(undefined)} />}
    </div>
  );
};
