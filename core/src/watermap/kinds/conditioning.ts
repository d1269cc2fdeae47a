import type { Anatomy, CellSpec, ControlSpec, OpeningSpec, PartKind } from "../kind.ts";
import {
  body,
  cartridge,
  flag,
  litres,
  num,
  numberParam,
  openShut,
  port,
  yesNo,
} from "./imports.ts";

const bypass = (label: string, through: string): ControlSpec => ({
  name: "bypass",
  label,
  role: "selector",
  positions: [
    { name: "filter", label: through },
    { name: "bypass", label: "bypassed" },
  ],
  inUse: "filter",
  stored: "bypass",
});

/** In and out by one vessel, or round it where a lever says so. */
const passedBy = (cell: CellSpec, opening: OpeningSpec, hasLever: boolean): Anatomy => {
  const { name } = cell;
  if (!hasLever)
    return {
      cells: [cell],
      ports: [port("in", name), port("out", name)],
      links: [],
      openings: [opening],
    };
  const through = { control: "bypass", in: ["filter"] };
  return {
    cells: [cell, body("inlet side", 0.02), body("outlet side", 0.02)],
    ports: [port("in", "inlet side"), port("out", "outlet side")],
    links: [
      { from: "inlet side", to: name, heightM: 0, gate: through },
      { from: name, to: "outlet side", heightM: 0, gate: through },
      {
        from: "inlet side",
        to: "outlet side",
        heightM: 0,
        gate: { control: "bypass", in: ["bypass"] },
      },
    ],
    openings: [opening],
  };
};

const bowl = openShut("bowl", "Bowl", "shut", "shut", {
  positions: [
    { name: "open", label: "off" },
    { name: "shut", label: "fitted" },
  ],
});

export const filterHousing: PartKind = {
  kind: "filter-housing",
  label: "Filter housing",
  about:
    "Canister with a cartridge: sediment, carbon, or fine. Keeps about a litre; left wet, cartridge and bowl split. A year is a cartridge's usual life (common practice, no source).",
  symbol: "filter",
  group: "conditioning",
  also: ["canister", "cartridge", "carbon", "sediment", "water filter"],
  lifeMonths: 120,
  params: {
    holds: {
      label: "Cartridge",
      takes: { is: "one of", words: ["sediment", "carbon", "fine", "none"] },
      standard: "sediment",
    },
    volumeL: numberParam("Volume of the bowl", 0.9, 0.1, 5, "L"),
    bypass: yesNo("Bypass lever", false),
  },
  controls: [bowl, bypass("Filter bypass", "through the filter")],
  fitted: (params, control) => control !== "bypass" || flag(params, "bypass"),
  role: {
    takesChlorine: (params) => params["holds"] === "carbon",
    emptied: (params) =>
      params["holds"] === "none"
        ? "Bowl tipped out and wiped, mesh rinsed"
        : "Cartridge out, bowl tipped out and wiped",
  },
  wears: (params) => (params["holds"] === "none" ? [] : [{ item: "cartridge", lifeMonths: 12 }]),
  inspect: ["cartridge-within-its-date", "bowl-not-crazed", "seal-sound-and-greased"],
  anatomy: (params) => {
    const cell = cartridge("bowl", 0, {
      volumeM3: litres(num(params, "volumeL")),
      bottomM: -0.25,
      drainRemainder: 0.9,
      sweepRemainder: 0.7,
    });
    const opening = {
      name: "bowl",
      heightM: -0.25,
      use: "bowl",
      label: "bowl",
      cell: "bowl",
      gate: { control: "main", in: ["open"] },
    } as const;
    return passedBy(cell, opening, flag(params, "bypass"));
  },
};

export const softener: PartKind = {
  kind: "softener",
  label: "Water softener",
  about:
    "Column of resin, recharged with salt. Keeps its water; resin that freezes wet bursts its vessel (common practice, no source).",
  symbol: "filter",
  group: "conditioning",
  also: ["resin", "salt"],
  lifeMonths: 96,
  params: {
    volumeL: numberParam("Volume", 6, 1, 60, "L"),
    bypass: yesNo("Bypass lever", false),
  },
  controls: [
    openShut("bowl", "Couplings", "shut", "shut", {
      positions: [
        { name: "open", label: "undone, tipped out" },
        { name: "shut", label: "fitted" },
      ],
    }),
    bypass("Softener bypass", "through the softener"),
  ],
  fitted: (params, control) => control !== "bypass" || flag(params, "bypass"),
  role: {
    emptied: () => "Couplings undone, column tipped until nothing more runs, couplings back",
  },
  inspect: ["hardness-after-it", "salted-within-its-date", "couplings-dry"],
  anatomy: (params) =>
    passedBy(
      cartridge("column", 0, {
        volumeM3: litres(num(params, "volumeL")),
        drainRemainder: 0.8,
        sweepRemainder: 0.5,
        // Wet resin keeps less than half of its column's room; with the rest empty ice has where to go (common practice, no source).
        tippedRemainder: 0.4,
        allowedRemainder: 0.5,
        bottomM: -0.4,
      }),
      {
        name: "couplings",
        heightM: -0.4,
        use: "bowl",
        label: "couplings",
        cell: "column",
        gate: { control: "main", in: ["open"] },
      },
      flag(params, "bypass"),
    ),
};

export const vacuumBreaker: PartKind = {
  kind: "vacuum-breaker",
  label: "Vacuum breaker",
  about:
    "Lets air in when pressure falls, so that foul water is not drawn back. Must stand above the highest spray head; its float cracks when it freezes wet (common practice, no source).",
  symbol: "breaker",
  group: "conditioning",
  also: ["anti-siphon", "backflow"],
  lifeMonths: 84,
  params: {},
  controls: [],
  role: { guard: "breaker" },
  inspect: ["present-and-dry", "stands-above-the-rim-that-it-guards"],
  anatomy: () => ({
    cells: [cartridge("body", 0.02)],
    // What presses lifts the float off its seat; when it falls, air goes onward by the holes and the seat holds what came before it.
    ports: [port("in", "body", { check: "in", crackPa: 3400 }), port("out", "body")],
    links: [],
    openings: [
      { name: "air", cell: "body", heightM: 0, use: "vent", airOnly: true, label: "air holes" },
    ],
  }),
};
