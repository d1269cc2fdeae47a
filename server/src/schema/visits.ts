import {
  HERE_STATES,
  SNAPSHOT_KINDS,
  type SnapshotKind,
  VISIT_STATES,
  type VisitStateId,
  type VisitWait,
} from "@uppershed/core/inspection";
import { type TurnSaid } from "@uppershed/core/procedure";
import { type Lineup } from "@uppershed/core/watermap";
import { sql } from "drizzle-orm";
import {
  check,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  unique,
  uuid,
} from "drizzle-orm/pg-core";
import { at, id, oneOf, workshop } from "./columns.ts";
import { people } from "./people.ts";
import { mapRevisions, units } from "./units.ts";

export const visits = pgTable(
  "visits",
  {
    id: id(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    startsAt: at().notNull(),
    minutes: integer().notNull(),
    bay: text().notNull().default(""),
    asked: text().notNull(),
    ownerSaid: text().notNull().default(""),
    state: text().$type<VisitStateId>().notNull(),
    /** What is to be done, of the house's jobs. */
    jobs: jsonb().$type<string[]>().notNull().default([]),
    /** While it waits: for what, and until when where that is known. */
    waitingFor: text().$type<VisitWait | "">().notNull().default(""),
    waitingUntil: at(),
    /** Who accepts that the unit does not hold the winter low, and why; empty where nobody has to. */
    acceptedWho: text().notNull().default(""),
    acceptedWhy: text().notNull().default(""),
    arrivedAt: at(),
    goneAt: at(),
  },
  (t) => [
    unique("visits_in_workshop").on(t.workshopId, t.id),
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    check("visits_state", sql`${t.state} in ${oneOf(VISIT_STATES)}`),
    check("visits_minutes", sql`${t.minutes} > 0`),
    index("visits_by_time").on(t.workshopId, t.startsAt),
    index("visits_by_unit").on(t.workshopId, t.unitId, t.startsAt),
    index("visits_here")
      .on(t.workshopId, t.startsAt)
      .where(sql`${t.state} in ${oneOf(HERE_STATES)}`),
  ],
);

/** How every valve, cap and end stood when a unit came, or stands as it goes. Only ever added; the newest counts. */
export const snapshots = pgTable(
  "snapshots",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    visitId: uuid().notNull(),
    personId: uuid().notNull(),
    kind: text().$type<SnapshotKind>().notNull(),
    mapRevision: integer().notNull(),
    /** How every control stood. */
    lineup: jsonb().$type<Lineup>().notNull(),
    /** What stood otherwise than in use, in the words of the day. */
    turns: jsonb().$type<readonly TurnSaid[]>().notNull().default([]),
    note: text().notNull().default(""),
    at: at().notNull(),
    receivedAt: at().notNull().defaultNow(),
  },
  (t) => [
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.visitId],
      foreignColumns: [visits.workshopId, visits.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    foreignKey({
      columns: [t.unitId, t.mapRevision],
      foreignColumns: [mapRevisions.unitId, mapRevisions.revision],
    }),
    check("snapshots_kind", sql`${t.kind} in ${oneOf(SNAPSHOT_KINDS)}`),
    index("snapshots_by_visit").on(t.workshopId, t.visitId, t.at),
  ],
);
