import type { UnitEntry } from "@uppershed/core/procedure";
import { inArray, sql } from "drizzle-orm";
import { unitHistory } from "../schema/index.ts";
import type { Scope } from "../scope.ts";

/** What happened to a unit that its state rests on. */

type Row = typeof unitHistory.$inferSelect;

interface Noted {
  readonly unitId: string;
  readonly personId: string | null;
  readonly entry: UnitEntry;
}

const refOf = (entry: UnitEntry): string | null =>
  entry.kind === "run-closed" ? entry.runId : entry.kind === "left" ? entry.visitId : null;

const bodyOf = (entry: UnitEntry): Record<string, unknown> => {
  switch (entry.kind) {
    case "left":
      return { lineup: entry.lineup };
    case "map-revised":
      return { revision: entry.revision, why: entry.why };
    case "opened":
      return { ids: entry.ids, why: entry.why };
    default:
      return {};
  }
};

const textOf = (value: unknown): string => (typeof value === "string" ? value : "");

const entryOf = ({ kind, at, ref, body }: Row): UnitEntry => {
  const when = at.toISOString();
  switch (kind) {
    case "run-closed":
      return { kind, at: when, runId: ref ?? "" };
    case "left":
      return {
        kind,
        at: when,
        visitId: ref ?? "",
        lineup: (body["lineup"] ?? {}) as Record<string, string>,
      };
    case "map-revised":
      return { kind, at: when, revision: Number(body["revision"]), why: textOf(body["why"]) };
    case "opened":
      return { kind, at: when, ids: (body["ids"] ?? []) as string[], why: textOf(body["why"]) };
    case "in-use":
      return { kind, at: when };
  }
};

/** Adds to a unit's history; the same id twice is once. */
export const noteEntry = async (scope: Scope, noted: Noted, id?: string): Promise<void> => {
  const { unitId, personId, entry } = noted;
  await scope.addOnce(unitHistory, {
    ...(id === undefined ? {} : { id }),
    unitId,
    personId,
    kind: entry.kind,
    at: new Date(entry.at),
    ref: refOf(entry),
    body: bodyOf(entry),
  });
};

export interface Recorded {
  readonly unitId: string;
  readonly receivedAt: Date;
  readonly entry: UnitEntry;
}

/** The history of a unit and its doubles, in the server's order. */
export const historyOf = async (scope: Scope, unitIds: readonly string[]): Promise<Recorded[]> => {
  const rows = await scope.find(unitHistory, inArray(unitHistory.unitId, [...unitIds]), {
    order: sql`${unitHistory.position}`,
  });
  return rows.map((row) => ({
    unitId: row.unitId,
    receivedAt: row.receivedAt,
    entry: entryOf(row),
  }));
};
