import { mapFromPattern, PATTERNS } from "../patterns/index.ts";
import type { WaterMap } from "../watermap/index.ts";
import { burdock } from "./burdock.ts";
import { foxglove } from "./foxglove.ts";
import { plover } from "./plover.ts";
import { lookedAt } from "./seen.ts";
import { dipper, sundew } from "./small-boats.ts";
import { teasel } from "./teasel.ts";
import { turnstone } from "./turnstone.ts";
import { yarrow } from "./yarrow.ts";

const fromFamily = (
  id: string,
  answers: Parameters<typeof mapFromPattern>[1],
  head: Parameters<typeof mapFromPattern>[2],
): WaterMap => {
  const pattern = PATTERNS.find((p) => p.id === id);
  if (!pattern) throw new Error(`There is no family ${id}.`);
  return lookedAt(mapFromPattern(pattern, answers, head));
};

/** Pop-top micro camper, family P03: two sources that meet in the tap alone. */
export const wagtail = fromFamily(
  "P03",
  { pumpPlace: "beside the tank" },
  { id: "wagtail", name: "Wagtail", craft: "pop-top micro camper" },
);

/** Horse transporter with living quarters, family P17. */
const haywain = fromFamily(
  "P17",
  { taps: "2", pickup: "yes", bypass: "three valves" },
  { id: "haywain", name: "Haywain", craft: "horse transporter" },
);

/** Maps of the made-up workshop's units. */
export const EXAMPLE_MAPS: readonly WaterMap[] = [
  teasel,
  burdock,
  plover,
  sundew,
  wagtail,
  haywain,
  dipper,
  turnstone,
  foxglove,
  yarrow,
];

export { burdock, dipper, foxglove, plover, sundew, teasel, turnstone, yarrow };
