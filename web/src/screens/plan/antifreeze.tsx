import {
  ANTIFREEZE_TRIALS,
  type Forecast,
  type Plan,
  type RunSetup,
} from "@uppershed/core/procedure";
import { useRule } from "../../planning/use-rule.ts";
import { ageOf } from "../../ui/words.ts";
import { useUnits } from "../../ui/units.ts";

/** How much to carry, with the working opened, the trade's rule beside it, and what the bypass saves. */
export const AntifreezeFigure = ({
  antifreeze,
  filledM3,
  setup,
  forecast,
}: {
  antifreeze: Plan["antifreeze"];
  /** What half of the jobs would take with the heater filled, m3; undefined while that is being worked out. */
  filledM3: number | undefined;
  setup: RunSetup;
  /** What to carry by what this unit took before; as worked out where nothing is known. */
  forecast?: Forecast | undefined;
}) => {
  const { q } = useUnits();
  const jugs = forecast?.jugs ?? antifreeze.jugs;
  const thumb = useRule("antifreeze.ruleOfThumb") === "shown";
  const heaterLine = antifreeze.lines.find((l) => l.label.startsWith("Heater"));
  const saved = (filledM3 ?? 0) - antifreeze.medianM3;
  return (
    <section aria-label="Antifreeze">
      <h2 className="font-bold">Antifreeze to carry</h2>
      <p className="text-[26px] font-extrabold leading-tight">
        {q(forecast?.carryM3 ?? antifreeze.p90M3, "volume")}
        <span className="text-[16px] font-semibold">
          {" "}
          = {jugs} jug{jugs === 1 ? "" : "s"} of {q(setup.product.jugM3, "volume")}
        </span>
      </p>
      {forecast?.carryFrom && (
        <p className="text-[14px]">
          As this unit took {ageOf(forecast.carryFrom.at)}:{" "}
          <b>{q(forecast.carryFrom.usedM3, "volume")}</b> measured, and a tenth over. Worked out:{" "}
          {q(antifreeze.p90M3, "volume")}.
        </p>
      )}
      {forecast?.likeOthers && (
        <p className="text-[14px]">
          {forecast.likeOthers.sameKind ? "Units of this kind" : "This workshop's other units"} took{" "}
          <b>{forecast.likeOthers.share.toFixed(2)} ×</b> what was worked out (measured,{" "}
          {forecast.likeOthers.jobs} jobs). Worked out for this one: {q(antifreeze.p90M3, "volume")}
          .
        </p>
      )}
      <p className="text-[14px] text-muted">
        {forecast?.carryFrom ? "The figure that is worked out is enough" : "Enough"} in 9 jobs of
        10; half of them take {q(antifreeze.medianM3, "volume")} or less (worked out).
      </p>
      {heaterLine ? (
        <p className="mt-2 border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
          No way round the heater on this unit: it takes <b>{q(heaterLine.volumeM3, "volume")}</b>{" "}
          of this. Joining its two hoses would save that.
        </p>
      ) : (
        filledM3 !== undefined &&
        saved > 0.0005 && (
          <p className="mt-2 border-l-4 border-green bg-green-soft p-2 text-[14px]">
            Without the bypass, the heater filled: <b>{q(filledM3, "volume")}</b>, that is{" "}
            {q(saved, "volume")} more.
          </p>
        )
      )}
      <details open className="mt-3 text-[14px]">
        <summary className="min-h-8 font-semibold">The working</summary>
        <table className="w-full">
          <tbody>
            {antifreeze.lines.map((line) => (
              <tr key={line.label} className="border-t border-line align-top">
                <td className="py-1 pr-2">
                  {line.label}
                  <br />
                  <span className="text-[12.5px] text-muted">{line.how}</span>
                </td>
                <td className="whitespace-nowrap py-1 text-right font-semibold">
                  {q(line.volumeM3, "volume")}
                </td>
              </tr>
            ))}
            <tr className="border-t-2 border-ink">
              <td className="py-1 font-semibold">Sum, nothing spilled or overrun</td>
              <td className="py-1 text-right font-bold">{q(antifreeze.workedM3, "volume")}</td>
            </tr>
          </tbody>
        </table>
        <p className="mt-1 text-[12.5px] text-muted">
          Then {ANTIFREEZE_TRIALS} seeded trials over lengths (15 % either way), running on past
          strength, over-run at each outlet and pouring: the median and the 9-in-10 figure above.
          The spreads are our own estimates (assumed) until this unit's own signed sheets replace
          them.
        </p>
        {thumb && (
          <p className="mt-2 border-t border-line pt-2">
            <b>Rule of thumb: {q(antifreeze.ruleOfThumb.volumeM3, "volume")}.</b>{" "}
            <span className="text-muted">{antifreeze.ruleOfThumb.text}</span>
          </p>
        )}
      </details>
    </section>
  );
};
