import type { Reading } from "@uppershed/contract";
import { and, eq, inArray, sql } from "drizzle-orm";
import { type ReadingOf, readingKey } from "@uppershed/core/inspection";
import { idTaken } from "../errors.ts";
import { readings } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { familyOf } from "../register/family.ts";
import { namesOf } from "../people/names.ts";

const MOST = 400;

/** The newest readings of a unit, or of one thing that is followed on it. */
export const listReadings = async (
  scope: Scope,
  unitId: string,
  key?: string,
): Promise<{ readings: Reading[]; more: boolean }> => {
  const where = and(
    inArray(readings.unitId, await familyOf(scope, unitId)),
    key === undefined ? undefined : eq(readings.key, key),
    // One that was corrected is not followed any more; the record that it was made in shows both.
    sql`not exists (select 1 from ${readings} as later where later.workshop_id = ${readings.workshopId} and later.supersedes = ${readings.id})`,
  );
  const rows = await scope.find(readings, where, {
    order: sql`${readings.at} desc`,
    limit: MOST + 1,
  });
  const names = await namesOf(
    scope,
    rows.map((r) => r.personId),
  );
  return {
    readings: rows
      .slice(0, MOST)
      .map(
        ({
          id,
          partId,
          spot,
          kind,
          key: k,
          label,
          dimension,
          value,
          typed,
          method,
          instrument,
          at,
          personId,
        }) => ({
          id,
          partId,
          spot,
          kind,
          key: k,
          label,
          dimension,
          value,
          typed,
          method,
          instrument,
          at: at.toISOString(),
          by: names.get(personId) ?? "",
        }),
      ),
    more: rows.length > MOST,
  };
};

type NewRow = Omit<typeof readings.$inferInsert, "workshopId" | "key"> & ReadingOf;

/** Keeps readings, each once. */
export const keepReadings = async (scope: Scope, rows: readonly NewRow[]): Promise<void> => {
  if (rows.length === 0) return;
  const ids = rows.map((r) => r.id);
  const known = new Set(
    (await scope.pick(readings, { id: readings.id }, inArray(readings.id, ids))).map((r) => r.id),
  );
  await scope.addOnce(
    readings,
    rows.filter((r) => !known.has(r.id)).map((r) => ({ ...r, key: readingKey(r) })),
  );
  if (
    (await scope.pick(readings, { id: readings.id }, inArray(readings.id, ids))).length <
    new Set(ids).size
  )
    throw idTaken();
};
