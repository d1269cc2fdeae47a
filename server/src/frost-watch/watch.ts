import type { FrostWatch } from "@uppershed/contract";
import { COMMON_NIGHT, nightWatch, startingContents } from "@uppershed/core/contents";
import { readForecastCsv } from "@uppershed/core/formats";
import { type NightForecast, riskOf, simulatedNights } from "@uppershed/core/inspection";
import { and, eq, gte, inArray, isNull, sql } from "drizzle-orm";
import { notFound, Refused } from "../errors.ts";
import { forecasts, places, runs, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { standingOf } from "../standing/standing.ts";

/** Frost watch: the nights to come at each place against what every unit there holds. */

const NIGHTS = 5;
const HOUR_S = 3600;
// So many are looked at part by part; the others are only counted.
const LOOKED_AT = 25;

interface PlaceNights {
  readonly placeId: string | null;
  readonly name: string;
  readonly simulated: boolean;
  readonly nights: readonly NightForecast[];
}

const nightsOf = async (scope: Scope, today: string): Promise<PlaceNights[]> => {
  const { name, winterLowC } = await scope.workshop();
  const all = await scope.find(places, eq(places.givenUp, false), {
    order: sql`lower(${places.name})`,
  });
  const brought = await scope.find(forecasts, gte(forecasts.day, today), {
    order: sql`${forecasts.day}`,
  });
  const of = (placeId: string | null, placeName: string, low: number): PlaceNights => {
    const own = brought.filter((f) => f.placeId === placeId).slice(0, NIGHTS);
    return {
      placeId,
      name: placeName,
      simulated: own.length === 0,
      nights:
        own.length > 0
          ? own.map(({ day, lowC }) => ({ day, lowC }))
          : simulatedNights(placeId ?? scope.workshopId, today, NIGHTS, low),
    };
  };
  return [of(null, name, winterLowC), ...all.map((p) => of(p.id, p.name, p.winterLowC))];
};

/** What freezes first on a unit in a night, and after how long. */
const firstToFreeze = async (
  scope: Scope,
  unitId: string,
  lowC: number,
): Promise<{ hours: number | null; part: string }> => {
  const { standing, network } = await standingOf(scope, unitId);
  const contents = standing.contents ?? startingContents(network);
  const [first] = nightWatch(network, contents, { ...COMMON_NIGHT, airC: lowC });
  return first
    ? { hours: Number((first.throughS / HOUR_S).toFixed(1)), part: first.name }
    : { hours: null, part: "" };
};

/** Minutes that the last closed winterizing of each unit took. */
const tookOf = async (scope: Scope, unitIds: readonly string[]): Promise<Map<string, number>> => {
  const rows = await scope.find(
    runs,
    and(inArray(runs.unitId, [...unitIds]), sql`${runs.closedAt} is not null`),
    { order: sql`${runs.closedAt}` },
  );
  return new Map(
    rows.flatMap((r) => {
      const minutes = r.summary.minutes as number | undefined;
      return minutes ? [[r.unitId, minutes] as const] : [];
    }),
  );
};

export const frostWatch = async (scope: Scope, now: Date): Promise<FrostWatch> => {
  const nights = await nightsOf(scope, now.toISOString().slice(0, 10));
  const placeOf = (id: string | null): PlaceNights | undefined =>
    nights.find((p) => p.placeId === id) ?? nights[0];
  const coldest = Math.min(0, ...nights.flatMap((p) => p.nights.map((n) => n.lowC)));
  // Only what bears less than the coldest night anywhere can be in danger.
  const weak = await scope.pick(
    units,
    { id: units.id, name: units.name, placeId: units.placeId, holdsToC: units.holdsToC },
    and(isNull(units.mergedInto), sql`${units.holdsToC} > ${coldest}`),
    { limit: 1000 },
  );
  const found = weak
    .flatMap((unit) => {
      const place = placeOf(unit.placeId);
      const risk = place && riskOf(unit.holdsToC, place.nights);
      return place && risk && unit.holdsToC !== null
        ? [{ unit, place, risk, holdsToC: unit.holdsToC }]
        : [];
    })
    .toSorted(
      (a, b) => a.risk.night.day.localeCompare(b.risk.night.day) || b.risk.shortK - a.risk.shortK,
    );
  const near = found.slice(0, LOOKED_AT);
  const took = await tookOf(
    scope,
    near.map((f) => f.unit.id),
  );
  const risks: FrostWatch["risks"] = [];
  for (const { unit, place, risk, holdsToC } of near)
    risks.push({
      unitId: unit.id,
      unit: unit.name,
      place: place.name,
      simulated: place.simulated,
      holdsToC,
      night: risk.night,
      ...(await firstToFreeze(scope, unit.id, risk.night.lowC)),
      minutes: took.get(unit.id) ?? null,
    });
  return {
    places: nights.map((p) => ({
      ...p,
      placeId: p.placeId,
      nights: [...p.nights],
    })),
    // Within one night whatever freezes first comes first.
    risks: risks.toSorted(
      (a, b) =>
        a.night.day.localeCompare(b.night.day) ||
        (a.hours ?? Number.POSITIVE_INFINITY) - (b.hours ?? Number.POSITIVE_INFINITY),
    ),
    more: found.length - near.length,
  };
};

/** Keeps a forecast for a place in the place of what was known of those nights. A file that cannot be read changes nothing. */
export const bringForecast = (scope: Scope, placeId: string, text: string): Promise<void> =>
  scope.together(async (tx) => {
    await tx.alone();
    if (!(await tx.first(places, eq(places.id, placeId)))) throw notFound("place");
    const read = readForecastCsv(text);
    if (!read.ok)
      throw new Refused(
        "impossible",
        `${read.problems.map((p) => `${p.line === undefined ? "" : `Line ${p.line}, `}${p.where}: ${p.problem}`).join(" ")} Nothing was changed.`,
      );
    for (const night of read.nights) {
      const same = and(eq(forecasts.placeId, placeId), eq(forecasts.day, night.day));
      if (same && (await tx.first(forecasts, same)))
        await tx.change(forecasts, { lowC: night.lowC, broughtAt: new Date() }, same);
      else await tx.add(forecasts, { placeId, ...night });
    }
  });
