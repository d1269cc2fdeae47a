import type { PartKind } from "../kind.ts";
import { cartridge, handle, openShut, port, spout } from "./imports.ts";

const single = (kind: string, label: string, about: string, more: Partial<PartKind>): PartKind => ({
  kind,
  label,
  about,
  symbol: "tap",
  group: "outlets",
  lifeMonths: 96,
  params: {},
  controls: [openShut("outlet", "Tap", "shut", "open")],
  role: {},
  inspect: ["no-drip", "flow"],
  anatomy: () => ({
    cells: [cartridge("body", 0.03)],
    ports: [
      port("in", "body"),
      port("waste", "body", { optional: true, gate: { control: "main", in: [] } }),
    ],
    links: [],
    openings: [
      spout("spout", "body", 0.1, "outlet", {
        gate: { control: "main", in: ["open"] },
        fallsTo: { port: "waste" },
      }),
    ],
  }),
  ...more,
});

export const washDown: PartKind = single(
  "wash-down",
  "Wash-down outlet",
  "Hose tap on deck, at the bow or in a horse area, cold, often on raw water. Outside, and forgotten (common practice, no source).",
  {
    also: ["deck wash", "hose tap", "anchor wash"],
    inspect: ["no-drip", "cap-on-its-thread", "own-shut-off-works"],
  },
);

export const spray: PartKind = single(
  "spray",
  "Spray or bidet",
  "Hand spray on a hose with a trigger; under pressure all the time unless its stop is shut (common practice, no source).",
  {
    symbol: "shower",
    also: ["bidet", "hand spray", "toilet spray"],
    inspect: ["trigger-shuts", "hose-sound", "stop-works"],
  },
);

export const twoSourceTap: PartKind = {
  kind: "two-source-tap",
  label: "Tap with two sources",
  about:
    "One spout, a knob that gives it tank water or supply water. The two lines meet here and nowhere else, so winter work is two jobs. A worn cartridge joins them (common practice, no source).",
  symbol: "tap",
  group: "outlets",
  also: ["selector tap", "van tap"],
  lifeMonths: 96,
  params: {},
  controls: [handle("tank", "Knob to tank"), handle("supply", "Knob to supply")],
  role: {},
  inspect: ["does-not-pass-from-one-side-to-the-other", "no-drip", "mid-position-tried"],
  anatomy: () => ({
    cells: [
      cartridge("tank", 0.02, { label: "tank side" }),
      cartridge("supply", 0.02, { label: "supply side" }),
    ],
    ports: [
      port("tank", "tank"),
      port("supply", "supply"),
      port("waste", "tank", { optional: true, gate: { control: "tank", in: [] } }),
    ],
    links: [],
    openings: [
      spout("tank", "tank", 0.1, "tank side", {
        gate: { control: "tank", in: ["open"] },
        fallsTo: { port: "waste" },
      }),
      spout("supply", "supply", 0.1, "supply side", {
        gate: { control: "supply", in: ["open"] },
        fallsTo: { port: "waste" },
      }),
    ],
  }),
};
