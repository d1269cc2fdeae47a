import { departuresKept, type RunSetup } from "@uppershed/core/procedure";
import { pointOf, ruleInWords } from "@uppershed/core/rules";
import { useUnits } from "../ui/units.ts";

/** By which house rules a plan or a record was made, and where it departs from them. */
export const RulesUsed = ({ setup }: { setup: RunSetup }) => {
  const { system, q } = useUnits();
  const { rules } = setup;
  if (!rules) return <p className="text-[14px] text-muted">From before house rules were kept.</p>;
  const inWords = (key: string, value: string | number): string =>
    key === "winterLow" ? q(Number(value), "temperature") : ruleInWords(key, value, system);
  const departures = departuresKept(setup);
  return (
    <div className="text-[14px]">
      <p>
        {rules.revision === 0
          ? "The rules as they were shipped."
          : `Revision ${rules.revision} of the house rules.`}{" "}
        Winter low of {rules.winterLow.from}: {q(rules.winterLow.celsius, "temperature")}.
      </p>
      {departures.map((d) => (
        <p key={d.key} className="mt-1 border-l-4 border-rust bg-rust-soft px-2 py-1">
          {d.key === "winterLow" ? "Winter low" : pointOf(d.key)?.question}{" "}
          <b>{inWords(d.key, d.used)}</b> instead of {inWords(d.key, d.house)}: {d.reason} ({d.name}
          )
        </p>
      ))}
      <details>
        <summary className="min-h-8">Each rule</summary>
        <dl className="pl-3">
          {Object.entries(rules.values).map(([key, value]) => (
            <div key={key} className="border-b border-line py-1">
              <dt className="text-muted">{pointOf(key)?.question ?? key}</dt>
              <dd>{ruleInWords(key, value, system)}</dd>
            </div>
          ))}
        </dl>
      </details>
    </div>
  );
};
