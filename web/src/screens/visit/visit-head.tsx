import type { Unit, Visit } from "@uppershed/contract";
import { USUAL_NEXT, VISIT_STATE_LABELS, WAIT_LABELS } from "@uppershed/core/inspection";
import { useState } from "react";
import { problemText, useChangeVisitMutation } from "../../store/api.ts";
import { AcceptSheet } from "./accept-sheet.tsx";
import { Button } from "../../ui/button.tsx";
import { useNow } from "../../ui/use-now.ts";
import { clock, countdown, dayOf, shortDay, timeOf } from "../../ui/words.ts";

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

/** Whose unit it is, what is asked, how it stands with the visit, and what comes next. */
export const VisitHead = ({
  visit,
  unit,
  onWait,
}: {
  visit: Visit;
  unit: Unit;
  onWait: () => void;
}) => {
  const [change, changing] = useChangeVisitMutation();
  const [accepting, setAccepting] = useState<Visit["state"]>();
  return (
    <>
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
          {visit.short && visit.run?.summary.phase === "closed" && (
            <p className="mt-1 border-l-4 border-rust bg-rust-soft px-2 text-[15px]">
              {visit.accepted
                ? `Does not hold the winter low; accepted by ${visit.accepted.who}: ${visit.accepted.why}.`
                : "Does not hold the winter low: not ready before somebody accepts that by name."}
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
              onClick={() =>
                visit.short && !visit.accepted && (state === "ready" || state === "gone")
                  ? setAccepting(state)
                  : void change({ id: visit.id, change: { state } })
              }
            >
              {label}
            </Button>
          ))}
          {(visit.state === "in-work" || visit.state === "arrived") && (
            <Button big onClick={onWait}>
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
      {accepting && (
        <AcceptSheet visit={visit} to={accepting} onClose={() => setAccepting(undefined)} />
      )}
    </>
  );
};
