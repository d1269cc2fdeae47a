import { parseQuantity } from "@uppershed/core/quantity";
import { airVerdict, simAction, type SimAction, type SimState } from "@uppershed/core/simulation";
import type { Network } from "@uppershed/core/watermap";
import { useState } from "react";
import { Button } from "../ui/button.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { useUnits } from "../ui/units.ts";
import { type FieldSpec, jobsFor } from "./jobs.ts";

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
  const [jobId, setJobId] = useState(
    jobs.some((j) => j.id === first) ? first : (jobs[0]?.id ?? ""),
  );
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({});
  const [problem, setProblem] = useState<string>();
  const job = jobs.find((j) => j.id === jobId);
  const key = (f: FieldSpec): string => `${jobId}.${f.name}`;
  const standing = (f: FieldSpec): string =>
    typed[key(f)] ??
    ("choose" in f
      ? (f.choose[0]?.[0] ?? "")
      : "number" in f
        ? String(f.number)
        : f.optional
          ? ""
          : q(f.standard, f.dimension));

  const submit = (): void => {
    if (!job) return;
    const values: Record<string, string | number | undefined> = {};
    for (const f of job.fields) {
      const text = standing(f).trim();
      if ("choose" in f) values[f.name] = text;
      else if ("number" in f) {
        const number = Number(text.replace(",", "."));
        if (text === "" || !Number.isFinite(number))
          return setProblem(`${f.label}: a number in ${f.unit}`);
        values[f.name] = number;
      } else if (text !== "" || !f.optional) {
        const read = parseQuantity(text, f.dimension, system);
        if (!read.ok) return setProblem(`${f.label}: ${read.problem}`);
        values[f.name] = read.quantity.si;
      }
    }
    const made = simAction.safeParse(job.make(values));
    if (!made.success)
      return setProblem(made.error.issues[0]?.message ?? "That cannot be done so.");
    if (made.data.do === "blow") {
      const air = airVerdict(network, state, made.data);
      if (air.verdict === "refused") return setProblem(`${text(air.why)}.`);
      const warning =
        air.verdict === "high"
          ? `${text(air.why)}. Press again to blow with it all the same.`
          : undefined;
      if (warning !== undefined && warning !== problem) return setProblem(warning);
    }
    onDo(made.data);
    onClose();
  };

  return (
    <Sheet open onClose={onClose} title="Do something">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        <label className="block text-[15px] font-semibold">
          What is done
          <select
            className="field mt-1 w-full"
            value={jobId}
            onChange={(e) => {
              setJobId(e.target.value);
              setProblem(undefined);
            }}
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
          <label key={key(f)} className="mt-3 block text-[15px] font-semibold">
            {f.label}
            {"choose" in f ? (
              <select
                className="field mt-1 w-full"
                value={standing(f)}
                onChange={(e) => setTyped((now) => ({ ...now, [key(f)]: e.target.value }))}
              >
                {f.choose.map(([value, label]) => (
                  <option key={value} value={value}>
                    {label}
                  </option>
                ))}
              </select>
            ) : (
              <span className="mt-1 flex items-center gap-2">
                <input
                  className="field w-full"
                  value={standing(f)}
                  onChange={(e) => setTyped((now) => ({ ...now, [key(f)]: e.target.value }))}
                />
                {"number" in f && (
                  <span className="text-[14px] font-normal text-muted">{f.unit}</span>
                )}
              </span>
            )}
          </label>
        ))}
        {problem && (
          <p role="alert" className="mt-2 text-rust">
            {problem}
          </p>
        )}
        <div className="mt-4 flex gap-2">
          <Button type="submit" look="act" big disabled={!job}>
            Do it
          </Button>
          <Button big onClick={onClose}>
            Back
          </Button>
        </div>
      </form>
    </Sheet>
  );
};
