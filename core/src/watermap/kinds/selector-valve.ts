import type { PartKind } from "../kind.ts";
import { body, port } from "./imports.ts";

export const selectorValve: PartKind = {
  kind: "selector-valve",
  label: "Three-way valve",
  about:
    "Joins its common port to a or to b; the other port is shut. What a and b are called stands in the parameters.",
  symbol: "selector",
  group: "control",
  also: ["diverter", "two-way", "selector"],
  params: {
    a: {
      label: "Position a joins common to",
      takes: { is: "words", least: 1, most: 30 },
      standard: "a",
    },
    b: {
      label: "Position b joins common to",
      takes: { is: "words", least: 1, most: 30 },
      standard: "b",
    },
  },
  controls: [
    {
      name: "main",
      label: "Three-way valve",
      role: "selector",
      positions: [
        { name: "a", label: "a", handle: "handle to a" },
        { name: "b", label: "b", handle: "handle to b" },
      ],
      inUse: "a",
      stored: "b",
    },
  ],
  role: {},
  inspect: ["moves-and-holds", "positions-marked"],
  anatomy: () => ({
    cells: [body("body", 0.02, { allowedRemainder: 0.5 })],
    ports: [
      port("common", "body"),
      port("a", "body", { gate: { control: "main", in: ["a"] } }),
      port("b", "body", { gate: { control: "main", in: ["b"] } }),
    ],
    links: [],
    openings: [],
  }),
};
