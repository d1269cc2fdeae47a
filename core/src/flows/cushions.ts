import { ATMOSPHERE_PA } from "../quantity/index.ts";
import type { Contents, CushionRest } from "../contents/index.ts";
import type { Situation } from "../watermap/index.ts";
import { liveFlows, livePressures } from "./live-flows.ts";
import type { FlowSettings } from "./flow-settings.ts";

/** Water behind a bladder when its air stands at a pressure, m3; Boyle, at one temperature. */
const waterAt = (volumeM3: number, prechargePa: number, pa: number): number =>
  volumeM3 * Math.max(0, 1 - (prechargePa + ATMOSPHERE_PA) / (pa + ATMOSPHERE_PA));

/**
 * What each accumulator holds once it neither takes nor gives while everything else flows as it stands, and how much is pumped until it is
 * two thirds of the way there: the rest falls off as the flow into it does, in proportion (first order about the rest).
 */
export const cushionsAtRest = (
  situation: Situation,
  contents: Contents,
  settings: FlowSettings,
): ReadonlyMap<number, CushionRest> => {
  const { cells, links } = situation.network;
  const cushions = cells.flatMap((c, i) => (c.prechargePa === undefined ? [] : [i]));
  if (cushions.length === 0) return new Map();
  const rest = livePressures(situation, contents, { ...settings, dry: true, cushions: false });
  const now = liveFlows(situation, contents, { ...settings, dry: true, cushions: true });
  if (!rest || !now.ok) return new Map();
  const pumpM3PerS = Math.max(
    0,
    ...links.map((l, i) => (l.drivenBy ? Math.abs(now.linkM3PerS[i] ?? 0) : 0)),
  );
  return new Map(
    cushions.flatMap((i) => {
      const { capacityM3 = 0, prechargePa = 0, drainRemainder = 0 } = cells[i] ?? {};
      const pa = rest.get(i);
      if (pa === undefined) return [];
      const restM3 = Math.max(drainRemainder * capacityM3, waterAt(capacityM3, prechargePa, pa));
      const takesM3PerS = now.cushions.get(i) ?? 0;
      return [
        [
          i,
          { restM3, pumpedPerTakenM3: takesM3PerS === 0 ? 0 : Math.abs(pumpM3PerS / takesM3PerS) },
        ] as const,
      ];
    }),
  );
};
