import Papa from "papaparse";
import { type FileProblem, MOST_BYTES } from "./text.ts";

/** Tables as CSV: headings checked, cells guarded against spreadsheets that run them. */

// A spreadsheet would run these as formulas; an apostrophe in front makes them text.
const FORMULA = /^[=+\-@\t\r]/u;
// Numbers and telephone numbers begin so too, and are neither.
const NUMBER = /^-?\d+(?:\.\d+)?$/u;
const PHONE = /^\+[\d ()/-]+$/u;
const runs = (cell: string): boolean =>
  FORMULA.test(cell) && !NUMBER.test(cell) && !PHONE.test(cell);

// What looks as if it had been guarded is guarded too, so that it is read as it was written.
const LOOKS_GUARDED = /^'+[=+\-@\t\r]/u;

export const guarded = (cell: string): string =>
  runs(cell) || LOOKS_GUARDED.test(cell) ? `'${cell}` : cell;
export const unguarded = (cell: string): string =>
  LOOKS_GUARDED.test(cell) ? cell.slice(1) : cell;

export type Table =
  | {
      readonly ok: true;
      readonly columns: readonly string[];
      readonly rows: readonly (readonly string[])[];
    }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

/** Reads a table whose headings must be known; unknown ones are problems, never dropped in silence. */
export const readTable = (
  text: string,
  of: { columns: readonly string[]; needed: readonly string[]; what: string; most: number },
): Table => {
  if (text.length > MOST_BYTES)
    return {
      ok: false,
      problems: [
        { where: "file", problem: `the file is longer than ${MOST_BYTES / 1024 / 1024} MB.` },
      ],
    };
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/u, ""), {
    skipEmptyLines: "greedy",
    preview: of.most + 2,
  });
  const problems: FileProblem[] = parsed.errors
    .filter((e) => e.code !== "UndetectableDelimiter")
    .map((e) => ({ line: (e.row ?? 0) + 1, where: "file", problem: `${e.message}.` }));
  const [head = [], ...rows] = parsed.data;
  const columns = head.map((c) => c.trim().toLowerCase());
  for (const column of columns)
    if (!of.columns.includes(column))
      problems.push({
        line: 1,
        where: column || "heading",
        problem: `is not a column of ${of.what}.`,
      });
  for (const column of new Set(columns.filter((c, i) => columns.indexOf(c) !== i)))
    problems.push({ line: 1, where: column, problem: "stands there twice." });
  for (const needed of of.needed)
    if (!columns.includes(needed))
      problems.push({ line: 1, where: needed, problem: "is missing." });
  if (rows.length > of.most)
    problems.push({
      where: "file",
      problem: `more than ${of.most} lines; that is more than ${of.what} holds.`,
    });
  return problems.length > 0 ? { ok: false, problems } : { ok: true, columns, rows };
};

/** What is wrong with a line's cells: too many of them, or one that a spreadsheet would run. */
export const oddCells = (
  columns: readonly string[],
  row: readonly string[],
  line: number,
): FileProblem[] => [
  ...(row.length > columns.length
    ? [{ line, where: "line", problem: "has more cells than the heading." }]
    : []),
  ...row.flatMap((raw, c) =>
    runs(raw)
      ? [
          {
            line,
            where: columns[c] ?? `column ${c + 1}`,
            problem: `"${raw.slice(0, 20)}" looks like a formula. Put an apostrophe before it to keep it as text.`,
          },
        ]
      : [],
  ),
];

/** Rows as CSV, each with its line's end; without columns only the rows. */
export const writeTable = (
  columns: readonly string[] | undefined,
  rows: readonly (readonly string[])[],
): string => {
  const cells = [...(columns ? [[...columns]] : []), ...rows.map((r) => r.map(guarded))];
  return cells.length === 0 ? "" : `${Papa.unparse(cells, { newline: "\r\n" })}\r\n`;
};
