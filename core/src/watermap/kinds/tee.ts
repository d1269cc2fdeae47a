import type { PartKind } from "../kind.ts";
import { body, port } from "./imports.ts";

export const tee: PartKind = {
  kind: "tee",
  label: "Tee",
  about: "Joins three lengths of pipe.",
  symbol: "tee",
  group: "line",
  also: ["branch", "T"],
  params: {},
  controls: [],
  role: { joint: true, branch: true },
  inspect: ["dry"],
  anatomy: () => ({
    cells: [body("body", 0.005)],
    ports: [port("a", "body"), port("b", "body"), port("c", "body")],
    links: [],
    openings: [],
  }),
};
