import type { PressureTest } from "@uppershed/core/hold";
import { readHoldCsv } from "@uppershed/core/formats";
import { type Dimension, parseQuantity, type UnitSystem } from "@uppershed/core/quantity";
import { useState } from "react";
import { useForm } from "react-hook-form";
import type { EnterTest } from "../../holding/use-test-entry.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { useUnits } from "../../ui/units.ts";

interface Typed {
  pressure: string;
  temperature: string;
  barometer: string;
}

const READ = [
  ["pressure", "Gauge", "pressure"],
  ["temperature", "Temperature of it", "temperature"],
  ["barometer", "Barometer", "pressure"],
] as const satisfies readonly (readonly [keyof Typed, string, Dimension])[];

const siOf = (text: string, dimension: Dimension, system: UnitSystem): number | string => {
  const read = parseQuantity(text, dimension, system);
  return read.ok ? read.quantity.si : read.problem;
};

/** One reading off the gauge, as it is typed at the unit. */
export const ReadForm = ({ test, enter }: { test: PressureTest; enter: EnterTest }) => {
  const { system } = useUnits();
  const form = useForm<Typed>({ defaultValues: { pressure: "", temperature: "", barometer: "" } });
  const { errors } = form.formState;
  const go = form.handleSubmit((typed) => {
    const values: Partial<Record<keyof Typed, number>> = {};
    for (const [name, , dimension] of READ) {
      const text = typed[name].trim();
      if (text === "" && name !== "pressure") continue;
      const value = siOf(text, dimension, system);
      if (typeof value === "string") return form.setError(name, { message: value });
      if (name === "pressure" && value < 0)
        return form.setError(name, {
          message: "A gauge below zero is not at its zero: look at it.",
        });
      values[name] = value;
    }
    const problem = enter(
      {
        type: "reading",
        reading: {
          pressurePa: values.pressure ?? 0,
          ...(values.temperature === undefined ? {} : { temperatureC: values.temperature }),
          ...(values.barometer === undefined ? {} : { barometerPa: values.barometer }),
        },
        typed: Object.values(typed).filter(Boolean).join(", "),
      },
      test,
    );
    if (problem) return form.setError("pressure", { message: "That cannot be: look again." });
    form.reset({ ...typed, pressure: "" });
    return undefined;
  });
  return (
    <form
      aria-label="A reading"
      className="my-3 grid grid-cols-2 gap-3 sm:grid-cols-4"
      onSubmit={(e) => void go(e)}
      noValidate
    >
      {READ.map(([name, label]) => (
        <Field
          key={name}
          label={label}
          problem={errors[name]?.message}
          autoComplete="off"
          {...form.register(name)}
        />
      ))}
      <div className="self-end">
        <Button type="submit" look="act" big>
          Keep this reading
        </Button>
      </div>
    </form>
  );
};

const PIECE = 2000;

/** A logger's file, or the stand-in for a logger. */
export const LoggerRow = ({ test, enter }: { test: PressureTest; enter: EnterTest }) => {
  const [told, setTold] = useState<readonly string[]>([]);
  const bring = async (file: File): Promise<void> => {
    const read = readHoldCsv(await file.text());
    if (!read.ok)
      return setTold([
        "Nothing was read in.",
        ...read.problems.map(
          (p) => `${p.line === undefined ? "" : `Line ${p.line}: `}${p.where} ${p.problem}`,
        ),
      ]);
    const beginsAt = read.begunAt ?? test.begunAt;
    for (let i = 0; i < read.readings.length; i += PIECE) {
      const problem = enter(
        {
          type: "readings",
          from: "file",
          name: file.name.slice(0, 200),
          beginsAt,
          readings: read.readings.slice(i, i + PIECE),
        },
        test,
      );
      if (problem) return setTold([problem]);
    }
    return setTold([
      `${read.readings.length} readings of ${file.name} kept.`,
      ...(read.passedBy.length > 0 ? [`Passed by: ${read.passedBy.join(", ")}.`] : []),
    ]);
  };
  return (
    <div className="my-2">
      <div className="flex flex-wrap items-center gap-3">
        <label className="inline-flex min-h-11 cursor-pointer items-center rounded border-[1.5px] border-green bg-raised px-4 text-[15px] font-semibold text-green focus-within:outline focus-within:outline-2">
          Read a logger&apos;s file
          <input
            type="file"
            accept=".csv,text/csv"
            className="sr-only"
            onChange={(e) => {
              const [file] = e.target.files ?? [];
              if (file) void bring(file);
              e.target.value = "";
            }}
          />
        </label>
        {test.logger === undefined && (
          <Button
            onClick={() =>
              setTold(
                [
                  enter(
                    {
                      type: "logger-on",
                      simulated: true,
                      seed: Date.parse(test.begunAt) % 2 ** 31,
                      leakM3S: 0,
                      driftK: -1.2,
                      speed: 30,
                    },
                    test,
                  ),
                ].flatMap((p) => p ?? []),
              )
            }
          >
            Stand-in for a logger (simulated)
          </Button>
        )}
      </div>
      {told.length > 0 && (
        <div role="status" className="mt-1 text-[14px]">
          {told.map((t) => (
            <p key={t}>{t}</p>
          ))}
        </div>
      )}
    </div>
  );
};
