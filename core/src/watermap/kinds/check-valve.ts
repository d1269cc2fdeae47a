import type { PartKind } from "../kind.ts";
import { body, port } from "./imports.ts";

export const checkValve: PartKind = {
  kind: "check-valve",
  label: "Check valve",
  about:
    "Spring check in the line; passes from in to out. Opens at about half a psi (common practice, no source).",
  symbol: "check",
  group: "conditioning",
  also: ["non-return", "one-way"],
  params: {},
  controls: [],
  role: { guard: "check" },
  inspect: ["holds-back-when-the-other-side-is-pressed"],
  anatomy: () => ({
    cells: [body("body", 0.015, { allowedRemainder: 0.4 })],
    ports: [port("in", "body"), port("out", "body", { check: "out", crackPa: 3400 })],
    links: [],
    openings: [],
  }),
};
