/** When a piece that wears by age and by use is due: filters, vent filters, hoses, a pump's brushes. */

export interface Served {
  /** Day it was fitted, ISO. */
  readonly fittedOn: string | null;
  /** Life by age, months. */
  readonly lifeMonths: number | null;
  /** Life by use: litres through a cartridge, hours of a pump; with what has been used by a day. */
  readonly use?: {
    readonly unit: "L" | "h";
    readonly life: number;
    readonly used: number;
    readonly on: string;
  };
}

export type ServiceVerdict =
  | {
      readonly ok: true;
      readonly dueOn: string;
      readonly by: "age" | "use";
      readonly working: readonly string[];
    }
  | { readonly ok: false; readonly problem: string };

const DAY_MS = 86_400_000;
const DAYS_A_MONTH = 30.4375;
// Less than this between fitting and the reading of use says nothing of a rate.
const LEAST_DAYS = 14;

const dayOf = (iso: string): number => Date.parse(`${iso.slice(0, 10)}T00:00:00Z`) / DAY_MS;
const isoOf = (day: number): string =>
  new Date(Math.round(day) * DAY_MS).toISOString().slice(0, 10);

/** The earlier of the day by age and the day by use at the rate so far, with its working. */
export const serviceDue = (of: Served): ServiceVerdict => {
  const fitted = of.fittedOn === null ? Number.NaN : dayOf(of.fittedOn);
  if (!Number.isFinite(fitted))
    return { ok: false, problem: "Not enough readings: the day it was fitted is not known." };
  const byAge = of.lifeMonths === null ? undefined : fitted + of.lifeMonths * DAYS_A_MONTH;
  const working =
    byAge === undefined
      ? []
      : [`fitted ${isoOf(fitted)} + ${of.lifeMonths} months = ${isoOf(byAge)}`];
  let byUse: number | undefined;
  if (of.use) {
    const days = dayOf(of.use.on) - fitted;
    if (of.use.used >= of.use.life) byUse = dayOf(of.use.on);
    else if (days >= LEAST_DAYS && of.use.used > 0)
      byUse = fitted + (of.use.life * days) / of.use.used;
    working.push(
      byUse === undefined
        ? `use: not enough readings (${of.use.used} ${of.use.unit} in ${Math.round(days)} days)`
        : `${of.use.used} of ${of.use.life} ${of.use.unit} in ${Math.round(days)} days: used up ${isoOf(byUse)}`,
    );
  }
  const due = Math.min(byAge ?? Number.POSITIVE_INFINITY, byUse ?? Number.POSITIVE_INFINITY);
  if (!Number.isFinite(due))
    return {
      ok: false,
      problem: "Not enough readings: neither its life by age nor its use is known.",
    };
  return { ok: true, dueOn: isoOf(due), by: due === byUse ? "use" : "age", working };
};
