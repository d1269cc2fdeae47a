import type { FindingOnFile, Reading, TestLine, UnitRun, Visit } from "@uppershed/contract";
import { jobWork } from "@uppershed/core/procedure";
import { OUTCOMES } from "../../holding/words.ts";
import type { YearMark } from "./year-strip.tsx";

/** Everything that has a day in the life of a unit, for the strip of its years. */
export const marksOf = (
  runs: readonly UnitRun[],
  visits: readonly Visit[],
  findings: readonly FindingOnFile[],
  readings: readonly Reading[],
  tests: readonly TestLine[],
  now: string,
): YearMark[] => [
  ...runs.flatMap((r) =>
    r.closedAt
      ? [
          {
            day: r.closedAt.slice(0, 10),
            kind: "record" as const,
            says: `${jobWork(r.summary.job)}, signed sheet`,
          },
        ]
      : [],
  ),
  ...visits
    .filter((v) => v.startsAt < now)
    .map((v) => ({ day: v.startsAt.slice(0, 10), kind: "visit" as const, says: v.asked })),
  ...findings.map((f) => ({
    day: f.foundAt.slice(0, 10),
    kind: "finding" as const,
    says: `found: ${f.what}`,
  })),
  ...tests.map((t) => ({
    day: (t.endedAt ?? t.at).slice(0, 10),
    kind: "test" as const,
    says: `pressure test, ${OUTCOMES[t.outcome].word}`,
  })),
  ...readings.map((r) => ({ day: r.at.slice(0, 10), kind: "reading" as const, says: "readings" })),
];
