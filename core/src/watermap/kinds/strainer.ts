import type { PartKind } from "../kind.ts";
import { cartridge, openShut, port } from "./imports.ts";

export const strainer: PartKind = {
  kind: "strainer",
  label: "Strainer",
  about:
    "Mesh in a clear bowl before the pump. The bowl hangs below its ports and keeps its water until it is taken off.",
  symbol: "strainer",
  group: "conditioning",
  also: ["screen", "mesh"],
  lifeMonths: 120,
  params: {},
  controls: [
    openShut("bowl", "Bowl", "shut", "shut", {
      positions: [
        { name: "open", label: "off" },
        { name: "shut", label: "fitted" },
      ],
    }),
  ],
  role: { guard: "strainer" },
  inspect: ["mesh-clean", "bowl-not-crazed", "seal-sound"],
  wears: () => [{ item: "mesh and seal", lifeMonths: 60 }],
  anatomy: () => ({
    cells: [cartridge("bowl", 0.09, { bottomM: -0.06, drainRemainder: 0.85, sweepRemainder: 0.6 })],
    ports: [port("in", "bowl"), port("out", "bowl")],
    links: [],
    openings: [
      {
        name: "bowl",
        cell: "bowl",
        heightM: -0.06,
        use: "bowl",
        label: "bowl",
        gate: { control: "main", in: ["open"] },
      },
    ],
  }),
};
