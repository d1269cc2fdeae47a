import type { PartKind } from "../kind.ts";
import { handle, num, numberParam } from "./imports.ts";
import { showerAnatomy } from "./shower.ts";

export const outsideShower: PartKind = {
  kind: "outside-shower",
  label: "Outside shower",
  about:
    "Mixer with hose behind a flap on deck or outside wall. The outlet most often forgotten, and the one that breaks (common practice, no source).",
  symbol: "shower",
  group: "outlets",
  also: ["deck shower", "spray port"],
  lifeMonths: 72,
  params: { hoseL: numberParam("Volume of hose and head", 0.15, 0.02, 1, "L") },
  controls: [handle("cold", "Cold"), handle("hot", "Hot")],
  role: {},
  inspect: ["both-taps-shut-when-its-head-is-shut", "flap-seals", "no-drip"],
  anatomy: (params) => showerAnatomy(num(params, "hoseL")),
};
