import {
  cellName,
  COMMON_NIGHT,
  COMMON_SIM_SETTINGS,
  type Verdict,
  type Lineup,
  liquidIn,
  MODES,
  type Network,
  nightWatch,
  type Notice,
  parseQuantity,
  reachOf,
  type SimAction,
  type StartContents,
  strengthOf,
  volumeOf,
  warmthOf,
} from "@uppershed/core";
import { TriangleAlert, Undo2 } from "lucide-react";
import { useState } from "react";
import { FrostLadder } from "../frost/ladder.tsx";
import { type LineupName } from "../mapping/lineups.ts";
import { ReachList } from "../mapping/reach-list.tsx";
import { Button } from "../ui/button.tsx";
import { useUnits } from "../ui/units.ts";
import { ageOf, capital } from "../ui/words.ts";
import { ActionSheet } from "./action-sheet.tsx";
import { actionWords, openingWords, outcomeWords, secondsWords } from "./say-action.ts";
import { type Sandbox, stateNow } from "./use-sandbox.ts";

export const TRY_TABS = ["Steps", "Flows", "Frost", "Reach"] as const;
export type TryTab = (typeof TRY_TABS)[number];

const WAITS = [10, 60, 300, 1800, 12 * 3600] as const;
const AROUND_C = COMMON_SIM_SETTINGS.flow.temperatureC;
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

const Notices = ({ notices }: { notices: readonly Notice[] }) => {
  const { text } = useUnits();
  return (
    <ul>
      {notices.map((n) => (
        <li
          key={`${n.code} ${n.parts.join(" ")}`}
          className="flex gap-1.5 py-0.5 text-[14px] text-rust"
        >
          <TriangleAlert aria-label="Worth a word" size={16} className="mt-0.5 shrink-0" />
          <span>{text(n.message)}</span>
        </li>
      ))}
    </ul>
  );
};

/** What leaves where, how strong and how warm, at the moment that is looked at. */
const Flows = ({ network, sandbox }: { network: Network; sandbox: Sandbox }) => {
  const { q } = useUnits();
  const { shown } = sandbox;
  const rows = Object.entries(shown?.openingM3PerS ?? {}).filter(
    ([, flow]) => Math.abs(flow) > 1e-9,
  );
  if (!shown || rows.length === 0)
    return (
      <p className="px-4 py-3 text-[14px] text-muted">
        Nothing flows at this moment. Open something, then wait.
      </p>
    );
  return (
    <table className="w-full text-left text-[14px]">
      <caption className="sr-only">Flow at each opening (worked out)</caption>
      <thead>
        <tr className="text-muted">
          <th className="px-4 py-1 font-normal">Opening</th>
          <th className="px-2 py-1 text-right font-normal">Flow</th>
          <th className="px-2 py-1 text-right font-normal">Strength</th>
          <th className="px-4 py-1 text-right font-normal">Warmth</th>
        </tr>
      </thead>
      <tbody>
        {rows
          .toSorted((a, b) => b[1] - a[1])
          .map(([id, flow]) => {
            const cell = network.openings.find((o) => o.id === id)?.cell ?? -1;
            const liquid = liquidIn(shown.contents[cell]);
            return (
              <tr key={id} className="border-t border-line">
                <td className="px-4 py-1.5">{openingWords(network, id)}</td>
                <td className="whitespace-nowrap px-2 py-1.5 text-right tabular-nums">
                  {flow > 0 ? "" : "in "}
                  {q(Math.abs(flow), "flow")}
                </td>
                <td className="px-2 py-1.5 text-right tabular-nums">
                  {volumeOf(liquid) > 0 ? `${Math.round(100 * strengthOf(liquid))} %` : "air"}
                </td>
                <td className="px-4 py-1.5 text-right tabular-nums">
                  {q(AROUND_C + warmthOf(liquid), "temperature")}
                </td>
              </tr>
            );
          })}
      </tbody>
    </table>
  );
};

/** What a night would reach first, and how long each lasts. */
const NightList = ({ network, sandbox }: { network: Network; sandbox: Sandbox }) => {
  const { q, system } = useUnits();
  const [typed, setTyped] = useState(() => q(-8, "temperature"));
  const read = parseQuantity(typed, "temperature", system);
  const airC = read.ok ? read.quantity.si : Number.NaN;
  const sound = airC < -0.05 && airC >= -60;
  const list =
    sound && sandbox.shown
      ? nightWatch(network, sandbox.shown.contents, { ...COMMON_NIGHT, airC })
      : [];
  return (
    <section aria-label="A night" className="border-t border-line px-4 py-2 text-[14px]">
      <label className="flex items-center gap-2">
        A night at
        <input
          className="field w-24"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          aria-invalid={!sound}
        />
      </label>
      {!sound && (
        <p className="mt-1 text-rust">
          A temperature below freezing, such as {q(-8, "temperature")}.
        </p>
      )}
      {sound && list.length === 0 && <p className="mt-1">Nothing aboard freezes in it.</p>}
      {list.length > 0 && (
        <ol className="mt-1">
          {list.slice(0, 6).map((w) => (
            <li key={w.id} className="flex justify-between gap-3 border-t border-line py-1">
              <span>{capital(w.name)}</span>
              <span className="whitespace-nowrap tabular-nums">
                ice {secondsWords(w.firstIceS)}, through {secondsWords(w.throughS)}
              </span>
            </li>
          ))}
        </ol>
      )}
      {list.length > 6 && <p className="text-muted">and {list.length - 6} more, later</p>}
      <p className="mt-1 text-[13px] text-muted">
        Worked out by Plank's formula from water at {q(COMMON_NIGHT.beginC, "temperature")}, in
        still air; inside the heated space {COMMON_NIGHT.insideK} K warmer (assumed). A burst comes
        before a pipe is frozen through.
      </p>
    </section>
  );
};

export interface TryPanelProps {
  readonly network: Network;
  readonly sandbox: Sandbox;
  readonly verdict: Verdict;
  readonly winterLowC: number;
  readonly standing: LineupName;
  readonly onBegin: (start: StartContents, standing: LineupName) => void;
  readonly onKeep: () => void;
  /** Why it cannot be kept as a note now. */
  readonly notKept?: string | undefined;
  /** What the unit holds by its last record. */
  readonly recorded?: { readonly start: StartContents; readonly at: string } | undefined;
  readonly onChoose: (id: string) => void;
  readonly tab: TryTab;
  readonly onTab: (tab: TryTab) => void;
}

/** The step that is looked at is kept in sight. */
const intoView = (element: HTMLLIElement | null): void =>
  element?.scrollIntoView({ block: "nearest" });

/** Try mode's margin: what is done, what came of it, what would come next. */
export const TryPanel = ({
  network,
  sandbox,
  verdict,
  winterLowC,
  standing,
  onBegin,
  onKeep,
  notKept,
  recorded,
  onChoose,
  tab,
  onTab,
}: TryPanelProps) => {
  const { q, text } = useUnits();
  const [sheet, setSheet] = useState<string>();
  const [wait, setWait] = useState<number>(60);
  const { state } = sandbox;
  const now = stateNow(state);
  // Left with nothing said of what it holds, it holds what it does in use.
  const starts =
    recorded && recorded.start !== "in use"
      ? ([["now", recorded.start, "As left"], ...STARTS] as const)
      : STARTS;
  const startKey =
    starts.find(([, s]) => JSON.stringify(s) === JSON.stringify(state.start))?.[0] ?? "use";
  const lineup: Lineup = sandbox.shown?.lineup ?? {};
  const act = (action: SimAction): void => sandbox.act(action);
  return (
    <section aria-label="Try it" className="flex min-h-0 flex-1 flex-col">
      <div role="tablist" aria-label="Try it" className="flex border-b border-line">
        {TRY_TABS.map((name) => (
          <button
            key={name}
            type="button"
            role="tab"
            aria-selected={tab === name}
            aria-controls="try-tab"
            className={`min-h-11 flex-1 text-[14px] font-semibold ${tab === name ? "border-b-4 border-green" : "text-muted hover:bg-green-soft"}`}
            onClick={() => onTab(name)}
          >
            {name}
          </button>
        ))}
      </div>
      <div id="try-tab" role="tabpanel" aria-label={tab} className="min-h-0 flex-1 overflow-auto">
        {tab === "Steps" && (
          <>
            <div className="grid grid-cols-2 gap-2 px-4 pt-2 text-[13px] text-muted">
              <label>
                Holds at first
                <select
                  className="field mt-0.5 w-full text-ink"
                  value={startKey}
                  onChange={(e) =>
                    onBegin(
                      starts.find(([k]) => k === e.target.value)?.[1] ?? "in use",
                      e.target.value === "now" ? "as left" : standing,
                    )
                  }
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
                  onChange={(e) => onBegin(state.start, e.target.value as LineupName)}
                >
                  {(["in use", ...(recorded ? (["as left"] as const) : []), ...MODES] as const).map(
                    (mode) => (
                      <option key={mode} value={mode}>
                        {capital(mode)}
                      </option>
                    ),
                  )}
                </select>
              </label>
            </div>
            <div className="grid grid-cols-4 gap-2 px-4 py-2">
              <div className="col-span-4 flex">
                <Button
                  look="act"
                  className="flex-1 rounded-r-none"
                  disabled={!now || state.busy}
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
                <Button key={job} className="px-1" disabled={!now} onClick={() => setSheet(job)}>
                  {label}
                </Button>
              ))}
            </div>
            {state.problem && (
              <p
                role="alert"
                className="mx-4 mb-2 border-l-4 border-rust bg-rust-soft px-3 py-2 text-[14px]"
              >
                {text(capital(state.problem))}.
              </p>
            )}
            {(state.ahead ?? []).length > 0 && (
              <section
                aria-label="If two minutes pass now"
                className="mx-4 mb-2 border-l-4 border-rust px-3 py-1"
              >
                <h3 className="text-[13px] font-bold">If two minutes pass now</h3>
                <Notices notices={state.ahead ?? []} />
              </section>
            )}
            <p className="px-4 pb-1 text-[13px] text-muted">
              {recorded && `It was left so ${ageOf(recorded.at)}. `}Every figure here is worked out,
              from what is assumed or recorded at first.
            </p>
            <ol aria-label="What was done" className="border-t border-line">
              {state.done.length === 0 && (
                <li className="px-4 py-2 text-[14px] text-muted">
                  Tap a tap, a valve or a switch on the drawing to turn it; then wait and see.
                  Nothing here touches the unit's record.
                </li>
              )}
              {state.done.map((step, i) => (
                <li
                  key={`${i} ${step.action.do}`}
                  ref={state.step === i ? intoView : undefined}
                  className={`border-b border-line ${state.step === i ? "bg-green-soft" : ""}`}
                >
                  <button
                    type="button"
                    className="flex w-full gap-2 px-4 pt-1.5 text-left text-[14px]"
                    aria-current={state.step === i ? "step" : undefined}
                    onClick={() => sandbox.look(i, step.seconds, false)}
                  >
                    <span className="w-5 shrink-0 text-right tabular-nums text-muted">{i + 1}</span>
                    <span>
                      <b>{actionWords(network, step.action, q)}</b>
                      <span className="block text-[13px] text-muted">
                        {outcomeWords(network, step, q)}
                      </span>
                    </span>
                  </button>
                  <div className="pb-1.5 pl-11 pr-4">
                    {step.air && state.step === i && (
                      <p className="text-[13px]">
                        On the drawing: <b>○</b> swept, <b>◐</b> pressed only, dashed, <b>●</b> not
                        reached
                      </p>
                    )}
                    <Notices notices={step.notices} />
                    {step.trace.length > 0 && (
                      <details className="text-[13px]">
                        <summary className="min-h-6 text-muted">
                          what moved, what stayed and why
                        </summary>
                        <ul>
                          {step.trace.slice(0, MOST_TRACED).map((t, k) => (
                            <li key={`${t.at} ${k}`}>
                              {network.cellIndex.has(t.at)
                                ? capital(cellName(network, network.cellIndex.get(t.at) ?? -1))
                                : openingWords(network, t.at)}
                              : {t.what}
                              {t.m3 > 0 && `, ${q(t.m3, "volume")}`}
                            </li>
                          ))}
                          {step.trace.length > MOST_TRACED && (
                            <li>and {step.trace.length - MOST_TRACED} more</li>
                          )}
                        </ul>
                      </details>
                    )}
                  </div>
                </li>
              ))}
            </ol>
          </>
        )}
        {tab === "Flows" && <Flows network={network} sandbox={sandbox} />}
        {tab === "Frost" && (
          <>
            <div className="h-[300px]">
              <FrostLadder verdict={verdict} winterLowC={winterLowC} onChoose={onChoose} />
            </div>
            <NightList network={network} sandbox={sandbox} />
          </>
        )}
        {tab === "Reach" && (
          <ReachList network={network} lineup={lineup} reaches={reachOf(network, lineup)} />
        )}
      </div>
      <div className="flex items-center gap-1.5 border-t border-line px-3 py-2">
        <Button
          className="whitespace-nowrap px-2 text-[14px]!"
          disabled={state.done.length === 0 || state.busy}
          onClick={sandbox.back}
        >
          <Undo2 aria-hidden size={18} /> Step back
        </Button>
        <Button
          className="whitespace-nowrap px-2 text-[14px]!"
          disabled={state.done.length === 0}
          onClick={() => onBegin(state.start, standing)}
        >
          Again
        </Button>
        <Button
          className="whitespace-nowrap px-2 text-[14px]!"
          disabled={state.done.length === 0 || notKept !== undefined}
          title={notKept}
          onClick={onKeep}
        >
          Keep note
        </Button>
        <span role="status" className="sr-only">
          {state.busy ? "Working it out" : ""}
        </span>
      </div>
      {sheet !== undefined && now && (
        <ActionSheet
          network={network}
          state={now}
          first={sheet}
          onDo={act}
          onClose={() => setSheet(undefined)}
        />
      )}
    </section>
  );
};
