import type { TestPlan } from "@uppershed/core/hold";
import { useUnits } from "../../ui/units.ts";
import { span } from "../../holding/words.ts";

const kj = (j: number): string => (j >= 100 ? `${(j / 1000).toFixed(1)} kJ` : `${j.toFixed(1)} J`);

/** What the plan comes to, with what makes it safe. */
export const Planned = ({ plan }: { plan: TestPlan }) => {
  const { q, text } = useUnits();
  if (plan.refused !== undefined)
    return (
      <p role="alert" className="mt-3 border-l-4 border-rust bg-rust-soft p-3 text-[16px]">
        <b>Not done:</b> {text(plan.refused)}
      </p>
    );
  const isAir = plan.by === "air" || plan.by === "low-air";
  const isLevel = plan.by === "brim" || plan.by === "head";
  return (
    <>
      <dl className="mt-3 grid grid-cols-2 gap-x-6 gap-y-1 text-[15px] sm:grid-cols-3">
        {[
          ["Pressed to", text(`{g:${plan.pressurePa}}`)],
          ["Held for", span(plan.holdS)],
          ["Under test", `${q(plan.held.volumeM3, "volume")}, ${plan.joints} joints`],
          ["Bears least", `${plan.weakest.name}, ${q(plan.weakest.pa, "pressure")}`],
          ["Leak that matters", text(`{m3:${plan.smallestM3S * 86_400}} a day`)],
          ...(isLevel
            ? []
            : [["Stored", `air ${kj(plan.airJ)}, the same in water ${kj(plan.waterJ)}`]]),
          ...(plan.panelN === undefined ? [] : [["On the largest panel", q(plan.panelN, "force")]]),
        ].map(([label, value]) => (
          <div key={label}>
            <dt className="text-[13px] text-muted">{label}</dt>
            <dd className="font-semibold">{value}</dd>
          </div>
        ))}
      </dl>
      {isAir && (
        <p className="mt-2 border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
          Water first where it does no harm: at this pressure it stores next to nothing. Makers of
          plastic pipe, and codes, often forbid air.
        </p>
      )}
      {plan.tooCoarse !== undefined && (
        <p className="mt-2 border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
          {text(plan.tooCoarse)}
        </p>
      )}
      <ol className="mt-3" aria-label="Steps of the test">
        {plan.steps.map((s, i) => (
          <li key={s.id} className="border-t border-line py-2">
            <p className="font-semibold">
              {i + 1}. {text(s.title)}
            </p>
            <p className="text-[14px] text-muted">{text(s.why)}</p>
          </li>
        ))}
      </ol>
    </>
  );
};
