import type { MakeEvent, RunEvent, RunState } from "@uppershed/core/procedure";
import { uuid } from "../device/uuid.ts";

/**
 * Makes the entries that come after those of a run.
 * @param at ISO, when it was done by hand; of what is made by itself, when it is made
 */
export const makerFor = ({ events }: RunState, by: RunEvent["by"], at?: string): MakeEvent => {
  let seq = events.length;
  return (body, said) => ({
    id: uuid(),
    seq: ++seq,
    at: at ?? new Date().toISOString(),
    body,
    by,
    ...(said ? { said } : {}),
  });
};
