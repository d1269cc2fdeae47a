import type { Mend, Problem, Severity } from "@uppershed/core/survey";
import { useState } from "react";
import { Button } from "../ui/button.tsx";
import { useUnits } from "../ui/units.ts";

const SEVERITY_WORDS: Record<Severity, string> = {
  wrong: "cannot be so",
  unknown: "not known",
  guard: "guard missing",
  standing: "water stands",
  note: "worth a look",
};

export const problemKey = (problem: Problem): string =>
  `${problem.code}:${problem.parts.join(",")}`;
export const entryId = (key: string): string => `problem-${key.replaceAll(/[^a-z0-9-]/gu, "_")}`;

/** Problems in words beside the drawing: a tap lights the part, another mends it where one tap can. */
export const ProblemMargin = ({
  problems,
  chosen,
  onChoose,
  onMend,
}: {
  problems: readonly Problem[];
  chosen: string | undefined;
  onChoose: (problem: Problem | undefined) => void;
  onMend: (mend: Mend) => void;
}) => {
  const { text } = useUnits();
  const [shown, setShown] = useState<Severity | "all">("all");
  const counts = new Map<Severity, number>();
  for (const p of problems) counts.set(p.severity, (counts.get(p.severity) ?? 0) + 1);
  const listed =
    shown === "all" || !counts.has(shown) ? problems : problems.filter((p) => p.severity === shown);
  return (
    <section aria-label="Problems" className="flex min-h-0 flex-col">
      <h2 className="px-4 pt-3 text-[15px] font-bold">
        {problems.length === 0
          ? "Nothing to mend"
          : `${problems.length} ${problems.length === 1 ? "thing" : "things"} to look at`}
      </h2>
      {counts.size > 1 && (
        <div role="group" aria-label="Which problems" className="flex flex-wrap gap-1 px-4 py-2">
          {(["all", ...counts.keys()] as const).map((severity) => (
            <button
              key={severity}
              type="button"
              aria-pressed={shown === severity}
              onClick={() => setShown(severity)}
              className={`min-h-9 rounded border px-2 text-[13px] ${shown === severity ? "border-green bg-green text-on-green" : "border-line bg-raised"}`}
            >
              {severity === "all"
                ? "all"
                : `${SEVERITY_WORDS[severity]} ${counts.get(severity) ?? 0}`}
            </button>
          ))}
        </div>
      )}
      <ul className="min-h-0 flex-1 overflow-auto">
        {listed.map((problem) => {
          const key = problemKey(problem);
          const open = key === chosen;
          return (
            <li
              key={key}
              id={entryId(key)}
              className={`border-t border-line ${open ? "bg-rust-soft" : ""}`}
            >
              <button
                type="button"
                aria-expanded={open}
                className="block min-h-11 w-full px-4 py-2 text-left text-[14px] hover:bg-green-soft"
                onClick={() => onChoose(open ? undefined : problem)}
              >
                <span
                  className={`mr-2 text-[12px] font-bold uppercase tracking-wide ${problem.severity === "wrong" || problem.severity === "unknown" ? "text-rust" : "text-muted"}`}
                >
                  {SEVERITY_WORDS[problem.severity]}
                </span>
                {text(problem.message)}
              </button>
              {problem.mends.length > 0 && (
                <div className="flex flex-wrap gap-2 px-4 pb-3">
                  {problem.mends.map((mend) => (
                    <Button
                      key={mend.label}
                      className="!min-h-[44px] text-[14px]"
                      onClick={() => onMend(mend)}
                    >
                      {mend.label}
                    </Button>
                  ))}
                </div>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
};
