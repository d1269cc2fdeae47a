import type { PartKind } from "../kind.ts";
import { litres, num, numberParam, port, yesNo } from "./imports.ts";

export const freshTank: PartKind = {
  kind: "fresh-tank",
  label: "Fresh-water tank",
  about:
    "Vented tank. The outlet stands a little above the floor, so a heel of about two per cent stays below the drain (common practice, no source).",
  symbol: "tank",
  group: "tanks",
  also: ["drinking water"],
  params: {
    volumeL: numberParam("Volume", 150, 5, 5000, "L"),
    depthM: numberParam("Depth", 0.4, 0.05, 2, "m"),
    level: numberParam("Level in use, part of full", 0.5, 0, 1, ""),
    vented: yesNo("Vent", true),
    sender: yesNo("Level sender", false),
    hatches: {
      label: "Access hatches",
      takes: { is: "number", least: 0, most: 20, whole: true },
      standard: 0,
    },
  },
  controls: [],
  role: { vessel: "fresh" },
  inspect: ["seams-and-fittings-dry", "vent-clear", "strapped-on-a-membrane"],
  anatomy: (params) => {
    const depthM = num(params, "depthM");
    return {
      cells: [
        {
          name: "tank",
          form: "vessel",
          volumeM3: litres(num(params, "volumeL")),
          bottomM: 0,
          topM: depthM,
          drainRemainder: 0.02,
          sweepRemainder: 0.02,
          frostBasis: "burst",
          inUseFraction: num(params, "level"),
        },
      ],
      ports: [
        port("fill", "tank", { heightM: depthM * 0.98, optional: true }),
        port("outlet", "tank", { heightM: 0.02, optional: true }),
        port("outlet2", "tank", { heightM: 0.02, optional: true }),
        port("drain", "tank", { heightM: 0, optional: true }),
        // Tanks linked low drain only down to the link.
        port("link", "tank", { heightM: 0.03, optional: true }),
        port("link2", "tank", { heightM: 0.03, optional: true }),
        port("overflow", "tank", { heightM: depthM * 0.99, optional: true }),
      ],
      links: [],
      openings:
        params["vented"] === false
          ? []
          : [{ name: "vent", cell: "tank", heightM: depthM, use: "vent", label: "vent" }],
    };
  },
};
