import type { Departure } from "@uppershed/core/procedure";
import { pointOf, ruleInWords } from "@uppershed/core/rules";
import { Field } from "../ui/field.tsx";
import { useUnits } from "../ui/units.ts";

/** Where this job departs from the house's rules: its reason is asked, and printed on the record. */
export const Departures = ({
  departures,
  reason,
  onReason,
}: {
  departures: readonly Departure[];
  reason: string;
  onReason: (reason: string) => void;
}) => {
  const { system, q } = useUnits();
  if (departures.length === 0) return null;
  const inWords = (key: string, value: string | number): string =>
    key === "winterLow" ? q(Number(value), "temperature") : ruleInWords(key, value, system);
  return (
    <section
      aria-label="Departs from the house rules"
      className="border-l-4 border-rust bg-rust-soft p-2"
    >
      <ul className="text-[14px]">
        {departures.map((d) => (
          <li key={d.key}>
            {d.key === "winterLow" ? "Winter low" : pointOf(d.key)?.question}{" "}
            <b>{inWords(d.key, d.used)}</b>; the house says {inWords(d.key, d.house)}.
          </li>
        ))}
      </ul>
      <Field
        label="Why, on this job?"
        className="mt-1"
        maxLength={300}
        value={reason}
        onChange={(e) => onReason(e.target.value)}
      />
    </section>
  );
};
