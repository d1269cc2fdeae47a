import type { Anatomy, PartKind } from "../kind.ts";
import { body, cartridge, handle, numberParam, num, port, spout, litres } from "./imports.ts";

/** Mixer with a hose and head behind it; inside showers have a waste, outside ones run to the ground. */
export const showerAnatomy = (hoseL: number): Anatomy => ({
  cells: [
    cartridge("cold", 0.02, { label: "cold cartridge" }),
    cartridge("hot", 0.02, { label: "hot cartridge" }),
    // Hung head down, a hose keeps about a tenth; allowed more, it can swell: common practice, no source.
    body("hose", 0, {
      volumeM3: litres(hoseL),
      label: "hose and head",
      allowedRemainder: 0.5,
      lengthwise: true,
      topM: 0.1,
      bottomM: -0.4,
    }),
  ],
  ports: [
    port("cold", "cold"),
    port("hot", "hot"),
    port("waste", "hose", { optional: true, gate: { control: "cold", in: [] } }),
  ],
  links: [
    { from: "cold", to: "hose", heightM: 0.1, gate: { control: "cold", in: ["open"] } },
    { from: "hot", to: "hose", heightM: 0.1, gate: { control: "hot", in: ["open"] } },
  ],
  openings: [spout("head", "hose", -0.4, "head", { fallsTo: { port: "waste" } })],
});

export const shower: PartKind = {
  kind: "shower",
  label: "Shower and hose",
  about:
    "Mixer with a hose and head, over a tray. The hose holds about 70 mL a metre (8 mm bore with fittings; our own estimate).",
  symbol: "shower",
  group: "outlets",
  lifeMonths: 84,
  params: { hoseL: numberParam("Volume of hose and head", 0.12, 0.02, 1, "L") },
  controls: [handle("cold", "Cold"), handle("hot", "Hot")],
  role: {},
  inspect: ["hose-sound", "head-clean", "no-drip"],
  anatomy: (params) => showerAnatomy(num(params, "hoseL")),
};
