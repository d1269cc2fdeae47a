import {
  DATE_STYLES,
  type DateStyle,
  measuresOf,
  type UnitBase,
  writtenDay,
} from "@uppershed/core/quantity";
import type { FieldErrors, UseFormRegister } from "react-hook-form";
import { Choices, Field } from "./field.tsx";
import { UNITS_WORDS, type WorkshopTyped } from "./workshop-form.ts";

const EXAMPLE_DAY = new Date(2026, 9, 4);
const sample = (style: DateStyle): string => writtenDay(EXAMPLE_DAY, style);

const asChoices = (words: Readonly<Record<string, string>>) =>
  Object.entries(words).map(([value, label]) => ({ value, label }));

/** The fields in which a workshop says what it is, how it measures and how it writes. */
export const WorkshopFields = ({
  register,
  errors,
  setDegrees,
  winterLow,
}: {
  register: UseFormRegister<WorkshopTyped>;
  errors: FieldErrors<WorkshopTyped>;
  setDegrees: (degrees: "C" | "F") => void;
  /** What the winter low is called here. */
  winterLow: string;
}) => (
  <>
    <Field
      label="Workshop's name"
      maxLength={80}
      problem={errors.name?.message}
      {...register("name")}
    />
    <Field label="Where it is" maxLength={80} {...register("place")} />
    <fieldset>
      <legend className="text-[15px] font-semibold">Measures in</legend>
      <Choices
        each="block"
        of={asChoices(UNITS_WORDS)}
        {...register("base", {
          // What goes with it as a rule; it can be chosen otherwise.
          onChange: (e: { target: { value: UnitBase } }) =>
            setDegrees(measuresOf(e.target.value).degrees),
        })}
      />
    </fieldset>
    <fieldset>
      <legend className="text-[15px] font-semibold">Temperatures in</legend>
      <Choices of={asChoices({ C: "°C", F: "°F" })} {...register("degrees")} />
    </fieldset>
    <fieldset>
      <legend className="text-[15px] font-semibold">Writes numbers</legend>
      <Choices of={asChoices({ point: "1,000.5", comma: "1.000,5" })} {...register("mark")} />
    </fieldset>
    <fieldset>
      <legend className="text-[15px] font-semibold">Writes days</legend>
      <Choices
        of={DATE_STYLES.map((value) => ({ value, label: sample(value) }))}
        {...register("dates")}
      />
    </fieldset>
    <Field
      label={winterLow}
      placeholder="−18 °C or 0 °F"
      problem={errors.winterLow?.message}
      {...register("winterLow")}
    />
  </>
);
