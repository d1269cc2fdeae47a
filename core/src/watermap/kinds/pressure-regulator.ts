import type { PartKind } from "../kind.ts";
import { body, num, numberParam, port } from "./imports.ts";

export const pressureRegulator: PartKind = {
  kind: "pressure-regulator",
  label: "Pressure regulator",
  about:
    "Limits the pressure of a pressurised supply; fixed ones give 40 to 55 psi (common practice, no source).",
  symbol: "regulator",
  group: "conditioning",
  lifeMonths: 60,
  params: { setPa: numberParam("Setting", 310_000, 100_000, 700_000, "Pa") },
  controls: [],
  role: { guard: "regulator" },
  inspect: ["setting-static-and-flowing", "screen-clean"],
  anatomy: (params) => ({
    cells: [body("body", 0.04, { allowedRemainder: 0.4 })],
    ports: [port("in", "body", { regulatesPa: num(params, "setPa") }), port("out", "body")],
    links: [],
    openings: [],
  }),
};
