import type { WaterMap } from "../watermap/index.ts";
import { walkRound } from "./walk.ts";

/** How long a visit takes, from the jobs that are asked for and the map of this unit. */

export interface Job {
  readonly id: string;
  readonly label: string;
}

export const JOBS = [
  { id: "walk-round", label: "Walk-round" },
  { id: "winterize", label: "Winterize" },
  { id: "spring", label: "Spring start-up" },
  { id: "sanitize", label: "Sanitize" },
  { id: "pressure-test", label: "Pressure test" },
  { id: "repair", label: "Mend a fault" },
] as const satisfies readonly Job[];

export interface Estimate {
  readonly job: string;
  /** With hands on. */
  readonly minutes: number;
  /** What runs by itself meanwhile: soaking, holding. */
  readonly alone: number;
  readonly source: "worked out" | "assumed";
  readonly working: string;
}

// Our own estimates: a look with its mark, and a panel off and on again.
const MINUTES_A_POINT = 1.2;
const MINUTES_A_PANEL = 3;
// House figures where no planner works the job out yet: our own estimates.
const ASSUMED: Readonly<Record<string, readonly [minutes: number, alone: number, words: string]>> =
  {
    spring: [60, 0, "an hour, until it is planned for this unit"],
    sanitize: [
      45,
      240,
      "three quarters of an hour and four hours of soaking, until it is planned for this unit",
    ],
    "pressure-test": [
      30,
      120,
      "half an hour and two hours of holding, until it is planned for this unit",
    ],
    repair: [60, 0, "an hour, where no finding says more"],
  };

const roundedUp = (minutes: number): number => Math.ceil(minutes / 5) * 5;

/**
 * @param known minutes of a winterizing's plan, where one has been made, and of the findings to be mended
 */
export const estimateVisit = (
  jobs: readonly string[],
  map: WaterMap,
  known: { readonly winterizeMinutes?: number; readonly mendMinutes?: number } = {},
): Estimate[] =>
  jobs.flatMap<Estimate>((job) => {
    if (job === "walk-round") {
      const points = walkRound(map).flatMap((s) => s.points);
      const panels = new Set(points.flatMap((p) => p.access ?? [])).size;
      const minutes = roundedUp(points.length * MINUTES_A_POINT + panels * MINUTES_A_PANEL);
      return [
        {
          job,
          minutes,
          alone: 0,
          source: "worked out",
          working: `${points.length} points at ${MINUTES_A_POINT} min${panels > 0 ? `, ${panels} panels at ${MINUTES_A_PANEL} min` : ""}`,
        },
      ];
    }
    if (job === "winterize" && known.winterizeMinutes !== undefined)
      return [
        {
          job,
          minutes: roundedUp(known.winterizeMinutes),
          alone: 0,
          source: "worked out",
          working: "the plan of this unit, step by step",
        },
      ];
    if (job === "repair" && known.mendMinutes !== undefined)
      return [
        {
          job,
          minutes: roundedUp(known.mendMinutes),
          alone: 0,
          source: "worked out",
          working: "the findings to be mended",
        },
      ];
    if (job === "winterize")
      return [
        {
          job,
          minutes: 120,
          alone: 0,
          source: "assumed",
          working: "two hours, until the plan is made",
        },
      ];
    const assumed = ASSUMED[job];
    return assumed
      ? [{ job, minutes: assumed[0], alone: assumed[1], source: "assumed", working: assumed[2] }]
      : [];
  });
