import { MAP_VERSION, type WaterMap } from "../document.ts";
import { slug } from "./names.ts";

/** The map of a unit that nobody has drawn yet: one part that is not known, so that nothing can be told of it. */
export const undrawnMap = (head: { readonly name: string; readonly craft: string }): WaterMap => ({
  format: "upper-shed/water-map",
  version: MAP_VERSION,
  id: slug(head.name),
  name: head.name,
  craft: head.craft,
  places: [],
  parts: [
    {
      id: "not-drawn",
      kind: "unknown-part",
      name: "Water system, not drawn yet",
      heightM: 0.5,
      params: {},
      unknown: { of: "role", ask: "Draw the map: start from a family or from what is seen." },
    },
  ],
  runs: [],
  lineup: {},
  modes: {},
  contents: {},
});
