import type { FindingBody, Lineup, PictureMark, RunSetup, RunSummary, TriedSequence } from "@uppershed/core";
import { sql } from "drizzle-orm";
import {
  boolean,
  check,
  customType,
  date,
  doublePrecision,
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
/** Bytes as they are. */
const bytes = customType<{ data: Buffer; default: false }>({ dataType: () => "bytea" });
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
    /** With which links for owners are signed; made by the database, told to nobody. */
    linkKey: text()
      .notNull()
      .default(sql`replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', '')`),
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
  {
    id: id(),
    workshopId: workshop(),
    name: text().notNull(),
    phone: text().notNull().default(""),
    email: text().notNull().default(""),
    address: text().notNull().default(""),
    note: text().notNull().default(""),
    /** Everything by which the customer is found, in small letters. */
    search: text().notNull().default(""),
    /** The customer that this one turned out to be; it is kept, and found by its own words. */
    mergedInto: uuid(),
  },
  (t) => [
    unique("customers_in_workshop").on(t.workshopId, t.id),
    foreignKey({ columns: [t.workshopId, t.mergedInto], foreignColumns: [t.workshopId, t.id] }),
    check("customers_not_own_double", sql`${t.mergedInto} is null or ${t.mergedInto} <> ${t.id}`),
    index("customers_by_name").on(t.workshopId, t.name),
    index("customers_by_words").using("gin", t.search.op("gin_trgm_ops")),
  ],
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
    /** Hull or chassis number. */
    hull: text().notNull().default(""),
    /** How one gets at its water parts: said first on every job card. */
    accessNote: text().notNull().default(""),
    /** What it is known to hold to now, °C; kept in step with its runs, so that a lot can be put in order. */
    holdsToC: real().default(0),
    /** Everything by which the unit is found, in small letters: its own words, its owner's, its parts'. */
    search: text().notNull().default(""),
    /** The unit that this one turned out to be; its history is shown there. */
    mergedInto: uuid(),
  },
  (t) => [
    unique("units_in_workshop").on(t.workshopId, t.id),
    foreignKey({ columns: [t.workshopId, t.mergedInto], foreignColumns: [t.workshopId, t.id] }),
    check("units_not_own_double", sql`${t.mergedInto} is null or ${t.mergedInto} <> ${t.id}`),
    index("units_by_name").on(t.workshopId, t.name),
    index("units_by_owner").on(t.workshopId, t.customerId),
    index("units_by_cold").on(t.workshopId, t.holdsToC.desc().nullsLast(), t.name),
    index("units_doubles")
      .on(t.workshopId, t.mergedInto)
      .where(sql`${t.mergedInto} is not null`),
    index("units_by_words").using("gin", t.search.op("gin_trgm_ops")),
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
    /** What is to be done, of the house's jobs. */
    jobs: jsonb().$type<string[]>().notNull().default([]),
    /** While it waits: for what, and until when where that is known. */
    waitingFor: text().notNull().default(""),
    waitingUntil: at(),
    arrivedAt: at(),
    goneAt: at(),
  },
  (t) => [
    unique("visits_in_workshop").on(t.workshopId, t.id),
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    check("visits_state", sql`${t.state} in ('booked', 'arrived', 'in work', 'waiting', 'ready', 'gone')`),
    check("visits_minutes", sql`${t.minutes} > 0`),
    index("visits_by_time").on(t.workshopId, t.startsAt),
    index("visits_by_unit").on(t.workshopId, t.unitId, t.startsAt),
    index("visits_here")
      .on(t.workshopId, t.startsAt)
      .where(sql`${t.state} in ('arrived', 'in work', 'waiting', 'ready')`),
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
    index("runs_by_visit").on(t.workshopId, t.visitId),
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
    visitId: uuid(),
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
    foreignKey({ columns: [t.workshopId, t.visitId], foreignColumns: [visits.workshopId, visits.id] }),
    index("looks_by_point").on(t.workshopId, t.unitId, t.key, t.at),
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

/** How every valve, cap and end stood when a unit came, or stands as it goes. Only ever added; the newest counts. */
export const snapshots = pgTable(
  "snapshots",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    visitId: uuid().notNull(),
    personId: uuid().notNull(),
    kind: text().$type<"as found" | "as left">().notNull(),
    mapRevision: integer().notNull(),
    /** What differs from the positions for use. */
    lineup: jsonb().$type<Lineup>().notNull(),
    note: text().notNull().default(""),
    at: at().notNull(),
    receivedAt: at().notNull().defaultNow(),
  },
  (t) => [
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.visitId], foreignColumns: [visits.workshopId, visits.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    foreignKey({ columns: [t.unitId, t.mapRevision], foreignColumns: [mapRevisions.unitId, mapRevisions.revision] }),
    check("snapshots_kind", sql`${t.kind} in ('as found', 'as left')`),
    index("snapshots_by_visit").on(t.workshopId, t.visitId, t.at),
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
    severity: text().$type<"unsafe" | "will fail" | "wears" | "note">().notNull(),
    cause: text().notNull().default(""),
    advice: text().notNull().default(""),
    partsNeeded: text().notNull().default(""),
    minutes: integer(),
    state: text().$type<"open" | "mended" | "accepted">().notNull(),
    answer: text().$type<"do it" | "later" | "no">(),
    at: at().notNull(),
  },
  (t) => [
    unique("findings_in_workshop").on(t.workshopId, t.id),
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.visitId], foreignColumns: [visits.workshopId, visits.id] }),
    check("findings_severity", sql`${t.severity} in ('unsafe', 'will fail', 'wears', 'note')`),
    check("findings_state", sql`${t.state} in ('open', 'mended', 'accepted')`),
    check("findings_answer", sql`${t.answer} in ('do it', 'later', 'no')`),
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

/** Pictures as the server has made them anew; the bytes stand beside, so that a list does not read them. */
export const pictures = pgTable(
  "pictures",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    personId: uuid().notNull(),
    about: text().$type<"look" | "finding" | "snapshot" | "part" | "unit">().notNull(),
    /** Id of the look, finding or snapshot, or of the part on the map. */
    aboutId: text().notNull(),
    caption: text().notNull().default(""),
    marks: jsonb().$type<PictureMark[]>().notNull().default([]),
    width: integer().notNull(),
    height: integer().notNull(),
    bytes: integer().notNull(),
    /** SHA-256 of what was sent, so that the same id with another picture is noticed. */
    sentHash: text().notNull(),
    at: at().notNull(),
    receivedAt: at().notNull().defaultNow(),
  },
  (t) => [
    unique("pictures_in_workshop").on(t.workshopId, t.id),
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    check("pictures_about", sql`${t.about} in ('look', 'finding', 'snapshot', 'part', 'unit')`),
    index("pictures_by_unit").on(t.workshopId, t.unitId, t.at),
  ],
);

export const pictureBytes = pgTable(
  "picture_bytes",
  { pictureId: uuid().primaryKey(), workshopId: workshop(), data: bytes().notNull() },
  (t) => [foreignKey({ columns: [t.workshopId, t.pictureId], foreignColumns: [pictures.workshopId, pictures.id] }).onDelete("cascade")],
);

/** Papers of a unit: makers' sheets, certificates. */
export const documents = pgTable(
  "documents",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    personId: uuid().notNull(),
    title: text().notNull(),
    bytes: integer().notNull(),
    at: at().notNull(),
    data: bytes().notNull(),
  },
  (t) => [
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    index("documents_by_unit").on(t.workshopId, t.unitId, t.at),
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
    mark: text().$type<"pass" | "fail" | "not looked at">().notNull(),
    note: text().notNull().default(""),
    at: at().notNull(),
  },
  (t) => [
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.visitId], foreignColumns: [visits.workshopId, visits.id] }),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    check("spring_looks_mark", sql`${t.mark} in ('pass', 'fail', 'not looked at')`),
    index("spring_looks_by_unit").on(t.workshopId, t.unitId, t.at),
  ],
);

/** Read-only links for owners: signed with the workshop's key, good until they expire or are withdrawn. */
export const ownerLinks = pgTable(
  "owner_links",
  {
    id: uuid().primaryKey().defaultRandom(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    visitId: uuid().notNull(),
    personId: uuid().notNull(),
    at: at().notNull().defaultNow(),
    expiresAt: at().notNull(),
    withdrawnAt: at(),
  },
  (t) => [
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.visitId], foreignColumns: [visits.workshopId, visits.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    index("owner_links_by_visit").on(t.workshopId, t.visitId),
  ],
);

/** Doubles that were put together: who, when, which, and what was moved. */
export const merges = pgTable(
  "merges",
  {
    id: id(),
    workshopId: workshop(),
    what: text().$type<"customer" | "unit">().notNull(),
    keptId: uuid().notNull(),
    goneId: uuid().notNull(),
    personId: uuid().notNull(),
    /** Units that changed their owner with it, so that it can be undone by hand. */
    moved: jsonb().$type<string[]>().notNull(),
    at: at().notNull().defaultNow(),
  },
  (t) => [
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    check("merges_what", sql`${t.what} in ('customer', 'unit')`),
  ],
);
