import type { OutcomeName, TestBody } from "@uppershed/core/hold";
import {
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  unique,
  uuid,
} from "drizzle-orm/pg-core";
import { at, workshop } from "./columns.ts";
import { people } from "./people.ts";
import { units } from "./units.ts";
import { visits } from "./visits.ts";

/** Pressure tests: a row for each, with what it came to when it was last added to. */
export const pressureTests = pgTable(
  "pressure_tests",
  {
    /** Made on the device. */
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    visitId: uuid(),
    /** Of the map that its plan was made from. */
    mapRevision: integer().notNull(),
    title: text().notNull(),
    outcome: text().$type<OutcomeName>().notNull(),
    at: at().notNull(),
    endedAt: at(),
  },
  (t) => [
    unique("pressure_tests_in_workshop").on(t.workshopId, t.id),
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.visitId],
      foreignColumns: [visits.workshopId, visits.id],
    }),
    index("pressure_tests_by_unit").on(t.workshopId, t.unitId, t.at),
    index("pressure_tests_running").on(t.workshopId, t.outcome, t.at),
  ],
);

/** Append-only, like a run's events. */
export const pressureTestEntries = pgTable(
  "pressure_test_entries",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    testId: uuid().notNull(),
    personId: uuid().notNull(),
    /** Under which name it was said. */
    byName: text().notNull().default(""),
    position: integer().notNull(),
    body: jsonb().$type<TestBody>().notNull(),
    at: at().notNull(),
    receivedAt: at().notNull().defaultNow(),
  },
  (t) => [
    unique("pressure_test_entries_in_order").on(t.testId, t.position),
    foreignKey({
      columns: [t.workshopId, t.testId],
      foreignColumns: [pressureTests.workshopId, pressureTests.id],
    }),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
  ],
);
