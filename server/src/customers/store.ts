import type { Customer, CustomerChange, NewCustomer } from "@uppershed/contract";
import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import { idTaken, notFound, Refused } from "../errors.ts";
import { customers, merges, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { allIn, nearest, searchText } from "../search.ts";
import { refreshSearch } from "../register/search.ts";

type CustomerRow = typeof customers.$inferSelect;

const getCustomerRow = async (scope: Scope, id: string): Promise<CustomerRow> => {
  const row = await scope.first(customers, eq(customers.id, id));
  if (!row) throw notFound("customer");
  return row;
};

const wordsOf = (c: Pick<CustomerRow, "name" | "phone" | "email" | "address" | "note">): string =>
  searchText(c.name, c.phone, c.email, c.address, c.note);

const complete = async (scope: Scope, rows: readonly CustomerRow[]): Promise<Customer[]> => {
  if (rows.length === 0) return [];
  const ids = rows.map((c) => c.id);
  const theirs = await scope.find(
    units,
    and(inArray(units.customerId, ids), isNull(units.mergedInto)),
    { order: sql`${units.name}` },
  );
  const doubles = await scope.find(customers, inArray(customers.mergedInto, ids));
  return rows.map(({ id, name, phone, email, address, note }) => ({
    id,
    name,
    phone,
    email,
    address,
    note,
    units: theirs
      .filter((u) => u.customerId === id)
      .map((u) => ({ id: u.id, name: u.name, craft: u.craft })),
    doubles: doubles
      .filter((d) => d.mergedInto === id)
      .map((d) => ({
        id: d.id,
        name: d.name,
        phone: d.phone,
        email: d.email,
        address: d.address,
        note: d.note,
      })),
  }));
};

export const getCustomer = async (scope: Scope, id: string): Promise<Customer> => {
  const [one] = await complete(scope, [await getCustomerRow(scope, id)]);
  if (!one) throw notFound("customer");
  return one;
};

export const findCustomers = async (
  scope: Scope,
  find: string | undefined,
  limit: number,
): Promise<{ customers: Customer[]; more: boolean }> => {
  const rows = await scope.find(
    customers,
    and(isNull(customers.mergedInto), allIn(customers.search, find)),
    {
      order: find
        ? sql`${nearest(customers.name, find)}, ${customers.name}, ${customers.id}`
        : sql`${customers.name}, ${customers.id}`,
      limit: limit + 1,
    },
  );
  return { customers: await complete(scope, rows.slice(0, limit)), more: rows.length > limit };
};

/** Keeps a customer; the same one sent twice is kept once. */
export const addCustomer = async (scope: Scope, asked: NewCustomer): Promise<string> => {
  const { id, name, phone = "", email = "", address = "", note = "" } = asked;
  const fields = { name, phone, email, address, note };
  await scope.addOnce(customers, { id, ...fields, search: wordsOf(fields) });
  if (!(await scope.first(customers, eq(customers.id, id)))) throw idTaken();
  return id;
};

/** A customer who may be given a unit: who was put together with another stands for that one. */
export const livingCustomer = async (scope: Scope, id: string): Promise<string> => {
  const [row] = await scope.find(customers, eq(customers.id, id), { lock: true });
  if (!row) throw notFound("customer");
  return row.mergedInto ?? row.id;
};

export const changeCustomer = (
  scope: Scope,
  id: string,
  change: CustomerChange,
): Promise<Customer> =>
  scope.together(async (tx) => {
    const before = await getCustomerRow(tx, id);
    const doubles = await tx.find(customers, eq(customers.mergedInto, id));
    const search = searchText(wordsOf({ ...before, ...change }), ...doubles.map((d) => d.search));
    await tx.change(customers, { ...change, search }, eq(customers.id, id));
    const theirs = await tx.pick(units, { id: units.id }, eq(units.customerId, id));
    await refreshSearch(
      tx,
      theirs.map((u) => u.id),
    );
    return getCustomer(tx, id);
  });

/**
 * Puts a double together with the customer that stays: its units move, its words still find them, its fields are kept as they were,
 * and empty fields of the one that stays are filled from it.
 */
export const mergeCustomers = (
  scope: Scope,
  personId: string,
  keptId: string,
  doubleId: string,
): Promise<Customer> =>
  scope.together(async (tx) => {
    if (keptId === doubleId) throw new Refused("impossible", "These are one and the same already.");
    // Both are held, always in one order: two mergings at once wait for each other instead of crossing.
    const both = await tx.find(customers, inArray(customers.id, [keptId, doubleId]), {
      order: sql`${customers.id}`,
      lock: true,
    });
    const [kept, gone] = [both.find((c) => c.id === keptId), both.find((c) => c.id === doubleId)];
    if (!kept || !gone) throw notFound("customer");
    if (kept.mergedInto !== null || gone.mergedInto !== null)
      throw new Refused(
        "conflict",
        "One of them was put together with somebody else already. Nothing was changed.",
      );
    const theirs = await tx.pick(units, { id: units.id }, eq(units.customerId, doubleId));
    await tx.change(units, { customerId: keptId }, eq(units.customerId, doubleId));
    await tx.change(customers, { mergedInto: keptId }, inArray(customers.id, [doubleId]));
    await tx.change(customers, { mergedInto: keptId }, eq(customers.mergedInto, doubleId));
    await tx.change(
      customers,
      {
        phone: kept.phone || gone.phone,
        email: kept.email || gone.email,
        address: kept.address || gone.address,
        note: [kept.note, gone.note].filter(Boolean).join("\n"),
        search: searchText(kept.search, gone.search),
      },
      eq(customers.id, keptId),
    );
    await tx.add(merges, {
      what: "customer",
      keptId,
      goneId: doubleId,
      personId,
      moved: theirs.map((u) => u.id),
    });
    const all = await tx.pick(units, { id: units.id }, eq(units.customerId, keptId));
    await refreshSearch(
      tx,
      all.map((u) => u.id),
    );
    return getCustomer(tx, keptId);
  });

/** Words of customers and units from before they were searched by them. */
export const registerWords = async (scope: Scope): Promise<void> => {
  for (const c of await scope.find(customers, eq(customers.search, "")))
    await scope.change(customers, { search: wordsOf(c) }, eq(customers.id, c.id));
  const silent = await scope.pick(units, { id: units.id }, eq(units.search, ""));
  await refreshSearch(
    scope,
    silent.map((u) => u.id),
  );
};
