import { rowsOf, type Step } from "../step.ts";
import type { RunEvent } from "./events.ts";
import { afterSteps, type Body, latest, NOT_WHOLE, notInHand, said } from "./entry-checks.ts";
import { type Applied, refuse, type Refused, type RunState, type Signature } from "./state.ts";

/** A step that is signed: whether it may be, and what comes of it. */

/** What must stand for a time is not signed before it has. */
const tooSoon = (state: RunState, { after }: Step, at: string): Refused | undefined => {
  const begun = after && state.done.findLast((d) => d.step.id === after.step)?.signed.at;
  if (!after || begun === undefined) return undefined;
  const left = Math.ceil(after.seconds - (Date.parse(at) - Date.parse(begun)) / 1000);
  return left > 0 ? refuse("too-soon", `${after.words}: {s:${left}} more.`) : undefined;
};

/** Why the step in hand cannot be signed yet, or nothing. */
const notReady = (state: RunState, stepId: string, at: string): Refused | undefined => {
  const wrong = notInHand(state, stepId);
  if (wrong) return wrong;
  const step = state.todo[0] as Step;
  const open = rowsOf(step).filter((row) => !state.ticked.includes(row.key));
  if (open.length > 0)
    return refuse("not-ticked", `${open.length} row${open.length > 1 ? "s" : ""} not ticked yet.`);
  const soon = tooSoon(state, step, at);
  if (soon) return soon;
  for (const ask of step.asks) {
    const reading = latest(state, step.id, ask.key);
    if (ask.required && !reading)
      return refuse("reading-missing", `${ask.label}: needed before this step can be signed.`);
    if (reading && ask.atMost !== undefined && reading.si > ask.atMost)
      return ask.kind !== "pressure" && ask.kind !== "temperature"
        ? refuse(
            "too-much",
            `${ask.label}: ${reading.typed} is more than it may be. Run on, and read again.`,
          )
        : ask.kind === "pressure"
          ? refuse(
              "pressure",
              `${ask.label}: ${reading.typed} is above {pa:${ask.atMost}}. Let it down and read again.`,
            )
          : refuse(
              "too-hot",
              `${ask.label}: ${reading.typed} is above {c:${ask.atMost}}. Wait and read again.`,
            );
  }
  return undefined;
};

/** The two clocks of what stands: no sooner, and no later. */
const STOOD = "Has stood long enough";
const OUT_BY = "Out at the latest";

export const signed = (
  state: RunState,
  event: RunEvent,
  body: Body<"step-signed">,
  by: Signature,
): Applied => {
  const wrong = notReady(state, body.stepId, by.at);
  if (wrong) return wrong;
  if (!event.said) return refuse("not-whole", NOT_WHOLE);
  const step = state.todo[0] as Step;
  const endsAfter = (seconds: number): string =>
    new Date(Date.parse(by.at) + seconds * 1000).toISOString();
  const clocks = step.actions.flatMap((a) => {
    if (a.type === "wait") return [{ label: step.title, endsAt: endsAfter(a.seconds) }];
    return a.type === "stand"
      ? [
          { label: STOOD, endsAt: endsAfter(a.seconds) },
          { label: OUT_BY, endsAt: endsAfter(a.latestS) },
        ]
      : [];
  });
  const todo = state.todo.slice(1);
  return {
    ok: true,
    state: {
      ...said(state, event.said),
      done: [...state.done, { step, signed: by }],
      todo,
      ticked: [],
      clocks: [...state.clocks, ...clocks].filter(
        (c) =>
          !(c.label === STOOD && step.after !== undefined) &&
          !(c.label === OUT_BY && !todo.some((s) => s.stage === "stand" || s.stage === "rinse")),
      ),
      planAfter: event.id,
      phase: event.said.planAgain ? "to-plan" : afterSteps(todo),
    },
  };
};
