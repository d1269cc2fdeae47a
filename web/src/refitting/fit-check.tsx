import { fitOf, type Measured } from "@uppershed/core/refit";
import { parseQuantity } from "@uppershed/core/quantity";
import { useState } from "react";
import { Field } from "../ui/field.tsx";
import { useUnits } from "../ui/units.ts";

const ANSWER = {
  found: "It is",
  "measure again": "Measure again",
  unknown: "Not known",
} as const;

/** What the caliper in the hand shows, and which system that is, with what looks like it and leaks. */
export const FitCheck = () => {
  const { system } = useUnits();
  const [typed, setTyped] = useState({ outside: "", inside: "", threads: "", seal: "" });
  const set = (key: keyof typeof typed, value: string): void =>
    setTyped((now) => ({ ...now, [key]: value }));
  const length = (text: string): { m?: number; problem?: string } => {
    if (text.trim() === "") return {};
    // A bare number off a caliper is millimetres, or inches where those are used.
    const bare = /^[\d.,]+$/u.test(text.trim());
    const read = parseQuantity(
      bare ? `${text} ${system === "metric" ? "mm" : "in"}` : text,
      "length",
      system,
    );
    return read.ok ? { m: read.quantity.si } : { problem: read.problem };
  };
  const [outside, inside] = [length(typed.outside), length(typed.inside)];
  const threads = Number(typed.threads.trim().replace(",", "."));
  const measured: Measured = {
    ...(outside.m === undefined ? {} : { outsideM: outside.m }),
    ...(inside.m === undefined ? {} : { insideM: inside.m }),
    ...(typed.threads.trim() !== "" && threads > 0 ? { threadsPerInch: threads } : {}),
    ...(typed.seal === "washer" || typed.seal === "taper" ? { seal: typed.seal } : {}),
  };
  const asked = outside.m !== undefined || inside.m !== undefined;
  const answer = asked ? fitOf(measured) : undefined;
  return (
    <section aria-label="What fits" className="mt-4 print:hidden">
      <h2 className="text-[16px] font-bold">What fits</h2>
      <p className="text-[14px] text-muted">
        What the caliper shows, in {system === "metric" ? "millimetres" : "inches"}: outside of a
        tube or over the crests of a thread, or the inside of a hose.
      </p>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <Field
          label="Outside"
          inputMode="decimal"
          value={typed.outside}
          onChange={(e) => set("outside", e.target.value)}
          problem={outside.problem}
        />
        <Field
          label="Inside, of a hose"
          inputMode="decimal"
          value={typed.inside}
          onChange={(e) => set("inside", e.target.value)}
          problem={inside.problem}
        />
        <Field
          label="Threads to the inch"
          inputMode="decimal"
          value={typed.threads}
          onChange={(e) => set("threads", e.target.value)}
        />
        <label className="text-[15px]">
          <span className="font-semibold">It seals</span>
          <select
            className="field mt-1 w-full"
            value={typed.seal}
            onChange={(e) => set("seal", e.target.value)}
          >
            <option value="">not seen</option>
            <option value="washer">on a washer</option>
            <option value="taper">by its taper</option>
          </select>
        </label>
      </div>
      {answer && (
        <div
          role="status"
          className={`mt-2 border-l-4 p-2 text-[15px] ${answer.answer === "found" ? "border-green bg-green-soft" : "border-rust bg-rust-soft"}`}
        >
          <p className="font-semibold">
            {ANSWER[answer.answer]}
            {answer.systems.length > 0 && `: ${answer.systems.map((s) => s.label).join(", or ")}`}
          </p>
          <p>{answer.why}</p>
          {answer.nearMiss.map((n) => (
            <p key={n} className="text-[14px]">
              Not to be taken for it: {n}.
            </p>
          ))}
          <p className="text-[14px] text-muted">
            Pipe, fitting, hose and sealant for drinking water carry its mark: look for it on each.
          </p>
        </div>
      )}
    </section>
  );
};
