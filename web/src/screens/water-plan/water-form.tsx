import { zodResolver } from "@hookform/resolvers/zod";
import type { Job, RunSetup } from "@uppershed/core/procedure";
import { useEffect } from "react";
import { useForm } from "react-hook-form";
import { z } from "zod";
import type { Bottle } from "../../planning/house.ts";

export type Water = NonNullable<RunSetup["water"]>;

const number = (low: number, high: number) =>
  z.string().superRefine((text, context) => {
    const value = Number(text.replace(",", "."));
    if (text.trim() === "" || !Number.isFinite(value) || value < low || value > high)
      context.addIssue({ code: "custom", message: `a number from ${low} to ${high}` });
  });

const formSchema = z.object({
  bottle: z.string(),
  percent: number(0.5, 15),
  targetMgL: number(1, 300),
  soakH: number(0.1, 72),
  heater: z.enum(["by-maker", "in", "out"]),
  source: number(0, 4),
  sanitizeNext: z.boolean(),
  handClean: z.boolean(),
  descale: z.boolean(),
});
type Typed = z.infer<typeof formSchema>;

const HOUR_S = 3600;
const value = (text: string): number => Number(text.replace(",", "."));

const typedFrom = (water: Water): Typed => ({
  bottle: water.chlorine.bottle.name,
  percent: String(Number((water.chlorine.bottle.strength * 100).toFixed(2))),
  targetMgL: String(water.chlorine.targetMgL),
  soakH: String(Number((water.chlorine.soakS / HOUR_S).toFixed(2))),
  heater: water.chlorine.heater,
  source: String(water.chlorine.sourceMgL),
  sanitizeNext: water.sanitizeNext,
  handClean: water.handClean === true,
  descale: water.descale === true,
});

const waterFrom = (typed: Typed, base: Water, bottles: readonly Bottle[]): Water => {
  const known = bottles.find((b) => b.name === typed.bottle);
  const soakS = value(typed.soakH) * HOUR_S;
  return {
    ...base,
    sanitizeNext: typed.sanitizeNext,
    ...(typed.handClean ? { handClean: true } : {}),
    ...(typed.descale ? { descale: true } : {}),
    chlorine: {
      ...base.chlorine,
      targetMgL: value(typed.targetMgL),
      soakS,
      latestS: Math.max(base.chlorine.latestS, soakS),
      heater: typed.heater,
      sourceMgL: value(typed.source),
      bottle: {
        ...(known ?? base.chlorine.bottle),
        strength: value(typed.percent) / 100,
      },
    },
  };
};

/** What this job goes by, as typed; a departure from the house's rules is said beside it. */
export const WaterForm = ({
  job,
  base,
  bottles,
  onChange,
}: {
  job: Job;
  base: Water;
  bottles: readonly Bottle[];
  onChange: (water: Water | undefined) => void;
}) => {
  const { register, subscribe, setValue, formState } = useForm<Typed>({
    resolver: zodResolver(formSchema),
    mode: "onChange",
    defaultValues: typedFrom(base),
  });
  useEffect(
    () =>
      subscribe({
        formState: { values: true },
        callback: ({ values }) => {
          const read = formSchema.safeParse(values);
          onChange(read.success ? waterFrom(read.data, base, bottles) : undefined);
        },
      }),
    [subscribe, base, bottles, onChange],
  );
  const field = (
    name: "percent" | "targetMgL" | "soakH" | "source",
    label: string,
    unit: string,
  ) => (
    <label className="block text-[14px]">
      <span className="font-semibold">{label}</span>
      <span className="flex items-center gap-2">
        <input
          inputMode="decimal"
          className="field mt-0.5 w-28"
          aria-invalid={formState.errors[name] ? true : undefined}
          {...register(name)}
        />
        <span className="text-muted">{unit}</span>
      </span>
      {formState.errors[name] && (
        <span role="alert" className="block text-rust">
          {formState.errors[name]?.message}
        </span>
      )}
    </label>
  );
  if (job === "spring")
    return (
      <label className="flex min-h-11 items-center gap-3 text-[15px]">
        <input type="checkbox" className="size-6 shrink-0" {...register("sanitizeNext")} />
        Sanitizing follows: cartridges stay out until then
      </label>
    );
  return (
    <div className="space-y-3">
      {bottles.length > 0 && (
        <label className="block text-[14px]">
          <span className="font-semibold">Bleach, of the workshop's own</span>
          <select
            className="field mt-0.5 w-full"
            {...register("bottle", {
              onChange: (e: React.ChangeEvent<HTMLSelectElement>) => {
                const chosen = bottles.find((b) => b.name === e.target.value);
                if (chosen) setValue("percent", String(Number((chosen.strength * 100).toFixed(2))));
              },
            })}
          >
            {bottles.map((b) => (
              <option key={b.name} value={b.name}>
                {b.name}
                {b.days === undefined ? "" : `, open ${Math.round(b.days / 30)} months`}
              </option>
            ))}
          </select>
        </label>
      )}
      {field("percent", "Sodium hypochlorite on its label", "% by weight")}
      {field("targetMgL", "Wanted at the outlet that gets least", "mg/L")}
      {field("soakH", "Stands at least", "h")}
      {field("source", "Chlorine in the water that is filled in", "mg/L")}
      <label className="block text-[14px]">
        <span className="font-semibold">Heater</span>
        <select className="field mt-0.5 w-full" {...register("heater")}>
          <option value="by-maker">dosed where its metal bears it</option>
          <option value="in">dosed too, cold</option>
          <option value="out">left out, by its bypass</option>
        </select>
      </label>
      <label className="flex min-h-11 items-center gap-3 text-[15px]">
        <input type="checkbox" className="size-6 shrink-0" {...register("handClean")} />
        Open tanks that have a hatch, and clean them by hand first
      </label>
      <label className="flex min-h-11 items-center gap-3 text-[15px]">
        <input type="checkbox" className="size-6 shrink-0" {...register("descale")} />
        Rinse and descale the heater first
      </label>
    </div>
  );
};
