import { parseQuantity } from "@uppershed/core/quantity";
import { airVerdict, simAction, type SimAction, type SimState } from "@uppershed/core/simulation";
import type { Network } from "@uppershed/core/watermap";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { SheetForm } from "../ui/sheet-form.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { useUnits } from "../ui/units.ts";
import { type FieldSpec, type Job, jobsFor } from "./jobs.ts";

interface Typed {
  job: string;
  /** By job, and by field of it. */
  of: Record<string, Record<string, string>>;
}

/** What can be done beside turning and waiting, each with the little that must be said of it. */
export const ActionSheet = ({
  network,
  state,
  first,
  onDo,
  onClose,
}: {
  network: Network;
  state: SimState;
  /** The job that is chosen at first. */
  first: string;
  onDo: (action: SimAction) => void;
  onClose: () => void;
}) => {
  const { q, text, system } = useUnits();
  const jobs = jobsFor(network, state);
  const standing = (f: FieldSpec): string =>
    "choose" in f
      ? (f.choose[0]?.[0] ?? "")
      : "number" in f
        ? String(f.number)
        : f.optional
          ? ""
          : q(f.standard, f.dimension);
  const form = useForm<Typed>({
    defaultValues: {
      job: jobs.some((j) => j.id === first) ? first : (jobs[0]?.id ?? ""),
      of: Object.fromEntries(
        jobs.map((j) => [j.id, Object.fromEntries(j.fields.map((f) => [f.name, standing(f)]))]),
      ),
    },
  });
  const jobId = useWatch({ control: form.control, name: "job" });
  const job = jobs.find((j) => j.id === jobId);
  // What was warned of once is done when it is asked for again.
  const [warned, setWarned] = useState<string>();

  /** The values of a job's fields in SI, or what is wrong with one. */
  const read = (of: Job, typed: Readonly<Record<string, string>>) => {
    const values: Record<string, string | number | undefined> = {};
    for (const f of of.fields) {
      const words = (typed[f.name] ?? "").trim();
      if ("choose" in f) values[f.name] = words;
      else if ("number" in f) {
        const number = Number(words.replace(",", "."));
        if (words === "" || !Number.isFinite(number)) return `${f.label}: a number in ${f.unit}`;
        values[f.name] = number;
      } else if (words !== "" || !f.optional) {
        const quantity = parseQuantity(words, f.dimension, system);
        if (!quantity.ok) return `${f.label}: ${quantity.problem}`;
        values[f.name] = quantity.quantity.si;
      }
    }
    return values;
  };

  const act = (typed: Typed): string | undefined => {
    setWarned(undefined);
    if (!job) return "Choose what is done.";
    const values = read(job, typed.of[job.id] ?? {});
    if (typeof values === "string") return values;
    const made = simAction.safeParse(job.make(values));
    if (!made.success) return made.error.issues[0]?.message ?? "That cannot be done so.";
    if (made.data.do === "blow") {
      const air = airVerdict(network, state, made.data);
      if (air.verdict === "refused") return `${text(air.why)}.`;
      if (air.verdict === "high") {
        const warning = `${text(air.why)}. Press again to blow with it all the same.`;
        setWarned(warning);
        if (warning !== warned) return warning;
      }
    }
    onDo(made.data);
    return undefined;
  };

  return (
    <Sheet open onClose={onClose} title="Do something">
      <SheetForm form={form} act="Do it" able={job !== undefined} onAct={act} onClose={onClose}>
        <label className="block text-[15px] font-semibold">
          What is done
          <select
            className="field mt-1 w-full"
            {...form.register("job", { onChange: () => form.clearErrors() })}
          >
            {jobs.map((j) => (
              <option key={j.id} value={j.id}>
                {j.label}
              </option>
            ))}
          </select>
        </label>
        <p className="mt-1 text-[14px] text-muted">{job?.about}</p>
        {job?.fields.map((f) => (
          <label key={`${jobId}.${f.name}`} className="mt-3 block text-[15px] font-semibold">
            {f.label}
            {"choose" in f ? (
              <select className="field mt-1 w-full" {...form.register(`of.${jobId}.${f.name}`)}>
                {f.choose.map(([value, label]) => (
                  <option key={value} value={value}>
                    {label}
                  </option>
                ))}
              </select>
            ) : (
              <span className="mt-1 flex items-center gap-2">
                <input className="field w-full" {...form.register(`of.${jobId}.${f.name}`)} />
                {"number" in f && (
                  <span className="text-[14px] font-normal text-muted">{f.unit}</span>
                )}
              </span>
            )}
          </label>
        ))}
      </SheetForm>
    </Sheet>
  );
};
