import { agedBleach, chlorineGPerL } from "../../fluid/index.ts";
import type { WaterSettings } from "../job.ts";

type Bottle = WaterSettings["chlorine"]["bottle"];

/** Free chlorine that a bottle gives today, g/L: what its label says less what it has lost since it was opened. */
export const gPerLOf = ({ strength, days = 0 }: Bottle): number =>
  chlorineGPerL(agedBleach(strength, days));
