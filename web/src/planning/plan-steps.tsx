import { type Action, type Step, STAGES } from "@uppershed/core/procedure";
import { type Network } from "@uppershed/core/watermap";
import { useUnits } from "../ui/units.ts";
import { clock } from "../ui/words.ts";

const rowText = (action: Action): string | undefined => {
  switch (action.type) {
    case "set-valve":
      return `${action.tag ? `${action.tag} ` : ""}${action.label}: ${action.position}${action.handle ? ` (${action.handle})` : ""}`;
    case "drain":
      return undefined;
    case "pump":
      if (action.wants) return "Pump runs until it comes as it should";
      return action.untilAir === undefined
        ? "Pump runs until it reads strong enough"
        : "Pump runs until it spits";
    default:
      return action.label;
  }
};

/** The steps of a plan, by stage; each opens to its rows, reason and cautions. */
export const PlanSteps = ({ steps }: { steps: readonly Step[]; network: Network }) => {
  const { text } = useUnits();
  return (
    <ol className="pb-10">
      {STAGES.map(({ stage, label }) => {
        const all = steps.filter((s) => s.stage === stage);
        if (all.length === 0) return null;
        const minutes = all.reduce((sum, s) => sum + s.minutes, 0);
        return (
          <li key={stage} className="mt-4">
            <h3 className="sticky top-0 z-10 flex items-baseline justify-between border-b-2 border-green bg-paper pb-1">
              <span className="wide text-[15px] font-extrabold uppercase tracking-wide text-green">
                {label}
              </span>
              <span className="text-[13px] text-muted">
                {all.length} step{all.length === 1 ? "" : "s"}, about {clock(minutes)} h
              </span>
            </h3>
            <ol>
              {all.map((step) => {
                return (
                  <li key={step.id} className="border-b border-line">
                    <details>
                      <summary className="flex min-h-11 items-center gap-3 hover:bg-green-soft">
                        <b className="w-7 shrink-0 text-right text-muted">
                          {steps.indexOf(step) + 1}
                        </b>
                        <span className="min-w-0 flex-1 font-semibold">
                          {step.title}
                          {step.cautions.length > 0 && (
                            <span className="ml-2 rounded bg-rust-soft px-1.5 py-0.5 text-[12.5px] font-semibold text-rust">
                              caution
                            </span>
                          )}
                        </span>
                        <span className="hidden max-w-56 truncate text-[13px] text-muted xl:block">
                          {step.where}
                        </span>
                      </summary>
                      <div className="mb-3 ml-10 text-[14.5px]">
                        <p className="text-muted xl:hidden">{step.where}</p>
                        <ul className="list-disc pl-5">
                          {step.actions.flatMap((action, i) => {
                            const row = rowText(action);
                            // Rows of a step stand in a fixed order and have no names of their own.
                            // oxlint-disable-next-line react/no-array-index-key
                            return row ? [<li key={`${i}${row}`}>{text(row)}</li>] : [];
                          })}
                        </ul>
                        <p className="mt-1">{text(step.why)}</p>
                        {step.cautions.map((c) => (
                          <p key={c} className="mt-1 border-l-4 border-rust bg-rust-soft px-2 py-1">
                            {text(c)}
                          </p>
                        ))}
                        <p className="mt-1 text-muted">Expect: {text(step.expect)}</p>
                        {step.practice && (
                          <p className="mt-1 text-muted">Good practice: {text(step.practice)}.</p>
                        )}
                      </div>
                    </details>
                  </li>
                );
              })}
            </ol>
          </li>
        );
      })}
    </ol>
  );
};
