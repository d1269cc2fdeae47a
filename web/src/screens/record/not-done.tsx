import { unprotectedAt } from "@uppershed/core/contents";
import { doubtsNow, type RunState, verdictNow } from "@uppershed/core/procedure";
import { Doubts } from "../../frost/doubts.tsx";
import { Odds } from "../../run/odds.tsx";
import { useUnits } from "../../ui/units.ts";

/** What was not done, and what therefore stays unprotected; printed first, because silence reads as done. */
export const NotDone = ({ state }: { state: RunState }) => {
  const { holds, text } = useUnits();
  const open = unprotectedAt(verdictNow(state), state.setup.winterLowC);
  const unread = state.done.filter(
    (d) =>
      d.step.asks.some((a) => a.kind === "strength") &&
      !state.readings.some((r) => r.stepId === d.step.id),
  );
  const doubts = doubtsNow(state);
  const odds = state.unit?.odds ?? [];
  if (
    state.cannot.length === 0 &&
    open.length === 0 &&
    unread.length === 0 &&
    doubts.length === 0 &&
    odds.length === 0
  )
    return (
      <p className="mt-4 border-l-[6px] border-green bg-green-soft p-3">
        Nothing was left out: every step was done, every outlet's strength was read.
      </p>
    );
  return (
    <>
      {doubts.length > 0 && (
        <div className="mt-4">
          <Doubts doubts={doubts} />
        </div>
      )}
      {odds.length > 0 && (
        <div className="mt-4">
          <Odds odds={odds} />
        </div>
      )}
      {(state.cannot.length > 0 || open.length > 0 || unread.length > 0) && (
        <section
          aria-label="Not done"
          className={`mt-4 border-l-[6px] p-3 ${open.length > 0 || state.cannot.length > 0 ? "border-rust bg-rust-soft" : "border-line bg-ground"}`}
        >
          <h2 className="text-[16px] font-bold">Not done</h2>
          <ul className="list-disc pl-5 text-[15px]">
            {state.cannot.map((c) => (
              <li key={c.by.at}>
                <b>{c.title}</b>:{" "}
                {c.parts
                  .map((id) => state.network.map.parts.find((p) => p.id === id)?.name ?? id)
                  .join(", ")}
                ; {c.reason} ({c.by.name})
              </li>
            ))}
            {open.slice(0, 8).map((o) => (
              <li key={o.id}>
                Unprotected: <b>{o.name}</b>, holds to {holds(o.holdsToC)}; {text(o.evidence)}
              </li>
            ))}
            {open.length > 8 && <li>and {open.length - 8} more parts and pipes unprotected</li>}
            {unread.length > 0 && (
              <li>
                Strength not read at: {unread.map((d) => d.step.title.split(":")[0]).join("; ")}{" "}
                (worked out instead)
              </li>
            )}
          </ul>
        </section>
      )}
    </>
  );
};
