import type { RegisterFile, RegisterOutcome } from "@uppershed/contract";
import {
  type CustomerFields,
  readRegisterCsv,
  readVcards,
  type RegisterRow,
  type UnitFields,
  type VcardImport,
  writeRegisterCsv,
  writeVcards,
} from "@uppershed/core/formats";
import { undrawnMap } from "@uppershed/core/watermap";
import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import { randomUUID } from "node:crypto";
import { Refused } from "../errors.ts";
import { followMap } from "../parts/register.ts";
import { customers, mapRevisions, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { searchText } from "../search.ts";
import { refreshSearch } from "../register/search.ts";

/** The register of customers and units, out as CSV or vCards and in again. */

const CUSTOMERS_AT_ONCE = 500;

/** The register piece by piece, so that a large one is never held whole: who is in it, and in which order, stands at its beginning. */
export async function* exportRegister(
  scope: Scope,
  kind: "csv" | "vcard",
): AsyncGenerator<string, void, undefined> {
  const ids = (
    await scope.pick(customers, { id: customers.id }, isNull(customers.mergedInto), {
      order: sql`${customers.name}, ${customers.id}`,
    })
  ).map((c) => c.id);
  if (kind === "csv") yield writeRegisterCsv([]);
  for (let from = 0; from < ids.length; from += CUSTOMERS_AT_ONCE) {
    const piece = ids.slice(from, from + CUSTOMERS_AT_ONCE);
    const people = await scope.find(customers, inArray(customers.id, piece), {
      order: sql`${customers.name}, ${customers.id}`,
    });
    if (kind === "vcard") {
      yield writeVcards(people);
      continue;
    }
    const theirs = new Map<string, (typeof units.$inferSelect)[]>();
    for (const unit of await scope.find(
      units,
      and(isNull(units.mergedInto), inArray(units.customerId, piece)),
      { order: sql`${units.name}` },
    ))
      theirs.set(unit.customerId, [...(theirs.get(unit.customerId) ?? []), unit]);
    yield writeRegisterCsv(
      people.flatMap((owner) =>
        (theirs.get(owner.id) ?? [undefined]).map((unit) => ({ owner, unit })),
      ),
      { header: false },
    );
  }
}

const key = (text: string): string => text.toLowerCase().replaceAll(/\s+/gu, " ").trim();
const digits = (text: string): string => text.replaceAll(/\D/gu, "");

/** What a known owner or unit is told apart by, worked out once for each. */
interface Known {
  readonly id: string;
  fields: CustomerFields;
  name: string;
  phone: string;
  units: KnownUnit[];
}

interface KnownUnit {
  readonly id: string;
  fields: UnitFields;
  marks: Marks;
}

interface Marks {
  readonly hull: string;
  readonly plate: string;
  readonly name: string;
}

const marksOf = (u: UnitFields): Marks => ({
  hull: key(u.hull).replaceAll(" ", ""),
  plate: key(u.plate).replaceAll(" ", ""),
  name: key(u.name),
});

const knownOwner = (id: string, fields: CustomerFields): Known => ({
  id,
  fields,
  name: key(fields.name),
  phone: digits(fields.phone),
  units: [],
});

// A long file is taken in in pieces, others are served in between.
const ROWS_AT_ONCE = 50;
const letOthers = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** Which of a known row's empty fields the file fills, and where the two say different things. */
const compare = <T extends Record<string, string>>(
  here: T,
  file: T,
): { fill: Partial<T>; differs: { where: string; here: string; file: string }[] } => {
  const fill: Record<string, string> = {};
  const differs: { where: string; here: string; file: string }[] = [];
  for (const [where, said] of Object.entries(file)) {
    const before = here[where] ?? "";
    if (said === "" || key(said) === key(before)) continue;
    if (before === "") fill[where] = said;
    else differs.push({ where, here: before, file: said });
  }
  return { fill: fill as Partial<T>, differs };
};

const sameOwner = (known: Known, phone: string): boolean =>
  phone === "" || known.phone === "" || phone === known.phone;

const sameUnit = (known: Marks, row: Marks): boolean => {
  if (row.hull !== "" && known.hull !== "") return row.hull === known.hull;
  if (row.plate !== "" && known.plate !== "") return row.plate === known.plate;
  return known.name === row.name;
};

const readAll = (
  file: RegisterFile,
): { rows: readonly RegisterRow[]; notTaken: readonly string[] } => {
  const read: VcardImport =
    file.kind === "csv" ? readRegisterCsv(file.text) : readVcards(file.text);
  if (!read.ok)
    throw new Refused(
      "impossible",
      "The file cannot be taken as it is. Nothing was changed.",
      read.problems.map((p) => ({
        where: p.line === undefined ? p.where : `line ${p.line}, ${p.where}`,
        problem: p.problem,
      })),
    );
  return { rows: read.rows, notTaken: read.notTaken ?? [] };
};

/**
 * Takes a register in: what is new is added, empty fields are filled, what is said differently is left and named. As one transaction;
 * with tryOnly nothing is written at all.
 */
export const importRegister = (
  scope: Scope,
  personId: string,
  file: RegisterFile,
): Promise<RegisterOutcome> =>
  scope.together(async (tx) => {
    const { rows, notTaken } = readAll(file);
    const write = file.tryOnly === false;
    // Pressed twice, the second finds what the first has made.
    if (write) await tx.alone();
    const outcome = {
      newCustomers: 0,
      newUnits: 0,
      filled: 0,
      same: 0,
      differs: [] as RegisterOutcome["differs"],
    };
    const pick = <T extends object>(row: T, names: readonly (keyof T)[]) =>
      Object.fromEntries(names.map((n) => [n, row[n]]));
    const known = new Map<string, Known[]>();
    const remember = (one: Known): void => {
      const of = known.get(one.name);
      if (of) of.push(one);
      else known.set(one.name, [one]);
    };
    for (const c of await tx.find(customers, isNull(customers.mergedInto))) {
      remember(
        knownOwner(c.id, pick(c, ["name", "phone", "email", "address", "note"]) as CustomerFields),
      );
    }
    const byId = new Map([...known.values()].flat().map((k) => [k.id, k]));
    for (const u of await tx.find(units, isNull(units.mergedInto))) {
      const fields = pick(u, [
        "name",
        "craft",
        "plate",
        "hull",
        "berth",
        "accessNote",
      ]) as UnitFields;
      byId.get(u.customerId)?.units.push({ id: u.id, fields, marks: marksOf(fields) });
    }
    const touched = new Set<string>();
    for (const [n, { line, owner, unit }] of rows.entries()) {
      if (n % ROWS_AT_ONCE === ROWS_AT_ONCE - 1) await letOthers();
      const phone = digits(owner.phone);
      let mine = known.get(key(owner.name))?.find((k) => sameOwner(k, phone));
      let changed = false;
      if (!mine) {
        mine = knownOwner(randomUUID(), owner);
        remember(mine);
        outcome.newCustomers++;
        changed = true;
        if (write)
          await tx.add(customers, {
            id: mine.id,
            ...owner,
            search: searchText(owner.name, owner.phone, owner.email, owner.address, owner.note),
          });
      } else {
        const { fill, differs } = compare(mine.fields, owner);
        outcome.differs.push(...differs.map((d) => ({ line, ...d, where: `owner's ${d.where}` })));
        if (Object.keys(fill).length > 0) {
          mine.fields = { ...mine.fields, ...fill };
          mine.phone = digits(mine.fields.phone);
          outcome.filled++;
          changed = true;
          const c = mine.fields;
          if (write)
            await tx.change(
              customers,
              { ...fill, search: searchText(c.name, c.phone, c.email, c.address, c.note) },
              eq(customers.id, mine.id),
            );
          for (const u of mine.units) touched.add(u.id);
        }
      }
      if (unit) {
        const marks = marksOf(unit);
        const there = mine.units.find((u) => sameUnit(u.marks, marks));
        if (!there) {
          const id = randomUUID();
          mine.units.push({ id, fields: unit, marks });
          outcome.newUnits++;
          changed = true;
          if (write) {
            const map = undrawnMap({ name: unit.name, craft: unit.craft });
            await tx.add(units, { id, customerId: mine.id, ...unit, mapRevision: 1 });
            await tx.add(mapRevisions, {
              unitId: id,
              revision: 1,
              document: map,
              personId,
              why: "Taken in from a file, not drawn yet",
            });
            await followMap(tx, id, map);
          }
        } else {
          const { fill, differs } = compare(there.fields, unit);
          outcome.differs.push(...differs.map((d) => ({ line, ...d, where: `unit's ${d.where}` })));
          if (Object.keys(fill).length > 0) {
            there.fields = { ...there.fields, ...fill };
            there.marks = marksOf(there.fields);
            outcome.filled++;
            changed = true;
            touched.add(there.id);
            if (write) await tx.change(units, fill, eq(units.id, there.id));
          }
        }
      }
      if (!changed) outcome.same++;
    }
    if (write) await refreshSearch(tx, [...touched]);
    return {
      done: write,
      ...outcome,
      differs: outcome.differs.slice(0, 200),
      notTaken: notTaken.slice(0, 200),
    };
  });
