import type { PartKind } from "../kind.ts";
import { num, litres, numberParam, port } from "./imports.ts";

export const trap: PartKind = {
  kind: "trap",
  label: "Trap",
  about:
    "Water seal under a sink or tray. Holds a cup or two (common practice, no source); splits if it freezes full.",
  symbol: "trap",
  group: "waste",
  also: ["P-trap", "siphon"],
  params: { volumeL: numberParam("Volume", 0.25, 0.05, 2, "L") },
  controls: [],
  role: {},
  inspect: ["joints-dry", "not-dry-inside"],
  anatomy: (params) => ({
    cells: [
      {
        name: "seal",
        form: "trap",
        volumeM3: litres(num(params, "volumeL")),
        bottomM: -0.08,
        topM: 0,
        drainRemainder: 1,
        sweepRemainder: 1,
        frostBasis: "burst",
        inUseFraction: 1,
      },
    ],
    ports: [port("in", "seal"), port("out", "seal")],
    links: [],
    openings: [],
  }),
};
