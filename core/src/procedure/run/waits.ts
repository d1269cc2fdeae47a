import type { RunSetup } from "./events.ts";
import type { RunState } from "./state.ts";

/** Whether a record that somebody of a role closes has to be countersigned, by the rules of its day: an apprentice's where nobody said otherwise. */
export const isCountersignWanted = (setup: RunSetup, role: string | undefined): boolean => {
  const whose = setup.rules?.values["countersign.runs"] ?? "apprentices";
  return whose === "everybodys" || (whose === "apprentices" && role === "apprentice");
};

/** Whether a closed record waits for somebody else's countersign. */
export const waitsForCountersign = ({ closed, countersigned, setup }: RunState): boolean =>
  closed !== undefined && !countersigned && isCountersignWanted(setup, closed.role);
