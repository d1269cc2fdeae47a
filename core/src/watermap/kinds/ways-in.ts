import type { PartKind } from "../kind.ts";
import { body, openShut, port, yesNo, flag } from "./imports.ts";

export const tankFlushInlet: PartKind = {
  kind: "tank-flush-inlet",
  label: "Tank-flush inlet",
  about:
    "Hose fitting that rinses the black tank through a spray head. A way in of its own; its vacuum breaker hides inside a wall, and line and breaker stay wet unless they are blown or filled on their own (common practice, no source).",
  symbol: "inlet",
  group: "ways in",
  also: ["black flush", "rinse", "no-fuss flush", "sprayer"],
  lifeMonths: 120,
  params: {},
  controls: [openShut("cap", "Flush inlet cap", "shut", "shut")],
  role: {},
  inspect: ["cap-present", "vacuum-breaker-found-and-dry", "used-with-the-dump-valve-watched"],
  anatomy: () => ({
    cells: [body("stub", 0.02)],
    ports: [port("out", "stub")],
    links: [],
    openings: [
      {
        name: "mouth",
        cell: "stub",
        heightM: 0,
        use: "flush",
        label: "flush inlet",
        gate: { control: "main", in: ["open"] },
      },
    ],
  }),
};

export const rawIntake: PartKind = {
  kind: "raw-intake",
  label: "Raw-water intake with seacock",
  about:
    "Fitting through the hull below the waterline with its valve. Shut, it keeps water round its ball; left to itself it seizes (common practice, no source).",
  symbol: "seacock",
  group: "ways in",
  also: ["seacock", "sea", "lake", "canal water", "through-hull", "intake"],
  lifeMonths: 120,
  params: { rodOutCap: yesNo("Rod-out cap above the valve", false) },
  controls: [
    openShut("valve", "Seacock", "open", "shut", {
      positions: [
        { name: "open", label: "open", handle: "handle in line" },
        { name: "shut", label: "shut", handle: "handle across" },
      ],
    }),
    openShut("cap", "Rod-out cap", "shut", "shut", { name: "cap" }),
  ],
  fitted: (params, control) => control !== "cap" || flag(params, "rodOutCap"),
  role: {},
  inspect: [
    "moves-through-its-whole-turn",
    "hose-double-clipped",
    "no-green-or-pink-metal",
    "grating-clear",
  ],
  anatomy: (params) => ({
    // Outside its ball it is open to the water it stands in: ice there has room, and afloat there is none.
    cells: [
      body("fitting", 0.02, { allowedRemainder: 1 }),
      body("ball", 0.02, { allowedRemainder: 0.5 }),
    ],
    ports: [port("out", "ball", { heightM: 0.1 })],
    links: [{ from: "fitting", to: "ball", heightM: 0, gate: { control: "main", in: ["open"] } }],
    openings: [
      { name: "sea", cell: "fitting", heightM: 0, use: "raw", label: "raw water" },
      ...(flag(params, "rodOutCap")
        ? [
            {
              name: "cap",
              cell: "ball",
              heightM: 0.15,
              use: "pickup" as const,
              label: "rod-out cap",
              gate: { control: "cap", in: ["open"] },
            },
          ]
        : []),
    ],
  }),
};

export const supplyPost: PartKind = {
  kind: "supply-post",
  label: "Supply post or riser",
  about:
    "Tap on shore, dock or campsite, drawn where the chain outside matters: what stands before the regulator bears the site's pressure, and bare metal freezes first (common practice, no source).",
  symbol: "inlet",
  group: "ways in",
  also: ["hydrant", "campsite tap", "riser", "dock tap"],
  params: { heatCable: yesNo("Heat cable under foam", false) },
  controls: [openShut("cap", "Post tap", "shut", "shut")],
  role: { ashore: true },
  inspect: ["static-and-flowing-pressure-read", "tap-shuts", "foam-and-cable-whole-where-fitted"],
  anatomy: () => ({
    cells: [body("riser", 0.1)],
    ports: [port("out", "riser")],
    links: [],
    openings: [
      {
        name: "main",
        cell: "riser",
        heightM: 0,
        use: "supply",
        label: "site supply",
        pressed: true,
        gate: { control: "main", in: ["open"] },
      },
    ],
  }),
};
