import { moveVisit, type VisitMove } from "@uppershed/core/inspection";
import { eq } from "drizzle-orm";
import { notFound, Refused } from "../errors.ts";
import { visits } from "../schema/index.ts";
import type { Scope } from "../scope.ts";

/** Moves a visit on by core's one rule, and keeps what comes of it. */
export const moveBy = async (
  scope: Scope,
  visitId: string,
  move: VisitMove,
  at: Date,
): Promise<void> => {
  const [visit] = await scope.find(visits, eq(visits.id, visitId), { lock: true });
  if (!visit) throw notFound("visit");
  const moved = moveVisit(
    {
      state: visit.state,
      waitingFor: visit.waitingFor,
      waitingUntil: visit.waitingUntil?.toISOString() ?? null,
      arrivedAt: visit.arrivedAt?.toISOString() ?? null,
      goneAt: visit.goneAt?.toISOString() ?? null,
    },
    move,
    at.toISOString(),
  );
  if (!moved.ok) throw new Refused("conflict", moved.problem);
  const { state, waitingFor, waitingUntil, arrivedAt, goneAt } = moved.visit;
  const day = (iso: string | null): Date | null => (iso === null ? null : new Date(iso));
  await scope.change(
    visits,
    {
      state,
      waitingFor,
      waitingUntil: day(waitingUntil),
      arrivedAt: day(arrivedAt),
      goneAt: day(goneAt),
    },
    eq(visits.id, visitId),
  );
};
