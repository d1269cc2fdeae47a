import {
  addDays,
  addMonths,
  differenceInCalendarDays,
  differenceInMonths,
  formatISO,
  parseISO,
} from "date-fns";

/** A day of 24 hours, in milliseconds. */
export const DAY_MS = 86_400_000;
/** Days in a month, on the average of four years. */
export const DAYS_A_MONTH = 30.4375;

const EPOCH = parseISO("1970-01-01");
const asDay = (date: Date): string => formatISO(date, { representation: "date" });

/** The calendar day of a date (2026-11-30, or with a time after it, which does not count) by number, from 1970 on; NaN where it is none. */
export const dayNumber = (iso: string): number =>
  differenceInCalendarDays(parseISO(iso.slice(0, 10)), EPOCH);

/** The date of a day by its number, rounded to a whole day. */
export const dayText = (day: number): string => asDay(addDays(EPOCH, Math.round(day)));

/** The day so many months later; the last of a month where there is no such day: 31 August and six months is the end of February. */
export const monthsAfter = (day: string, months: number): string =>
  asDay(addMonths(parseISO(day), months));

/** Whole months between two days. */
export const monthsBetween = (from: string, to: string): number =>
  differenceInMonths(parseISO(to), parseISO(from));
