import type { PartKind } from "../kind.ts";
import { cartridge, litres, num, numberParam, port } from "./imports.ts";

// A hand or foot pump worked steadily: 6 L/min free, 1 bar (our own estimate).
const WORKED_BY_HAND = { control: "main", shutOffPa: 100_000, mostM3PerS: 0.1e-3, byHand: true };

export const manualPump: PartKind = {
  kind: "manual-pump",
  label: "Hand or foot pump",
  about:
    "Worked by hand or foot, with valves of its own that hold back a gravity drain. About a quarter litre a stroke (common practice, no source).",
  symbol: "pump",
  group: "movers",
  also: ["foot pump", "galley pump", "lever pump"],
  lifeMonths: 96,
  params: { strokeL: numberParam("Volume of a stroke", 0.25, 0.02, 1, "L") },
  controls: [
    {
      name: "main",
      label: "Pump",
      role: "switch",
      positions: [
        { name: "on", label: "worked" },
        { name: "off", label: "at rest" },
      ],
      inUse: "off",
      stored: "off",
    },
  ],
  role: { pump: true, byHand: true },
  inspect: ["holds-its-prime", "diaphragm-sound", "moves-freely"],
  anatomy: () => ({
    cells: [cartridge("head", 0.15, { drainRemainder: 0.9, sweepRemainder: 0.35 })],
    // Generic: its valves open at about 2 psi, as a diaphragm pump's; from memory, no publication checked.
    ports: [
      port("in", "head", { check: "in", crackPa: 14_000, drives: WORKED_BY_HAND }),
      port("out", "head"),
    ],
    links: [],
    openings: [],
  }),
};

export const accumulator: PartKind = {
  kind: "accumulator",
  label: "Accumulator",
  about:
    "Small vessel with pressed air behind a bladder, precharged a little under the pump's cut-in with the water pressure at zero. It feeds a leak during a test and pushes its water back after a blow-out (common practice, no source).",
  symbol: "accumulator",
  group: "movers",
  also: ["pressure vessel", "surge", "expansion vessel"],
  lifeMonths: 84,
  params: {
    volumeL: numberParam("Volume", 1, 0.2, 50, "L"),
    prechargePa: numberParam("Precharge", 140_000, 20_000, 500_000, "Pa"),
  },
  controls: [],
  role: { cushion: true },
  inspect: ["precharge-with-the-water-pressure-at-zero", "no-water-at-its-air-valve", "mount-firm"],
  anatomy: (params) => ({
    cells: [
      cartridge("water side", 0, {
        volumeM3: litres(num(params, "volumeL")),
        drainRemainder: 0.1,
        sweepRemainder: 0.1,
        // Common practice, no source: at cut-out about four tenths of it is water.
        inUseFraction: 0.4,
      }),
    ],
    ports: [port("in", "water side")],
    links: [],
    openings: [],
  }),
};
