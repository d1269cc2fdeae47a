import { PICTURE_ABOUT, type PictureMark } from "@uppershed/core/inspection";
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
import { at, bytes, oneOf, workshop } from "./columns.ts";
import { people } from "./people.ts";
import { units } from "./units.ts";

/** Pictures as the server has made them anew; the bytes stand beside, so that a list does not read them. */
export const pictures = pgTable(
  "pictures",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    personId: uuid().notNull(),
    about: text().$type<(typeof PICTURE_ABOUT)[number]>().notNull(),
    /** Id of the look, finding, snapshot or run, or of the part on the map. */
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
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    check("pictures_about", sql`${t.about} in ${oneOf(PICTURE_ABOUT)}`),
    index("pictures_by_unit").on(t.workshopId, t.unitId, t.at),
  ],
);

export const pictureBytes = pgTable(
  "picture_bytes",
  { pictureId: uuid().primaryKey(), workshopId: workshop(), data: bytes().notNull() },
  (t) => [
    foreignKey({
      columns: [t.workshopId, t.pictureId],
      foreignColumns: [pictures.workshopId, pictures.id],
    }).onDelete("cascade"),
  ],
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
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    index("documents_by_unit").on(t.workshopId, t.unitId, t.at),
  ],
);
