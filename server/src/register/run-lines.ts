import type { ProcedureRun } from "@uppershed/contract";
import type { runs } from "../schema/index.ts";

type RunRow = typeof runs.$inferSelect;

/** A run's summary as it is told; records from before everything in it was told lack some of it. */
export const wire = (summary: RunRow["summary"]): ProcedureRun["summary"] => ({
  ...summary,
  workedOutM3: summary.workedOutM3 ?? null,
  measuredUseM3: summary.measuredUseM3 ?? null,
  minutes: summary.minutes ?? null,
  strength: summary.strength ?? null,
  waits: summary.waits ?? false,
  cannotTell: [...((summary.cannotTell as readonly string[] | undefined) ?? [])],
  clocks: [...(summary.clocks ?? [])],
});
