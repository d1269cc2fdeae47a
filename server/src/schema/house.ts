import { type KitFacts, KIT_KINDS } from "@uppershed/core/kit";
import type { RuleValues } from "@uppershed/core/rules";
import { PLACE_KINDS, type ProposalKind, PROPOSAL_KINDS } from "@uppershed/contract";
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
  unique,
  uuid,
} from "drizzle-orm/pg-core";
import { at, oneOf, workshop } from "./columns.ts";
import { people } from "./people.ts";

/** The house rules of a workshop, a row for every change of them: the newest is in force, none is ever changed. */
export const ruleRevisions = pgTable(
  "rule_revisions",
  {
    workshopId: workshop(),
    revision: integer().notNull(),
    /** Made on the device: the same change sent twice is one. */
    id: uuid().notNull().unique(),
    values: jsonb().$type<RuleValues>().notNull(),
    personId: uuid().notNull(),
    why: text().notNull(),
    at: at().notNull().defaultNow(),
    countersignedBy: uuid(),
  },
  (t) => [
    primaryKey({ columns: [t.workshopId, t.revision] }),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    check("rule_revisions_from_one", sql`${t.revision} >= 1`),
  ],
);

/** Where units stand. */
export const places = pgTable(
  "places",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    name: text().notNull(),
    kind: text().$type<(typeof PLACE_KINDS)[number]>().notNull(),
    winterLowC: real().notNull(),
    firstFrost: text(),
    lastFrost: text(),
    heightM: real(),
    wasteTo: text().notNull().default(""),
    antifreezeTo: text().notNull().default(""),
    chlorineTo: text().notNull().default(""),
    givenUp: boolean().notNull().default(false),
  },
  (t) => [
    unique("places_in_workshop").on(t.workshopId, t.id),
    unique("places_by_name").on(t.workshopId, t.name),
    check("places_kind", sql`${t.kind} in ${oneOf(PLACE_KINDS)}`),
  ],
);

/** Nights to come at a place, as somebody brought them; without them a stand-in is shown, and marked. */
export const forecasts = pgTable(
  "forecasts",
  {
    id: uuid().primaryKey().defaultRandom(),
    workshopId: workshop(),
    placeId: uuid().notNull(),
    day: date({ mode: "string" }).notNull(),
    lowC: real().notNull(),
    broughtAt: at().notNull().defaultNow(),
  },
  (t) => [
    unique("forecasts_by_night").on(t.workshopId, t.placeId, t.day),
    foreignKey({
      columns: [t.workshopId, t.placeId],
      foreignColumns: [places.workshopId, places.id],
    }).onDelete("cascade"),
  ],
);

/** What the workshop owns: products, bottles, instruments, tools. */
export const kit = pgTable(
  "kit",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    kind: text().$type<(typeof KIT_KINDS)[number]>().notNull(),
    name: text().notNull(),
    note: text().notNull().default(""),
    givenUp: boolean().notNull().default(false),
    /** How many are here; null where nobody counts. What closed runs used is taken off. */
    here: real(),
    least: real(),
    facts: jsonb().$type<KitFacts>().notNull(),
  },
  (t) => [
    index("kit_of_workshop").on(t.workshopId, t.kind, t.name),
    check("kit_kind", sql`${t.kind} in ${oneOf(KIT_KINDS)}`),
  ],
);

/** What somebody asked for and somebody else has to countersign before it is done. */
export const proposals = pgTable(
  "proposals",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    kind: text().$type<ProposalKind>().notNull(),
    what: text().notNull(),
    body: jsonb().$type<Record<string, unknown>>().notNull(),
    personId: uuid().notNull(),
    at: at().notNull().defaultNow(),
    doneAt: at(),
    doneBy: uuid(),
    withdrawnAt: at(),
  },
  (t) => [
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    index("proposals_of_workshop").on(t.workshopId, t.at),
    check("proposals_kind", sql`${t.kind} in ${oneOf(PROPOSAL_KINDS)}`),
  ],
);
