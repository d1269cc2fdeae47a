import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  moveVisit,
  USUAL_NEXT,
  VISIT_STATES,
  type VisitMove,
  type VisitNow,
  WAITS,
} from "./index.ts";

const AT = "2026-10-14T09:00:00.000Z";
const LATER = "2026-10-14T15:00:00.000Z";
const BOOKED: VisitNow = {
  state: "booked",
  waitingFor: "",
  waitingUntil: null,
  arrivedAt: null,
  goneAt: null,
};
const through = (moves: readonly VisitMove[], at = AT): VisitNow =>
  moves.reduce((visit, move) => {
    const moved = moveVisit(visit, move, at);
    if (!moved.ok) throw new Error(moved.problem);
    return moved.visit;
  }, BOOKED);

describe("how far a visit is", () => {
  it("waits for something, until when, and forgets that when it goes on", () => {
    const waiting = through([
      { to: "arrived" },
      { to: "waiting", waitingFor: "soaking", waitingUntil: LATER },
    ]);
    expect(waiting).toMatchObject({
      state: "waiting",
      waitingFor: "soaking",
      waitingUntil: LATER,
      arrivedAt: AT,
    });
    expect(moveVisit(waiting, { to: "in-work" }, LATER)).toMatchObject({
      ok: true,
      visit: { waitingFor: "", waitingUntil: null, arrivedAt: AT },
    });
  });

  it("follows a run: in work when it begins, ready when it is signed off, and untouched by it once it has gone", () => {
    expect(through([{ to: "run-begun" }])).toMatchObject({ state: "in-work", arrivedAt: AT });
    expect(through([{ to: "run-begun" }, { to: "run-closed" }]).state).toBe("ready");
    const gone = through([{ to: "arrived" }, { to: "gone" }]);
    expect(moveVisit(gone, { to: "run-closed" }, LATER)).toEqual({ ok: true, visit: gone });
    expect(moveVisit(gone, { to: "run-begun" }, LATER)).toEqual({ ok: true, visit: gone });
  });

  it("that has gone does nothing before it is here again", () => {
    const gone = through([{ to: "gone" }]);
    for (const to of ["booked", "in-work", "ready"] as const)
      expect(moveVisit(gone, { to }, LATER)).toMatchObject({ ok: false });
    expect(moveVisit(gone, { to: "arrived" }, LATER)).toMatchObject({
      ok: true,
      visit: { goneAt: null },
    });
  });

  it("offers only what may follow", () => {
    for (const state of VISIT_STATES)
      for (const [to] of USUAL_NEXT[state]) {
        const move: VisitMove =
          to === "waiting" ? { to, waitingFor: "parts", waitingUntil: null } : { to };
        expect(moveVisit({ ...BOOKED, state }, move, AT).ok, `${state} to ${to}`).toBe(true);
      }
  });

  it("is never gone without a time, nor waiting without a reason (any moves)", () => {
    const move = fc.oneof(
      fc.constantFrom<VisitMove>(
        { to: "booked" },
        { to: "arrived" },
        { to: "in-work" },
        { to: "ready" },
        { to: "gone" },
        { to: "run-begun" },
        { to: "run-closed" },
      ),
      fc
        .constantFrom(...WAITS)
        .map<VisitMove>((waitingFor) => ({ to: "waiting", waitingFor, waitingUntil: null })),
    );
    fc.assert(
      fc.property(fc.array(move, { maxLength: 12 }), (moves) => {
        let visit = BOOKED;
        for (const m of moves) {
          const moved = moveVisit(visit, m, AT);
          if (moved.ok) visit = moved.visit;
          expect(visit.state === "gone").toBe(visit.goneAt !== null);
          expect(visit.state === "waiting").toBe(visit.waitingFor !== "");
          if (visit.state !== "booked") expect(visit.arrivedAt).not.toBeNull();
        }
      }),
      { seed: 1 },
    );
  });
});
