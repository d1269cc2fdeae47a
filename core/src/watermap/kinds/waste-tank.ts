import type { PartKind } from "../kind.ts";
import { litres, num, numberParam, openShut, port, yesNo } from "./imports.ts";

export const wasteTank: PartKind = {
  kind: "waste-tank",
  label: "Waste tank",
  about:
    "Grey, black or combined tank with its vent and a dump valve or pump-out. A heel of about three per cent stays (common practice, no source).",
  symbol: "tank",
  group: "waste",
  also: ["grey tank", "black tank", "holding tank"],
  params: {
    volumeL: numberParam("Volume", 80, 5, 3000, "L"),
    depthM: numberParam("Depth", 0.3, 0.05, 2, "m"),
    level: numberParam("Level on arrival, part of full", 0.3, 0, 1, ""),
    holds: {
      label: "Holds",
      takes: { is: "one of", words: ["grey", "black", "grey and black"] },
      standard: "grey",
    },
    empties: {
      label: "Empties",
      takes: { is: "one of", words: ["by its own valve", "by its pipe"] },
      standard: "by its own valve",
    },
    vented: yesNo("Vent", true),
    sender: yesNo("Level sender", false),
  },
  controls: [openShut("drain", "Dump valve or pump-out", "shut", "shut", { name: "dump" })],
  fitted: (params) => params["empties"] !== "by its pipe",
  role: { vessel: "waste" },
  inspect: ["vent-clear", "dump-valve-moves-and-holds"],
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
          drainRemainder: 0.03,
          sweepRemainder: 0.03,
          frostBasis: "burst",
          inUseFraction: num(params, "level"),
        },
      ],
      ports: [
        ...["in", "in2", "in3", "in4"].map((name) =>
          port(name, "tank", { heightM: depthM, optional: true }),
        ),
        port("out", "tank", { heightM: 0, optional: true }),
        port("air", "tank", { heightM: depthM, optional: true }),
      ],
      links: [],
      openings: [
        ...(params["vented"] === false
          ? []
          : [{ name: "vent", cell: "tank", heightM: depthM, use: "vent" as const, label: "vent" }]),
        ...(params["empties"] === "by its pipe"
          ? []
          : [
              {
                name: "dump",
                cell: "tank",
                heightM: 0,
                use: "dump" as const,
                label: "dump valve",
                gate: { control: "dump", in: ["open"] },
              },
            ]),
      ],
    };
  },
};
