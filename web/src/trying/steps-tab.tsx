import type { SimAction, SimDone, StartContents } from "@uppershed/core/simulation";
import { cellName, MODES, type Network } from "@uppershed/core/watermap";
import { useState } from "react";
import type { LineupName } from "../mapping/lineups.ts";
import { Button } from "../ui/button.tsx";
import { useUnits } from "../ui/units.ts";
import { ageOf, capital } from "../ui/words.ts";
import { Notices } from "./notices.tsx";
import { actionWords, openingWords, outcomeWords, secondsWords } from "./say-action.ts";
import { type Sandbox, stateNow } from "./use-sandbox.ts";

const WAITS = [10, 60, 300, 1800, 12 * 3600] as const;
const MOST_TRACED = 200;

const JOBS = [
  ["blow", "Blow"],
  ["jug", "Jug"],
  ["hose", "Hose"],
  ["heat", "More"],
] as const;

const STARTS: readonly (readonly [string, StartContents, string])[] = [
  ["use", "in use", "As in use"],
  ["water", "water everywhere", "Water everywhere"],
  ["empty", "empty", "Empty"],
  ["antifreeze", { antifreeze: 0.5 }, "Antifreeze, 50 %"],
];

export interface Begun {
  readonly sandbox: Sandbox;
  readonly standing: LineupName;
  /** What the unit holds by its last record. */
  readonly recorded?: { readonly start: StartContents; readonly at: string } | undefined;
  readonly onBegin: (start: StartContents, standing: LineupName) => void;
}

/** What everything holds and how it stands before the first step. */
const Beginning = ({ sandbox, standing, recorded, onBegin }: Begun) => {
  const { start } = sandbox.state;
  // Left with nothing said of what it holds, it holds what it does in use.
  const starts =
    recorded && recorded.start !== "in use"
      ? ([["now", recorded.start, "As left"], ...STARTS] as const)
      : STARTS;
  const startKey =
    starts.find(([, s]) => JSON.stringify(s) === JSON.stringify(start))?.[0] ?? "use";
  const lineups = ["in use", ...(recorded ? (["as left"] as const) : []), ...MODES] as const;
  const begin = (key: string): void =>
    onBegin(starts.find(([k]) => k === key)?.[1] ?? "in use", key === "now" ? "as left" : standing);
  return (
    <div className="grid grid-cols-2 gap-2 px-4 pt-2 text-[13px] text-muted">
      <label>
        Holds at first
        <select
          className="field mt-0.5 w-full text-ink"
          value={startKey}
          onChange={(e) => begin(e.target.value)}
        >
          {starts.map(([k, , label]) => (
            <option key={k} value={k}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <label>
        Stands at first
        <select
          className="field mt-0.5 w-full text-ink"
          value={standing}
          onChange={(e) => onBegin(start, e.target.value as LineupName)}
        >
          {lineups.map((mode) => (
            <option key={mode} value={mode}>
              {capital(mode)}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
};

/** What can be done next: let time pass, blow, draw from a jug, join a hose, and more. */
const NextActions = ({
  sandbox,
  onSheet,
}: {
  sandbox: Sandbox;
  onSheet: (job: string) => void;
}) => {
  const [wait, setWait] = useState<number>(60);
  const { state } = sandbox;
  const ready = stateNow(state) !== undefined;
  const act = (action: SimAction): void => sandbox.act(action);
  return (
    <div className="grid grid-cols-4 gap-2 px-4 py-2">
      <div className="col-span-4 flex">
        <Button
          look="act"
          className="flex-1 rounded-r-none"
          disabled={!ready || state.busy}
          onClick={() => act({ do: "wait", seconds: wait })}
        >
          Wait and see
        </Button>
        <select
          aria-label="How long"
          className="field rounded-l-none border-l-0"
          value={wait}
          onChange={(e) => setWait(Number(e.target.value))}
        >
          {WAITS.map((s) => (
            <option key={s} value={s}>
              {secondsWords(s)}
            </option>
          ))}
        </select>
      </div>
      {JOBS.map(([job, label]) => (
        <Button key={job} className="px-1" disabled={!ready} onClick={() => onSheet(job)}>
          {label}
        </Button>
      ))}
    </div>
  );
};

const Trace = ({ network, trace }: { network: Network; trace: SimDone["trace"] }) => {
  const { q } = useUnits();
  if (trace.length === 0) return null;
  return (
    <details className="text-[13px]">
      <summary className="min-h-6 text-muted">what moved, what stayed and why</summary>
      <ul>
        {trace.slice(0, MOST_TRACED).map((t, k) => (
          <li key={`${t.at} ${k}`}>
            {network.cellIndex.has(t.at)
              ? capital(cellName(network, network.cellIndex.get(t.at) ?? -1))
              : openingWords(network, t.at)}
            : {t.what}
            {t.m3 > 0 && `, ${q(t.m3, "volume")}`}
          </li>
        ))}
        {trace.length > MOST_TRACED && <li>and {trace.length - MOST_TRACED} more</li>}
      </ul>
    </details>
  );
};

/** The step that is looked at is kept in sight. */
const intoView = (element: HTMLLIElement | null): void =>
  element?.scrollIntoView({ block: "nearest" });

const DoneStep = ({
  network,
  step,
  number,
  current,
  onLook,
}: {
  network: Network;
  step: SimDone;
  number: number;
  current: boolean;
  onLook: () => void;
}) => {
  const { q } = useUnits();
  return (
    <li
      ref={current ? intoView : undefined}
      className={`border-b border-line ${current ? "bg-green-soft" : ""}`}
    >
      <button
        type="button"
        className="flex w-full gap-2 px-4 pt-1.5 text-left text-[14px]"
        aria-current={current ? "step" : undefined}
        onClick={onLook}
      >
        <span className="w-5 shrink-0 text-right tabular-nums text-muted">{number}</span>
        <span>
          <b>{actionWords(network, step.action, q)}</b>
          <span className="block text-[13px] text-muted">{outcomeWords(network, step, q)}</span>
        </span>
      </button>
      <div className="pb-1.5 pl-11 pr-4">
        {step.air && current && (
          <p className="text-[13px]">
            On the drawing: <b>○</b> swept, <b>◐</b> pressed only, dashed, <b>●</b> not reached
          </p>
        )}
        <Notices notices={step.notices} />
        <Trace network={network} trace={step.trace} />
      </div>
    </li>
  );
};

/** What was done, what came of it, what would come next. */
export const StepsTab = ({
  network,
  onSheet,
  ...begun
}: Begun & { network: Network; onSheet: (job: string) => void }) => {
  const { text } = useUnits();
  const { sandbox, recorded } = begun;
  const { state } = sandbox;
  const ahead = state.ahead ?? [];
  return (
    <>
      <Beginning {...begun} />
      <NextActions sandbox={sandbox} onSheet={onSheet} />
      {state.problem && (
        <p
          role="alert"
          className="mx-4 mb-2 border-l-4 border-rust bg-rust-soft px-3 py-2 text-[14px]"
        >
          {text(capital(state.problem))}.
        </p>
      )}
      {ahead.length > 0 && (
        <section
          aria-label="If two minutes pass now"
          className="mx-4 mb-2 border-l-4 border-rust px-3 py-1"
        >
          <h3 className="text-[13px] font-bold">If two minutes pass now</h3>
          <Notices notices={ahead} />
        </section>
      )}
      <p className="px-4 pb-1 text-[13px] text-muted">
        {recorded && `It was left so ${ageOf(recorded.at)}. `}Every figure here is worked out, from
        what is assumed or signed at first.
      </p>
      <ol aria-label="What was done" className="border-t border-line">
        {state.done.length === 0 && (
          <li className="px-4 py-2 text-[14px] text-muted">
            Tap a tap, a valve or a switch on the drawing to turn it; then wait and see. Nothing
            here touches what is signed of the unit.
          </li>
        )}
        {state.done.map((step, i) => (
          <DoneStep
            key={`${i} ${step.action.do}`}
            network={network}
            step={step}
            number={i + 1}
            current={state.step === i}
            onLook={() => sandbox.look(i, step.seconds, false)}
          />
        ))}
      </ol>
    </>
  );
};
