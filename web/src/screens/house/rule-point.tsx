import { formatQuantity, inMark, type UnitSystem } from "@uppershed/core/quantity";
import { isChoice, type NumberPoint, type RulePoint } from "@uppershed/core/rules";
import type { UseFormRegister } from "react-hook-form";
import { Field } from "../../ui/field.tsx";
import { useUnits } from "../../ui/units.ts";

/** A figure of the rules as it is typed. */
export const figureText = (point: NumberPoint, value: number, units: UnitSystem): string =>
  point.is === "number" ? inMark(String(value), units) : formatQuantity(value, point.is, units);

const figureWithUnit = (point: NumberPoint, value: number, units: UnitSystem): string =>
  `${figureText(point, value, units)}${point.unit ? ` ${point.unit}` : ""}`;

export type RuleForm = Record<string, string>;

/** One question of the house rules: its schools to choose from, or its figure. */
export const RulePointField = ({
  point,
  name,
  register,
  problem,
}: {
  point: RulePoint;
  name: string;
  register: UseFormRegister<RuleForm>;
  problem: string | undefined;
}) => {
  const { system } = useUnits();
  const goesBy = point.goesBy === "" ? "Nothing goes by it yet." : `Goes by it: ${point.goesBy}`;
  if (!isChoice(point))
    return (
      <div className="border-b border-line py-3">
        <Field label={point.question} className="max-w-md" problem={problem} {...register(name)} />
        <p className="text-[13.5px] text-muted">
          {point.unit ? `In ${point.unit}, between ` : "Between "}
          {figureWithUnit(point, point.low, system)} and {figureWithUnit(point, point.high, system)}
          ; as shipped {figureWithUnit(point, point.standard, system)} ({point.source}). {goesBy}
        </p>
      </div>
    );
  return (
    <fieldset className="border-b border-line pb-3">
      <legend className="pt-3 text-[15px] font-semibold">{point.question}</legend>
      <div className="grid gap-x-6 md:grid-cols-2 xl:grid-cols-3">
        {point.schools.map((s) => (
          <label key={s.value} className="flex gap-2 py-1.5 text-[15px]">
            <input
              type="radio"
              className="mt-0.5 size-5 shrink-0 accent-[var(--green)]"
              value={s.value}
              {...register(name)}
            />
            <span>
              {s.says}
              {s.value === point.standard && (
                <span className="text-[13px] text-muted"> (as shipped)</span>
              )}
              <span className="block text-[13.5px] text-muted">
                For: {s.because}. Costs: {s.costs}. Leaves: {s.leaves}.
              </span>
            </span>
          </label>
        ))}
      </div>
      <p className="text-[13.5px] text-muted">{goesBy}</p>
    </fieldset>
  );
};
