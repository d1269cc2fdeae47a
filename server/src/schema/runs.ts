import { type RunBegins, type RunSetup, type RunSummary } from "@uppershed/core/procedure";
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
  uniqueIndex,
} from "drizzle-orm/pg-core";
import { at, workshop } from "./columns.ts";
import { people } from "./people.ts";
import { mapRevisions, units } from "./units.ts";
import { visits } from "./visits.ts";

export const runs = pgTable(
  "runs",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    visitId: uuid(),
    mapRevision: integer().notNull(),
    setup: jsonb().$type<RunSetup>().notNull(),
    /** What its events come to; written with each of them, made again from them at any time. */
    summary: jsonb().$type<RunSummary>().notNull(),
    personId: uuid().notNull(),
    startedAt: at().notNull().defaultNow(),
    closedAt: at(),
    /** How the unit was known to stand when it began. */
    begins: jsonb().$type<RunBegins>(),
    /** What the unit was called on the day: a record keeps its name. */
    unitName: text().notNull().default(""),
    craft: text().notNull().default(""),
    /** Two were open on one unit once: this one was set aside, with everything that was done in it. */
    setAsideAt: at(),
  },
  (t) => [
    unique("runs_in_workshop").on(t.workshopId, t.id),
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.visitId],
      foreignColumns: [visits.workshopId, visits.id],
    }),
    foreignKey({
      columns: [t.unitId, t.mapRevision],
      foreignColumns: [mapRevisions.unitId, mapRevisions.revision],
    }),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    uniqueIndex("runs_one_open")
      .on(t.unitId)
      .where(sql`${t.closedAt} is null and ${t.setAsideAt} is null`),
    index("runs_by_unit").on(t.workshopId, t.unitId, t.startedAt),
    index("runs_by_visit").on(t.workshopId, t.visitId),
  ],
);

/** Append-only: no code changes or removes a row, and a trigger refuses it. */
export const runEvents = pgTable(
  "run_events",
  {
    /** Made on the device. */
    id: uuid().primaryKey(),
    workshopId: workshop(),
    runId: uuid().notNull(),
    /** Order in which the server took them. */
    position: integer().notNull(),
    seq: integer().notNull(),
    at: at().notNull(),
    receivedAt: at().notNull().defaultNow(),
    personId: uuid().notNull(),
    /** Under which name and role: a record keeps them. */
    byName: text().notNull().default(""),
    byRole: text().notNull().default(""),
    type: text().notNull(),
    body: jsonb().notNull(),
    /** What the engine said of the unit with it. */
    said: jsonb(),
    /** How far the device's clock was ahead of the server's when it was sent, s; nothing where that is not known. */
    clockAheadS: integer(),
  },
  (t) => [
    unique("run_events_in_order").on(t.runId, t.position),
    foreignKey({ columns: [t.workshopId, t.runId], foreignColumns: [runs.workshopId, runs.id] }),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    check("run_events_from_one", sql`${t.position} >= 1`),
  ],
);
