import { PSI_PA } from "../quantity/index.ts";
import { kindOfPart, type Network, num, paramsOf, weakestOf } from "../watermap/index.ts";

/** Whether a supply's pressure is safe for what is on board. Settings in Pa; the bounds are common practice, no source. */

interface SupplyLimits {
  readonly lowPa: number;
  readonly goodPa: number;
  readonly failPa: number;
}
const SUPPLY_LIMITS: SupplyLimits = {
  lowPa: 40 * PSI_PA,
  goodPa: 60 * PSI_PA,
  failPa: 80 * PSI_PA,
};
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
 * @param limits of the house
 */
export const supplyVerdict = (
  network: Network,
  staticPa: number,
  flowingPa?: number,
  limits: SupplyLimits = SUPPLY_LIMITS,
): SupplyVerdict => {
  const { pa: weakestPa, name: weakest } = weakestOf(network);
  const bound = Math.min(limits.failPa, weakestPa);
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
      weakestPa < limits.failPa
        ? `${said(staticPa)} is more than ${weakest} bears, ${said(weakestPa)}.${setting}`
        : `${said(staticPa)} is more than any unit should see, ${said(limits.failPa)}.${setting}`,
    );
  if (staticPa > limits.goodPa)
    return of("regulate", `${said(staticPa)} wants a regulator.${setting}`);
  if (staticPa < limits.lowPa) return of("low", `${said(staticPa)} is low.`);
  return of("good", `${said(staticPa)} is good.`);
};
