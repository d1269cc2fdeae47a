/** The answer of a property function: a value, or why there is none. Never an extrapolation. */
export type Property = { ok: true; value: number } | { ok: false; problem: string };

export type Rows = readonly (readonly [x: number, y: number])[];

/**
 * Straight-line interpolation in a table whose x rises.
 * @returns the value, or the reason when x lies outside the table
 */
export const interpolate = (rows: Rows, x: number, what: string): Property => {
  const first = rows[0];
  const last = rows.at(-1);
  if (!first || !last || !Number.isFinite(x))
    return { ok: false, problem: `${what}: no value for ${x}.` };
  if (x < first[0] || x > last[0])
    return {
      ok: false,
      problem: `${what}: ${round(x)} lies outside the table (${first[0]} to ${last[0]}).`,
    };
  for (let i = 1; i < rows.length; i++) {
    const a = rows[i - 1];
    const b = rows[i];
    if (a && b && x <= b[0])
      return { ok: true, value: a[1] + ((b[1] - a[1]) * (x - a[0])) / (b[0] - a[0]) };
  }
  return { ok: true, value: last[1] };
};

const round = (x: number): string => String(Number(x.toPrecision(4)));

/** The same table read the other way round, rising in its new x. Only for tables monotonic in y. */
export const inverted = (rows: Rows): Rows =>
  rows.map(([x, y]) => [y, x] as const).sort((a, b) => a[0] - b[0]);
