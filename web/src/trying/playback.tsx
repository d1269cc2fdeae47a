import { type Verdict } from "@uppershed/core/contents";
import { waterInLines } from "@uppershed/core/procedure";
import { type Network } from "@uppershed/core/watermap";
import { Pause, Play } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { WetBar } from "../drawing/wet-bar.tsx";
import { useUnits } from "../ui/units.ts";
import { secondsWords } from "./say-action.ts";
import type { Sandbox } from "./use-sandbox.ts";

const SPEEDS = [1, 10, 60, 600, 3600] as const;
// A step is shown in about this time unless another speed is chosen.
const READS_IN_S = 6;
const TICK_MS = 80;

const clockWords = (s: number): string =>
  [Math.floor(s / 3600), Math.floor((s / 60) % 60), Math.floor(s % 60)]
    .map((n) => String(n).padStart(2, "0"))
    .join(":");

/** Along the foot of the drawing: the moment that is looked at, played at any speed, and what is still wet then. */
export const Playback = ({
  network,
  sandbox,
  verdict,
}: {
  network: Network;
  sandbox: Sandbox;
  verdict: Verdict;
}) => {
  const { q, holds } = useUnits();
  const { state, shown, look, play } = sandbox;
  const [speed, setSpeed] = useState<number | "fits">("fits");
  const done = state.done[state.step];
  const seconds = done?.seconds ?? 0;
  const factor = speed === "fits" ? Math.max(1, seconds / READS_IN_S) : speed;
  const { playing, momentS, step } = state;
  useEffect(() => {
    if (!playing) return undefined;
    const timer = window.setTimeout(() => {
      const next = Math.min(seconds, momentS + (factor * TICK_MS) / 1000);
      look(step, next, next < seconds);
    }, TICK_MS);
    return () => window.clearTimeout(timer);
  }, [playing, momentS, factor, seconds, step, look]);
  const wet = useMemo(
    () => (shown ? waterInLines(network, { contents: shown.contents }) : undefined),
    [network, shown],
  );
  if (!shown || !wet) return null;
  const moves = done !== undefined && seconds > 0;
  return (
    <section
      aria-label="Moment"
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line bg-paper px-3 py-1.5 text-[14px]"
    >
      <button
        type="button"
        className="flex size-11 items-center justify-center rounded border-[1.5px] border-green text-green disabled:opacity-40"
        aria-label={playing ? "Pause" : "Play the step"}
        disabled={!moves}
        onClick={() => (playing ? play(false) : look(step, momentS >= seconds ? 0 : momentS, true))}
      >
        {playing ? <Pause aria-hidden size={20} /> : <Play aria-hidden size={20} />}
      </button>
      <input
        type="range"
        aria-label="Moment of the step"
        aria-valuetext={
          moves
            ? `${secondsWords(momentS)} of ${secondsWords(seconds)}`
            : "nothing has taken time yet"
        }
        className="h-11 min-w-24 flex-1 accent-[var(--green)]"
        min={0}
        max={Math.max(seconds, 1)}
        step={Math.max(seconds, 1) / 200}
        value={moves ? momentS : 0}
        disabled={!moves}
        onChange={(e) => look(step, Number(e.target.value), false)}
      />
      <span className="tabular-nums">
        <b>{clockWords(shown.atS)}</b>
        {done && <span className="text-muted"> in step {step + 1}</span>}
      </span>
      <label className="flex items-center gap-1.5">
        <span className="text-muted">Speed</span>
        <select
          className="field"
          value={speed}
          onChange={(e) => setSpeed(e.target.value === "fits" ? "fits" : Number(e.target.value))}
        >
          <option value="fits">in 6 s</option>
          {SPEEDS.map((s) => (
            <option key={s} value={s}>
              ×{s}
            </option>
          ))}
        </select>
      </label>
      <span className="flex items-center gap-2">
        <span>
          <b>{q(wet.totalM3, "volume")}</b> <span className="text-muted">water in lines</span>
        </span>
        <span className="w-24">
          <WetBar wet={wet} />
        </span>
      </span>
      <span>
        <span className="text-muted">holds to</span> <b>{holds(verdict.holdsToC)}</b>
      </span>
    </section>
  );
};
