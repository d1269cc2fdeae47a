import { type AskedBody, type RunState, tellRun } from "@uppershed/core/procedure";
import { RulesUsed } from "../../planning/rules-used.tsx";
import { useUnits } from "../../ui/units.ts";
import { CorrectReading } from "./correct.tsx";

/** A de-winterizing or a sanitizing in words, as its owner is told it; of one that is not closed, nothing yet. */
export const WaterTold = ({ state }: { state: RunState }) => {
  const { text } = useUnits();
  const told = tellRun(state);
  if (!told) return null;
  return (
    <section aria-label="In words" className="mt-4 border-l-[6px] border-green bg-green-soft p-3">
      {told.sections
        .filter((s) => s.title !== "What was read" && s.title !== "How it was left")
        .map((s) => (
          <div key={s.title} className="break-inside-avoid">
            <h2 className="text-[16px] font-bold">{s.title}</h2>
            <ul className="list-disc pl-5 text-[15px]">
              {s.lines.map((line) => (
                <li key={line}>{text(line)}</li>
              ))}
            </ul>
          </div>
        ))}
    </section>
  );
};

/** The dose with its working, what was read, and by which rules. */
export const WaterFigures = ({
  state,
  add,
}: {
  state: RunState;
  add?: (body: AskedBody) => Promise<string | undefined>;
}) => {
  const { text } = useUnits();
  const lines = state.firstPlan?.water?.lines ?? [];
  return (
    <dl className="mt-4 space-y-2 text-[14.5px] md:mt-0">
      <div>
        <dt className="text-muted">Read (measured)</dt>
        <dd>
          {state.readings.length === 0 && <b>nothing was read</b>}
          <ul>
            {state.readings.map((r) => (
              <li key={r.event} className="flex items-baseline justify-between gap-2">
                <span>
                  {r.label}: <b>{r.typed}</b>
                  {r.earlier.map((e) => (
                    <span key={e.typed + e.reason} className="text-muted">
                      {" "}
                      (was {e.typed}: {e.reason})
                    </span>
                  ))}
                </span>
                {add && <CorrectReading reading={r} add={add} />}
              </li>
            ))}
          </ul>
        </dd>
      </div>
      {lines.map((l) => (
        <div key={l.label}>
          <dt className="text-muted">{l.label} (worked out)</dt>
          <dd>{text(l.how)}</dd>
        </div>
      ))}
      <div>
        <dt className="text-muted">House rules</dt>
        <dd>
          <RulesUsed setup={state.setup} />
        </dd>
      </div>
    </dl>
  );
};
