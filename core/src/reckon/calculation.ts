import type { Dimension } from "../quantity/index.ts";

/** A calculation that stands alone: what it asks for, what it answers, its working with the numbers put in, and where it comes from. */

/** What a figure is; "number" is one without a dimension known here, its unit written out. */
export type FigureKind = Dimension | "number";

export interface ReckonInput {
  readonly name: string;
  readonly label: string;
  readonly is: FigureKind;
  /** Of a "number". */
  readonly unit?: string;
  /** SI, as all figures here. */
  readonly standard: number;
  readonly low: number;
  readonly high: number;
}

export interface Figure {
  readonly label: string;
  readonly value: number;
  readonly is: FigureKind;
  readonly unit?: string;
}

/** A line of working: the formula, what was put in for its letters (SI), and what came out. */
export interface Working extends Figure {
  readonly formula: string;
  readonly with: Readonly<Record<string, number>>;
}

interface Reckoned {
  readonly answer: Figure;
  readonly also: readonly Figure[];
  readonly working: readonly Working[];
}

export type ReckonResult =
  | ({ readonly ok: true } & Reckoned)
  | { readonly ok: false; readonly problem: string };

export interface Calculation {
  readonly name: string;
  readonly title: string;
  readonly inputs: readonly ReckonInput[];
  readonly source: string;
  /** What the trade says from the head, and how far it may be trusted. */
  readonly thumb?: string;
  readonly caution?: string;
  readonly work: (given: Readonly<Record<string, number>>) => ReckonResult;
}

export const input = (
  name: string,
  label: string,
  is: FigureKind,
  standard: number,
  low: number,
  high: number,
  unit?: string,
): ReckonInput => ({
  name,
  label,
  is,
  standard,
  low,
  high,
  ...(unit === undefined ? {} : { unit }),
});

export const figure = (label: string, value: number, is: FigureKind, unit?: string): Figure => ({
  label,
  value,
  is,
  ...(unit === undefined ? {} : { unit }),
});

export const line = (
  of: Figure,
  formula: string,
  put: Readonly<Record<string, number>>,
): Working => ({ ...of, formula, with: put });

export const answered = (
  answer: Figure,
  working: readonly Working[],
  also: readonly Figure[] = [],
): ReckonResult => ({
  ok: true,
  answer,
  also,
  working,
});

export const refused = (problem: string): ReckonResult => ({ ok: false, problem });
