/** Quantities of tests in words, as marks for the reader's units. */

export const DAY_S = 86_400;

/** "{m3:0.00108} a day" */
export const aDay = (m3S: number, digits = 3): string =>
  `{m3:${Number((m3S * DAY_S).toPrecision(digits))}} a day`;
