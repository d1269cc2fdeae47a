import type { PartKind } from "../kind.ts";
import { body, openShut, port } from "./imports.ts";

export const tankDrain: PartKind = {
  kind: "tank-drain",
  label: "Tank drain",
  about: "Valve or cap on the lowest point of a tank, through the floor or to the bilge.",
  symbol: "drain",
  group: "drains",
  params: {},
  controls: [openShut("drain", "Tank drain", "shut", "open")],
  role: {},
  inspect: ["opens-and-seals", "not-blocked"],
  anatomy: () => ({
    cells: [body("stub", 0.02, { allowedRemainder: 0.5 })],
    ports: [port("in", "stub")],
    links: [],
    openings: [
      {
        name: "out",
        cell: "stub",
        heightM: -0.02,
        use: "low-point",
        label: "tank drain",
        gate: { control: "main", in: ["open"] },
      },
    ],
  }),
};
