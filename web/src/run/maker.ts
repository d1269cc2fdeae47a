import type { MakeEvent, RunEvent, RunState } from "@uppershed/core/procedure";
import { uuid } from "../device/uuid.ts";

/** Makes the entries that come after those of a run. */
export const makerFor = ({ events }: RunState, by: RunEvent["by"]): MakeEvent => {
  let seq = events.length;
  return (body, said) => ({
    id: uuid(),
    seq: ++seq,
    at: new Date().toISOString(),
    body,
    by,
    ...(said ? { said } : {}),
  });
};
