import type { AuditSettings, Habits } from "@uppershed/core/refit";
import { useState } from "react";
import { useFieldArray, useForm } from "react-hook-form";
import { useRefitEntry } from "../../refitting/use-refit.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import type { OfRefit } from "./of-refit.ts";

interface Typed {
  people: string;
  showers: string;
  flushes: string;
  cost: string;
  hour: string;
  limits: { name: string; place: string; leftKg: string }[];
}

const MOST_LIMITS = 6;
const NO_LIMIT = { name: "", place: "", leftKg: "" };

const number = (text: string): number | undefined => {
  const value = Number(text.trim().replace(",", "."));
  return text.trim() !== "" && Number.isFinite(value) ? value : undefined;
};

/** How the unit is used, what a limit still bears, and what the work costs: assumed until somebody says. */
export const HabitsForm = ({
  unitId,
  refitId,
  here,
  mayWork,
  settings,
  places,
}: OfRefit & { places: readonly string[]; settings: Omit<AuditSettings, "winter"> }) => {
  const enter = useRefitEntry(unitId, refitId);
  const [problem, setProblem] = useState<string>();
  const { habits, limits } = settings;
  const { refit } = here.onFile;
  const form = useForm<Typed>({
    defaultValues: {
      people: String(habits.people),
      showers: String(habits.showers),
      flushes: String(habits.flushes),
      cost: refit.cost === undefined ? "" : String(refit.cost),
      hour: refit.hour === undefined ? "" : String(refit.hour),
      limits:
        limits.length > 0
          ? limits.map((l) => ({
              name: l.name,
              place: l.places[0] ?? "",
              leftKg: String(l.leftKg),
            }))
          : [NO_LIMIT],
    },
  });
  const rows = useFieldArray({ control: form.control, name: "limits" });
  const keep = form.handleSubmit(async (typed) => {
    const next: Habits = {
      ...habits,
      people: number(typed.people) ?? habits.people,
      showers: number(typed.showers) ?? habits.showers,
      flushes: number(typed.flushes) ?? habits.flushes,
    };
    const [cost, hour] = [number(typed.cost), number(typed.hour)];
    setProblem(
      await enter({
        type: "reckoned-with",
        habits: next,
        limits: typed.limits.flatMap(({ name, place, leftKg }) => {
          const left = number(leftKg);
          return name.trim() === "" || left === undefined
            ? []
            : [{ name, places: place === "" ? [] : [place], leftKg: left }];
        }),
        ...(cost === undefined ? {} : { cost }),
        ...(hour === undefined ? {} : { hour }),
      }),
    );
  });
  return (
    <form
      aria-label="Reckoned with"
      className="mt-3 h-fit rounded border border-line p-3"
      onSubmit={(e) => void keep(e)}
    >
      <h2 className="text-[16px] font-bold">Reckoned with</h2>
      <p className="text-[13px] text-muted">
        Assumed where nobody has said otherwise: 20 L a shower, 1 L a flush, 10 L besides for each
        person and day (common practice, no source).
      </p>
      <fieldset disabled={!mayWork} className="grid gap-2">
        <Field label="People" inputMode="numeric" {...form.register("people")} />
        <Field label="Showers a day, each" inputMode="decimal" {...form.register("showers")} />
        <Field label="Flushes a day, each" inputMode="numeric" {...form.register("flushes")} />
        {rows.fields.map((row, i) => (
          <div key={row.id} className="grid gap-2 border-t border-line pt-2">
            <Field
              label={`Limit ${i + 1}: axle, payload, freeboard`}
              maxLength={60}
              {...form.register(`limits.${i}.name`)}
            />
            <label className="text-[15px]">
              <span className="font-semibold">Loaded by what lies at</span>
              <select className="field mt-1 w-full" {...form.register(`limits.${i}.place`)}>
                <option value="">all of the unit</option>
                {places.map((p) => (
                  <option key={p} value={p}>
                    {p}
                  </option>
                ))}
              </select>
            </label>
            <Field
              label="Left on it for water, kg"
              inputMode="decimal"
              {...form.register(`limits.${i}.leftKg`)}
            />
          </div>
        ))}
        {mayWork && rows.fields.length < MOST_LIMITS && (
          <Button onClick={() => rows.append(NO_LIMIT)}>One limit more</Button>
        )}
        <Field label="What the work costs" inputMode="decimal" {...form.register("cost")} />
        <Field label="What an hour costs" inputMode="decimal" {...form.register("hour")} />
        {mayWork && <Button type="submit">Reckon with these</Button>}
      </fieldset>
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
    </form>
  );
};
