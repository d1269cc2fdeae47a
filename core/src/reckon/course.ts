import type { Calculation, ReckonResult } from "./calculation.ts";

/** How an answer runs while one of its inputs changes and the others stay: for people who would rather look than read. */

export interface CoursePoint {
  /** The input, SI. */
  readonly at: number;
  /** The answer, SI; nothing where there is none. */
  readonly answer: number | undefined;
}

const POINTS = 61;
// As far below and above what is asked as this many times; wider ranges hide the curve in a corner.
const TIMES = 4;

/**
 * @param values SI figures by input; what is left out has its standard value
 * @param along name of the input that changes
 * @param work the calculation with its checks
 * @returns points in even steps of the input, within what it may be, its own value among them; none where there is no such input
 */
export const courseOf = (
  calculation: Calculation,
  values: Readonly<Record<string, number>>,
  along: string,
  work: (calculation: Calculation, given: Readonly<Record<string, number>>) => ReckonResult,
): readonly CoursePoint[] => {
  const input = calculation.inputs.find((i) => i.name === along);
  if (!input) return [];
  const own = values[along] ?? input.standard;
  // Around nought, and of temperatures, there is no "times": the whole range.
  const isScaled = own > 0 && input.low >= 0 && input.is !== "temperature";
  const [from, to] = isScaled
    ? [Math.max(input.low, own / TIMES), Math.min(input.high, own * TIMES)]
    : [input.low, input.high];
  const steps = Array.from({ length: POINTS }, (_, i) => from + ((to - from) * i) / (POINTS - 1));
  const answerAt = (at: number): number | undefined => {
    const result: ReckonResult = work(calculation, { ...values, [along]: at });
    return result.ok && Number.isFinite(result.answer.value) ? result.answer.value : undefined;
  };
  return [...new Set([...steps, own])]
    .toSorted((a, b) => a - b)
    .map((at) => ({ at, answer: answerAt(at) }));
};
