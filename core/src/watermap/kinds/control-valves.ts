import type { ControlSpec, PartKind, PortSpec } from "../kind.ts";
import { body, num, openShut, port } from "./imports.ts";

const quarterTurn = [
  { name: "open", label: "open", handle: "handle in line" },
  { name: "shut", label: "shut", handle: "handle across" },
];
const gate = { control: "main", in: ["open"] };

export const plugValve: PartKind = {
  kind: "plug-valve",
  label: "Quarter-turn plug valve",
  about:
    "Small plastic stop at an outlet or in a line; its handle in line with the pipe is open. Keeps what is in its plug (common practice, no source).",
  symbol: "valve",
  group: "control",
  also: ["angle stop", "outlet stop", "shut-off"],
  lifeMonths: 120,
  params: {},
  controls: [openShut("valve", "Valve", "open", "open", { positions: quarterTurn })],
  role: {},
  inspect: ["moves-and-holds", "joints-dry"],
  anatomy: () => ({
    cells: [body("plug", 0.006, { allowedRemainder: 0.5 })],
    ports: [port("a", "plug", { gate }), port("b", "plug", { gate })],
    links: [],
    openings: [],
  }),
};

const panelPort = (name: string): PortSpec => port(name, name, { optional: true });

export const diverterPanel: PartKind = {
  kind: "diverter-panel",
  label: "Diverter panel",
  about:
    "Selector behind an outside hatch: supply to the house, supply to the tank, tank to the pump, or jug to the pump. Which position joins what stands on the maker's sheet; here is the usual table (common practice, no source).",
  symbol: "panel",
  group: "control",
  also: ["water panel", "service panel", "selector", "fill valve"],
  lifeMonths: 120,
  params: {},
  controls: [
    {
      name: "main",
      label: "Diverter",
      role: "selector",
      positions: [
        { name: "supply", label: "supply", handle: "handle to supply" },
        { name: "fill", label: "fill tank", handle: "handle to fill" },
        { name: "tank", label: "tank", handle: "handle to tank" },
        { name: "jug", label: "jug", handle: "handle to jug" },
      ],
      inUse: "tank",
      stored: "jug",
    },
  ],
  role: {},
  inspect: ["moves-to-every-mark", "positions-tried-by-flow-not-by-name", "dry-behind-the-hatch"],
  anatomy: () => {
    const join = (from: string, to: string, position: string) => ({
      from,
      to,
      heightM: 0,
      gate: { control: "main", in: [position] },
    });
    const sides = ["supply", "house", "tank", "pump", "jug"];
    return {
      cells: sides.map((side) =>
        body(side, 0.01, { allowedRemainder: 0.5, label: `${side} side` }),
      ),
      ports: sides.map(panelPort),
      links: [
        join("supply", "house", "supply"),
        join("supply", "tank", "fill"),
        join("tank", "pump", "tank"),
        join("jug", "pump", "jug"),
      ],
      openings: [],
    };
  },
};

const MANIFOLD_WAYS = [1, 2, 3, 4, 5, 6, 7, 8];

export const manifold: PartKind = {
  kind: "manifold",
  label: "Manifold with a valve for each outlet",
  about:
    "Bar with a valve for each line that leaves it. Each shut valve keeps water in its ball (common practice, no source).",
  symbol: "manifold",
  group: "control",
  also: ["header", "distributor"],
  params: {
    ways: {
      label: "Ways out",
      takes: { is: "number", least: 2, most: 8, whole: true },
      standard: 6,
    },
  },
  controls: MANIFOLD_WAYS.map<ControlSpec>((n) =>
    openShut("valve", `Way ${n}`, "open", "open", { name: `way${n}`, positions: quarterTurn }),
  ),
  fitted: (params, control) => Number(control.slice(3)) <= num(params, "ways"),
  role: {},
  inspect: ["every-valve-moves-and-holds", "every-way-labelled"],
  anatomy: (params) => {
    const ways = MANIFOLD_WAYS.slice(0, num(params, "ways"));
    return {
      cells: [
        body("bar", 0.15),
        ...ways.map((n) => body(`way${n}`, 0.005, { allowedRemainder: 0.5, label: `way ${n}` })),
      ],
      ports: [
        port("in", "bar"),
        port("in2", "bar", { optional: true }),
        ...ways.map((n) => port(`out${n}`, `way${n}`, { optional: true })),
      ],
      links: ways.map((n) => ({
        from: "bar",
        to: `way${n}`,
        heightM: 0,
        gate: { control: `way${n}`, in: ["open"] },
      })),
      openings: [],
    };
  },
};

export const mixingValve: PartKind = {
  kind: "mixing-valve",
  label: "Mixing (tempering) valve",
  about:
    "Mixes hot and cold to a set temperature. With one side dry it shuts or runs wild (common practice, no source).",
  symbol: "mixer",
  group: "control",
  also: ["tempering", "thermostatic", "anti-scald"],
  lifeMonths: 84,
  params: {
    setC: {
      label: "Setting",
      takes: { is: "number", least: 30, most: 65 },
      standard: 45,
      unit: "°C",
    },
  },
  controls: [],
  role: {},
  inspect: ["temperature-at-the-nearest-tap", "screens-clean"],
  anatomy: () => ({
    cells: [body("body", 0.03, { allowedRemainder: 0.25 })],
    ports: [
      port("hot", "body", { check: "in", crackPa: 1000 }),
      port("cold", "body", { check: "in", crackPa: 1000 }),
      port("mixed", "body"),
    ],
    links: [],
    openings: [],
  }),
};

export const gateValve: PartKind = {
  kind: "gate-valve",
  label: "Waste gate valve",
  about:
    "Blade across a waste pipe, pulled by hand. Keeps a little in its groove (common practice, no source).",
  symbol: "gate",
  group: "waste",
  also: ["dump valve", "blade", "slide valve", "knife gate"],
  lifeMonths: 96,
  params: {},
  controls: [openShut("drain", "Gate", "shut", "shut")],
  role: {},
  inspect: ["moves-freely", "holds-with-water-behind-it"],
  anatomy: () => ({
    cells: [body("groove", 0.02, { inUseFraction: 0, allowedRemainder: 0.9 })],
    ports: [port("in", "groove", { gate }), port("out", "groove")],
    links: [],
    openings: [],
  }),
};

export const motorGateValve: PartKind = {
  ...gateValve,
  kind: "motor-gate-valve",
  label: "Motorised gate valve",
  about:
    "Blade moved by a motor, with a release by hand. Its lamp says what the motor was told, not where the blade is (common practice, no source).",
  symbol: "motor-gate",
  also: ["electric dump valve", "actuator"],
  inspect: ["position-proved-by-eye-not-by-lamp", "manual-release-found-and-free", "fuse-found"],
};
