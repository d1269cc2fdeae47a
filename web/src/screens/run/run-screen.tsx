import {
  jobOf,
  jobLabel,
  lineupNow,
  methodLabel,
  type RunState,
  verdictNow,
} from "@uppershed/core/procedure";
import { BellRing } from "lucide-react";
import { useMemo, useState } from "react";
import { Link, Navigate, useParams } from "react-router";
import { FrostLadder } from "../../frost/ladder.tsx";
import { saveFile } from "../../mapping/save-file.ts";
import { WaitingSheet } from "../../sending/waiting-sheet.tsx";
import { useWakeLock } from "../../device/wake-lock.ts";
import { useNews } from "../../run/use-news.ts";
import { type LiveRun, useRun } from "../../run/use-run.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useUnits } from "../../ui/units.ts";
import { useNow } from "../../ui/use-now.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { countdown, nowIso } from "../../ui/words.ts";
import { AsFound } from "./as-found.tsx";
import { AsLeft } from "./as-left.tsx";
import { Meters } from "./meters.tsx";
import { OutletLadder } from "./outlet-ladder.tsx";
import { RunMap } from "./run-map.tsx";
import { StepCard } from "./step-card.tsx";
import { WaterMeters } from "./water-meters.tsx";

/** The clocks as alarms for the device's own calendar; what writes them is fetched then. */
const ringOnDevice = async (unitName: string, clocks: RunState["clocks"]): Promise<void> => {
  const { writeClocksIcs } = await import("./clocks-file.ts");
  saveFile("clocks.ics", writeClocksIcs(unitName, clocks, nowIso()), "text/calendar");
};

/** What runs by itself, the one that ends next before the others; where there is room for one only, the others are counted. */
const Clocks = ({ state }: { state: RunState }) => {
  const now = useNow(1000);
  const shown = state.clocks
    .filter((c) => Date.parse(c.endsAt) > now - 3_600_000)
    .toSorted((a, b) => Date.parse(a.endsAt) - Date.parse(b.endsAt))
    .map((c) => ({
      ...c,
      name: c.label.replace(/^Drain the /u, ""),
      left: countdown(c.endsAt, now),
      over: Date.parse(c.endsAt) < now,
    }));
  const others = shown.slice(1);
  return (
    <>
      {shown.map((c, i) => (
        <span
          key={c.label}
          className={`min-w-0 items-baseline gap-2 whitespace-nowrap rounded px-2.5 py-1 text-[14px] ${i === 0 ? "flex" : "hidden 2xl:flex"} ${c.over ? "bg-rust text-on-rust" : "bg-black/35 text-on-bar"}`}
        >
          <span className="truncate">{c.name}</span> <b className="text-[17px]">{c.left}</b>
        </span>
      ))}
      {others.length > 0 && (
        <span
          role="img"
          aria-label={`And ${others.map((c) => `${c.name} ${c.left}`).join(", ")}`}
          title={others.map((c) => `${c.name} ${c.left}`).join(", ")}
          className={`rounded px-2 py-1 text-[14px] 2xl:hidden ${others.some((c) => c.over) ? "bg-rust text-on-rust" : "bg-black/35 text-on-bar"}`}
        >
          +{others.length}
        </span>
      )}
    </>
  );
};

/** Where what was entered stands, and whether that asks for somebody. Nothing is called saved before this device's store has it. */
const keptInWords = (live: LiveRun): readonly [words: string, bad: boolean] => {
  if (live.unsaved > 0) return [`${live.unsaved} in this page only: this device is full`, true];
  if (live.saving > 0) return ["Saving …", false];
  if (live.heldFor !== undefined)
    return [`${live.waiting} kept here until ${live.heldFor} signs in`, true];
  // How many wait is said in the bar, on every screen.
  return [live.waiting > 0 ? "" : "Saved", false];
};

const Kept = ({ live }: { live: LiveRun }) => {
  const [words, bad] = keptInWords(live);
  if (words === "") return null;
  return (
    <span
      role="status"
      className={`rounded px-2.5 py-1 text-[14px] ${bad ? "bg-rust text-on-rust" : "bg-black/35 max-lg:sr-only"}`}
    >
      {words}
    </span>
  );
};

const Working = ({ live }: { live: LiveRun }) => {
  const { state, run } = live;
  const [selected, setSelected] = useState<string>();
  const [waiting, setWaiting] = useState(false);
  const { text } = useUnits();
  const lineup = useMemo(() => lineupNow(state), [state]);
  const verdict = useMemo(() => verdictNow(state), [state]);
  const todo = state.todo[0];
  const isWinter = jobOf(state.setup) === "winterize";
  return (
    <div className="grid h-[calc(100dvh-var(--bar-height,52px))] min-h-[560px] grid-cols-1 grid-rows-[auto_1fr_auto] md:grid-cols-[1fr_170px] md:grid-rows-[minmax(280px,40%)_1fr_auto] lg:grid-cols-[400px_1fr_180px] lg:grid-rows-[1fr_auto]">
      <InBar>
        <span className="truncate rounded border border-on-bar/60 px-3 py-1 text-[15px] max-lg:shrink-0">
          <b>{run.unitName}</b> <span className="hidden lg:inline">· {run.craft}</span>
        </span>
        <span className="hidden text-[15px] opacity-90 2xl:inline">
          {jobLabel(state.setup.job)}
          {isWinter && `. ${methodLabel(state.setup.method)}`}
        </span>
        <span className="ml-auto flex min-w-0 items-center justify-end gap-2 text-on-bar">
          <Clocks state={state} />
          {state.clocks.length > 0 && (
            <button
              type="button"
              className="inline-flex min-h-11 min-w-11 items-center justify-center gap-1 whitespace-nowrap text-[14px] underline lg:px-2"
              aria-label="Alarm"
              title="For this device's own calendar: it rings when locked, and without a signal"
              onClick={() => void ringOnDevice(run.unitName, state.clocks)}
            >
              <BellRing aria-hidden size={17} />
              <span className="hidden lg:inline">Alarm</span>
            </button>
          )}
          <Kept live={live} />
        </span>
      </InBar>
      <section
        aria-label="The work"
        className="order-2 row-span-1 flex min-h-0 flex-col border-line md:order-3 md:col-span-2 md:border-t lg:order-1 lg:col-span-1 lg:row-span-2 lg:border-r lg:border-t-0"
      >
        {live.refused.map((entry) => (
          <p
            key={entry.id}
            role="alert"
            className="border-l-4 border-rust bg-rust-soft px-3 py-2 text-[15px]"
          >
            The server did not take {entry.what}: {text(entry.refused?.why ?? "")}{" "}
            <button
              type="button"
              className="min-h-11 font-semibold text-green underline"
              onClick={() => setWaiting(true)}
            >
              Correct it, or keep it as a note
            </button>
          </p>
        ))}
        {live.astray.length > 0 && (
          <p role="alert" className="border-l-4 border-rust bg-rust-soft px-3 py-2 text-[15px]">
            {live.astray.length} {live.astray.length === 1 ? "entry" : "entries"} of this run{" "}
            {live.astray.length === 1 ? "has" : "have"} no effect.{" "}
            <Link to={`/records/${run.id}`} className="font-semibold text-green underline">
              The signed sheet names them
            </Link>
          </p>
        )}
        {state.phase === "as-found" && <AsFound live={live} />}
        {state.phase === "steps" && <StepCard key={todo?.id} live={live} />}
        {state.phase === "to-plan" && (
          <p role="status" className="p-4 text-muted">
            Planning what is left …
          </p>
        )}
        {(state.phase === "as-left" || state.phase === "sign-off") && <AsLeft live={live} />}
      </section>
      <RunMap
        live={live}
        verdict={verdict}
        lineup={lineup}
        selected={selected}
        onSelect={setSelected}
      />
      <div className="order-3 hidden min-h-0 border-l border-line md:order-2 md:block lg:order-3">
        {isWinter ? (
          <FrostLadder
            verdict={verdict}
            winterLowC={state.setup.winterLowC}
            afterC={state.todo.length > 0 ? state.plan?.holdsToC : undefined}
            onChoose={setSelected}
          />
        ) : (
          <OutletLadder state={state} onChoose={setSelected} />
        )}
      </div>
      <div className="order-4 md:col-span-2 lg:col-start-2">
        {isWinter ? (
          <Meters state={state} verdict={verdict} startedAt={run.startedAt} />
        ) : (
          <WaterMeters state={state} startedAt={run.startedAt} />
        )}
      </div>
      {waiting && <WaitingSheet onClose={() => setWaiting(false)} />}
    </div>
  );
};

/** Signed off on this device, not yet on the server. */
const SignedOff = ({ live }: { live: LiveRun }) => (
  <div role="status" className="m-8 max-w-xl border-l-[6px] border-green bg-green-soft p-5">
    <h1 className="text-xl font-bold">Signed off</h1>
    <p className="mt-1">
      {live.unsaved > 0
        ? `This device's store is full: ${live.unsaved} entries stand in this page only. Leave it open until they are sent.`
        : `${live.waiting} entries are kept on this device and go out as soon as there is a signal, whatever screen is open.`}
    </p>
    <Link to={`/records/${live.run.id}`} className="mt-3 inline-block text-green underline">
      Read what was written down
    </Link>
  </div>
);

/** The run sheet: the step in hand beside the live map. */
export const RunScreen = () => {
  const { runId = "" } = useParams();
  const { live, error } = useRun(runId);
  useNews(live?.run);
  useWakeLock();
  useTitle(live ? `${live.run.unitName}, run sheet` : "Run sheet");
  if (!live) return <Waiting error={error} />;
  // Entries not yet sent keep the sheet open: only a record that the server has is shown as one.
  if (live.state.phase === "closed" && live.waiting === 0)
    return <Navigate to={`/records/${runId}`} replace />;
  return live.state.phase === "closed" ? <SignedOff live={live} /> : <Working live={live} />;
};
