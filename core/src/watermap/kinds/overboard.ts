import type { PartKind } from "../kind.ts";
import { body, port } from "./imports.ts";

export const overboard: PartKind = {
  kind: "overboard",
  label: "Overboard discharge",
  about: "Fitting through the hull or wall that lets waste water out, only where that is allowed.",
  symbol: "overboard",
  group: "waste",
  also: ["through-hull", "skin fitting", "discharge"],
  params: {},
  controls: [],
  role: {},
  inspect: ["fitting-and-clip-sound"],
  anatomy: () => ({
    cells: [body("fitting", 0.02, { inUseFraction: 0 })],
    ports: [port("in", "fitting")],
    links: [],
    openings: [{ name: "out", cell: "fitting", heightM: 0, use: "overboard", label: "outside" }],
  }),
};
