import {
  addDays,
  addMonths,
  differenceInCalendarDays,
  differenceInMonths,
  format,
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

/** How a workshop writes days: "14 Oct 2025", "Oct 14, 2025", "2025-10-14". Months are letters where day and month could be taken for each other. */
export const DATE_STYLES = ["day-month-year", "month-day-year", "year-month-day"] as const;
export type DateStyle = (typeof DATE_STYLES)[number];

const PATTERNS: Readonly<Record<DateStyle, string>> = {
  "day-month-year": "d MMM yyyy",
  "month-day-year": "MMM d, yyyy",
  "year-month-day": "yyyy-MM-dd",
};

/** A day as a workshop writes it, where the clock here stands. */
export const writtenDay = (date: Date, style: DateStyle): string => format(date, PATTERNS[style]);
