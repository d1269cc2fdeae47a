import type { Visit } from "@uppershed/contract";
import { Link } from "react-router";
import { useChangeVisitMutation } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { useNow } from "../../ui/use-now.ts";
import { clock, countdown, timeOf } from "../../ui/words.ts";

const PX_PER_HOUR = 54;

const minutesIn = (iso: string): number => {
  const at = new Date(iso);
  return at.getHours() * 60 + at.getMinutes();
};

/** The hours to show: a working day, stretched to whatever is booked. */
const hoursOf = (visits: readonly Visit[]): [from: number, to: number] => {
  const starts = visits.map((v) => minutesIn(v.startsAt));
  const ends = visits.map((v) => minutesIn(v.startsAt) + v.minutes);
  return [Math.floor(Math.min(8 * 60, ...starts) / 60), Math.min(24, Math.ceil(Math.max(16 * 60, ...ends) / 60))];
};

const STATE_WORDS: Record<Visit["state"], string> = {
  booked: "booked",
  arrived: "here, not begun",
  "in work": "in work",
  waiting: "waiting",
  ready: "ready to hand over",
  gone: "gone",
};

const Clocks = ({ visit }: { visit: Visit }) => {
  const now = useNow(1000);
  const clocks = visit.run?.summary.clocks ?? [];
  return clocks.map((c) => {
    const over = Date.parse(c.endsAt) < now;
    return (
      <span
        key={c.label}
        className={`mt-1 inline-flex items-baseline gap-2 rounded px-2 py-0.5 text-[14px] ${over ? "bg-rust text-on-rust" : "bg-bar text-on-bar"}`}
      >
        {c.label} <b>{countdown(c.endsAt, now)}</b>
        <span className="sr-only">{over ? "minutes over" : "minutes to go"}</span>
      </span>
    );
  });
};

/** What a visit comes to next that no run can say: it is here, it is gone. */
const MoveOn = ({ visit }: { visit: Visit }) => {
  const [change, { isLoading }] = useChangeVisitMutation();
  const next =
    visit.state === "booked"
      ? (["arrived", "It is here"] as const)
      : visit.state === "ready"
        ? (["gone", "Handed over"] as const)
        : undefined;
  if (!next) return null;
  return (
    <Button disabled={isLoading} onClick={() => void change({ id: visit.id, state: next[0] })} className="absolute bottom-2 right-2">
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
      <p className="my-6 border-l-4 border-line pl-4 text-muted">A free day. What is booked later stands below; press / to find a unit.</p>
    );
  return (
    <section aria-label="Today" className="flex">
      <div aria-hidden className="relative w-12 shrink-0" style={{ height: (to - from) * PX_PER_HOUR + 30 }}>
        {Array.from({ length: to - from + 1 }, (_, i) => (
          <span key={i} className="absolute right-2 -translate-y-1/2 text-[13px] text-muted" style={{ top: i * PX_PER_HOUR + 30 }}>
            {from + i}:00
          </span>
        ))}
        {nowY > 0 && nowY < (to - from) * PX_PER_HOUR && (
          <span className="absolute right-0 -translate-y-1/2 bg-rust px-1 text-[12px] font-bold text-on-rust" style={{ top: nowY + 30 }}>
            {timeOf(nowAt.toISOString())}
          </span>
        )}
      </div>
      <div className="grid min-w-0 flex-1 gap-3" style={{ gridTemplateColumns: `repeat(${bays.length}, minmax(0, 1fr))` }}>
        {bays.map((bay) => (
          <div key={bay}>
            <h2 className="h-[30px] text-[14px] font-bold uppercase tracking-wide text-muted">{bay}</h2>
            <ol
              className="relative border-l-2 border-line"
              style={{
                height: (to - from) * PX_PER_HOUR,
                backgroundImage: `repeating-linear-gradient(to bottom, var(--line) 0 1px, transparent 1px ${PX_PER_HOUR}px)`,
              }}
            >
              {nowY > 0 && nowY < (to - from) * PX_PER_HOUR && (
                <li aria-hidden className="absolute inset-x-0 border-t-2 border-rust" style={{ top: nowY }} />
              )}
              {visits
                .filter((v) => (v.bay || "anywhere") === bay)
                .map((visit) => {
                  const working = visit.state === "in work";
                  const summary = visit.run?.summary;
                  const address = visit.run
                    ? summary?.phase === "closed"
                      ? `/records/${visit.run.id}`
                      : `/runs/${visit.run.id}`
                    : `/units/${visit.unitId}?visit=${visit.id}`;
                  return (
                    <li
                      key={visit.id}
                      className="absolute inset-x-2"
                      style={{ top: y(minutesIn(visit.startsAt)), minHeight: (visit.minutes * PX_PER_HOUR) / 60 - 6 }}
                    >
                      <Link
                        to={address}
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
                          <b>{STATE_WORDS[visit.state]}</b>
                          {summary &&
                            summary.phase !== "closed" &&
                            `: ${summary.stepTitle ?? "closing"} (${summary.stepsDone} of ${summary.stepsInAll})`}
                          {summary?.phase === "closed" && `: holds to ${holds(summary.holdsToC)}`}
                        </span>
                        {visit.ownerSaid && !visit.run && <q className="mt-1 block text-[14px] italic">{visit.ownerSaid}</q>}
                        <Clocks visit={visit} />
                      </Link>
                      <MoveOn visit={visit} />
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
