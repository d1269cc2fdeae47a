import {
  ANSWERS,
  FINDING_STATES,
  type FindingBody,
  type FindingSeverity,
  type FindingStateId,
  LOOK_MARKS,
  type LookMark,
  type OwnerAnswer,
  SEVERITIES,
  SPRING_MARKS,
  type SpringMark,
} from "@uppershed/core/inspection";
import { sql } from "drizzle-orm";
import {
  check,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  unique,
  uuid,
} from "drizzle-orm/pg-core";
import { at, oneOf, workshop } from "./columns.ts";
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
    /** Which point it was, whatever it was called. */
    pointId: text().notNull().default(""),
    /** Its words on the day. */
    point: text().notNull(),
    mark: text().$type<LookMark>().notNull(),
    note: text().notNull().default(""),
    readings: jsonb().$type<number[]>().notNull(),
    /** By the device. */
    at: at().notNull(),
    receivedAt: at().notNull().defaultNow(),
  },
  (t) => [
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    foreignKey({
      columns: [t.workshopId, t.visitId],
      foreignColumns: [visits.workshopId, visits.id],
    }),
    index("looks_by_point").on(t.workshopId, t.unitId, t.key, t.at),
    check("looks_mark", sql`${t.mark} in ${oneOf(LOOK_MARKS)}`),
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
    /** Opening, cell or point of the part. */
    spot: text().notNull().default(""),
    /** Kind of figure: "strength", "recovered". */
    kind: text().notNull().default(""),
    /** Part, spot and kind together: what is followed over the years. */
    key: text().notNull(),
    label: text().notNull(),
    dimension: text().notNull(),
    /** SI. */
    value: doublePrecision().notNull(),
    /** As it was typed, with its unit. */
    typed: text().notNull().default(""),
    method: text().notNull().default(""),
    /** With which instrument, of the workshop's own or by name. */
    instrument: text().notNull().default(""),
    /** A reading that this one corrects; that one is not followed any more. */
    supersedes: uuid(),
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
    }),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    index("readings_by_unit").on(t.workshopId, t.unitId, t.at),
    index("readings_by_key").on(t.workshopId, t.unitId, t.key, t.at),
    // Whether one was corrected is asked of every reading that is shown.
    index("readings_corrected")
      .on(t.workshopId, t.supersedes)
      .where(sql`${t.supersedes} is not null`),
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
    severity: text().$type<FindingSeverity>().notNull(),
    cause: text().notNull().default(""),
    advice: text().notNull().default(""),
    partsNeeded: text().notNull().default(""),
    minutes: integer(),
    state: text().$type<FindingStateId>().notNull(),
    answer: text().$type<OwnerAnswer>(),
    at: at().notNull(),
  },
  (t) => [
    unique("findings_in_workshop").on(t.workshopId, t.id),
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.visitId],
      foreignColumns: [visits.workshopId, visits.id],
    }),
    check("findings_severity", sql`${t.severity} in ${oneOf(SEVERITIES)}`),
    check("findings_state", sql`${t.state} in ${oneOf(FINDING_STATES)}`),
    check("findings_answer", sql`${t.answer} in ${oneOf(ANSWERS)}`),
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
    /** Under which name it was said. */
    byName: text().notNull().default(""),
    position: integer().notNull(),
    body: jsonb().$type<FindingBody>().notNull(),
    at: at().notNull(),
    receivedAt: at().notNull().defaultNow(),
  },
  (t) => [
    unique("finding_entries_in_order").on(t.findingId, t.position),
    foreignKey({
      columns: [t.workshopId, t.findingId],
      foreignColumns: [findings.workshopId, findings.id],
    }),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
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
    mark: text().$type<SpringMark>().notNull(),
    note: text().notNull().default(""),
    at: at().notNull(),
  },
  (t) => [
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.visitId],
      foreignColumns: [visits.workshopId, visits.id],
    }),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    check("spring_looks_mark", sql`${t.mark} in ${oneOf(SPRING_MARKS)}`),
    index("spring_looks_by_unit").on(t.workshopId, t.unitId, t.at),
  ],
);
