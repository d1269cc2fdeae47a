import type { PartKind } from "../kind.ts";
import { cartridge, openShut, port, spout } from "./imports.ts";

export const toilet: PartKind = {
  kind: "toilet",
  label: "Fresh-water toilet",
  about:
    "Flush valve on the cold side, a bowl that keeps a little water on its seal, a waste below.",
  symbol: "toilet",
  group: "outlets",
  also: ["head"],
  lifeMonths: 96,
  params: {},
  controls: [openShut("outlet", "Flush", "shut", "shut", { name: "flush" })],
  role: { flushes: true },
  inspect: ["seal-holds-water", "flush-valve-shuts", "breaker-dry"],
  anatomy: () => ({
    cells: [
      cartridge("valve", 0.03, { label: "flush valve" }),
      {
        name: "bowl",
        form: "trap",
        volumeM3: 0.0004,
        bottomM: -0.1,
        topM: -0.05,
        drainRemainder: 1,
        sweepRemainder: 1,
        frostBasis: "burst",
        label: "bowl",
        inUseFraction: 1,
      },
    ],
    ports: [port("water", "valve"), port("waste", "bowl", { heightM: -0.1, optional: true })],
    links: [],
    openings: [
      spout("flush", "valve", 0.05, "flush", {
        gate: { control: "flush", in: ["open"] },
        fallsTo: { cell: "bowl" },
      }),
      { name: "rim", cell: "bowl", heightM: 0, use: "vent", label: "bowl rim" },
    ],
  }),
};
