import type { FindingBody } from "@uppershed/core";
import { sql } from "drizzle-orm";
import { check, doublePrecision, foreignKey, index, integer, jsonb, pgTable, primaryKey, text, unique, uuid } from "drizzle-orm/pg-core";
import { at, workshop } from "./columns.ts";
import { people } from "./people.ts";
import { units } from "./units.ts";
import { visits } from "./visits.ts";

/** What was found at the points of a walk-round: a row for every look, none ever changed. */
export const looks = pgTable(
  "looks",
  {
    /** Made on the device. */
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    personId: uuid().notNull(),
    visitId: uuid(),
    /** The point's key on the walk-round. */
    key: text().notNull(),
    partId: text(),
    point: text().notNull(),
    mark: text().$type<"good" | "watch" | "bad" | "not-reached" | "not-fitted">().notNull(),
    note: text().notNull().default(""),
    readings: jsonb().$type<number[]>().notNull(),
    /** By the device. */
    at: at().notNull(),
    receivedAt: at().notNull().defaultNow(),
  },
  (t) => [
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    foreignKey({ columns: [t.workshopId, t.visitId], foreignColumns: [visits.workshopId, visits.id] }),
    index("looks_by_point").on(t.workshopId, t.unitId, t.key, t.at),
    check("looks_mark", sql`${t.mark} in ('good', 'watch', 'bad', 'not-reached', 'not-fitted')`),
    index("looks_by_unit").on(t.workshopId, t.unitId, t.at),
  ],
);

/** Measured values, each with how it was taken: typed columns, because they are searched, followed over years and compared. */
export const readings = pgTable(
  "readings",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    visitId: uuid(),
    personId: uuid().notNull(),
    partId: text(),
    /** What is followed under this name over the years: a walk-round's point, "supply/still". */
    key: text().notNull(),
    label: text().notNull(),
    dimension: text().notNull(),
    /** SI. */
    value: doublePrecision().notNull(),
    /** As it was typed, with its unit. */
    typed: text().notNull().default(""),
    method: text().notNull().default(""),
    at: at().notNull(),
  },
  (t) => [
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.visitId], foreignColumns: [visits.workshopId, visits.id] }),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    index("readings_by_unit").on(t.workshopId, t.unitId, t.at),
  ],
);

/** Faults found: what their entries come to, in columns that are searched; made again from the entries at any time. */
export const findings = pgTable(
  "findings",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    visitId: uuid(),
    mapRevision: integer().notNull(),
    partId: text(),
    place: text().notNull().default(""),
    what: text().notNull(),
    severity: text().$type<"unsafe" | "will-fail" | "wears" | "note">().notNull(),
    cause: text().notNull().default(""),
    advice: text().notNull().default(""),
    partsNeeded: text().notNull().default(""),
    minutes: integer(),
    state: text().$type<"open" | "mended" | "accepted">().notNull(),
    answer: text().$type<"do-it" | "later" | "no">(),
    at: at().notNull(),
  },
  (t) => [
    unique("findings_in_workshop").on(t.workshopId, t.id),
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.visitId], foreignColumns: [visits.workshopId, visits.id] }),
    check("findings_severity", sql`${t.severity} in ('unsafe', 'will-fail', 'wears', 'note')`),
    check("findings_state", sql`${t.state} in ('open', 'mended', 'accepted')`),
    check("findings_answer", sql`${t.answer} in ('do-it', 'later', 'no')`),
    index("findings_by_unit").on(t.workshopId, t.unitId, t.at),
    index("findings_open")
      .on(t.workshopId, t.severity)
      .where(sql`${t.state} <> 'mended'`),
  ],
);

/** Append-only, like a run's events. */
export const findingEntries = pgTable(
  "finding_entries",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    findingId: uuid().notNull(),
    personId: uuid().notNull(),
    position: integer().notNull(),
    body: jsonb().$type<FindingBody>().notNull(),
    at: at().notNull(),
    receivedAt: at().notNull().defaultNow(),
  },
  (t) => [
    unique("finding_entries_in_order").on(t.findingId, t.position),
    foreignKey({ columns: [t.workshopId, t.findingId], foreignColumns: [findings.workshopId, findings.id] }),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
  ],
);

/** The spring look at other systems; nothing here enters the water record. */
export const springLooks = pgTable(
  "spring_looks",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    visitId: uuid(),
    personId: uuid().notNull(),
    item: text().notNull(),
    mark: text().$type<"pass" | "fail" | "not-looked-at">().notNull(),
    note: text().notNull().default(""),
    at: at().notNull(),
  },
  (t) => [
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.visitId], foreignColumns: [visits.workshopId, visits.id] }),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    check("spring_looks_mark", sql`${t.mark} in ('pass', 'fail', 'not-looked-at')`),
    index("spring_looks_by_unit").on(t.workshopId, t.unitId, t.at),
  ],
);
