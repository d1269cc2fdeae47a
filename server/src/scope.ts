import {
  and,
  eq,
  type GetColumnData,
  type InferInsertModel,
  type InferSelectModel,
  type SQL,
  sql,
} from "drizzle-orm";
import type { AnyPgColumn, PgTable } from "drizzle-orm/pg-core";
import type { UnitSystem } from "@uppershed/core/quantity";
import type { Db } from "./db.ts";
import type { sessions } from "./schema/people.ts";
import type { priceLines } from "./schema/refits.ts";
import { dataMigrations } from "./schema/migrations.ts";
import { workshops } from "./schema/workshops.ts";

/** A table whose rows belong to workshops. */
type Scoped = PgTable & { workshopId: AnyPgColumn };

interface FindOptions {
  readonly order?: SQL;
  readonly limit?: number;
  readonly skip?: number;
  readonly lock?: boolean;
}

type Values<T extends Scoped> = Omit<InferInsertModel<T>, "workshopId">;

/**
 * The one place where queries meet a workshop: everything that routes read or write goes through a scope, and a scope adds its
 * workshop to every condition and every row.
 */
export interface Scope {
  readonly workshopId: string;
  /** The workshop itself, without its keys. */
  workshop: () => Promise<{ name: string; place: string; units: UnitSystem; winterLowC: number }>;
  /** When this database began to keep the plans of runs. */
  keptPlansSince: () => Promise<Date>;
  find: <T extends Scoped>(
    table: T,
    where?: SQL,
    options?: FindOptions,
  ) => Promise<InferSelectModel<T>[]>;
  /** Some columns only, where others are large. */
  pick: <C extends Record<string, AnyPgColumn>>(
    table: Scoped,
    columns: C,
    where?: SQL,
    options?: FindOptions,
  ) => Promise<{ [K in keyof C]: GetColumnData<C[K]> }[]>;
  /** How many rows fit, counted up to a bound. */
  count: (table: Scoped, where: SQL | undefined, atMost: number) => Promise<number>;
  first: <T extends Scoped>(table: T, where: SQL) => Promise<InferSelectModel<T> | undefined>;
  add: <T extends Scoped>(table: T, values: Values<T> | Values<T>[]) => Promise<void>;
  /** Adds rows whose ids were made elsewhere: what is there already, also since a moment ago, is left as it is. */
  addOnce: <T extends Scoped>(table: T, values: Values<T> | Values<T>[]) => Promise<void>;
  change: <T extends Scoped>(table: T, values: Partial<Values<T>>, where: SQL) => Promise<void>;
  /** Takes rows away that are kept for nobody: sessions. */
  remove: (table: typeof sessions | typeof priceLines, where: SQL) => Promise<void>;
  /** Within a transaction: waits until nobody else of this workshop does a piece of work that is done alone, and keeps others waiting. */
  alone: () => Promise<void>;
  /** Within a transaction: what was recorded of an owner as a person may be taken out of records that are otherwise only added to. */
  erasing: () => Promise<void>;
  /** Does a piece of work as one transaction. */
  together: <R>(work: (scope: Scope) => Promise<R>) => Promise<R>;
}

export const scopeFor = (
  db: Pick<Db, "select" | "insert" | "update" | "delete" | "execute" | "transaction">,
  workshopId: string,
): Scope => {
  const scope: Scope = {
    workshopId,
    workshop: async () => {
      const { name, place, units, winterLowC } = workshops;
      const [row] = await db
        .select({ name, place, units, winterLowC })
        .from(workshops)
        .where(eq(workshops.id, workshopId));
      if (!row) throw new Error("a scope without its workshop");
      return row;
    },
    keptPlansSince: async () => {
      const [row] = await db
        .select({ at: dataMigrations.at })
        .from(dataMigrations)
        .where(eq(dataMigrations.name, "freeze-runs"));
      return row?.at ?? new Date(0);
    },
    find: async (table, where, options = {}) => {
      const query = db
        .select()
        .from(table as PgTable)
        .where(and(eq(table.workshopId, workshopId), where))
        .$dynamic();
      if (options.order) query.orderBy(options.order);
      if (options.limit !== undefined) query.limit(options.limit);
      if (options.skip) query.offset(options.skip);
      if (options.lock) query.for("update");
      return (await query) as InferSelectModel<typeof table>[];
    },
    pick: async (table, columns, where, options = {}) => {
      const query = db
        .select(columns)
        .from(table as PgTable)
        .where(and(eq(table.workshopId, workshopId), where))
        .$dynamic();
      if (options.order) query.orderBy(options.order);
      if (options.limit !== undefined) query.limit(options.limit);
      return (await query) as never;
    },
    count: async (table, where, atMost) => {
      const some = db
        .select({ one: sql`1`.as("one") })
        .from(table as PgTable)
        .where(and(eq(table.workshopId, workshopId), where))
        .limit(atMost)
        .as("some");
      const [row] = await db.select({ n: sql<number>`count(*)::int` }).from(some);
      return row?.n ?? 0;
    },
    first: async (table, where) => (await scope.find(table, where, { limit: 1 }))[0],
    add: async (table, values) => {
      const rows = (Array.isArray(values) ? values : [values]).map((row) => ({
        ...row,
        workshopId,
      }));
      if (rows.length > 0)
        await db.insert(table as PgTable).values(rows as Record<string, unknown>[]);
    },
    addOnce: async (table, values) => {
      const rows = (Array.isArray(values) ? values : [values]).map((row) => ({
        ...row,
        workshopId,
      }));
      if (rows.length > 0)
        await db
          .insert(table as PgTable)
          .values(rows as Record<string, unknown>[])
          .onConflictDoNothing();
    },
    change: async (table, values, where) => {
      if (Object.keys(values).length === 0) return;
      await db
        .update(table as PgTable)
        .set(values as Record<string, unknown>)
        .where(and(eq(table.workshopId, workshopId), where));
    },
    remove: async (table, where) => {
      await db.delete(table).where(and(eq(table.workshopId, workshopId), where));
    },
    alone: async () => {
      await db
        .select({ id: workshops.id })
        .from(workshops)
        .where(eq(workshops.id, workshopId))
        .for("no key update");
    },
    erasing: async () => {
      await db.execute(sql`select set_config('upper_shed.erasing', 'on', true)`);
    },
    together: (work) => db.transaction((tx) => work(scopeFor(tx, workshopId))),
  };
  return scope;
};
