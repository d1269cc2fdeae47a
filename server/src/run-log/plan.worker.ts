import {
  applyEvent,
  complete,
  enterPlan,
  type Refused,
  replayRun,
  type RunBegins,
  type RunEvent,
  type RunSetup,
  type UnreadEntry,
} from "@uppershed/core/procedure";
import { buildNetwork, type WaterMap } from "@uppershed/core/watermap";
import { idFrom } from "../ids.ts";

export interface PlanTask {
  readonly map: WaterMap;
  readonly setup: RunSetup;
  readonly begins: RunBegins | undefined;
  readonly unread: readonly UnreadEntry[];
  /** What has effect on the run so far. */
  readonly events: readonly RunEvent[];
  readonly entry: RunEvent;
}

/** An entry made whole for keeping, with a plan after it where one was made. */
export type Ready = { readonly ok: true; readonly events: readonly RunEvent[] } | Refused;

/** Makes an entry whole, with the plan that it calls for. */
export default (task: PlanTask | undefined): Ready => {
  // Only to have it ready.
  if (!task) return { ok: true, events: [] };
  const { entry, map, ...rest } = task;
  const replayed = replayRun({ network: buildNetwork(map), ...rest });
  const state = replayed.whole ? replayed.state : replayed.stateWithout;
  const whole = complete(state, entry);
  if (!whole.ok) return whole;
  const applied = applyEvent(state, whole.event);
  if (!applied.ok) return applied;
  const planned = enterPlan(applied.state, (body) => ({
    id: idFrom(`plan after ${entry.id}`),
    seq: entry.seq,
    at: entry.at,
    by: entry.by,
    body,
  }));
  return planned.ok ? { ok: true, events: [whole.event, ...planned.events] } : planned;
};
