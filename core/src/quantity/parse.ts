import { measuresOf, type UnitSystem } from "./measures.ts";
import { type NumberStyle, readNumber } from "./numbers.ts";
import {
  ASKED_SPELLINGS,
  type Dimension,
  SYSTEM_SPELLINGS,
  UNITS,
  type MeasureUnit,
} from "./units.ts";

/** A value as somebody typed it, kept beside its SI value for ever. */
interface Quantity {
  readonly dimension: Dimension;
  /** SI value: m3, Pa, °C, m, s, kg or a fraction of one. */
  readonly si: number;
  readonly typed: { readonly text: string; readonly value: number; readonly unit: string };
}

export type ParseResult = { ok: true; quantity: Quantity } | { ok: false; problem: string };

const BY_SPELLING = new Map(
  Object.values<MeasureUnit>(UNITS).flatMap((u) => u.spellings.map((s) => [s, u] as const)),
);
/** Every spelling, the longest first: "in of water" before "in". */
const SPELLINGS = [
  ...BY_SPELLING.keys(),
  ...Object.keys(SYSTEM_SPELLINGS),
  ...Object.keys(ASKED_SPELLINGS),
].toSorted((a, b) => b.length - a.length);

/** The spelling with which a text begins, as a word of its own; of those that a quantity can be of, if any. */
const spellingAt = (text: string, dimension: Dimension): string | undefined => {
  const isWord = (s: string): boolean =>
    text.startsWith(s) && !(/[a-z0-9]$/u.test(s) && /^[a-z0-9/²³]/u.test(text.slice(s.length)));
  const found = SPELLINGS.filter(isWord);
  return found.find((s) => unitsOf(s).some((u) => u.dimension === dimension)) ?? found[0];
};

const unitsOf = (spelling: string): readonly MeasureUnit[] => {
  const bySystem = SYSTEM_SPELLINGS[spelling];
  return (
    ASKED_SPELLINGS[spelling] ??
    (bySystem
      ? Object.values<MeasureUnit>(bySystem)
      : [BY_SPELLING.get(spelling)].flatMap((u) => u ?? []))
  );
};

const whichOf = (spelling: string, units: readonly MeasureUnit[]): string => {
  const symbols = units.map((u) => u.symbol);
  return `Which "${spelling}"? Write ${symbols.slice(0, -1).join(", ")} or ${symbols.at(-1)}.`;
};

type Found = { readonly unit: MeasureUnit } | { readonly problem: string };

const unitFor = (spelling: string, system: UnitSystem): Found => {
  const asked = ASKED_SPELLINGS[spelling];
  if (asked) return { problem: whichOf(spelling, asked) };
  const bySystem = SYSTEM_SPELLINGS[spelling];
  const unit = bySystem ? bySystem[measuresOf(system).base] : BY_SPELLING.get(spelling);
  return unit ? { unit } : { problem: whichOf(spelling, unitsOf(spelling)) };
};

interface Piece {
  readonly value: number;
  readonly unit: MeasureUnit;
}

type Pieces =
  | { readonly ok: true; readonly pieces: readonly Piece[] }
  | { readonly ok: false; readonly problem: string };

/** A text as pieces of number and unit: one, or several of which each is smaller than the one before, as feet and inches are. */
const piecesOf = (
  text: string,
  dimension: Dimension,
  system: UnitSystem,
  style: NumberStyle | undefined,
): Pieces => {
  const pieces: Piece[] = [];
  for (let rest = text; rest !== "";) {
    const number = readNumber(rest, style);
    if (!number.ok) return number;
    rest = rest.slice(number.length).trimStart();
    const before = pieces.at(-1);
    // Five foot six.
    if (rest === "" && before?.unit === UNITS.foot) {
      pieces.push({ value: number.value, unit: UNITS.inch });
      break;
    }
    if (rest === "") return { ok: false, problem: `"${text}" needs a unit.` };
    const lower = rest.toLowerCase();
    const spelling = spellingAt(lower, dimension);
    if (spelling === undefined)
      return {
        ok: false,
        problem: `"${/^[^\d]*/u.exec(rest)?.[0].trim() || rest}" is not a unit known here.`,
      };
    const found = unitFor(spelling, system);
    if ("problem" in found) return { ok: false, problem: found.problem };
    const { unit } = found;
    if (
      before &&
      (unit.dimension !== before.unit.dimension ||
        unit.offset !== 0 ||
        unit.factor >= before.unit.factor)
    )
      return { ok: false, problem: `"${text}" is not one quantity.` };
    pieces.push({ value: number.value, unit });
    rest = rest
      .slice(spelling.length)
      .replace(/^[\s.]+/u, "")
      .replace(/^(?:and|&|\+)\s+/u, "");
    if (rest !== "" && !/^[\d.,½⅓⅔¼¾⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞]/u.test(rest))
      return { ok: false, problem: `"${lower.trim()}" is not a unit known here.` };
  }
  return { ok: true, pieces };
};

/**
 * Reads a quantity with its unit: "2.3 gal", "8.7 L", "55 psi", "-18 °C", "1/4 cup", "1-1/16 in", `5' 6"`, "5 gal 2 qt", "30 inHg".
 * The unit is compulsory. What can be read in two ways is asked about and never guessed: a gallon where the reader is of neither
 * kind, a ton, "1,000" where nobody said which mark is the decimal one.
 * @param dimension what must be meant; another dimension is a problem, not a guess
 * @param style which mark is the decimal one; where not said, as the reader writes numbers
 * @returns the SI value with the as-typed value kept, or the problem in words
 */
export const parseQuantity = (
  text: string,
  dimension: Dimension,
  system: UnitSystem = "metric",
  style: NumberStyle | undefined = measuresOf(system).mark,
): ParseResult => {
  const trimmed = text.trim();
  if (trimmed === "") return { ok: false, problem: `"${text}" does not start with a number.` };
  const read = piecesOf(trimmed, dimension, system, style);
  if (!read.ok) return read;
  const [first] = read.pieces;
  if (!first) return { ok: false, problem: `"${trimmed}" does not start with a number.` };
  const { unit } = first;
  if (unit.dimension !== dimension)
    return {
      ok: false,
      problem: `"${trimmed}" is a ${unit.dimension}; a ${dimension} is asked for.`,
    };
  // The smaller pieces of a negative quantity are below it too.
  const below = first.value < 0 ? -1 : 1;
  const si = read.pieces.reduce(
    (sum, p, i) => sum + (i === 0 ? p.value : below * p.value) * p.unit.factor,
    unit.offset,
  );
  const value = (si - unit.offset) / unit.factor;
  return {
    ok: true,
    quantity: { dimension, si, typed: { text: trimmed, value, unit: unit.symbol } },
  };
};
