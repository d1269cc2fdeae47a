import type { PartKind } from "../kind.ts";
import { cartridge, port, spout } from "./imports.ts";
import { openShut } from "./parts.ts";

export const singleTap: PartKind = {
  kind: "single-tap",
  label: "Single tap",
  about: "Tap with one side, hot or cold, with or without a waste under it.",
  symbol: "tap",
  group: "outlets",
  also: ["faucet", "drinking tap"],
  params: {},
  controls: [openShut("outlet", "Tap", "shut", "open")],
  role: {},
  inspect: ["no-drip", "flow"],
  anatomy: () => ({
    cells: [cartridge("body", 0.02)],
    ports: [
      port("in", "body"),
      port("waste", "body", { optional: true, gate: { control: "main", in: [] } }),
    ],
    links: [],
    openings: [
      spout("spout", "body", 0.1, "tap", {
        gate: { control: "main", in: ["open"] },
        fallsTo: { port: "waste" },
      }),
    ],
  }),
};
