import type { PartKind } from "../kind.ts";
import { body, openShut, port } from "./imports.ts";

const gate = { control: "main", in: ["open"] };

export const ballValve: PartKind = {
  kind: "ball-valve",
  label: "Ball valve",
  about:
    "Two-way quarter-turn valve. Shut, it keeps what is in its ball; the handle in line with the pipe is open.",
  symbol: "valve",
  group: "control",
  also: ["shut-off", "isolator", "stop"],
  params: {},
  controls: [
    openShut("valve", "Valve", "open", "open", {
      positions: [
        { name: "open", label: "open", handle: "handle in line" },
        { name: "shut", label: "shut", handle: "handle across" },
      ],
    }),
  ],
  role: {},
  inspect: ["moves-and-holds", "joints-dry"],
  anatomy: () => ({
    cells: [body("ball", 0.008, { allowedRemainder: 0.5 })],
    ports: [port("a", "ball", { gate }), port("b", "ball", { gate })],
    links: [],
    openings: [],
  }),
};
