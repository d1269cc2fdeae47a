import {
  displayUnit,
  inMark,
  inUnit,
  measuresOf,
  parseQuantity,
  readNumber,
  type MeasureUnit,
  UNITS,
  type UnitSystem,
} from "../quantity/index.ts";
import type { Calculation, Figure, FigureKind, ReckonInput } from "./calculation.ts";

const SMALL_LENGTH_M = 0.1;
const LONG_TIME_S = 7200;
const DIGITS = 3;

/** The unit in which a figure reads best: bores in millimetres or inches, long times in hours. */
const unitFor = (
  value: number,
  is: Exclude<FigureKind, "number">,
  system: UnitSystem,
): MeasureUnit => {
  if (is === "length" && Math.abs(value) < SMALL_LENGTH_M && value !== 0)
    return measuresOf(system).base === "metric" ? UNITS.millimetre : UNITS.inch;
  if (is === "time" && Math.abs(value) > LONG_TIME_S) return UNITS.hour;
  return displayUnit(system, is);
};

const written = (value: number, system: UnitSystem): string => {
  const size = Math.abs(value);
  const text = size >= 1000 ? value.toFixed(0) : String(Number(value.toPrecision(DIGITS)));
  return inMark(text.replace("-", "−").replace("e−", "e-"), system);
};

/** A figure for a reader: three digits and its unit. */
export const showFigure = (
  { value, is, unit }: Pick<Figure, "value" | "is" | "unit">,
  system: UnitSystem,
): string => {
  if (is === "number") return `${written(value, system)}${unit ? ` ${unit}` : ""}`;
  const shown = unitFor(value, is, system);
  return `${written(inUnit(value, shown), system)} ${shown.symbol}`;
};

/** Reads what was typed for an input; a bare number takes the unit in which the standard value is shown. */
const readInput = (
  input: ReckonInput,
  text: string,
  system: UnitSystem,
):
  | { readonly ok: true; readonly value: number }
  | { readonly ok: false; readonly problem: string } => {
  const bare = /^[+\-−]?\s*(\d+([.,]\d+)?|\d*\/\d+|[.,]\d+)$/u.test(text.trim());
  if (input.is === "number") {
    const digits = text.replace(input.unit ?? "", "").trim();
    const number = readNumber(digits, measuresOf(system).mark);
    if (number.ok && number.length === digits.length) return { ok: true, value: number.value };
    const asked = /can be/u.test(number.ok ? "" : number.problem);
    return {
      ok: false,
      problem:
        asked && !number.ok ? number.problem : `a number${input.unit ? ` in ${input.unit}` : ""}`,
    };
  }
  const shown = unitFor(input.standard, input.is, system);
  const read = parseQuantity(bare ? `${text.trim()} ${shown.symbol}` : text, input.is, system);
  return read.ok ? { ok: true, value: read.quantity.si } : { ok: false, problem: read.problem };
};

/** What stands in an input at first, as text. */
export const standardText = (input: ReckonInput, system: UnitSystem): string =>
  showFigure(
    {
      value: input.standard,
      is: input.is,
      ...(input.unit === undefined ? {} : { unit: input.unit }),
    },
    system,
  );

/** Reads all inputs of a calculation; what was not typed has its standard value. */
export const readInputs = (
  calculation: Calculation,
  typed: (name: string) => string | null,
  system: UnitSystem,
): { readonly values: Record<string, number>; readonly problems: Record<string, string> } => {
  const values: Record<string, number> = {};
  const problems: Record<string, string> = {};
  for (const input of calculation.inputs) {
    const text = typed(input.name);
    if (text === null) continue;
    const read = readInput(input, text, system);
    if (!read.ok) problems[input.name] = read.problem;
    else if (read.value < input.low || read.value > input.high)
      problems[input.name] =
        `between ${showFigure({ ...input, value: input.low }, system)} and ${showFigure({ ...input, value: input.high }, system)}`;
    else values[input.name] = read.value;
  }
  return { values, problems };
};
