import { PSI_PA } from "../quantity/index.ts";
import {
  liveOpenings,
  type Network,
  passableLinks,
  reach,
  type Situation,
  weakestOf,
  withChecks,
} from "../watermap/index.ts";
import { openingNamed } from "./names.ts";
import type { SimAction } from "./act.ts";
import type { SimState } from "./state.ts";

/** How much air a unit may be given. Air stores thousands of times what water does at the same pressure. */

/** Air above this is never let in, Pa: the top of what a supply's regulator gives (common practice, no source). */
const MOST_AIR_PA = 60 * PSI_PA;
/** The house's own ceiling, Pa (common practice, no source). */
const HOUSE_AIR_PA = 50 * PSI_PA;
// The pipe that bears least is asked for no more than half of its rating (common practice, no source).
const SHARE_OF_WEAKEST = 0.5;

export type AirVerdict =
  | { readonly verdict: "usual" }
  /** More than is usual: to be said before, and done only on purpose. */
  | { readonly verdict: "high" | "refused"; readonly why: string };

const said = (pa: number): string => `{pa:${Math.round(pa)}}`;

/** What air at a pressure would press, from a cell on: past checks their own way, not beyond a tank that breathes. */
export const weakestPressed = (
  situation: Situation,
  cell: number,
): ReturnType<typeof weakestOf> => {
  const { network } = situation;
  const onward = withChecks(network, passableLinks(situation));
  const breathes = new Set(
    liveOpenings(situation).flatMap((o) => (o.use === "vent" ? [o.cell] : [])),
  );
  const pressed = reach(
    network,
    [cell],
    (link, from, to) => !breathes.has(from) && onward(link, from, to),
  );
  return weakestOf(
    network,
    (runId) => pressed[network.cells.findIndex((c) => c.run?.id === runId)] === 1,
  );
};

/** Whether the air that an action lets in is too much for the house or for the weakest pipe that it would press. */
export const airVerdict = (
  network: Network,
  { lineup, apart }: Pick<SimState, "lineup" | "apart">,
  { at, regulatorPa }: Pick<Extract<SimAction, { do: "blow" }>, "at" | "regulatorPa">,
): AirVerdict => {
  if (regulatorPa > MOST_AIR_PA)
    return {
      verdict: "refused",
      why: `${said(regulatorPa)} of air is more than any unit is given: ${said(MOST_AIR_PA)} at the very most`,
    };
  const situation: Situation = { network, lineup, apart };
  const entry = openingNamed(network, situation, at);
  const weakest = entry.ok ? weakestPressed(situation, entry.value.cell) : weakestOf(network);
  if (regulatorPa > weakest.pa)
    return {
      verdict: "refused",
      why: `${said(regulatorPa)} of air is more than ${weakest.name} bears: ${said(weakest.pa)}`,
    };
  if (regulatorPa > HOUSE_AIR_PA)
    return {
      verdict: "high",
      why: `${said(regulatorPa)} of air is above the house's ceiling of ${said(HOUSE_AIR_PA)}`,
    };
  if (regulatorPa > SHARE_OF_WEAKEST * weakest.pa)
    return {
      verdict: "high",
      why: `${said(regulatorPa)} of air is more than half of what ${weakest.name} bears: ${said(weakest.pa)}`,
    };
  return { verdict: "usual" };
};
