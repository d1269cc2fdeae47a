import { DAYS_A_MONTH, dayNumber, dayText } from "../quantity/index.ts";
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

// Less than this between fitting and the reading of use says nothing of a rate.
const LEAST_DAYS = 14;

/** The earlier of the day by age and the day by use at the rate so far, with its working. */
export const serviceDue = (of: Served): ServiceVerdict => {
  const fitted = of.fittedOn === null ? Number.NaN : dayNumber(of.fittedOn);
  if (!Number.isFinite(fitted))
    return { ok: false, problem: "Not enough readings: the day it was fitted is not known." };
  const byAge = of.lifeMonths === null ? undefined : fitted + of.lifeMonths * DAYS_A_MONTH;
  const working =
    byAge === undefined
      ? []
      : [`fitted ${dayText(fitted)} + ${of.lifeMonths} months = ${dayText(byAge)}`];
  let byUse: number | undefined;
  if (of.use) {
    const days = dayNumber(of.use.on) - fitted;
    if (of.use.used >= of.use.life) byUse = dayNumber(of.use.on);
    else if (days >= LEAST_DAYS && of.use.used > 0)
      byUse = fitted + (of.use.life * days) / of.use.used;
    working.push(
      byUse === undefined
        ? `use: not enough readings (${of.use.used} ${of.use.unit} in ${Math.round(days)} days)`
        : `${of.use.used} of ${of.use.life} ${of.use.unit} in ${Math.round(days)} days: used up ${dayText(byUse)}`,
    );
  }
  const due = Math.min(byAge ?? Number.POSITIVE_INFINITY, byUse ?? Number.POSITIVE_INFINITY);
  if (!Number.isFinite(due))
    return {
      ok: false,
      problem: "Not enough readings: neither its life by age nor its use is known.",
    };
  return { ok: true, dueOn: dayText(due), by: due === byUse ? "use" : "age", working };
};
