import type { HoldVerdict } from "@uppershed/core/hold";
import { useUnits } from "../../ui/units.ts";
import { aDay, gauge, OUTCOMES, span } from "../../holding/words.ts";

/** What the readings come to, with its range, the smallest leak that would have shown, and where it comes from. */
export const Verdict = ({ verdict, medium }: { verdict: HoldVerdict; medium: "air" | "water" }) => {
  const { system, text } = useUnits();
  const { sign, word } = OUTCOMES[verdict.verdict];
  const bad = verdict.verdict === "leaking";
  const { figures: f } = verdict;
  const of = medium === "air" ? "free air" : "water";
  const line = (label: string, value: string) => (
    <div key={label} className="flex justify-between gap-4 border-t border-line py-1">
      <dt>{label}</dt>
      <dd className="tabular-nums">{value}</dd>
    </div>
  );
  return (
    <section
      aria-label="Verdict"
      className={`my-3 border-l-4 p-3 ${bad ? "border-rust bg-rust-soft" : "border-green bg-green-soft"}`}
    >
      <p className="text-[20px] font-bold" role="status">
        {sign} {word}
      </p>
      <p>{text(verdict.why)}</p>
      {verdict.verdict === "leaking" && (
        <p className="font-semibold">
          {aDay(verdict.leak.mid, system)} of {of}, between {aDay(verdict.leak.low, system)} and{" "}
          {aDay(verdict.leak.high, system)} (worked out)
        </p>
      )}
      {verdict.smallestDetectable > 0 && (
        <p className="text-[14px]">
          The smallest leak that this hold would have shown:{" "}
          {aDay(verdict.smallestDetectable, system)} of {of}.
        </p>
      )}
      {verdict.next.map((n) => (
        <p key={n} className="text-[15px]">
          → {text(n)}
        </p>
      ))}
      <details className="mt-2 text-[14px]">
        <summary className="min-h-8 content-center">Where this comes from</summary>
        <dl>
          {line("Readings", `${f.readings} in ${span(f.seconds)} (measured)`)}
          {line("At the start", gauge(f.first.pressurePa, system))}
          {line("At the end, as read", gauge(f.last.pressurePa, system))}
          {line("At the end, if nothing had left", gauge(f.tightAtEndPa, system))}
          {line("Not known, by the gauge", aDay(f.from.gauge, system))}
          {line("… by what was not read of the temperature", aDay(f.from.thermometer, system))}
          {line("… by what was not read of the barometer", aDay(f.from.barometer, system))}
          {line("… by the thermometer's own lag", aDay(f.from.lag, system))}
          {line("… by stretch of plastic (assumed)", aDay(f.from.stretch, system))}
          {line("A leak is called above", aDay(f.thresholdM3S, system))}
          {f.settling &&
            line("Settling, fitted", `${f.settling.shape} over ${span(f.settling.overS)}`)}
          {line("First less last would have said", aDay(f.firstLessLastM3S, system))}
        </dl>
        <p className="text-[13px] text-muted">
          Gas law on absolute pressure; water by what pipe, trapped air and accumulators give. A
          straight line through all readings, with its scatter, the steps of the instruments and
          what was not read.
        </p>
      </details>
    </section>
  );
};
