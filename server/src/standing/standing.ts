import {
  asLeft,
  inUse,
  type LeftRecord,
  sinceLast,
  stateOf,
  type UnitEntry,
  type UnitStanding,
} from "@uppershed/core/procedure";
import { buildNetwork, type Network } from "@uppershed/core/watermap";
import { and, desc, eq, inArray, isNull, lte, sql } from "drizzle-orm";
import { notFound } from "../errors.ts";
import { soundMap } from "../register/maps.ts";
import { entriesOf, networkOf, replayOf, stateOfReplayed } from "../run-log/entries.ts";
import { mapRevisions, runs, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { familyOf } from "../register/family.ts";
import { historyOf } from "../register/history.ts";
import { IN_USE } from "../register/units.ts";

/** How a unit stands: what its last record left, carried over to today's map, with everything that came after. */

export interface Standing {
  readonly standing: UnitStanding;
  readonly network: Network;
  readonly mapRevision: number;
}

/** The record of a closed run, as it was signed; nothing where it said nothing of the unit. */
const recordOf = async (scope: Scope, runId: string): Promise<LeftRecord | undefined> => {
  const run = await scope.first(runs, eq(runs.id, runId));
  if (!run) return undefined;
  const network = await networkOf(scope, run);
  const state = stateOfReplayed(replayOf(network, run, await entriesOf(scope, run.id)));
  if (!state.unit) return undefined;
  return {
    runId,
    job: run.setup.job,
    at: (run.closedAt ?? run.startedAt).toISOString(),
    basis: run.setup.basis,
    said: state.unit,
    network,
  };
};

const mapOnDay = async (
  scope: Scope,
  unitId: string,
  asOf: Date | undefined,
): Promise<{ network: Network; mapRevision: number }> => {
  const [row] = await scope.find(
    mapRevisions,
    and(eq(mapRevisions.unitId, unitId), asOf ? lte(mapRevisions.at, asOf) : undefined),
    {
      order: desc(mapRevisions.revision),
      limit: 1,
    },
  );
  const [first] = row
    ? [row]
    : await scope.find(mapRevisions, eq(mapRevisions.unitId, unitId), {
        order: sql`${mapRevisions.revision}`,
        limit: 1,
      });
  if (!first) throw notFound("map of this unit");
  return { network: buildNetwork(soundMap(first.document)), mapRevision: first.revision };
};

/**
 * @param asOf only what the server knew by then
 */
export const standingOf = async (scope: Scope, unitId: string, asOf?: Date): Promise<Standing> => {
  const family = await familyOf(scope, unitId);
  const today = await mapOnDay(scope, unitId, asOf);
  const known = (await historyOf(scope, family)).filter(
    (h) => asOf === undefined || h.receivedAt <= asOf || Date.parse(h.entry.at) <= asOf.getTime(),
  );
  // Revisions of a double's own map say nothing of the map that counts.
  const entries: UnitEntry[] = known
    .filter((h) => h.unitId === unitId || h.entry.kind !== "map-revised")
    .map((h) => h.entry);
  const { base, after } = sinceLast(entries);
  const record = base?.kind === "run-closed" ? await recordOf(scope, base.runId) : undefined;
  const standing = record
    ? asLeft(record, today.network, after)
    : inUse(today.network, base?.kind === "in-use" ? base.at : null, after);
  return { standing, ...today };
};

/** Writes beside a unit how it stands, after something of its history was added. A double's unit is told through the one that stays. */
export const refreshState = async (scope: Scope, changedId: string): Promise<void> => {
  const changed = await scope.first(units, eq(units.id, changedId));
  if (!changed) return;
  const unitId = changed.mergedInto ?? changedId;
  const state = stateOf((await standingOf(scope, unitId)).standing);
  // Of a unit in use nobody has measured what is named as its weakest part.
  const kept = state.kind === "in-use" ? { ...IN_USE, at: state.at } : state;
  const family = await familyOf(scope, unitId);
  const open = await scope.first(
    runs,
    and(inArray(runs.unitId, family), isNull(runs.closedAt), isNull(runs.setAsideAt)) ?? sql`false`,
  );
  await scope.change(
    units,
    { state: kept, holdsToC: open ? open.summary.holdsToC : kept.holdsToC },
    eq(units.id, unitId),
  );
};

/** How cold a unit holds while a run on it is open: what its last record left does not count, and is not read. */
export const holdsNow = async (
  scope: Scope,
  runUnitId: string,
  holdsToC: number | null,
): Promise<void> => {
  const unit = await scope.first(units, eq(units.id, runUnitId));
  if (unit) await scope.change(units, { holdsToC }, eq(units.id, unit.mergedInto ?? unit.id));
};
