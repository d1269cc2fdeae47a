import { z } from "zod";
import { oddCells, readTable, unguarded, writeTable } from "./table.ts";
import type { FileProblem } from "./text.ts";

/** Customers and their units as CSV, both ways: one line a unit; a customer without one has a line of their own. */

const COLUMNS = [
  "owner",
  "phone",
  "email",
  "address",
  "owner note",
  "unit",
  "what it is",
  "plate",
  "hull number",
  "lies at",
  "access",
] as const;

const most = (n: number) => z.string().trim().max(n, `is longer than ${n} signs.`);

/** Fields of a customer, as they are kept. */
export const customerFields = {
  name: most(80).min(1, "is missing."),
  phone: most(40),
  email: most(120).refine((e) => e === "" || /^[^\s@]+@[^\s@]+$/u.test(e), "is no e-mail address."),
  address: most(300),
  note: most(1000),
};

/** Fields of a unit beside its map and its owner. */
export const unitFields = {
  name: most(80).min(1, "is missing."),
  craft: most(60),
  plate: most(40),
  hull: most(40),
  berth: most(80),
  accessNote: most(500),
};

const unitSchema = z.strictObject(unitFields);
const customerSchema = z.strictObject(customerFields);

export type CustomerFields = z.output<typeof customerSchema>;
export type UnitFields = z.output<typeof unitSchema>;

export interface RegisterRow {
  readonly line: number;
  readonly owner: CustomerFields;
  readonly unit: UnitFields | undefined;
}

export type RegisterImport =
  | { readonly ok: true; readonly rows: readonly RegisterRow[] }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

const cellsOf = ({ owner, unit }: Omit<RegisterRow, "line">): string[] => [
  owner.name,
  owner.phone,
  owner.email,
  owner.address,
  owner.note,
  unit?.name ?? "",
  unit?.craft ?? "",
  unit?.plate ?? "",
  unit?.hull ?? "",
  unit?.berth ?? "",
  unit?.accessNote ?? "",
];

/** A register, or with `header: false` what goes on from another piece of it. */
export const writeRegisterCsv = (
  rows: readonly Omit<RegisterRow, "line">[],
  { header = true } = {},
): string => writeTable(header ? COLUMNS : undefined, rows.map(cellsOf));

const MOST_LINES = 20_000;
const NAMES: Readonly<Record<string, string>> = {
  "owner.name": "owner",
  "owner.note": "owner note",
  "unit.name": "unit",
  "unit.craft": "what it is",
  "unit.plate": "plate",
  "unit.hull": "hull number",
  "unit.berth": "lies at",
  "unit.accessNote": "access",
};

/** Reads a register; nothing is taken if anything in it is wrong. */
export const readRegisterCsv = (text: string): RegisterImport => {
  const table = readTable(text, {
    columns: COLUMNS,
    needed: ["owner"],
    what: "a register of customers and units",
    most: MOST_LINES,
  });
  if (!table.ok) return table;
  const problems: FileProblem[] = [];
  const rows = table.rows.flatMap<RegisterRow>((row, i) => {
    const line = i + 2;
    problems.push(...oddCells(table.columns, row, line));
    const cell = (column: (typeof COLUMNS)[number]): string =>
      unguarded((row[table.columns.indexOf(column)] ?? "").trim());
    const name = cell("unit");
    const rest = {
      craft: cell("what it is"),
      plate: cell("plate"),
      hull: cell("hull number"),
      berth: cell("lies at"),
      accessNote: cell("access"),
    };
    const says = name !== "" || Object.values(rest).some((v) => v !== "");
    const owner = customerSchema.safeParse({
      name: cell("owner"),
      phone: cell("phone"),
      email: cell("email"),
      address: cell("address"),
      note: cell("owner note"),
    });
    const unit = says
      ? unitSchema.safeParse({ name, ...rest, craft: rest.craft || "unit" })
      : undefined;
    for (const [part, parsed] of [
      ["owner", owner],
      ["unit", unit],
    ] as const)
      if (parsed && !parsed.success)
        for (const issue of parsed.error.issues) {
          const field = String(issue.path[0] ?? "");
          problems.push({
            line,
            where: NAMES[`${part}.${field}`] ?? field,
            problem: issue.message,
          });
        }
    return owner.success && (unit === undefined || unit.success)
      ? [{ line, owner: owner.data, unit: unit?.data }]
      : [];
  });
  return problems.length > 0 ? { ok: false, problems: problems.slice(0, 50) } : { ok: true, rows };
};
