import type { PartKind } from "../kind.ts";
import { body, openShut, port } from "./imports.ts";

export const drainPlug: PartKind = {
  kind: "drain-plug",
  label: "Drain plug",
  about:
    "Plug or cap in a line or sump, taken out by hand or spanner. Half a dozen left in a drawer is spring's flood (common practice, no source).",
  symbol: "drain",
  group: "drains",
  also: ["cap", "bung"],
  params: {},
  controls: [openShut("drain", "Plug", "shut", "shut")],
  role: {},
  inspect: ["threads-clean", "washer-present"],
  anatomy: () => ({
    cells: [body("stub", 0.005, { allowedRemainder: 0.5 })],
    ports: [port("in", "stub")],
    links: [],
    openings: [
      {
        name: "out",
        cell: "stub",
        heightM: -0.01,
        use: "low-point",
        label: "plug",
        gate: { control: "main", in: ["open"] },
      },
    ],
  }),
};

export const wasteVent: PartKind = {
  kind: "waste-vent",
  label: "Vent",
  about:
    "Pipe from a tank to the outside air. Blocked, the tank neither fills nor empties (common practice, no source).",
  symbol: "vent",
  group: "waste",
  also: ["tank vent", "breather", "overflow"],
  params: {},
  controls: [],
  role: { guard: "vent" },
  inspect: ["clear", "insect-screen-whole"],
  anatomy: () => ({
    cells: [body("pipe", 0.05, { inUseFraction: 0 })],
    ports: [port("in", "pipe")],
    links: [],
    openings: [{ name: "air", cell: "pipe", heightM: 0.3, use: "vent", label: "vent" }],
  }),
};

export const ventFilter: PartKind = {
  kind: "vent-filter",
  label: "Vent filter",
  about:
    "Carbon cartridge in a tank's vent against smell. Wetted, it is done for; a year is usual (common practice, no source).",
  symbol: "filter",
  group: "waste",
  also: ["odour filter"],
  lifeMonths: 12,
  params: {},
  controls: [],
  role: {},
  inspect: ["dry", "within-its-date"],
  anatomy: () => ({
    cells: [body("carbon", 0.3, { inUseFraction: 0, allowedRemainder: 0.6 })],
    ports: [port("in", "carbon"), port("out", "carbon")],
    links: [],
    openings: [],
  }),
};

export const pumpOutFitting: PartKind = {
  kind: "pump-out-fitting",
  label: "Pump-out fitting",
  about:
    "Deck plate with a cap, through which a shore pump empties a holding tank (common practice, no source).",
  symbol: "drain",
  group: "waste",
  also: ["deck plate", "deck pump-out"],
  params: {},
  controls: [openShut("drain", "Pump-out cap", "shut", "shut")],
  role: {},
  inspect: ["cap-and-seal-present", "marked-waste"],
  anatomy: () => ({
    cells: [body("fitting", 0.1, { inUseFraction: 0 })],
    ports: [port("in", "fitting")],
    links: [],
    openings: [
      {
        name: "out",
        cell: "fitting",
        heightM: 0,
        use: "dump",
        label: "pump-out",
        gate: { control: "main", in: ["open"] },
      },
    ],
  }),
};

export const wasteOutlet: PartKind = {
  kind: "waste-outlet",
  label: "Waste outlet with cap",
  about:
    "Where the sanitation hose goes on. The cap holds back what a leaking gate lets by (common practice, no source).",
  symbol: "drain",
  group: "waste",
  also: ["sewer outlet", "dump outlet", "termination"],
  params: {},
  controls: [openShut("drain", "Outlet cap", "shut", "shut")],
  role: {},
  inspect: ["cap-present", "nothing-behind-it", "lugs-whole"],
  anatomy: () => ({
    cells: [body("outlet", 0.15, { inUseFraction: 0 })],
    ports: [port("in", "outlet")],
    links: [],
    openings: [
      {
        name: "out",
        cell: "outlet",
        heightM: 0,
        use: "dump",
        label: "waste outlet",
        gate: { control: "main", in: ["open"] },
      },
    ],
  }),
};
