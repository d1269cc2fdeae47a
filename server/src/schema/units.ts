import { CONDITIONS } from "@uppershed/core/formats";
import { UNIT_ENTRY_KINDS, type UnitStateKept } from "@uppershed/core/procedure";
import { type TriedSequence } from "@uppershed/core/simulation";
import { sql } from "drizzle-orm";
import {
  bigserial,
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
  unique,
  uuid,
} from "drizzle-orm/pg-core";
import { at, id, oneOf, workshop } from "./columns.ts";
import { customers } from "./customers.ts";
import { places } from "./house.ts";
import { people } from "./people.ts";

export const units = pgTable(
  "units",
  {
    id: id(),
    workshopId: workshop(),
    customerId: uuid().notNull(),
    name: text().notNull(),
    craft: text().notNull(),
    /** Number plate. */
    plate: text().notNull().default(""),
    berth: text().notNull().default(""),
    /** Where it stands, of the workshop's places: its winter low is the plan's. */
    placeId: uuid(),
    mapRevision: integer().notNull(),
    /** The unit whose map was copied, and the revision of it up to which changes have been brought over. */
    siblingOf: uuid(),
    siblingRevision: integer(),
    /** Hull or chassis number. */
    hull: text().notNull().default(""),
    /** How one gets at its water parts: said first on every job card. */
    accessNote: text().notNull().default(""),
    /** How it stands: what its last record left and what came after. Written with each entry of its history. */
    state: jsonb().$type<UnitStateKept>(),
    /** The same, °C, so that a lot can be put in order. */
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
    foreignKey({
      columns: [t.workshopId, t.customerId],
      foreignColumns: [customers.workshopId, customers.id],
    }),
    foreignKey({
      columns: [t.workshopId, t.placeId],
      foreignColumns: [places.workshopId, places.id],
    }),
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
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    check("map_revisions_from_one", sql`${t.revision} >= 1`),
  ],
);

/** What happened to a unit that its state rests on, in the order in which the server learnt of it. Only ever added. */
export const unitHistory = pgTable(
  "unit_history",
  {
    id: uuid().primaryKey().defaultRandom(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    /** The server's order, whatever the clocks said. */
    position: bigserial({ mode: "number" }).notNull(),
    kind: text().$type<(typeof UNIT_ENTRY_KINDS)[number]>().notNull(),
    /** By the device that said so. */
    at: at().notNull(),
    receivedAt: at().notNull().defaultNow(),
    personId: uuid(),
    /** Run, visit or finding that it speaks of. */
    ref: uuid(),
    body: jsonb().$type<Record<string, unknown>>().notNull().default({}),
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
    check("unit_history_kind", sql`${t.kind} in ${oneOf(UNIT_ENTRY_KINDS)}`),
    index("unit_history_in_order").on(t.workshopId, t.unitId, t.position),
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
    condition: text().$type<(typeof CONDITIONS)[number]>().notNull().default("not-looked-at"),
    lookedAt: date({ mode: "string" }),
    note: text().notNull().default(""),
    /** Everything by which it is found, in small letters; kept by the database itself. */
    search: text()
      .notNull()
      .generatedAlwaysAs(
        sql`lower(words || ' ' || name || ' ' || place || ' ' || description || ' ' || serial || ' ' || tag)`,
      ),
  },
  (t) => [
    primaryKey({ columns: [t.unitId, t.partId, t.item] }),
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    check("parts_condition", sql`${t.condition} in ${oneOf(CONDITIONS)}`),
    check("parts_life", sql`${t.expectedLifeMonths} is null or ${t.expectedLifeMonths} > 0`),
    index("parts_by_kind").on(t.workshopId, t.kind, t.fittedOn),
    index("parts_by_words").using("gin", t.search.op("gin_trgm_ops")),
    // The order of the register: what most parts have is found by going along it.
    index("parts_in_order").on(t.workshopId, t.fittedOn, t.name, t.partId, t.item),
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
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    index("notes_by_unit").on(t.workshopId, t.unitId, t.at),
  ],
);
