import { admit } from "./admit.ts";
import type { AskedBody, RunEvent, RunEventBody } from "./events.ts";
import { applyEvent } from "./fold.ts";
import type { Said } from "./said.ts";
import type { Refused, RunState } from "./state.ts";

/** Makes an entry of a body: gives it its id, its count and its time. */
export type MakeEvent = (body: RunEventBody, said: Said | undefined) => RunEvent;

export type Entered =
  | { readonly ok: true; readonly state: RunState; readonly events: readonly RunEvent[] }
  | Refused;

/** Whether the engine has something to say with an entry: of these it is asked what the unit holds. */
export const engineSpeaks = ({ type }: Pick<RunEventBody, "type">): boolean =>
  type === "as-found" ||
  type === "step-signed" ||
  type === "step-brought" ||
  type === "corrected" ||
  type === "as-left";

/** Why an entry is out of turn; that it does not yet say what the unit holds is no reason. */
export const turnOf = (state: RunState, bare: RunEvent): Refused | undefined => {
  const applied = applyEvent(state, bare);
  return applied.ok || applied.code === "not-whole" ? undefined : applied;
};

/**
 * Enters what a person does where the engine has nothing to say: a row ticked, a reading, a note.
 * @returns the run after it with its new entry, or why it cannot be, in words and as a code
 */
export const enterPlain = (state: RunState, body: AskedBody, make: MakeEvent): Entered => {
  const event = make(body, undefined);
  const wrong = admit(state, body, event.by) ?? turnOf(state, event);
  if (wrong) return wrong;
  const applied = applyEvent(state, event);
  return applied.ok ? { ok: true, state: applied.state, events: [event] } : applied;
};
