import type { NewSnapshot, NewVisit, Snapshot, Visit, VisitChange } from "@uppershed/contract";
import { type VisitMove } from "@uppershed/core/inspection";
import { formatQuantity } from "@uppershed/core/quantity";
import { turnsOf } from "@uppershed/core/procedure";
import { buildNetwork, inUseLineup } from "@uppershed/core/watermap";
import { eq } from "drizzle-orm";
import { idTaken, notFound, Refused } from "../errors.ts";
import { idFrom } from "../ids.ts";
import { mapAt } from "../register/maps.ts";
import { editionOnLeaving } from "../reports/editions.ts";
import { snapshots, units, visits } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { noteEntry } from "../register/history.ts";
import { refreshState } from "../standing/standing.ts";
import { moveBy } from "../calendar/move.ts";
import { getVisit, listSnapshots } from "../calendar/read.ts";

/** Books a visit; the same one sent twice is booked once. */
export const bookVisit = async (scope: Scope, asked: NewVisit): Promise<Visit> => {
  if (!(await scope.first(units, eq(units.id, asked.unitId)))) throw notFound("unit");
  await scope.addOnce(visits, { ...asked, startsAt: new Date(asked.startsAt), state: "booked" });
  const kept = await scope.first(visits, eq(visits.id, asked.id));
  if (!kept || kept.unitId !== asked.unitId) throw idTaken();
  return getVisit(scope, asked.id);
};

const moveOf = ({ state, waitingFor, waitingUntil }: VisitChange): VisitMove | undefined => {
  if (state === undefined) return undefined;
  if (state !== "waiting") return { to: state };
  if (waitingFor === undefined)
    throw new Refused(
      "bad-request",
      "Say what it waits for: soaking, holding, draining, parts or the owner.",
    );
  return { to: "waiting", waitingFor, waitingUntil: waitingUntil ?? null };
};

export const changeVisit = (
  scope: Scope,
  id: string,
  personId: string,
  change: VisitChange,
  now: Date,
): Promise<Visit> =>
  scope.together(async (tx) => {
    const visit = await getVisit(tx, id);
    const {
      startsAt,
      waitingFor: _for,
      waitingUntil: _until,
      state,
      accepted = visit.accepted,
      ...rest
    } = change;
    const move = moveOf(change);
    if ((state === "ready" || state === "gone") && visit.short && !accepted) {
      const { units } = await tx.workshop();
      const { holdsToC, winterLowC } = visit.short;
      const low = formatQuantity(winterLowC, "temperature", units);
      throw new Refused(
        "acceptance-needed",
        `${visit.unitName} ${holdsToC === null || holdsToC <= winterLowC ? `is not known to hold the winter low of ${low}` : `holds to ${formatQuantity(holdsToC, "temperature", units)}, not to the winter low of ${low}`}. It is handed over only when somebody has accepted that by name, with a reason. Nothing was changed.`,
      );
    }
    await tx.change(
      visits,
      {
        ...rest,
        ...(change.accepted
          ? { acceptedWho: change.accepted.who, acceptedWhy: change.accepted.why }
          : {}),
        ...(startsAt ? { startsAt: new Date(startsAt) } : {}),
      },
      eq(visits.id, id),
    );
    if (move) await moveBy(tx, id, move, now);
    // What the owner is given on the way out is what the report said then.
    if (state === "gone") await editionOnLeaving(tx, personId, id, now);
    return getVisit(tx, id);
  });

/** Keeps how everything stood; what is sent twice is kept once. A position that the map does not know is refused. */
export const addSnapshot = (
  scope: Scope,
  personId: string,
  visitId: string,
  sent: NewSnapshot,
): Promise<Snapshot[]> =>
  scope.together(async (tx) => {
    const visit = await getVisit(tx, visitId);
    const known = await tx.first(snapshots, eq(snapshots.id, sent.id));
    if (known && known.visitId !== visitId)
      throw new Refused("conflict", "That id belongs to another visit. Nothing was kept.");
    if (!known) {
      const { map } = await mapAt(tx, visit.unitId, sent.mapRevision);
      const network = buildNetwork(map);
      const controls = new Set(network.controls.map((c) => c.key));
      const astray = Object.keys(sent.lineup).find((key) => !controls.has(key));
      if (astray !== undefined)
        throw new Refused("impossible", `The map has no "${astray}". Nothing was kept.`, [
          { where: `lineup.${astray}`, problem: "is not on the map" },
        ]);
      // Kept whole, so that it says the same when the map says otherwise of a control's use.
      const lineup = { ...inUseLineup(network), ...sent.lineup };
      const turns = turnsOf(network, lineup);
      await tx.addOnce(snapshots, {
        ...sent,
        lineup,
        turns,
        at: new Date(sent.at),
        visitId,
        unitId: visit.unitId,
        personId,
      });
      const kept = await tx.first(snapshots, eq(snapshots.id, sent.id));
      if (!kept || kept.visitId !== visitId) throw idTaken();
      if (sent.kind === "as-left") {
        await noteEntry(
          tx,
          { unitId: visit.unitId, personId, entry: { kind: "left", at: sent.at, visitId, lineup } },
          idFrom(`left ${sent.id}`),
        );
        await refreshState(tx, visit.unitId);
      }
    }
    return listSnapshots(tx, visitId);
  });
