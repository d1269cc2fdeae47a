import {
  type Dimension,
  SYSTEM_SPELLINGS,
  UNITS,
  type MeasureUnit,
  type UnitSystem,
} from "./units.ts";

/** A value as somebody typed it, kept beside its SI value for ever. */
interface Quantity {
  readonly dimension: Dimension;
  /** SI value: m3, Pa, °C, m, s, kg or a fraction of one. */
  readonly si: number;
  readonly typed: { readonly text: string; readonly value: number; readonly unit: string };
}

export type ParseResult = { ok: true; quantity: Quantity } | { ok: false; problem: string };

const NUMBER = /^([+\-−]?\s*(?:\d+\s+\d+\/\d+|\d+\/\d+|\d+(?:[.,]\d+)?|[.,]\d+))\s*(.*)$/u;

const readNumber = (text: string): number | undefined => {
  const clean = text.replace("−", "-").replace(/^([+-])\s+/u, "$1");
  const mixed = /^([+-]?)(?:(\d+)\s+)?(\d+)\/(\d+)$/u.exec(clean);
  if (mixed) {
    const bottom = Number(mixed[4]);
    if (bottom === 0) return undefined;
    const size = Number(mixed[2] ?? 0) + Number(mixed[3]) / bottom;
    return mixed[1] === "-" ? -size : size;
  }
  const value = Number(clean.replace(",", "."));
  return Number.isFinite(value) ? value : undefined;
};

const findUnit = (spelling: string, system: UnitSystem): MeasureUnit | undefined =>
  SYSTEM_SPELLINGS[spelling]?.[system] ??
  Object.values<MeasureUnit>(UNITS).find((u) => u.spellings.includes(spelling));

/**
 * Reads a quantity with its unit: "2.3 gal", "8.7 L", "55 psi", "-18 °C", "1/4 cup".
 * The unit is compulsory. A bare "gal" is the imperial gallon for an imperial reader, else the US gallon.
 * @param dimension what must be meant; another dimension is a problem, not a guess
 * @returns the SI value with the as-typed value kept, or the problem in words
 */
export const parseQuantity = (
  text: string,
  dimension: Dimension,
  system: UnitSystem = "metric",
): ParseResult => {
  const match = NUMBER.exec(text.trim());
  if (!match?.[1]) return { ok: false, problem: `"${text}" does not start with a number.` };
  const value = readNumber(match[1]);
  if (value === undefined) return { ok: false, problem: `"${match[1]}" is not a number.` };
  const spelling = (match[2] ?? "").trim().toLowerCase();
  if (spelling === "") return { ok: false, problem: `"${text.trim()}" needs a unit.` };
  const found = findUnit(spelling, system);
  if (!found) return { ok: false, problem: `"${match[2]}" is not a unit known here.` };
  if (found.dimension !== dimension)
    return {
      ok: false,
      problem: `"${text.trim()}" is a ${found.dimension}; a ${dimension} is asked for.`,
    };
  const si = value * found.factor + found.offset;
  return {
    ok: true,
    quantity: { dimension, si, typed: { text: text.trim(), value, unit: found.symbol } },
  };
};
