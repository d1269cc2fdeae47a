import { walkRound, type WaterMap } from "@uppershed/core";
import type { looks } from "../schema.ts";
import { demoId } from "./winterizing.ts";

/** Invented walk-rounds of last season: most of it good, something to watch, a place not reached, and a rod that wears. */

type Look = Omit<typeof looks.$inferInsert, "workshopId">;

const DAY_MS = 86_400_000;
// Every so many points one is to be watched, and one was out of reach.
const WATCH_EACH = 11;
const MISSED_EACH = 17;
const ROD = /^Anode/u;
// Days ago, and thickness near the plug, in the middle and at the end, m: the rod before, and the one that was fitted this summer.
const RODS = [
  [762, [0.0172, 0.0169, 0.0171]],
  [398, [0.0141, 0.0133, 0.0139]],
  [33, [0.0182, 0.0179, 0.0181]],
] as const;

export const demoLooks = (map: WaterMap, unitId: string, personId: string, now: Date): Look[] => {
  const ago = (days: number): Date => new Date(now.getTime() - days * DAY_MS);
  const points = walkRound(map).flatMap((stop) => stop.points.filter((p) => !p.unknown));
  return points.flatMap<Look>((point, i) => {
    const base = { unitId, personId, key: point.key, partId: point.partId ?? null, point: point.point };
    if (ROD.test(point.point))
      return RODS.map(([days, readings], n) => ({
        ...base,
        id: demoId(`look ${map.id} ${point.key} ${n}`),
        mark: "watch",
        note: "wiped first",
        readings: [...readings],
        at: ago(days),
      }));
    const mark = i % WATCH_EACH === WATCH_EACH - 1 ? "watch" : i % MISSED_EACH === MISSED_EACH - 1 ? "not reached" : "good";
    return [
      {
        ...base,
        id: demoId(`look ${map.id} ${point.key}`),
        mark,
        note: mark === "watch" ? "look again in spring" : "",
        readings: [],
        at: ago(33),
      },
    ];
  });
};
