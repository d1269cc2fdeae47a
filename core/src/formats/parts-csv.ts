import Papa from "papaparse";
import {
  addLoose,
  changePart,
  paramSchema,
  paramsOf,
  type Part,
  PART_KINDS,
  partSchema,
  readWaterMap,
  type WaterMap,
} from "../watermap/index.ts";
import { lifeKey } from "./life-key.ts";
import {
  CONDITION_LABELS,
  CONDITIONS,
  NO_LIFE,
  type PartLife,
  partLifeSchema,
} from "./register.ts";
import { guarded, oddCells, readTable, unguarded } from "./table.ts";
import type { FileProblem } from "./text.ts";

/** Parts as CSV, both ways: what the map says of them and what the register keeps of them. */

const COLUMNS = [
  "id",
  "item",
  "kind",
  "name",
  "tag",
  "place",
  "access",
  "height m",
  "parameters",
  "description",
  "serial",
  "size",
  "fitted on",
  "expected life months",
  "condition",
  "looked at",
  "note",
] as const;

type Column = (typeof COLUMNS)[number];

const paramsText = (part: Part): string =>
  Object.entries(part.params)
    .map(([name, value]) => `${name}=${String(value)}`)
    .join("; ");

/** What of a part has a life: itself (""), and each piece that wears by itself. */
export const itemsOf = (part: Part): string[] => [
  "",
  ...(PART_KINDS.get(part.kind)?.wears?.(paramsOf(part)) ?? []).map((w) => w.item),
];

/** How long a part, or a piece of it, commonly serves, months; nothing where nobody says. */
export const usualLife = (part: Part, item: string): number | undefined =>
  item === ""
    ? PART_KINDS.get(part.kind)?.lifeMonths
    : PART_KINDS.get(part.kind)
        ?.wears?.(paramsOf(part))
        .find((w) => w.item === item)?.lifeMonths;

/** Parts of a map as CSV, one a line and one for each piece that wears, in the map's order. */
export const writePartsCsv = (
  map: WaterMap,
  lives: ReadonlyMap<string, PartLife> = new Map(),
): string => {
  const lines = map.parts.flatMap((part) => itemsOf(part).map((item) => ({ part, item })));
  const rows = lines.map(({ part, item }) => {
    const life = lives.get(lifeKey(part.id, item)) ?? NO_LIFE;
    const cells: Record<Column, string> = {
      id: part.id,
      item,
      kind: part.kind,
      name: part.name,
      tag: part.tag ?? "",
      place: part.place ?? "",
      access: part.access ?? "",
      "height m": String(part.heightM),
      parameters: paramsText(part),
      description: life.description,
      serial: life.serial,
      size: life.size,
      "fitted on": life.fittedOn ?? "",
      "expected life months":
        life.expectedLifeMonths === null ? "" : String(life.expectedLifeMonths),
      condition: CONDITION_LABELS[life.condition],
      "looked at": life.lookedAt ?? "",
      note: life.note,
    };
    return COLUMNS.map((column) => guarded(cells[column]));
  });
  return Papa.unparse({ fields: [...COLUMNS], data: rows }, { newline: "\r\n" });
};

export type PartsImport =
  | { readonly ok: true; readonly map: WaterMap; readonly lives: ReadonlyMap<string, PartLife> }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

const MOST_ROWS = 400;

const readParams = (
  text: string,
  kindName: string,
  line: number,
  problems: FileProblem[],
): Record<string, number | string | boolean> => {
  const kind = PART_KINDS.get(kindName);
  const params: Record<string, number | string | boolean> = {};
  for (const piece of text
    .split(";")
    .map((p) => p.trim())
    .filter(Boolean)) {
    const at = piece.indexOf("=");
    const [name, raw] =
      at < 0 ? [piece, ""] : [piece.slice(0, at).trim(), piece.slice(at + 1).trim()];
    const spec = kind && Object.hasOwn(kind.params, name) ? kind.params[name] : undefined;
    if (!spec) {
      problems.push({
        line,
        where: "parameters",
        problem: `a ${kind?.label.toLowerCase() ?? kindName} has no parameter "${name}".`,
      });
      continue;
    }
    const value =
      typeof spec.standard === "number"
        ? Number(raw)
        : typeof spec.standard === "boolean"
          ? raw === "true" || raw === "yes"
          : raw;
    const parsed = paramSchema(spec).safeParse(value);
    if (raw === "" || !parsed.success)
      problems.push({
        line,
        where: "parameters",
        problem: `${spec.label}: "${raw}" is not allowed.`,
      });
    else params[name] = parsed.data;
  }
  return params;
};

const readLife = (
  cell: (c: Column) => string,
  line: number,
  before: PartLife,
  has: ReadonlySet<Column>,
  problems: FileProblem[],
): PartLife => {
  const orNull = (text: string): string | null => (text === "" ? null : text);
  const said = <T>(column: Column, value: T, was: T): T => (has.has(column) ? value : was);
  const months = cell("expected life months");
  const condition = (cell("condition") || "not looked at").replaceAll(" ", "-");
  if (!(CONDITIONS as readonly string[]).includes(condition))
    problems.push({
      line,
      where: "condition",
      problem: `"${cell("condition")}" is not one of ${Object.values(CONDITION_LABELS).join(", ")}.`,
    });
  const parsed = partLifeSchema.safeParse({
    description: said("description", cell("description"), before.description),
    serial: said("serial", cell("serial"), before.serial),
    size: said("size", cell("size"), before.size),
    fittedOn: said("fitted on", orNull(cell("fitted on")), before.fittedOn),
    expectedLifeMonths: said(
      "expected life months",
      months === "" ? null : Number(months),
      before.expectedLifeMonths,
    ),
    condition: said("condition", condition, before.condition),
    lookedAt: said("looked at", orNull(cell("looked at")), before.lookedAt),
    note: said("note", cell("note"), before.note),
  });
  if (parsed.success) return parsed.data;
  const names: Record<string, string> = {
    fittedOn: "fitted on",
    lookedAt: "looked at",
    expectedLifeMonths: "expected life months",
  };
  for (const issue of parsed.error.issues) {
    const field = String(issue.path[0] ?? "");
    if (field !== "condition")
      problems.push({ line, where: names[field] ?? field, problem: issue.message });
  }
  return before;
};

/**
 * Reads parts from CSV onto a map. A line whose id the map has changes that part; another adds a part that joins nothing yet; parts that
 * the file does not name stay as they are. Nothing is changed if anything is wrong.
 */
export const readPartsCsv = (
  text: string,
  base: WaterMap,
  lives: ReadonlyMap<string, PartLife> = new Map(),
): PartsImport => {
  const fail = (problems: FileProblem[]): PartsImport => ({
    ok: false,
    problems: problems.slice(0, 50),
  });
  const table = readTable(text, {
    columns: COLUMNS,
    needed: ["id", "kind", "name"],
    what: "a parts list",
    most: MOST_ROWS,
  });
  if (!table.ok) return fail([...table.problems]);
  const { columns, rows } = table;
  const problems: FileProblem[] = [];

  const has = new Set(columns as Column[]);
  const seen = new Set<string>();
  const nextLives = new Map(lives);
  let map = base;
  rows.forEach((row, i) => {
    const line = i + 2;
    problems.push(...oddCells(columns, row, line));
    const cell = (column: Column): string => unguarded((row[columns.indexOf(column)] ?? "").trim());
    const [id, item] = [cell("id"), cell("item")];
    const key = lifeKey(id, item);
    if (seen.has(key))
      problems.push({ line, where: "id", problem: `"${key}" stands there twice.` });
    seen.add(key);
    if (item !== "") {
      const holder = map.parts.find((p) => p.id === id);
      if (!holder)
        problems.push({ line, where: "id", problem: `there is no part "${id}" for the ${item}.` });
      else if (!itemsOf(holder).includes(item))
        problems.push({ line, where: "item", problem: `${holder.name} has no "${item}".` });
      else nextLives.set(key, readLife(cell, line, lives.get(key) ?? NO_LIFE, has, problems));
      return;
    }
    const kind = cell("kind");
    if (!PART_KINDS.has(kind)) {
      problems.push({ line, where: "kind", problem: `no part kind is called "${kind}".` });
      return;
    }
    const there = map.parts.find((p) => p.id === id);
    const height = cell("height m");
    const said: Record<string, unknown> = {
      id,
      kind,
      name: cell("name"),
      heightM: has.has("height m") && height !== "" ? Number(height) : (there?.heightM ?? 0.2),
      params: has.has("parameters")
        ? readParams(cell("parameters"), kind, line, problems)
        : (there?.params ?? {}),
      ...(cell("tag") ? { tag: cell("tag") } : {}),
      ...(cell("place") ? { place: cell("place") } : {}),
      ...(cell("access") ? { access: cell("access") } : {}),
    };
    const part = partSchema.safeParse(said);
    if (!part.success) {
      for (const issue of part.error.issues)
        problems.push({ line, where: issue.path.join(".") || "line", problem: issue.message });
      return;
    }
    const optional = (column: "tag" | "place" | "access"): string | null | undefined =>
      has.has(column) ? (part.data[column] ?? null) : undefined;
    const fields = {
      name: part.data.name,
      heightM: part.data.heightM,
      params: part.data.params,
      kind,
    };
    const [tag, place, access] = [optional("tag"), optional("place"), optional("access")];
    const optionals = {
      ...(tag === undefined ? {} : { tag }),
      ...(place === undefined ? {} : { place }),
      ...(access === undefined ? {} : { access }),
    };
    const same =
      there &&
      there.kind === kind &&
      there.heightM === fields.heightM &&
      JSON.stringify(there.params) === JSON.stringify(fields.params);
    const edited = there
      ? changePart(
          map,
          id,
          same ? { name: fields.name, ...optionals } : { ...fields, ...optionals },
        )
      : addLoose(map, kind, { ...part.data });
    if (!edited.ok) problems.push({ line, where: "id", problem: edited.problem });
    else if (there) map = edited.map;
    else
      map = {
        ...edited.map,
        parts: edited.map.parts.map((p) => (p.id === edited.part ? part.data : p)),
      };
    nextLives.set(key, readLife(cell, line, lives.get(key) ?? NO_LIFE, has, problems));
  });
  if (problems.length) return fail(problems);
  const read = readWaterMap(map);
  if (!read.ok) return fail(read.problems.map((p) => ({ where: p.where, problem: p.problem })));
  return { ok: true, map: read.map, lives: nextLives };
};
