import type { WaterMap } from "../watermap/index.ts";
import { burdock } from "./burdock.ts";
import { plover } from "./plover.ts";
import { teasel } from "./teasel.ts";

/** The demo units' maps, all invented. */
export const EXAMPLE_MAPS: readonly WaterMap[] = [teasel, burdock, plover];
export { burdock, plover, teasel };
