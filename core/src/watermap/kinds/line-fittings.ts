import type { PartKind } from "../kind.ts";
import { body, port } from "./imports.ts";

const inLine = (
  kind: string,
  label: string,
  symbol: string,
  about: string,
  more: Partial<PartKind> = {},
): PartKind => ({
  kind,
  label,
  about,
  symbol,
  group: "line",
  params: {},
  controls: [],
  role: { joint: true },
  inspect: ["dry"],
  anatomy: () => ({
    cells: [body("body", 0.004)],
    ports: [port("a", "body"), port("b", "body")],
    links: [],
    openings: [],
  }),
  ...more,
});

export const elbow: PartKind = inLine(
  "elbow",
  "Elbow",
  "elbow",
  "Turns a pipe. Counted where pipe is bought; it costs a little pressure.",
  {
    also: ["bend"],
  },
);

export const coupling: PartKind = inLine(
  "coupling",
  "Coupling or union",
  "coupling",
  "Two lengths joined so that they can be undone by hand or spanner; old ones seal on a rubber washer and want hand tightness (common practice, no source).",
  {
    role: {},
    also: ["union", "joint", "connector"],
    inspect: ["dry", "washer-present", "hand-tight-on-a-clean-seat"],
  },
);

export const adapter: PartKind = inLine(
  "adapter",
  "Adapter between pipe systems",
  "coupling",
  "Joins pipes that do not mate by themselves: half-inch tube to 15 mm, tube to hose, tapered to parallel thread.",
  {
    role: { joint: true, adapts: true },
    also: ["transition", "reducer", "barb", "hose tail"],
    inspect: ["dry", "right-for-both-pipes"],
  },
);

export const bulkhead: PartKind = inLine(
  "bulkhead",
  "Bulkhead fitting",
  "coupling",
  "Carries a pipe through a wall, floor or tank side, with a nut and a washer on each side.",
  {
    also: ["through-wall", "tank fitting"],
    inspect: ["dry-both-sides", "nut-tight", "edge-guarded"],
  },
);

export const endPlug: PartKind = {
  ...inLine(
    "end-plug",
    "Plug at the end of a line",
    "plug",
    "Closes a line that goes no farther. What stands behind it is a dead leg.",
  ),
  role: {},
  also: ["cap", "blank", "stop end"],
  inspect: ["dry", "still-needed"],
  anatomy: () => ({
    cells: [body("body", 0.003)],
    ports: [port("in", "body")],
    links: [],
    openings: [],
  }),
};

export const unknownPart: PartKind = {
  kind: "unknown-part",
  label: "Not known yet",
  about:
    "Something that is there, or may be there, and has not been seen. What depends on it cannot be told until it is answered; it holds water in the meantime.",
  symbol: "unknown",
  group: "line",
  also: ["?", "unknown", "mystery"],
  params: {
    note: {
      label: "What is to be found out",
      takes: { is: "words", least: 0, most: 200 },
      standard: "",
    },
  },
  controls: [],
  role: { mystery: true },
  inspect: ["look-behind-it-and-say-what-it-is"],
  anatomy: () => ({
    cells: [body("inside", 0.02)],
    ports: ["a", "b", "c", "d"].map((name) => port(name, "inside", { optional: true })),
    links: [],
    openings: [],
  }),
};
