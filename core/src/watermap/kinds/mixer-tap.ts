import type { PartKind } from "../kind.ts";
import { cartridge, handle, port, spout } from "./imports.ts";

export const mixerTap: PartKind = {
  kind: "mixer-tap",
  label: "Mixer tap",
  about: "Hot and cold side with a cartridge each, one spout with an aerator, over a waste.",
  symbol: "tap",
  group: "outlets",
  also: ["faucet", "sink", "basin", "galley"],
  lifeMonths: 120,
  params: {},
  controls: [handle("cold", "Cold"), handle("hot", "Hot")],
  role: {},
  inspect: ["aerator-clean", "no-drip", "flow-hot-and-cold"],
  anatomy: () => ({
    cells: [
      cartridge("cold", 0.02, { label: "cold cartridge" }),
      cartridge("hot", 0.02, { label: "hot cartridge" }),
    ],
    ports: [
      port("cold", "cold"),
      port("hot", "hot"),
      port("waste", "cold", { optional: true, gate: NEVER }),
    ],
    links: [],
    openings: [
      spout("cold", "cold", 0.1, "cold", {
        gate: { control: "cold", in: ["open"] },
        fallsTo: { port: "waste" },
      }),
      spout("hot", "hot", 0.1, "hot", {
        gate: { control: "hot", in: ["open"] },
        fallsTo: { port: "waste" },
      }),
    ],
  }),
};

/** The waste side stands open to air below the spout: water falls there, it is never pushed. */
const NEVER = { control: "cold", in: [] };
