import type { Visit } from "@uppershed/contract";
import { USUAL_NEXT, VISIT_STATE_LABELS, WAIT_LABELS } from "@uppershed/core/inspection";
import { Link } from "react-router";
import { useChangeVisitMutation } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { useNow } from "../../ui/use-now.ts";
import { clock, countdown, timeOf } from "../../ui/words.ts";

const PX_PER_HOUR = 54;
// A visit of days is drawn as one of a long morning.
const LONGEST_SHOWN = 240;

const minutesIn = (iso: string): number => {
  const at = new Date(iso);
  return at.getHours() * 60 + at.getMinutes();
};

/** The hours to show: a working day, stretched to whatever is booked. */
const hoursOf = (visits: readonly Visit[]): [from: number, to: number] => {
  const starts = visits.map((v) => minutesIn(v.startsAt));
  const ends = visits.map((v) => minutesIn(v.startsAt) + Math.min(v.minutes, LONGEST_SHOWN));
  return [
    Math.floor(Math.min(8 * 60, ...starts) / 60),
    Math.min(24, Math.ceil(Math.max(16 * 60, ...ends) / 60)),
  ];
};

/** How far a visit is: "waiting: soaking". */
export const howFar = ({ state, waitingFor }: Pick<Visit, "state" | "waitingFor">): string =>
  state === "waiting" && waitingFor !== ""
    ? `${VISIT_STATE_LABELS.waiting}: ${WAIT_LABELS[waitingFor]}`
    : VISIT_STATE_LABELS[state];

const Clock = ({ label, endsAt, now }: { label: string; endsAt: string; now: number }) => {
  const over = Date.parse(endsAt) < now;
  return (
    <span
      className={`mr-2 mt-1 inline-flex items-baseline gap-2 rounded px-2 py-0.5 text-[14px] ${over ? "bg-rust text-on-rust" : "bg-bar text-on-bar"}`}
    >
      {label} <b>{countdown(endsAt, now)}</b>
      <span className="sr-only">{over ? "minutes over" : "minutes to go"}</span>
    </span>
  );
};

/** What runs by itself: a run's clocks, and what the visit waits for. */
export const Clocks = ({ visit }: { visit: Visit }) => {
  const now = useNow(1000);
  return (
    <>
      {(visit.run?.summary.clocks ?? []).map((c) => (
        <Clock key={c.label} label={c.label} endsAt={c.endsAt} now={now} />
      ))}
      {visit.state === "waiting" && visit.waitingUntil && visit.waitingFor !== "" && (
        <Clock label={WAIT_LABELS[visit.waitingFor]} endsAt={visit.waitingUntil} now={now} />
      )}
    </>
  );
};

/** What a visit comes to next: it is here, it is gone. What lies between is said on its job card. */
export const MoveOn = ({ visit, className = "" }: { visit: Visit; className?: string }) => {
  const [change, { isLoading }] = useChangeVisitMutation();
  const next =
    visit.state === "booked" || visit.state === "ready" ? USUAL_NEXT[visit.state][0] : undefined;
  if (!next) return null;
  return (
    <Button
      disabled={isLoading}
      onClick={() => void change({ id: visit.id, change: { state: next[0] } })}
      className={className}
    >
      {next[1]}
    </Button>
  );
};

/** The day as a strip: hours run down, one lane a bay; what is being done is solid, what is to come is outlined. */
export const DayStrip = ({ visits, now }: { visits: readonly Visit[]; now: number }) => {
  const { holds } = useUnits();
  const bays = [...new Set(visits.map((v) => v.bay || "anywhere"))];
  const [from, to] = hoursOf(visits);
  const y = (minutes: number): number => ((minutes - from * 60) / 60) * PX_PER_HOUR;
  const nowAt = new Date(now);
  const nowY = y(nowAt.getHours() * 60 + nowAt.getMinutes());
  if (visits.length === 0)
    return (
      <p className="my-6 border-l-4 border-line pl-4 text-muted">
        A free day. What is booked later stands below; press / to find a unit.
      </p>
    );
  return (
    <section aria-label="Today" className="flex">
      <div
        aria-hidden
        className="relative w-12 shrink-0"
        style={{ height: (to - from) * PX_PER_HOUR + 30 }}
      >
        {Array.from({ length: to - from + 1 }, (_, i) => (
          <span
            key={i}
            className="absolute right-2 -translate-y-1/2 text-[13px] text-muted"
            style={{ top: i * PX_PER_HOUR + 30 }}
          >
            {from + i}:00
          </span>
        ))}
        {nowY > 0 && nowY < (to - from) * PX_PER_HOUR && (
          <span
            className="absolute right-0 -translate-y-1/2 bg-rust px-1 text-[12px] font-bold text-on-rust"
            style={{ top: nowY + 30 }}
          >
            {timeOf(nowAt.toISOString())}
          </span>
        )}
      </div>
      <div
        className="grid min-w-0 flex-1 gap-3"
        style={{ gridTemplateColumns: `repeat(${bays.length}, minmax(0, 1fr))` }}
      >
        {bays.map((bay) => (
          <div key={bay}>
            <h2 className="h-[30px] text-[14px] font-bold uppercase tracking-wide text-muted">
              {bay}
            </h2>
            <ol
              className="relative border-l-2 border-line"
              style={{
                height: (to - from) * PX_PER_HOUR,
                backgroundImage: `repeating-linear-gradient(to bottom, var(--line) 0 1px, transparent 1px ${PX_PER_HOUR}px)`,
              }}
            >
              {nowY > 0 && nowY < (to - from) * PX_PER_HOUR && (
                <li
                  aria-hidden
                  className="absolute inset-x-0 border-t-2 border-rust"
                  style={{ top: nowY }}
                />
              )}
              {visits
                .filter((v) => (v.bay || "anywhere") === bay)
                .map((visit) => {
                  const working = visit.state === "in-work";
                  const summary = visit.run?.summary;
                  return (
                    <li
                      key={visit.id}
                      className="absolute inset-x-2"
                      style={{
                        top: y(minutesIn(visit.startsAt)),
                        minHeight: (Math.min(visit.minutes, LONGEST_SHOWN) * PX_PER_HOUR) / 60 - 6,
                      }}
                    >
                      <Link
                        to={`/visits/${visit.id}`}
                        className={`block size-full border-l-[6px] px-3 py-2 hover:brightness-105 ${working ? "border-rust bg-green text-on-green" : "border-green bg-raised shadow-sm outline outline-1 outline-line"}`}
                        style={{ minHeight: "inherit" }}
                      >
                        <span className="flex flex-wrap items-baseline justify-between gap-x-3">
                          <b className="text-[19px]">{visit.unitName}</b>
                          <span className="text-[14px]">
                            {timeOf(visit.startsAt)} · {clock(visit.minutes)} h
                          </span>
                        </span>
                        <span className="block text-[15px]">
                          {visit.asked}, {visit.craft}
                        </span>
                        <span className="block text-[14px]">
                          {visit.unsafe > 0 && (
                            <b
                              className={`mr-2 ${working ? "bg-paper px-1 text-rust" : "text-rust"}`}
                            >
                              unsafe finding open
                            </b>
                          )}
                          <b>{howFar(visit)}</b>
                          {summary &&
                            summary.phase !== "closed" &&
                            `: ${summary.stepTitle ?? "closing"} (${summary.stepsDone} of ${summary.stepsInAll})`}
                          {summary?.phase === "closed" && `: holds to ${holds(summary.holdsToC)}`}
                        </span>
                        {visit.ownerSaid && !visit.run && (
                          <q className="mt-1 block text-[14px] italic">{visit.ownerSaid}</q>
                        )}
                        <Clocks visit={visit} />
                      </Link>
                      <MoveOn visit={visit} className="absolute bottom-2 right-2" />
                    </li>
                  );
                })}
            </ol>
          </div>
        ))}
      </div>
    </section>
  );
};
