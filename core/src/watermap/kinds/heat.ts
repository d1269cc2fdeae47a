import type { PartKind } from "../kind.ts";
import {
  body,
  cartridge,
  flag,
  litres,
  num,
  numberParam,
  openShut,
  port,
  yesNo,
} from "./imports.ts";

export const onDemandHeater: PartKind = {
  kind: "on-demand-heater",
  label: "On-demand heater",
  about:
    "Heats as water passes thin tubes, with a screen at its inlet, a relief lever and a drain lever. A spoonful left in its tubes splits them: it wants emptiness or no-ice strength (common practice, no source).",
  symbol: "heater",
  group: "heat",
  also: ["instant", "tankless", "flow heater"],
  lifeMonths: 120,
  params: {
    volumeL: numberParam("Volume of its tubes", 0.6, 0.1, 5, "L"),
    gas: yesNo("Gas burner", true),
    element: yesNo("Mains element", false),
  },
  controls: [
    openShut("bowl", "Inlet screen", "shut", "shut", {
      name: "screen",
      positions: [
        { name: "open", label: "out" },
        { name: "shut", label: "fitted" },
      ],
    }),
    openShut("drain", "Drain lever", "shut", "open", { name: "drain" }),
    openShut("relief", "Relief lever", "shut", "shut", {
      name: "relief",
      positions: [
        { name: "shut", label: "shut" },
        { name: "open", label: "lifted" },
      ],
    }),
  ],
  role: {
    energies: (params) => [
      ...(flag(params, "element") ? ["mains element, off at the breaker"] : []),
      ...(flag(params, "gas") ? ["gas, off at the switch and the cock"] : []),
    ],
  },
  inspect: ["inlet-screen-clean", "drain-and-relief-levers-move", "flue-clear"],
  anatomy: (params) => ({
    cells: [
      body("screen", 0.03, { label: "inlet screen", allowedRemainder: 0.3 }),
      cartridge("tubes", 0, {
        volumeM3: litres(num(params, "volumeL")),
        label: "heat exchanger",
        // Thin tubes: a spoonful harms (common practice, no source).
        allowedRemainder: 0.08,
        drainRemainder: 0.06,
        sweepRemainder: 0.04,
        topM: 0.25,
      }),
    ],
    ports: [port("cold", "screen"), port("hot", "tubes", { heightM: 0.02 })],
    links: [{ from: "screen", to: "tubes", heightM: 0 }],
    openings: [
      {
        name: "screen",
        cell: "screen",
        heightM: -0.02,
        use: "bowl",
        label: "screen hole",
        gate: { control: "screen", in: ["open"] },
      },
      {
        name: "drain",
        cell: "tubes",
        heightM: -0.02,
        use: "low-point",
        label: "heater drain",
        gate: { control: "drain", in: ["open"] },
      },
      {
        name: "relief",
        cell: "tubes",
        heightM: 0.25,
        use: "relief",
        label: "relief lever",
        gate: { control: "relief", in: ["open"] },
      },
    ],
  }),
};

export const pointOfUseHeater: PartKind = {
  kind: "point-of-use-heater",
  label: "Point-of-use heater, no drain",
  about:
    "Small electric vessel under a sink with no drain at all: emptied by suction through a fitting, by letting air in at the hot side, or by taking it out. The cold side often has a dip tube (common practice, no source).",
  symbol: "heater",
  group: "heat",
  also: ["under-sink heater", "small electric heater"],
  lifeMonths: 120,
  params: {
    volumeL: numberParam("Volume", 10, 1, 40, "L"),
    depthM: numberParam("Height of the vessel", 0.3, 0.1, 0.8, "m"),
    ratedBar: numberParam("Pressure that its label allows, 0 where not read", 0, 0, 25, "bar"),
    element: yesNo("Mains element", true),
  },
  controls: [
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
    energies: (params) => (flag(params, "element") ? ["mains element, off at the breaker"] : []),
  },
  inspect: ["relief-valve-lifts-and-seats", "plug-and-cable-sound", "label-capacity-read"],
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
        port("cold", "vessel", { heightM: 0.02 }),
        port("hot", "vessel", { heightM: depthM }),
      ],
      links: [],
      openings: [
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
