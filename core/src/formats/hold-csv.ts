import Papa from "papaparse";
import { type HoldReading, holdReadingSchema } from "../hold/index.ts";
import { type Dimension, parseQuantity } from "../quantity/index.ts";
import type { FileProblem } from "./text.ts";

/** A pressure logger's file: time, pressure, and where they were read temperature and barometer, each with its unit in the heading. */

export type HoldFileRead =
  | {
      readonly ok: true;
      readonly readings: readonly HoldReading[];
      /** Columns that are nothing of a hold; they were passed by, not dropped unsaid. */
      readonly passedBy: readonly string[];
      /** Moment of the first reading, where the file gives moments, ISO. */
      readonly begunAt?: string;
    }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

export const MOST_HOLD_ROWS = 100_000;
const MOST_HOLD_BYTES = 12 * 1024 * 1024;
const MOST_TOLD = 20;

const COLUMNS = {
  time: "time",
  pressure: "pressure",
  temperature: "temperature",
  barometer: "pressure",
} as const satisfies Readonly<Record<string, Dimension>>;
type Column = keyof typeof COLUMNS;

interface Scale {
  readonly at: number;
  readonly factor: number;
  readonly offset: number;
}

const refused = (problem: string, where = "file", line?: number): HoldFileRead => ({
  ok: false,
  problems: [{ where, problem, ...(line === undefined ? {} : { line }) }],
});

/** "Pressure (psi)", "pressure psi", "Time [min]" */
const headingOf = (text: string): { name: string; unit: string } => {
  const [, name = "", unit = ""] = /^\s*([a-z]+)[\s([,:]*([^\])]*)[\])]?\s*$/iu.exec(text) ?? [];
  return { name: name.toLowerCase(), unit: unit.trim() };
};

const scaleOf = (unit: string, dimension: Dimension, at: number): Scale | undefined => {
  const value = (n: number): number => {
    const read = parseQuantity(`${n} ${unit}`, dimension, "metric.point");
    return read.ok ? read.quantity.si : Number.NaN;
  };
  const [zero, one] = [value(0), value(1)];
  return unit !== "" && Number.isFinite(zero) && Number.isFinite(one)
    ? { at, factor: one - zero, offset: zero }
    : undefined;
};

const isMoment = (cell: string): boolean => /^\d{4}-\d{2}-\d{2}[T ]/u.test(cell.trim());
const numberIn = (cell: string): number =>
  cell.trim() === "" ? Number.NaN : Number(cell.trim().replace("−", "-").replace(",", "."));

interface Heads {
  readonly scales: Readonly<Partial<Record<Column, Scale>>>;
  readonly passedBy: readonly string[];
  readonly problems: readonly FileProblem[];
}

const headsOf = (head: readonly string[], areMoments: boolean): Heads => {
  const scales: Partial<Record<Column, Scale>> = {};
  const passedBy: string[] = [];
  const problems: FileProblem[] = [];
  head.forEach((text, at) => {
    const { name, unit } = headingOf(text);
    if (!(name in COLUMNS)) {
      if (text.trim() !== "") passedBy.push(text.trim());
      return;
    }
    const column = name as Column;
    if (scales[column]) problems.push({ line: 1, where: text, problem: "stands there twice." });
    const scale =
      column === "time" && areMoments
        ? { at, factor: 1, offset: 0 }
        : scaleOf(unit, COLUMNS[column], at);
    if (scale) scales[column] = scale;
    else
      problems.push({
        line: 1,
        where: text,
        problem: `has no unit that is known, such as "${column} ${{ time: "s", pressure: "psi", temperature: "C", barometer: "mbar" }[column]}".`,
      });
  });
  for (const needed of ["time", "pressure"] as const)
    if (!scales[needed] && problems.length === 0)
      problems.push({ line: 1, where: "heading", problem: `has no column "${needed}".` });
  return { scales, passedBy, problems };
};

/** @returns the readings in their order, or every line that cannot be; nothing is guessed and nothing half read */
export const readHoldCsv = (text: string): HoldFileRead => {
  if (text.length > MOST_HOLD_BYTES)
    return refused(
      `it is longer than ${MOST_HOLD_BYTES / 1024 / 1024} MB; let the logger read less often.`,
    );
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/u, ""), {
    skipEmptyLines: "greedy",
    preview: MOST_HOLD_ROWS + 2,
  });
  const [head = [], ...rows] = parsed.data;
  if (rows.length > MOST_HOLD_ROWS)
    return refused(
      `it has more than ${MOST_HOLD_ROWS.toLocaleString("en")} readings; let the logger read less often, or thin it. Nothing was read in.`,
    );
  const timeAt = head.findIndex((h) => headingOf(h).name === "time");
  const areMoments = isMoment(rows[0]?.[timeAt] ?? "");
  const { scales, passedBy, problems: wrong } = headsOf(head, areMoments);
  if (wrong.length > 0) return { ok: false, problems: wrong };
  if (rows.length === 0) return refused("no reading is in it.");
  const problems: FileProblem[] = [];
  const begun = areMoments ? Date.parse((rows[0]?.[timeAt] ?? "").trim()) : 0;
  const tell = (line: number, where: string, problem: string): void => {
    problems.push({ line, where, problem });
  };
  let before = Number.NEGATIVE_INFINITY;
  const readings = rows.flatMap<HoldReading>((row, i) => {
    const line = i + 2;
    const of = (column: Column): number | undefined => {
      const scale = scales[column];
      const cell = scale && (row[scale.at] ?? "");
      if (
        !scale ||
        cell === undefined ||
        (cell.trim() === "" && column !== "time" && column !== "pressure")
      )
        return undefined;
      const value =
        column === "time" && areMoments
          ? (Date.parse(cell.trim()) - begun) / 1000
          : numberIn(cell) * scale.factor + scale.offset;
      if (!Number.isFinite(value))
        tell(
          line,
          column,
          /[a-z]/iu.test(cell)
            ? `"${cell.trim()}" is not a number: the unit stands in the heading, one for the whole column.`
            : `"${cell.trim()}" is not a number.`,
        );
      return value;
    };
    const [time, pressurePa, temperatureC, barometerPa] = [
      of("time"),
      of("pressure"),
      of("temperature"),
      of("barometer"),
    ];
    if (
      time === undefined ||
      pressurePa === undefined ||
      ![time, pressurePa, temperatureC ?? 0, barometerPa ?? 0].every(Number.isFinite)
    )
      return [];
    if (time < before) tell(line, "time", "runs backwards here.");
    else if (time === before) tell(line, "time", "is the same as in the line before.");
    before = time;
    const reading = {
      atS: time,
      pressurePa,
      ...(temperatureC === undefined ? {} : { temperatureC }),
      ...(barometerPa === undefined ? {} : { barometerPa }),
    };
    if (pressurePa < 0) {
      tell(line, "pressure", "is below nothing: a gauge that reads so is not at its zero.");
      return [];
    }
    const sound = holdReadingSchema.safeParse({ ...reading, atS: Math.max(0, time) });
    if (!sound.success) {
      const where = String(sound.error.issues[0]?.path[0] ?? "line");
      tell(line, where.replace(/(?:Pa|C|S)$/u, ""), "lies outside what can be.");
      return [];
    }
    return [sound.data];
  });
  if (problems.length > 0)
    return {
      ok: false,
      problems:
        problems.length > MOST_TOLD
          ? [
              ...problems.slice(0, MOST_TOLD),
              { where: "file", problem: `and ${problems.length - MOST_TOLD} more.` },
            ]
          : problems,
    };
  const zero = readings[0]?.atS ?? 0;
  return {
    ok: true,
    readings: readings.map((r) => ({ ...r, atS: r.atS - zero })),
    passedBy,
    ...(areMoments ? { begunAt: new Date(begun).toISOString() } : {}),
  };
};

/** The readings of a hold as such a file, SI units in the headings. */
export const writeHoldCsv = (readings: readonly HoldReading[]): string =>
  `${Papa.unparse({
    fields: ["time s", "pressure Pa", "temperature C", "barometer Pa"],
    data: readings.map((r) => [r.atS, r.pressurePa, r.temperatureC ?? "", r.barometerPa ?? ""]),
  })}\n`;
