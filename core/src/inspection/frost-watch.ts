import { uniformFloat64 } from "pure-rand/distribution/uniformFloat64";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { dayNumber, dayText } from "../quantity/index.ts";

/** Nights to come at a place, and who is in danger of them. */

export interface NightForecast {
  /** Day on whose evening it begins, ISO. */
  readonly day: string;
  readonly lowC: number;
}

const YEAR_DAYS = 365.25;
// The coldest nights of the year come about three weeks after the shortest day (common practice, no source).
const COLDEST_DAY = 20;
// Ordinary nights of the coldest weeks reach about so much of the winter low; the mildest of summer about so many degrees (our own stand-in).
const ORDINARY_SHARE = 0.4;
const SUMMER_C = 12;
const SPREAD_K = 5;

/** A number from words, for a seed: FNV-1a. */
const seedOf = (words: string): number => {
  let hash = 0x811c9dc5;
  for (const letter of words) {
    hash ^= letter.codePointAt(0) ?? 0;
    hash = Math.imul(hash, 0x01000193);
  }
  return hash >>> 0;
};

/**
 * A stand-in for a forecast where nobody has brought one: the same place and day give the same night. It is always marked as simulated.
 * @param place by which it is seeded @param from the first day, ISO @param winterLowC the place's winter low, which it never passes
 */
export const simulatedNights = (
  place: string,
  from: string,
  days: number,
  winterLowC: number,
): NightForecast[] =>
  Array.from({ length: days }, (_, i) => {
    const day = dayNumber(from) + i;
    const winterC = winterLowC * ORDINARY_SHARE;
    const season = Math.cos((2 * Math.PI * (day - COLDEST_DAY)) / YEAR_DAYS);
    const mean = (SUMMER_C + winterC) / 2 - ((SUMMER_C - winterC) / 2) * season;
    const stream = xoroshiro128plus(seedOf(`${place} ${dayText(day)}`));
    // The mean of three even throws lies near the middle, as weather does.
    const throws = [uniformFloat64(stream), uniformFloat64(stream), uniformFloat64(stream)];
    const off = (throws.reduce((a, b) => a + b, 0) / 3 - 0.5) * 2 * SPREAD_K;
    return {
      day: dayText(day),
      lowC: Math.max(winterLowC, Number((mean + off).toFixed(1))),
    };
  });

export interface AtRisk {
  /** The first night that is colder than it holds. */
  readonly night: NightForecast;
  /** By how much, K. */
  readonly shortK: number;
}

/** The first of some nights that a unit does not hold; nothing where it holds all of them, or nothing aboard has a limit. */
export const riskOf = (
  holdsToC: number | null,
  nights: readonly NightForecast[],
): AtRisk | undefined => {
  if (holdsToC === null) return undefined;
  const night = nights.find((n) => n.lowC < Math.min(0, holdsToC));
  return night && { night, shortK: holdsToC - night.lowC };
};
