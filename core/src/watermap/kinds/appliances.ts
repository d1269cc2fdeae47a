import type { CellSpec, ControlSpec, OpeningSpec, PartKind } from "../kind.ts";
import {
  cartridge,
  flag,
  litres,
  num,
  numberParam,
  openShut,
  port,
  spout,
  yesNo,
} from "./imports.ts";

/** Water that stays in a sump until the machine pumps it out; it runs over like a trap. */
const sump = (volumeL: number, label: string): CellSpec => ({
  name: "sump",
  form: "trap",
  volumeM3: litres(volumeL),
  bottomM: -0.1,
  topM: -0.02,
  drainRemainder: 1,
  sweepRemainder: 1,
  frostBasis: "no-ice",
  label,
  inUseFraction: 1,
});

const calls = (name: string, label: string): ControlSpec =>
  openShut("outlet", label, "shut", "shut", { name });

const intoSump = (name: string, cell: string, label: string): OpeningSpec =>
  spout(name, cell, 0.3, label, {
    gate: { control: name, in: ["open"] },
    fallsTo: { cell: "sump" },
  });

const rim: OpeningSpec = { name: "rim", cell: "sump", heightM: 0.3, use: "vent", label: "drum" };

export const iceMaker: PartKind = {
  kind: "ice-maker",
  label: "Ice maker",
  about:
    "Solenoid valve at the end of a small line. The line is forgotten, and the solenoid opens only when the machine calls for water (common practice, no source).",
  symbol: "appliance",
  group: "outlets",
  also: ["fridge", "refrigerator", "cooled dispenser", "solenoid line"],
  lifeMonths: 96,
  params: {},
  controls: [calls("call", "Calls for water")],
  role: { programme: true },
  inspect: ["line-found-and-tagged", "solenoid-clicks", "own-shut-off-works"],
  anatomy: () => ({
    cells: [cartridge("valve", 0.015, { label: "solenoid valve" })],
    ports: [
      port("water", "valve"),
      port("waste", "valve", { optional: true, gate: { control: "call", in: [] } }),
    ],
    links: [],
    openings: [
      spout("call", "valve", 0.1, "ice tray", {
        gate: { control: "call", in: ["open"] },
        fallsTo: { port: "waste" },
      }),
    ],
  }),
};

export const washingMachine: PartKind = {
  kind: "washing-machine",
  label: "Washing machine",
  about:
    "Hot and cold solenoid valves and a sump with a pump-out. Only a programme that opens both sides protects both (common practice, no source).",
  symbol: "appliance",
  group: "outlets",
  also: ["washer", "laundry"],
  lifeMonths: 120,
  params: { sumpL: numberParam("Water left in the sump", 0.8, 0.1, 5, "L") },
  controls: [calls("cold", "Cold fill"), calls("hot", "Hot fill")],
  role: { programme: true },
  inspect: ["hoses-within-their-date", "screens-clean", "pump-out-runs"],
  anatomy: (params) => ({
    cells: [
      cartridge("cold", 0.015, { label: "cold solenoid" }),
      cartridge("hot", 0.015, { label: "hot solenoid" }),
      sump(num(params, "sumpL"), "sump"),
    ],
    ports: [
      port("cold", "cold"),
      port("hot", "hot", { optional: true }),
      port("waste", "sump", { heightM: -0.1, optional: true }),
    ],
    links: [],
    openings: [intoSump("cold", "cold", "cold"), intoSump("hot", "hot", "hot"), rim],
  }),
};

export const dishwasher: PartKind = {
  kind: "dishwasher",
  label: "Dishwasher",
  about:
    "One solenoid valve, a sump and a pump-out with a check in its hose (common practice, no source).",
  symbol: "appliance",
  group: "outlets",
  lifeMonths: 120,
  params: { sumpL: numberParam("Water left in the sump", 0.6, 0.1, 5, "L") },
  controls: [calls("call", "Fill")],
  role: { programme: true },
  inspect: ["hose-within-its-date", "sump-clean", "pump-out-runs"],
  anatomy: (params) => ({
    cells: [
      cartridge("valve", 0.015, { label: "solenoid valve" }),
      sump(num(params, "sumpL"), "sump"),
    ],
    ports: [port("water", "valve"), port("waste", "sump", { heightM: -0.1, optional: true })],
    links: [],
    openings: [intoSump("call", "valve", "fill"), rim],
  }),
};

export const rawToilet: PartKind = {
  kind: "raw-toilet",
  label: "Toilet flushed with raw water",
  about:
    "Bowl with a pump of its own that draws sea, lake or canal water, by hand or with a macerator. Its loop and joker valve keep water (common practice, no source).",
  symbol: "toilet",
  group: "outlets",
  also: ["sea toilet", "marine head", "macerator"],
  lifeMonths: 84,
  params: { macerator: yesNo("Macerator", false) },
  controls: [openShut("outlet", "Flush", "shut", "shut", { name: "flush" })],
  role: { flushes: true },
  inspect: ["joker-valve-not-stiff-with-scale", "loops-vented", "seacocks-shut-when-unattended"],
  anatomy: (params) => ({
    cells: [
      cartridge("valve", 0.05, { label: "flush pump" }),
      { ...sump(flag(params, "macerator") ? 0.8 : 0.5, "bowl"), name: "bowl", frostBasis: "burst" },
    ],
    ports: [port("water", "valve"), port("waste", "bowl", { heightM: -0.1, optional: true })],
    links: [],
    openings: [
      spout("flush", "valve", 0.05, "flush", {
        gate: { control: "flush", in: ["open"] },
        fallsTo: { cell: "bowl" },
      }),
      { name: "rim", cell: "bowl", heightM: 0, use: "vent", label: "bowl rim" },
    ],
  }),
};
