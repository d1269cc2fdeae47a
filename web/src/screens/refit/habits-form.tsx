import type { AuditSettings, Habits } from "@uppershed/core/refit";
import { useState } from "react";
import { useForm } from "react-hook-form";
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
  limit: string;
  leftKg: string;
}

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
      limit: limits[0]?.name ?? "",
      leftKg: limits[0] ? String(limits[0].leftKg) : "",
    },
  });
  const keep = form.handleSubmit(async (typed) => {
    const next: Habits = {
      ...habits,
      people: number(typed.people) ?? habits.people,
      showers: number(typed.showers) ?? habits.showers,
      flushes: number(typed.flushes) ?? habits.flushes,
    };
    const leftKg = number(typed.leftKg);
    const [cost, hour] = [number(typed.cost), number(typed.hour)];
    setProblem(
      await enter({
        type: "reckoned-with",
        habits: next,
        limits:
          typed.limit.trim() !== "" && leftKg !== undefined
            ? [{ name: typed.limit, places: [], leftKg }]
            : [],
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
        <Field
          label="A limit: axle, payload, freeboard"
          maxLength={60}
          {...form.register("limit")}
        />
        <Field label="Left on it for water, kg" inputMode="decimal" {...form.register("leftKg")} />
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
