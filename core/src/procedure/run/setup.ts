import { HOUSE_SETTINGS } from "../house-settings.ts";
import type { RunSetup } from "./events.ts";

/** The setup of a run where nobody has said otherwise. */
export const standardSetup = (winterLowC: number = HOUSE_SETTINGS.winterLowC): RunSetup => ({
  method: "antifreeze",
  ...HOUSE_SETTINGS,
  product: { ...HOUSE_SETTINGS.product },
  winterLowC,
});
