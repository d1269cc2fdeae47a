import {
  jobOf,
  type Ask,
  type AskedBody,
  atOdds,
  flowsSay,
  readingOf,
  type RunState,
  rowsOf,
  type Step,
  STAGES,
  waitsFor,
} from "@uppershed/core/procedure";
import { useEffect, useEffectEvent, useMemo, useState } from "react";
import { Link } from "react-router";
import { useRule } from "../../planning/use-rule.ts";
import { fromHistory } from "../../run/own-history.tsx";
import type { LiveRun } from "../../run/use-run.ts";
import { useKitQuery, useReadingsQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { useKeys } from "../../ui/use-keys.ts";
import { CannotSheet, NoticedSheet } from "./aside-sheets.tsx";
import { Odds } from "../../run/odds.tsx";
import { ReadingEntry } from "./reading.tsx";
import { RowTick } from "./row.tsx";
import { useSigning } from "./use-signing.ts";

/** How far the work is: a bar for each stage. */
const Stages = ({ state }: { state: RunState }) => {
  const current = state.todo[0]?.stage;
  return (
    <ol aria-label="Stages" className="flex gap-1">
      {STAGES.map(({ stage, label }) => {
        const done = state.done.filter((d) => d.step.stage === stage).length;
        const all = done + state.todo.filter((s) => s.stage === stage).length;
        if (all === 0) return null;
        return (
          <li
            key={stage}
            aria-current={stage === current ? "step" : undefined}
            className="min-w-0 flex-1"
          >
            <div className="h-[7px] bg-line">
              <div className="h-full bg-green" style={{ width: `${(100 * done) / all}%` }} />
            </div>
            <span
              className={`block truncate text-[12.5px] ${stage === current ? "font-bold" : "text-muted"}`}
            >
              {label}
              <span className="sr-only">
                {" "}
                {done} of {all}
              </span>
            </span>
          </li>
        );
      })}
    </ol>
  );
};

const Interlocks = ({ state, step }: { state: RunState; step: Step }) => {
  const signed = step.needs.flatMap((id) => state.done.find((d) => d.step.id === id) ?? []);
  if (signed.length === 0) return null;
  return (
    <p className="text-[13.5px] text-muted">
      Made safe by:{" "}
      {signed
        .map(
          (d) =>
            `${d.step.title.toLowerCase()}, ${d.signed.name} ${new Date(d.signed.at).toTimeString().slice(0, 5)}`,
        )
        .join("; ")}
      .
    </p>
  );
};

const NAMED = 3;

/** What the plan, made again without what could not be done, leaves unprotected. */
const Unprotected = ({ state }: { state: RunState }) => {
  const { holds, text } = useUnits();
  const unprotected = state.plan?.unprotected ?? [];
  if (state.cannot.length === 0 || unprotected.length === 0) return null;
  const more = unprotected.length - NAMED;
  return (
    <details className="border-l-[6px] border-rust bg-rust-soft px-3 py-2 text-[15px]">
      <summary className="min-h-8">
        <b>Stays unprotected:</b>{" "}
        {unprotected
          .slice(0, NAMED)
          .map((u) => u.name)
          .join("; ")}
        {more > 0 && ` and ${more} more`}
      </summary>
      <ul className="list-disc pl-5 text-[14px]">
        {unprotected.map((u) => (
          <li key={u.id}>
            {u.name}: holds to {holds(u.holdsToC)}, {text(u.why)}
          </li>
        ))}
      </ul>
    </details>
  );
};

/** With what a reading of each kind is taken. */
const TAKEN_WITH: Readonly<Partial<Record<Ask["kind"], string>>> = {
  strength: "refractometer",
  temperature: "thermometer",
  pressure: "gauge",
};

/** What the step in hand asks to be read, each beside what this unit has read there before. */
const Asks = ({ live, step }: { live: LiveRun; step: Step }) => {
  const { state, run, add } = live;
  const { data } = useReadingsQuery({ unitId: run.unitId });
  const { data: kit } = useKitQuery();
  const limit = Number(useRule("reading.departure"));
  return step.asks.map((ask) => {
    const reading = state.readings.findLast((r) => r.stepId === step.id && r.ask === ask.key);
    const instruments = (kit?.kit ?? []).flatMap((k) =>
      !k.givenUp &&
      k.facts.kind === "instrument" &&
      k.facts.what === TAKEN_WITH[ask.kind] &&
      // A gauge is not put on what it cannot show.
      (k.facts.rangePa ?? Number.POSITIVE_INFINITY) >= (ask.atMost ?? 0)
        ? [k.name]
        : [],
    );
    return (
      <ReadingEntry
        key={ask.key}
        ask={ask}
        reading={reading}
        instruments={instruments}
        history={
          data &&
          fromHistory(
            data.readings,
            readingOf(state.network, ask),
            run.startedAt,
            reading?.si,
            limit,
          )
        }
        onRead={(si, typed, instrument) =>
          add({
            type: "reading",
            stepId: step.id,
            ask: ask.key,
            si,
            typed,
            ...(instrument ? { instrument } : {}),
          })
        }
      />
    );
  });
};

const NOTHING_SAID: readonly string[] = [];

/** What the engine says of the next valve of the step in hand, before it is turned. */
const useTurnSays = ({ state, saysOfTurn, busy }: LiveRun): readonly string[] => {
  const [step] = state.todo;
  const row =
    step &&
    rowsOf(step).find((r) => !state.ticked.includes(r.key) && r.action.type === "set-valve")?.key;
  const of = busy || row === undefined ? undefined : `${step?.id} ${row} ${state.ticked.length}`;
  const [said, setSaid] = useState<{ of: string; words: readonly string[] }>();
  const ask = useEffectEvent((key: string) => saysOfTurn(key));
  useEffect(() => {
    if (of === undefined || row === undefined) return undefined;
    let wanted = true;
    ask(row)
      .then((words) => wanted && setSaid({ of, words }))
      // Without the engine's word the row is as it was.
      .catch(() => undefined);
    return () => {
      wanted = false;
    };
  }, [of, row]);
  return said?.of === of ? (said?.words ?? NOTHING_SAID) : NOTHING_SAID;
};

const SOON = 4;

/** What comes next, and the rest of the sheet; a later step can be done now where that comes to the same. */
const NextSteps = ({ state, onBring }: { state: RunState; onBring: (stepId: string) => void }) => {
  const number = state.done.length + 1;
  const later = state.todo.slice(1);
  const item = (next: Step, i: number) => (
    <li key={next.id} className="flex items-center gap-2 py-0.5">
      <b className="w-7 text-right">{number + i + 1}</b>
      <span className="min-w-0 flex-1">{next.title}</span>
      <button
        type="button"
        className="min-h-11 shrink-0 px-2 text-[14px] underline"
        aria-label={`Do now: ${next.title}`}
        onClick={() => onBring(next.id)}
      >
        do now
      </button>
    </li>
  );
  if (later.length === 0) return null;
  return (
    <div className="border-t border-line pt-2 text-[15px] text-muted">
      <ol aria-label="Next steps">{later.slice(0, SOON).map(item)}</ol>
      {later.length > SOON && (
        <details>
          <summary className="min-h-11 py-2">{later.length - SOON} more after these</summary>
          <ol aria-label="Later steps">
            {later.slice(SOON).map((next, i) => item(next, i + SOON))}
          </ol>
        </details>
      )}
    </div>
  );
};

/** What usually goes wrong at a step of this kind, for the judgement to begin with. */
const wrongAt = ({ id, actions }: Step): string => {
  const [, control] =
    /^(?:flush|again|spread|rinse|heater):([^:]+(?::(?:hot|cold))?)/u.exec(id) ?? [];
  const at = actions.find((a) => a.type === "set-valve")?.control ?? control;
  if (id.startsWith("flush:on") || id === "prove:silent")
    return `&symptom=${id === "prove:silent" ? "starts-alone" : "does-not-stop"}`;
  if (id.endsWith(":fill")) return `&symptom=spits&outlet=${at}`;
  return id === "prove:flow" ? "&symptom=weak-here" : `&symptom=nothing-comes&outlet=${at}`;
};

/** The step in hand: one big next action, its rows, readings, reason and cautions. */
export const StepCard = ({ live }: { live: LiveRun }) => {
  const { state, add } = live;
  const { system, text } = useUnits();
  const [problem, setProblem] = useState<string>();
  const [sheet, setSheet] = useState<"cannot" | "noticed" | null>(null);
  const step = state.todo[0];
  const says = useTurnSays(live);
  // As soon as it is read, before the step is signed.
  const odds = useMemo(() => atOdds(state), [state]);

  const enter = async (body: AskedBody): Promise<void> => setProblem(await add(body));
  const sign = useSigning(step, add, setProblem);
  const tickNext = (): void => {
    const next = live.addNext((so) => {
      const row =
        so.todo[0]?.id === step?.id && step && rowsOf(step).find((r) => !so.ticked.includes(r.key));
      return row ? { type: "row-ticked", stepId: step.id, row: row.key, done: true } : undefined;
    });
    void next.then(setProblem);
  };
  useKeys(true, { n: sign, a: tickNext });

  if (!step) return null;
  const rows = rowsOf(step);
  const next = rows.find((r) => !state.ticked.includes(r.key))?.key;
  const left = rows.filter((r) => !state.ticked.includes(r.key)).length;
  const number = state.done.length + 1;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="px-4 pt-3">
        <Stages state={state} />
      </div>
      <div className="min-h-0 flex-1 space-y-3 overflow-auto px-4 py-3">
        <Unprotected state={state} />
        <div>
          <p className="text-[14px] text-muted">
            Step {number} of {state.done.length + state.todo.length}
          </p>
          <h1 className="text-[25px] font-bold leading-tight">{step.title}</h1>
          {step.where && <p className="text-[15px] text-muted">{step.where}.</p>}
        </div>
        {step.cautions.map((caution) => (
          <p
            key={caution}
            className="border-l-[6px] border-rust bg-rust-soft px-3 py-2 text-[15px]"
          >
            {text(caution)}
          </p>
        ))}
        <Interlocks state={state} step={step} />
        <div className="space-y-2">
          {rows.map((row) => (
            <RowTick
              key={row.key}
              network={state.network}
              action={row.action}
              units={system}
              ticked={state.ticked.includes(row.key)}
              says={row.key === next ? says : NOTHING_SAID}
              after={waitsFor(state.network, step, state.ticked, row.key)?.action}
              onTick={(done) =>
                void enter({ type: "row-ticked", stepId: step.id, row: row.key, done })
              }
            />
          ))}
        </div>
        <Asks live={live} step={step} />
        <Odds odds={odds} />
        {step.id === "prove:flow" &&
          flowsSay(state.readings.filter((r) => r.stepId === step.id)).map((says) => (
            <p
              key={says}
              role="status"
              className="border-l-[6px] border-rust bg-rust-soft px-3 py-2 text-[15px]"
            >
              {says}
            </p>
          ))}
        <p className="border-l-[3px] border-green pl-3 text-[15px]">
          {text(step.why)}
          <span className="block text-muted">Expect: {text(step.expect)}</span>
          {step.practice && (
            <span className="block text-[14px] text-muted">
              Good practice: {text(step.practice)}.
            </span>
          )}
        </p>
        <NextSteps
          state={state}
          onBring={(stepId) => void enter({ type: "step-brought", stepId })}
        />
      </div>
      <div className="border-t border-line bg-paper px-4 py-3">
        {problem && (
          <p
            role="alert"
            className="mb-2 border-l-4 border-rust bg-rust-soft px-3 py-1.5 text-[15px]"
          >
            {problem}
          </p>
        )}
        <div className="flex flex-wrap gap-2">
          <Button
            look="act"
            big
            className="min-w-full flex-1 whitespace-nowrap sm:min-w-0"
            onClick={sign}
            aria-describedby="rows-left"
          >
            Done, next step
          </Button>
          <Button
            big
            className="flex-1 whitespace-nowrap px-3 sm:flex-none"
            onClick={() => setSheet("cannot")}
          >
            Can't do this
          </Button>
          <Button big onClick={() => setSheet("noticed")} className="px-3">
            Note
          </Button>
        </div>
        {jobOf(state.setup) !== "winterize" && (
          <Link
            to={`/units/${live.run.unitId}/trouble?run=${live.run.id}${wrongAt(step)}`}
            className="inline-flex min-h-11 items-center text-[15px] underline"
          >
            It is not as expected: what may be behind it?
          </Link>
        )}
        <p id="rows-left" className="mt-1 text-[13px] text-muted">
          {left > 0 ? `${left} row${left === 1 ? "" : "s"} to tick` : "Every row ticked"}
        </p>
      </div>
      <CannotSheet
        open={sheet === "cannot"}
        step={step}
        live={live}
        onClose={() => setSheet(null)}
      />
      <NoticedSheet
        open={sheet === "noticed"}
        step={step}
        live={live}
        onClose={() => setSheet(null)}
      />
    </div>
  );
};
