import { z } from "zod";
import { num, type Network, type Part, paramsOf, roleOf } from "../watermap/index.ts";

/** Weight by tank and place, how long tanks last by habit, and what a change does to limits that somebody entered. */

export const habitsSchema = z.strictObject({
  people: z.number().min(1).max(20).default(2),
  /** Of each person in a day. */
  showers: z.number().min(0).max(10).default(1),
  flushes: z.number().min(0).max(30).default(5),
  showerM3: z.number().min(0.001).max(0.2).default(0.02),
  flushM3: z.number().min(0.0002).max(0.02).default(0.001),
  otherM3: z.number().min(0).max(0.2).default(0.01),
});
/** Two people, a short shower each, 20 L of it, five flushes of a litre, 10 L besides (common practice, no source). */
export type Habits = Readonly<z.output<typeof habitsSchema>>;

export const limitSchema = z.strictObject({
  name: z.string().trim().min(1).max(60),
  /** Places that load it; empty: all of the unit. */
  places: z.array(z.string().max(60)).max(60).readonly().default([]),
  /** What of it is left for water, kg. */
  leftKg: z.number().min(0).max(100_000),
});
/** An axle, a hitch, a payload, a freeboard: what may still be put on it. */
export type Limit = Readonly<z.output<typeof limitSchema>>;

export interface TankLoad {
  readonly part: string;
  readonly name: string;
  readonly place: string;
  readonly is: "fresh" | "heater" | "waste";
  readonly fullKg: number;
  /** What half-full water in it does to a boat's stability, kg m; none ashore. */
  readonly slackKgM?: number;
}

const KG_M3 = 1000;

const volumeM3 = (network: Network, part: Part): number =>
  network.cells.reduce(
    (sum, c) => sum + (c.ownerId === part.id && c.form === "vessel" ? c.capacityM3 : 0),
    0,
  );

/** Afloat: something of it lets in or out through the hull. */
export const isAfloat = ({ openings }: Pick<Network, "openings">): boolean =>
  openings.some((o) => o.use === "raw" || o.use === "overboard");

/**
 * Free surface of a tank with upright sides and a square plan, its volume over its depth: density times length times breadth cubed over twelve, kg m
 * (Principles of Naval Architecture, from memory). Over the displacement it is the height that a boat's metacentre seems to lose; nothing
 * when empty or pressed full.
 */
export const slackMoment = (volume: number, depthM: number): number => {
  const area = volume / depthM;
  return (KG_M3 * area * area) / 12;
};

export const tankLoads = (network: Network): TankLoad[] =>
  network.map.parts.flatMap((part) => {
    const is = roleOf(part).vessel;
    if (!is) return [];
    const volume = volumeM3(network, part);
    const depth = is === "heater" ? undefined : num(paramsOf(part), "depthM");
    return [
      {
        part: part.id,
        name: part.name,
        place: part.place ?? "",
        is,
        fullKg: volume * KG_M3,
        ...(isAfloat(network) && depth !== undefined
          ? { slackKgM: slackMoment(volume, depth) }
          : {}),
      },
    ];
  });

export interface LimitLoad {
  readonly name: string;
  readonly fullKg: number;
  readonly leftKg: number;
  readonly over: boolean;
}

/** What every vessel full puts on each limit: fresh and waste are never full together, so the worse of them counts. */
export const limitLoads = (loads: readonly TankLoad[], limits: readonly Limit[]): LimitLoad[] =>
  limits.map(({ name, places, leftKg }) => {
    const on = loads.filter((l) => places.length === 0 || places.includes(l.place));
    const sum = (is: TankLoad["is"]): number =>
      on.reduce((kg, l) => kg + (l.is === is ? l.fullKg : 0), 0);
    const fullKg = sum("heater") + Math.max(sum("fresh"), sum("waste"));
    return { name, fullKg, leftKg, over: fullKg > leftKg };
  });

export interface Days {
  readonly freshM3: number;
  readonly greyM3: number;
  readonly blackM3: number;
  /** How many days each lasts; none where there is no such tank. */
  readonly fresh: number | null;
  readonly grey: number | null;
  readonly black: number | null;
  /** Waste tanks that cannot take what the next fresh fill sends them. */
  readonly cannotTakeAFill: readonly string[];
}

const over = (volume: number, daily: number): number | null =>
  volume > 0 && daily > 0 ? volume / daily : null;

export const daysOf = (network: Network, habits: Habits): Days => {
  const tanks = network.map.parts.filter((p) => roleOf(p).vessel !== undefined);
  const holding = (holds: string): Part[] =>
    tanks.filter((p) => roleOf(p).vessel === "waste" && paramsOf(p)["holds"] === holds);
  const sum = (parts: readonly Part[]): number =>
    parts.reduce((v, p) => v + volumeM3(network, p), 0);
  const freshM3 = sum(tanks.filter((p) => roleOf(p).vessel === "fresh"));
  const blacks = holding("black");
  const greys = tanks.filter((p) => roleOf(p).vessel === "waste" && !blacks.includes(p));
  const [greyM3, blackM3] = [sum(greys), sum(blacks)];
  const { people, showers, flushes, showerM3, flushM3, otherM3 } = habits;
  const [grey, black] = [people * (showers * showerM3 + otherM3), people * flushes * flushM3];
  const all = grey + black;
  // Of a tankful, each kind of waste gets its share by habit.
  const short = (parts: readonly Part[], volume: number, share: number): string[] =>
    volume > 0 && freshM3 * share > volume ? parts.map((p) => p.name) : [];
  return {
    freshM3,
    greyM3,
    blackM3,
    fresh: over(freshM3, all),
    grey: over(greyM3, grey),
    black: over(blackM3, black),
    cannotTakeAFill: [...short(greys, greyM3, grey / all), ...short(blacks, blackM3, black / all)],
  };
};
