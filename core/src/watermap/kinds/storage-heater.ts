import type { PartKind } from "../kind.ts";
import { flag, litres, num, numberParam, openShut, port, yesNo } from "./imports.ts";

export const storageHeater: PartKind = {
  kind: "storage-heater",
  label: "Storage heater",
  about:
    "Closed vessel, cold in low, hot out at the top, relief valve at the top, drain plug at the bottom. About five per cent stays below the plug's lip (common practice, no source).",
  symbol: "heater",
  group: "heat",
  also: ["water heater", "boiler", "calorifier"],
  lifeMonths: 144,
  params: {
    volumeL: numberParam("Volume", 22, 2, 500, "L"),
    depthM: numberParam("Height of the vessel", 0.35, 0.1, 1.5, "m"),
    ratedBar: numberParam("Pressure that its label allows, 0 where not read", 0, 0, 25, "bar"),
    element: yesNo("Mains element", true),
    gas: yesNo("Gas burner", false),
    engineLoop: yesNo("Engine loop", false),
    anode: yesNo("Anode on the plug", false),
    metal: {
      label: "Vessel",
      takes: { is: "one of", words: ["steel", "stainless steel", "aluminium", "not looked at"] },
      standard: "not looked at",
    },
  },
  controls: [
    openShut("plug", "Drain plug", "shut", "open", {
      name: "plug",
      positions: [
        { name: "shut", label: "in and tight" },
        { name: "open", label: "out, left in the housing" },
      ],
    }),
    openShut("relief", "Relief valve", "shut", "shut", {
      name: "relief",
      positions: [
        { name: "shut", label: "shut" },
        { name: "open", label: "lifted" },
      ],
    }),
  ],
  role: {
    vessel: "heater",
    energies: (params) => [
      ...(flag(params, "element") ? ["mains element, off at the breaker"] : []),
      ...(flag(params, "gas") ? ["gas, off at the switch and the cock"] : []),
      ...(flag(params, "engineLoop") ? ["engine loop, engine stopped and cold"] : []),
    ],
  },
  inspect: [
    "plug-threads-clean",
    "relief-valve-lifts-and-seats",
    "anode-thickness-at-three-places",
  ],
  // A rod lasts one to three years (common practice, no source).
  wears: (params) => (flag(params, "anode") ? [{ item: "anode", lifeMonths: 24 }] : []),
  anatomy: (params) => {
    const depthM = num(params, "depthM");
    return {
      cells: [
        {
          name: "vessel",
          form: "vessel",
          volumeM3: litres(num(params, "volumeL")),
          bottomM: 0,
          topM: depthM,
          drainRemainder: 0.05,
          sweepRemainder: 0.05,
          frostBasis: "burst",
          inUseFraction: 1,
        },
      ],
      ports: [
        port("cold", "vessel", { heightM: 0.04 }),
        port("hot", "vessel", { heightM: depthM }),
      ],
      links: [],
      openings: [
        {
          name: "plug",
          cell: "vessel",
          heightM: 0,
          use: "plug",
          label: "drain plug",
          gate: { control: "plug", in: ["open"] },
        },
        {
          name: "relief",
          cell: "vessel",
          heightM: depthM,
          use: "relief",
          label: "relief valve",
          gate: { control: "relief", in: ["open"] },
        },
      ],
    };
  },
};
