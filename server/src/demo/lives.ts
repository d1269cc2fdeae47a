import { DAY_MS } from "@uppershed/core/quantity";
import { CONDITIONS, itemsOf, lifeKey, NO_LIFE, type PartLife } from "@uppershed/core/formats";
import { kindOfPart, paramsOf, type WaterMap } from "@uppershed/core/watermap";
import { createHash } from "node:crypto";
import { ROD_FITTED_DAYS } from "./seasons.ts";

/** What the made-up workshop keeps of its units' parts: invented, the same every time for a day. */

/** A figure from 0 up to a bound, fixed by its name. */
export const figure = (name: string, bound: number): number =>
  createHash("sha256").update(name).digest().readUInt32BE(0) % bound;

const SIZES: Readonly<Record<string, string>> = {
  "storage-heater": "600 W element",
  "diaphragm-pump": "12 V, 11 L/min",
  "filter-housing": "10 in housing",
  strainer: "50 mesh",
};

const daysBefore = (now: Date, days: number): string =>
  new Date(now.getTime() - days * DAY_MS).toISOString().slice(0, 10);

/** Lives of the parts that have one: fitted some time ago, looked at since, most of them good. */
export const demoLives = (map: WaterMap, now: Date): Record<string, PartLife> =>
  Object.fromEntries(
    map.parts.flatMap((part) => {
      const kind = kindOfPart(part);
      const wears = kind.wears?.(paramsOf(part)) ?? [];
      return itemsOf(part).flatMap((item) => {
        const months =
          item === "" ? kind.lifeMonths : wears.find((w) => w.item === item)?.lifeMonths;
        const key = lifeKey(part.id, item);
        const name = `${map.id}/${key}`;
        if (months === undefined || (item !== "anode" && figure(`${name} known`, 10) === 0))
          return [];
        // Rods were renewed in the spring before last: their readings follow from that.
        const age =
          item === "anode"
            ? ROD_FITTED_DAYS
            : Math.round((figure(`${name} age`, 1000) / 1000) * months * 1.15 * 30.4);
        const condition =
          CONDITIONS[[0, 0, 0, 0, 1, 1, 2][figure(`${name} condition`, 7)] ?? 0] ?? "good";
        const life: PartLife = {
          ...NO_LIFE,
          fittedOn: daysBefore(now, age),
          expectedLifeMonths: months,
          condition,
          lookedAt: daysBefore(now, Math.min(age, 20 + figure(`${name} look`, 400))),
          serial:
            item === ""
              ? `${map.id.slice(0, 2).toUpperCase()}-${1000 + figure(`${name} serial`, 9000)}`
              : "",
          size: item === "" ? (SIZES[part.kind] ?? "") : "",
        };
        return [[key, life] as const];
      });
    }),
  );
