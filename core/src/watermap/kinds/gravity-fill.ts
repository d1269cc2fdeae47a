import type { PartKind } from "../kind.ts";
import { body, openShut, port } from "./imports.ts";

export const gravityFill: PartKind = {
  kind: "gravity-fill",
  label: "Gravity fill",
  about: "Filler with a cap, above the tank; its hose falls to the tank.",
  symbol: "inlet",
  group: "ways in",
  also: ["filler", "deck fill"],
  params: {},
  controls: [openShut("cap", "Filler cap", "shut", "shut")],
  role: {},
  inspect: ["cap-seals", "hose-marked-for-drinking-water"],
  anatomy: () => ({
    cells: [body("throat", 0.05, { inUseFraction: 0 })],
    ports: [port("out", "throat")],
    links: [],
    openings: [
      {
        name: "mouth",
        cell: "throat",
        heightM: 0,
        use: "fill",
        label: "filler",
        gate: { control: "main", in: ["open"] },
      },
    ],
  }),
};
