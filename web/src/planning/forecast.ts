import type { TookElsewhere, UnitRun } from "@uppershed/contract";
import {
  type Forecast,
  forecastOf,
  jobOf,
  type Plan,
  type RunSetup,
} from "@uppershed/core/procedure";

/** What a plan will take, by what this unit really took before where it was done whole. */
export const forecastFor = (
  plan: Plan,
  setup: Pick<RunSetup, "product" | "job">,
  runs: readonly UnitRun[],
  others: readonly TookElsewhere["others"][number][] = [],
): Forecast =>
  forecastOf(
    {
      method: plan.method,
      steps: plan.steps.length,
      minutes: plan.minutes,
      p90M3: plan.antifreeze.p90M3,
      jugs: plan.antifreeze.jugs,
      jugM3: setup.product.jugM3,
      strength: setup.product.strength,
    },
    runs
      .filter((r) => jobOf(r.summary) === jobOf(setup))
      .filter((r) => r.closedAt !== null && r.summary.stepsDone === r.summary.stepsInAll)
      .map((r) => ({
        at: r.startedAt,
        stepsDone: r.summary.stepsDone,
        minutes: r.summary.minutes,
        usedM3: r.summary.measuredUseM3,
        strength: r.summary.strength ?? setup.product.strength,
        method: r.method,
      })),
    others,
  );
