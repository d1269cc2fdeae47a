import { z } from "zod";

/** Moments and days as they come over a boundary: nothing before there were such units, nothing that no calendar here will see. */

const FIRST_YEAR = 1900;
const LAST_YEAR = 2200;
const inReach = (iso: string): boolean => {
  const year = Number(iso.slice(0, 4));
  return year >= FIRST_YEAR && year <= LAST_YEAR;
};
const PROBLEM = `a year from ${FIRST_YEAR} to ${LAST_YEAR}`;

export const moment = z.iso.datetime().refine(inReach, PROBLEM);
export const calendarDay = z.iso.date().refine(inReach, PROBLEM);
/** A revision of a map, as it is named. */
export const revisionNumber = z.number().int().min(1).max(1_000_000);
