import type { PartKind } from "../kind.ts";
import { body, openShut, port } from "./imports.ts";

export const lowPointDrain: PartKind = {
  kind: "low-point-drain",
  label: "Low-point drain",
  about:
    "Cap, lever or stem at a low place. Low is a name, not a height: the height is what counts.",
  symbol: "drain",
  group: "drains",
  also: ["cold drain", "hot drain", "petcock"],
  params: {},
  controls: [openShut("drain", "Drain", "shut", "shut")],
  role: {},
  inspect: ["opens-and-seals", "not-blocked"],
  anatomy: () => ({
    cells: [body("stub", 0.01, { allowedRemainder: 0.5 })],
    ports: [port("in", "stub")],
    links: [],
    openings: [
      {
        name: "out",
        cell: "stub",
        heightM: -0.02,
        use: "low-point",
        label: "drain",
        gate: { control: "main", in: ["open"] },
      },
    ],
  }),
};
