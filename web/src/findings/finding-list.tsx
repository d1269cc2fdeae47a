import type { FindingOnFile } from "@uppershed/contract";
import { ANSWER_LABELS, SEVERITY_LABELS } from "@uppershed/core/inspection";
import { Check, CircleAlert, Clock3, Octagon, StickyNote } from "lucide-react";
import { useUnits } from "../ui/units.ts";
import { capital, dayOf } from "../ui/words.ts";

const SIGNS = {
  unsafe: Octagon,
  "will-fail": CircleAlert,
  wears: Clock3,
  note: StickyNote,
} as const;

/** How far a finding is, in words. */
export const stands = (f: FindingOnFile): string => {
  if (f.mended) return `mended ${dayOf(f.mended.at)}`;
  if (f.accepted) return `left as it is${f.answer?.answer === "no" ? ", owner declined" : ""}`;
  return f.answer ? `owner: ${ANSWER_LABELS[f.answer.answer]}` : "owner not asked yet";
};

/** Findings as lines, in the order in which they are given. */
export const FindingList = ({
  findings,
  onOpen,
}: {
  findings: readonly FindingOnFile[];
  onOpen: (finding: FindingOnFile) => void;
}) => {
  const { text } = useUnits();
  return (
    <ul>
      {findings.map((f) => {
        const Sign = f.state === "mended" ? Check : SIGNS[f.severity];
        const bad = f.severity === "unsafe" && f.state !== "mended";
        return (
          <li key={f.id} className="border-t border-line">
            <button
              type="button"
              className="flex min-h-12 w-full items-start gap-3 px-2 py-2 text-left hover:bg-green-soft"
              onClick={() => onOpen(f)}
            >
              <Sign
                aria-hidden
                size={20}
                className={`mt-0.5 shrink-0 ${bad ? "text-rust" : "text-green"}`}
              />
              <span className="min-w-0 flex-1">
                <b className={bad ? "text-rust" : ""}>{capital(SEVERITY_LABELS[f.severity])}</b>{" "}
                {text(f.what)}
                <span className="block text-[14px] text-muted">
                  {f.place && `${f.place}, `}
                  {dayOf(f.foundAt)}, {stands(f)}
                </span>
              </span>
            </button>
          </li>
        );
      })}
    </ul>
  );
};
