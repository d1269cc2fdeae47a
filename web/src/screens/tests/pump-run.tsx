import { PUMP_ANSWERS, pumpRunInWords, type PressureTest } from "@uppershed/core/hold";
import { parseQuantity } from "@uppershed/core/quantity";
import { useForm } from "react-hook-form";
import type { EnterTest } from "../../holding/use-test-entry.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { useUnits } from "../../ui/units.ts";

const ANSWERS = {
  "not-tried": "not tried",
  silent: "silent",
  "starts-again": "starts all the same",
} as const;

interface Typed {
  stops: string;
  interval: string;
  behindValve: (typeof PUMP_ANSWERS)[number];
}

/** The unit's own pump with every tap shut: does it stop, does it start by itself, and does the valve behind it make a difference. */
export const PumpRun = ({
  test,
  enter,
  able,
}: {
  test: PressureTest;
  enter: EnterTest;
  able: boolean;
}) => {
  const { system, text } = useUnits();
  const form = useForm<Typed>({
    defaultValues: { stops: "yes", interval: "", behindValve: "not-tried" },
  });
  const { errors } = form.formState;
  const said = pumpRunInWords(test);
  const go = form.handleSubmit(({ stops, interval, behindValve }) => {
    const read = interval.trim() === "" ? undefined : parseQuantity(interval, "time", system);
    if (read && !read.ok) return form.setError("interval", { message: read.problem });
    const problem = enter(
      {
        type: "pump-run",
        stops: stops === "yes",
        ...(read?.ok ? { intervalS: read.quantity.si } : {}),
        behindValve,
      },
      test,
    );
    return problem
      ? form.setError("interval", { message: "A second to eleven days, such as 20 min." })
      : undefined;
  });
  return (
    <section aria-label="How the pump runs" className="my-3 border-t border-line pt-3">
      <h2 className="font-bold">How the pump runs, every tap shut</h2>
      {said && (
        <p role="status" className="my-1 border-l-4 border-green bg-green-soft p-2">
          {text(said.words)}
          {said.leakM3S !== undefined && " (worked out; cut-in assumed)"}
        </p>
      )}
      {able && (
        <form
          className="grid grid-cols-2 gap-3 sm:grid-cols-4"
          onSubmit={(e) => void go(e)}
          noValidate
        >
          <label className="text-[15px]">
            <span className="font-semibold">Does it stop?</span>
            <select className="field mt-1 w-full" {...form.register("stops")}>
              <option value="yes">it stops</option>
              <option value="no">it runs on</option>
            </select>
          </label>
          <Field
            label="From one start to the next"
            problem={errors.interval?.message}
            autoComplete="off"
            {...form.register("interval")}
          />
          <label className="text-[15px]">
            <span className="font-semibold">Valve behind it shut</span>
            <select className="field mt-1 w-full" {...form.register("behindValve")}>
              {PUMP_ANSWERS.map((a) => (
                <option key={a} value={a}>
                  {ANSWERS[a]}
                </option>
              ))}
            </select>
          </label>
          <div className="self-end">
            <Button type="submit" big>
              Keep it
            </Button>
          </div>
        </form>
      )}
    </section>
  );
};
