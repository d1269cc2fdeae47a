import { VISIT_STATE_LABELS, type VisitStateId, type VisitWait } from "./lists.ts";

/** How far a visit is. The one place where a state follows another: server, screens and outbox ask here. */

export interface VisitNow {
  readonly state: VisitStateId;
  /** While it waits: for what, and until when where that is known; else empty. */
  readonly waitingFor: VisitWait | "";
  readonly waitingUntil: string | null;
  readonly arrivedAt: string | null;
  readonly goneAt: string | null;
}

export type VisitMove =
  | { readonly to: Exclude<VisitStateId, "waiting"> }
  | { readonly to: "waiting"; readonly waitingFor: VisitWait; readonly waitingUntil: string | null }
  /** Work with a run of its own has begun on it, or has been signed off. */
  | { readonly to: "run-begun" | "run-closed" };

export type MovedVisit =
  | { readonly ok: true; readonly visit: VisitNow }
  | { readonly ok: false; readonly problem: string };

const FROM: Readonly<Record<VisitStateId, readonly VisitStateId[]>> = {
  booked: ["arrived", "in-work", "waiting", "ready", "gone"],
  arrived: ["booked", "in-work", "waiting", "ready", "gone"],
  "in-work": ["arrived", "waiting", "ready", "gone"],
  waiting: ["arrived", "in-work", "waiting", "ready", "gone"],
  ready: ["arrived", "in-work", "waiting", "gone"],
  gone: ["arrived"],
};

/** States that may follow, the usual one first; the screens offer these. */
export const USUAL_NEXT: Readonly<
  Record<VisitStateId, readonly (readonly [VisitStateId, string])[]>
> = {
  booked: [["arrived", "It is here"]],
  arrived: [["in-work", "Begin"]],
  "in-work": [["ready", "Ready to hand over"]],
  waiting: [["in-work", "Go on"]],
  ready: [
    ["gone", "Handed over"],
    ["in-work", "Back into work"],
  ],
  gone: [["arrived", "It is back"]],
};

const settled = (visit: VisitNow, state: VisitStateId, at: string): VisitNow => ({
  state,
  waitingFor: "",
  waitingUntil: null,
  // Back to "booked" takes a wrong tap back.
  arrivedAt: state === "booked" ? null : (visit.arrivedAt ?? at),
  goneAt: state === "gone" ? (visit.goneAt ?? at) : null,
});

/**
 * @param at when it happens, ISO
 * @returns the visit after the move, or why it cannot follow
 */
export const moveVisit = (visit: VisitNow, move: VisitMove, at: string): MovedVisit => {
  if (move.to === "run-begun")
    return { ok: true, visit: visit.state === "gone" ? visit : settled(visit, "in-work", at) };
  if (move.to === "run-closed") {
    const over = visit.state === "gone" || visit.state === "booked";
    return { ok: true, visit: over ? visit : settled(visit, "ready", at) };
  }
  if (move.to !== visit.state && !FROM[visit.state].includes(move.to))
    return {
      ok: false,
      problem:
        visit.state === "gone"
          ? "It has gone. Say first that it is here again."
          : `From "${VISIT_STATE_LABELS[visit.state]}" it does not go to "${VISIT_STATE_LABELS[move.to]}".`,
    };
  const next = settled(visit, move.to, at);
  return {
    ok: true,
    visit:
      move.to === "waiting"
        ? { ...next, waitingFor: move.waitingFor, waitingUntil: move.waitingUntil }
        : next,
  };
};
