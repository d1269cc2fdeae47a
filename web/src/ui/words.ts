import { type DateStyle, writtenDay } from "@uppershed/core/quantity";
import { format, formatDistanceStrict } from "date-fns";

/** The moment, as it is written down with what was done. */
export const nowIso = (): string => new Date().toISOString();

let style: DateStyle = "day-month-year";
/** One page belongs to one workshop: days are written as it writes them. */
export const writeDaysAs = (next: DateStyle): void => {
  style = next;
};

/** Dates and times as a technician writes them. */
export const dayOf = (iso: string): string => writtenDay(new Date(iso), style);
export const shortDay = (iso: string): string =>
  format(new Date(iso), style === "month-day-year" ? "EEE MMM d" : "EEE d MMM");
export const timeOf = (iso: string): string => format(new Date(iso), "HH:mm");

/** Hours and minutes of a number of minutes: "1:35". */
export const clock = (minutes: number): string =>
  `${Math.floor(minutes / 60)}:${String(Math.round(minutes % 60)).padStart(2, "0")}`;

/** A countdown: "06:40" to go, "+0:12" over. */
export const countdown = (endsAt: string, now: number): string => {
  const seconds = Math.round((Date.parse(endsAt) - now) / 1000);
  const size = Math.abs(seconds);
  // Over an hour nobody counts seconds.
  const text =
    size >= 3600
      ? `${clock(Math.floor(size / 60))} h`
      : `${Math.floor(size / 60)}:${String(size % 60).padStart(2, "0")}`;
  return seconds < 0 ? `+${text}` : text;
};

/** A day and how long ago that is: "on 14 Oct 2025, 6 weeks ago". */
export const ageOf = (iso: string, now = new Date()): string =>
  `on ${dayOf(iso)}, ${formatDistanceStrict(new Date(iso), now, { addSuffix: true })}`;

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
