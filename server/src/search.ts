import { and, type SQL, sql } from "drizzle-orm";
import type { AnyPgColumn } from "drizzle-orm/pg-core";

/** Searching in a column of small letters: every word must occur somewhere in it. */

const LEAST_DIGITS = 4;

/** The words of what is typed; a telephone number is one word whatever stands between its figures. */
const wordsOf = (typed: string): string[] => {
  const digits = typed.replaceAll(/\D/gu, "");
  if (digits.length >= LEAST_DIGITS && /^[\d\s+()/-]+$/u.test(typed)) return [digits];
  return typed.toLowerCase().split(/\s+/u).filter(Boolean).slice(0, 8);
};

/** Text that a LIKE takes as it stands. */
export const literal = (word: string): string => word.replaceAll(/[\\%_]/gu, (c) => `\\${c}`);

export const allIn = (column: AnyPgColumn, typed: string | undefined): SQL | undefined =>
  and(...wordsOf(typed ?? "").map((word) => sql`${column} like ${`%${literal(word)}%`}`));

/** Sorts first what has all that was typed in one of its numbers, then what begins with the first word, then the rest. */
export const nearest = (
  name: AnyPgColumn,
  typed: string | undefined,
  numbers: readonly AnyPgColumn[] = [],
): SQL => {
  const [first] = wordsOf(typed ?? "");
  if (first === undefined) return sql`0`;
  const whole = `%${literal((typed ?? "").trim().toLowerCase())}%`;
  const inNumber = numbers.map((column) => sql`when lower(${column}) like ${whole} then 0`);
  return sql`case ${sql.join([...inNumber, sql`when lower(${name}) like ${`${literal(first)}%`} then 1`], sql` `)} else 2 end`;
};

/** What a column of search words holds: small letters, once each, telephone numbers as figures too. */
export const searchText = (...pieces: readonly (string | null | undefined)[]): string => {
  const text = pieces.filter(Boolean).join(" ").toLowerCase();
  const phones = pieces.flatMap((p) => {
    const digits = (p ?? "").replaceAll(/\D/gu, "");
    return digits.length >= LEAST_DIGITS && /^[\d\s+()/-]+$/u.test(p ?? "") ? [digits] : [];
  });
  return [...new Set([...text.split(/\s+/u), ...phones])].filter(Boolean).join(" ");
};
