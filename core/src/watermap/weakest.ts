import type { Network } from "./network.ts";
import { PIPE_SYSTEMS } from "./pipes.ts";

/** What bears least of what is pressed. */
export interface Weakest {
  /** Its rating, Pa; without end where no pipe has one. */
  readonly pa: number;
  readonly name: string;
}

/**
 * The pipe that bears least of what a supply or air presses, by its rating: not the suction side, the filler or what runs away.
 * @param isPressed leaves out runs that nothing reaches
 */
export const weakestOf = (
  network: Network,
  isPressed: (runId: string) => boolean = () => true,
): Weakest => {
  let found: Weakest = { pa: Number.POSITIVE_INFINITY, name: "no pipe of known rating" };
  for (const run of network.map.runs) {
    const system = PIPE_SYSTEMS.get(run.pipe);
    if (
      (run.service !== "cold" && run.service !== "hot") ||
      !system?.ratingPa ||
      !isPressed(run.id)
    )
      continue;
    if (system.ratingPa < found.pa) found = { pa: system.ratingPa, name: run.name ?? system.label };
  }
  return found;
};
