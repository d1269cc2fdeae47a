import { guarded } from "@uppershed/core/formats";
import Papa from "papaparse";

/** Rows as CSV: for whoever looks through them in columns. Cells that a spreadsheet would run are guarded. */

const cell = (value: unknown): string => {
  if (value === null || value === undefined) return "";
  if (value instanceof Date) return value.toISOString();
  return typeof value === "string" ? value : JSON.stringify(value);
};

export const writeRows = (rows: readonly Readonly<Record<string, unknown>>[]): string => {
  const columns = [...new Set(rows.flatMap((row) => Object.keys(row)))].filter(
    (name) => name !== "search",
  );
  return `${Papa.unparse(
    { fields: columns, data: rows.map((row) => columns.map((name) => guarded(cell(row[name])))) },
    { newline: "\n" },
  )}\n`;
};
