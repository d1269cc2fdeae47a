import { readTable } from "./table.ts";
import type { FileProblem } from "./text.ts";

/** A forecast of nights as CSV: date, and the night's low in a column that names its degrees. */

export type ForecastRead =
  | {
      readonly ok: true;
      readonly nights: readonly { readonly day: string; readonly lowC: number }[];
    }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

const MOST_NIGHTS = 60;
const COLDEST_C = -70;
const WARMEST_C = 45;

/** @returns the nights in order of their days, or every line that cannot be read */
export const readForecastCsv = (text: string): ForecastRead => {
  const table = readTable(text, {
    columns: ["date", "low c", "low f"],
    needed: ["date"],
    what: "a forecast",
    most: MOST_NIGHTS,
  });
  if (!table.ok) return table;
  const at = (name: string): number => table.columns.indexOf(name);
  const [day, celsius, fahrenheit] = [at("date"), at("low c"), at("low f")];
  if (celsius < 0 === fahrenheit < 0)
    return {
      ok: false,
      problems: [
        { line: 1, where: "heading", problem: 'Either "low C" or "low F" says the night\'s low.' },
      ],
    };
  const problems: FileProblem[] = [];
  const nights = table.rows.flatMap((row, i) => {
    const line = i + 2;
    const date = (row[day] ?? "").trim();
    if (!/^\d{4}-\d{2}-\d{2}$/u.test(date) || Number.isNaN(Date.parse(date))) {
      problems.push({ line, where: "date", problem: `"${date}" is no day: 2026-11-30.` });
      return [];
    }
    const cell = (row[celsius < 0 ? fahrenheit : celsius] ?? "").trim().replace("−", "-");
    const read = Number(cell);
    const lowC = celsius < 0 ? (read - 32) / 1.8 : read;
    if (cell === "" || !Number.isFinite(read) || lowC < COLDEST_C || lowC > WARMEST_C) {
      problems.push({ line, where: "low", problem: `"${cell}" is no temperature of a night.` });
      return [];
    }
    return [{ day: date, lowC }];
  });
  const twice = nights.find((n, i) => nights.findIndex((m) => m.day === n.day) !== i);
  if (twice) problems.push({ where: "date", problem: `${twice.day} stands there twice.` });
  if (nights.length === 0 && problems.length === 0)
    problems.push({ where: "file", problem: "no night is in it." });
  return problems.length > 0
    ? { ok: false, problems }
    : { ok: true, nights: nights.toSorted((a, b) => a.day.localeCompare(b.day)) };
};
