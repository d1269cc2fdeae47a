import type { RunSetup, RunSummary, TriedSequence } from "@uppershed/core";
import { sql } from "drizzle-orm";
import {
  boolean,
  check,
  date,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  real,
  text,
  timestamp,
  unique,
  uuid,
} from "drizzle-orm/pg-core";

/**
 * Every row carries its workshop, and every reference names it too, so that the database itself refuses a row of one workshop that
 * points into another.
 */

const id = () => uuid().primaryKey().defaultRandom();
const at = () => timestamp({ withTimezone: true, mode: "date" });
const workshop = () =>
  uuid()
    .notNull()
    .references(() => workshops.id, { onDelete: "cascade" });

export const workshops = pgTable(
  "workshops",
  {
    id: id(),
    name: text().notNull(),
    place: text().notNull(),
    units: text().$type<"us" | "metric" | "imperial">().notNull(),
    winterLowC: real().notNull(),
  },
  (t) => [check("workshops_units", sql`${t.units} in ('us', 'metric', 'imperial')`)],
);

export const people = pgTable(
  "people",
  {
    id: id(),
    workshopId: workshop(),
    signInName: text().notNull().unique(),
    name: text().notNull(),
    role: text().$type<"lead" | "technician" | "apprentice">().notNull(),
    passwordHash: text().notNull(),
  },
  (t) => [
    unique("people_in_workshop").on(t.workshopId, t.id),
    check("people_role", sql`${t.role} in ('lead', 'technician', 'apprentice')`),
  ],
);

export const sessions = pgTable(
  "sessions",
  {
    /** SHA-256 of the cookie's token; the token itself is kept nowhere. */
    tokenHash: text().primaryKey(),
    workshopId: workshop(),
    personId: uuid().notNull(),
    expiresAt: at().notNull(),
  },
  (t) => [
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }).onDelete("cascade"),
    index("sessions_expiry").on(t.expiresAt),
  ],
);

export const customers = pgTable(
  "customers",
  { id: id(), workshopId: workshop(), name: text().notNull(), phone: text().notNull().default("") },
  (t) => [unique("customers_in_workshop").on(t.workshopId, t.id)],
);

export const units = pgTable(
  "units",
  {
    id: id(),
    workshopId: workshop(),
    customerId: uuid().notNull(),
    name: text().notNull(),
    craft: text().notNull(),
    mark: text().notNull().default(""),
    berth: text().notNull().default(""),
    mapRevision: integer().notNull(),
    /** The unit whose map was copied, and the revision of it up to which changes have been brought over. */
    siblingOf: uuid(),
    siblingRevision: integer(),
    /** When it was last filled again after a closed record. */
    inUseSince: at(),
  },
  (t) => [
    unique("units_in_workshop").on(t.workshopId, t.id),
    foreignKey({ columns: [t.workshopId, t.customerId], foreignColumns: [customers.workshopId, customers.id] }),
    foreignKey({ columns: [t.workshopId, t.siblingOf], foreignColumns: [t.workshopId, t.id] }),
    check("units_sibling_whole", sql`(${t.siblingOf} is null) = (${t.siblingRevision} is null)`),
  ],
);

export const mapRevisions = pgTable(
  "map_revisions",
  {
    workshopId: workshop(),
    unitId: uuid().notNull(),
    revision: integer().notNull(),
    document: jsonb().notNull(),
    personId: uuid().notNull(),
    why: text().notNull(),
    at: at().notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.unitId, t.revision] }),
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    check("map_revisions_from_one", sql`${t.revision} >= 1`),
  ],
);

/** The parts register: what is kept of a part, or of a piece of it that wears, over every revision of its unit's map. */
export const parts = pgTable(
  "parts",
  {
    workshopId: workshop(),
    unitId: uuid().notNull(),
    /** The part's id on the map; it stays the same over revisions. */
    partId: text().notNull(),
    /** "" for the part itself. */
    item: text().notNull().default(""),
    kind: text().notNull(),
    name: text().notNull(),
    tag: text().notNull().default(""),
    place: text().notNull().default(""),
    /** Words by which it is found: kind, what it is made of. */
    words: text().notNull().default(""),
    onMap: boolean().notNull(),
    description: text().notNull().default(""),
    serial: text().notNull().default(""),
    size: text().notNull().default(""),
    fittedOn: date({ mode: "string" }),
    expectedLifeMonths: integer(),
    condition: text().$type<"good" | "watch" | "bad" | "not looked at">().notNull().default("not looked at"),
    lookedAt: date({ mode: "string" }),
    note: text().notNull().default(""),
  },
  (t) => [
    primaryKey({ columns: [t.unitId, t.partId, t.item] }),
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    check("parts_condition", sql`${t.condition} in ('good', 'watch', 'bad', 'not looked at')`),
    check("parts_life", sql`${t.expectedLifeMonths} is null or ${t.expectedLifeMonths} > 0`),
    index("parts_by_kind").on(t.workshopId, t.kind, t.fittedOn),
  ],
);

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
    state: text().$type<"booked" | "arrived" | "in work" | "waiting" | "ready" | "gone">().notNull(),
  },
  (t) => [
    unique("visits_in_workshop").on(t.workshopId, t.id),
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    check("visits_state", sql`${t.state} in ('booked', 'arrived', 'in work', 'waiting', 'ready', 'gone')`),
    check("visits_minutes", sql`${t.minutes} > 0`),
    index("visits_by_time").on(t.workshopId, t.startsAt),
  ],
);

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
  },
  (t) => [
    unique("runs_in_workshop").on(t.workshopId, t.id),
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.visitId], foreignColumns: [visits.workshopId, visits.id] }),
    foreignKey({ columns: [t.unitId, t.mapRevision], foreignColumns: [mapRevisions.unitId, mapRevisions.revision] }),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    index("runs_by_unit").on(t.workshopId, t.unitId, t.startedAt),
  ],
);

/** Notes on a unit, with a sequence tried on its map where there is one. */
export const notes = pgTable(
  "notes",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    personId: uuid().notNull(),
    at: at().notNull().defaultNow(),
    text: text().notNull(),
    tried: jsonb().$type<TriedSequence>(),
  },
  (t) => [
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    index("notes_by_unit").on(t.workshopId, t.unitId, t.at),
  ],
);

/** What was found at the points of a walk-round: a row for every look, none ever changed. */
export const looks = pgTable(
  "looks",
  {
    /** Made on the device. */
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    personId: uuid().notNull(),
    /** The point's key on the walk-round. */
    key: text().notNull(),
    partId: text(),
    point: text().notNull(),
    mark: text().$type<"good" | "watch" | "bad" | "not reached" | "not fitted">().notNull(),
    note: text().notNull().default(""),
    readings: jsonb().$type<number[]>().notNull(),
    /** By the device. */
    at: at().notNull(),
    receivedAt: at().notNull().defaultNow(),
  },
  (t) => [
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    check("looks_mark", sql`${t.mark} in ('good', 'watch', 'bad', 'not reached', 'not fitted')`),
    index("looks_by_unit").on(t.workshopId, t.unitId, t.at),
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
    type: text().notNull(),
    body: jsonb().notNull(),
  },
  (t) => [
    unique("run_events_in_order").on(t.runId, t.position),
    foreignKey({ columns: [t.workshopId, t.runId], foreignColumns: [runs.workshopId, runs.id] }),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    check("run_events_from_one", sql`${t.position} >= 1`),
  ],
);
