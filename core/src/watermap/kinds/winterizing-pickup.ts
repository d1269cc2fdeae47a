import type { PartKind } from "../kind.ts";
import { body, port } from "./imports.ts";

export const winterizingPickup: PartKind = {
  kind: "winterizing-pickup",
  label: "Winterizing pickup",
  about: "Short hose for a jug, on a valve before the pump. Capped when it is not in a jug.",
  symbol: "pickup",
  group: "ways in",
  also: ["jug hose", "antifreeze"],
  params: {},
  controls: [
    {
      name: "main",
      label: "Pickup hose",
      role: "hose",
      positions: [
        { name: "capped", label: "capped" },
        { name: "in jug", label: "in the jug" },
      ],
      inUse: "capped",
      stored: "capped",
    },
  ],
  role: {},
  inspect: ["cap-and-washer-present", "hose-sound"],
  anatomy: () => ({
    cells: [body("hose", 0.12, { inUseFraction: 0, allowedRemainder: 0.5 })],
    ports: [port("out", "hose")],
    links: [],
    openings: [
      {
        name: "mouth",
        cell: "hose",
        heightM: -0.3,
        use: "pickup",
        label: "pickup hose",
        gate: { control: "main", in: ["in jug"] },
      },
    ],
  }),
};
