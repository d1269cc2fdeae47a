import { PSI_PA } from "../quantity/index.ts";
import { kindOfPart, type Network, num, paramsOf, weakestOf } from "../watermap/index.ts";

/** Whether a supply's pressure is safe for what is on board. Settings in Pa; the bounds are common practice, no source. */

const MOST_PA = 80 * PSI_PA;
const GOOD_PA = [40 * PSI_PA, 60 * PSI_PA] as const;
// Falls below six tenths of its resting pressure while one tap runs: something is in the way.
const FLOWING_SHARE = 0.6;

export interface SupplyVerdict {
  readonly verdict: "unsafe" | "regulate" | "good" | "low";
  readonly why: string;
  /** The pipe that bears least behind the inlet, and how much. */
  readonly weakestPa: number;
  readonly weakest: string;
  readonly restriction: boolean;
}

const said = (pa: number): string => `{pa:${Math.round(pa)}}`;

/**
 * @param staticPa gauge with every tap shut @param flowingPa with one tap open, where it was read
 */
export const supplyVerdict = (
  network: Network,
  staticPa: number,
  flowingPa?: number,
): SupplyVerdict => {
  const { pa: weakestPa, name: weakest } = weakestOf(network);
  const bound = Math.min(MOST_PA, weakestPa);
  const regulator = network.map.parts.find((p) => kindOfPart(p).role.guard === "regulator");
  const setting = regulator
    ? ` Its regulator is set to ${said(num(paramsOf(regulator), "setPa"))}.`
    : " No regulator is on the map.";
  const restriction = flowingPa !== undefined && flowingPa < FLOWING_SHARE * staticPa;
  const slow = restriction
    ? ` Flowing it falls to ${said(flowingPa ?? 0)}, under six tenths: something is in the way.`
    : "";
  const of = (verdict: SupplyVerdict["verdict"], why: string): SupplyVerdict => ({
    verdict,
    why: `${why}${slow}`,
    weakestPa,
    weakest,
    restriction,
  });
  if (staticPa > bound)
    return of(
      "unsafe",
      weakestPa < MOST_PA
        ? `${said(staticPa)} is more than ${weakest} bears, ${said(weakestPa)}.${setting}`
        : `${said(staticPa)} is more than any unit should see, ${said(MOST_PA)}.${setting}`,
    );
  if (staticPa > GOOD_PA[1])
    return of("regulate", `${said(staticPa)} wants a regulator.${setting}`);
  if (staticPa < GOOD_PA[0]) return of("low", `${said(staticPa)} is low.`);
  return of("good", `${said(staticPa)} is good.`);
};
