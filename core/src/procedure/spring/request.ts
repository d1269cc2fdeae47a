import type { Context, WinterizeRequest } from "../winterize/context.ts";
import { newContext } from "../winterize/context.ts";
import type { WaterSettings } from "../job.ts";

/** What a spring or a sanitizing is planned from. */
export interface WaterRequest extends WinterizeRequest {
  readonly water: WaterSettings;
  /** What was read of each dose so far, the first one first. */
  readonly strips?: readonly Strips[] | undefined;
  /** What the bottle gives by the strip, as a share of what was reckoned. */
  readonly bottleGives?: number | undefined;
}

/** Strips read at the outlet that gets least, mg/L. */
export interface Strips {
  readonly startMgL?: number | undefined;
  readonly endMgL?: number | undefined;
}

/** A plan in the making: no antifreeze is in hand. */
export interface WaterContext extends Context {
  readonly request: WaterRequest;
}

export const waterContext = (request: WaterRequest): WaterContext => {
  const dry = { ...request, product: { ...request.product, strength: 0 } };
  return { ...newContext(dry), request: dry };
};
