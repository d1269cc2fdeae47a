import type { PartKind } from "../kind.ts";
import { cartridge, num, numberParam, port } from "./imports.ts";

export const diaphragmPump: PartKind = {
  kind: "diaphragm-pump",
  label: "Diaphragm pump",
  about:
    "12 V pump with its own check and pressure switch. Its valves hold back a gravity drain. Open flow 2.5 to 5 US gal a minute, cut-out 40 to 60 psi (generic, not checked against a publication).",
  symbol: "pump",
  group: "movers",
  also: ["12 V", "water pump"],
  lifeMonths: 96,
  params: {
    cutOutPa: numberParam("Cut-out", 276_000, 100_000, 700_000, "Pa"),
    flowM3PerS: numberParam("Open flow", 0.00019, 0.00002, 0.001, "m³/s"),
  },
  controls: [
    {
      name: "main",
      label: "Pump switch",
      role: "switch",
      positions: [
        { name: "on", label: "on" },
        { name: "off", label: "off" },
      ],
      inUse: "on",
      stored: "off",
    },
  ],
  role: { pump: true },
  inspect: ["stops-when-every-tap-is-shut", "mounts-firm", "polarity-right-by-meter"],
  anatomy: (params) => ({
    cells: [cartridge("head", 0.06, { drainRemainder: 0.9, sweepRemainder: 0.35 })],
    // Generic: valves in the head open at about 2 psi; from memory, no publication checked.
    ports: [
      port("in", "head", {
        check: "in",
        crackPa: 14_000,
        drives: {
          control: "main",
          shutOffPa: num(params, "cutOutPa"),
          mostM3PerS: num(params, "flowM3PerS"),
        },
      }),
      port("out", "head"),
    ],
    links: [],
    openings: [],
  }),
};
