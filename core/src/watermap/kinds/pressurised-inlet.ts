import type { PartKind } from "../kind.ts";
import { body, flag, openShut, port, yesNo } from "./imports.ts";

export const pressurisedInlet: PartKind = {
  kind: "pressurised-inlet",
  label: "Pressurised supply inlet",
  about:
    "Hose fitting on the outside, fed from shore, dock or campsite, often with a check and a screen in it. The check can be pressed in by hand to let liquid back out (common practice, no source).",
  symbol: "inlet",
  group: "ways in",
  also: ["shore", "city water", "dock", "supply", "hose inlet"],
  lifeMonths: 120,
  params: { builtInCheck: yesNo("Check valve built in", false) },
  controls: [
    openShut("cap", "Inlet cap", "shut", "shut"),
    {
      name: "check",
      label: "Inlet check",
      role: "check",
      positions: [
        { name: "working", label: "working" },
        { name: "pressed in", label: "pressed in" },
      ],
      inUse: "working",
      stored: "working",
    },
  ],
  role: {},
  inspect: ["screen-clean", "cap-present", "nothing-comes-out-with-the-pump-on"],
  anatomy: (params) => {
    const mouth = {
      name: "mouth",
      heightM: 0,
      use: "supply",
      label: "inlet",
      gate: { control: "main", in: ["open"] },
    } as const;
    if (!flag(params, "builtInCheck"))
      return {
        cells: [body("stub", 0.02)],
        ports: [port("out", "stub")],
        links: [],
        openings: [{ ...mouth, cell: "stub" }],
      };
    const open = { control: "check", in: ["pressed in"] };
    return {
      cells: [body("screen", 0.01), body("stub", 0.02, { allowedRemainder: 0.3 })],
      ports: [port("out", "stub")],
      links: [
        { from: "screen", to: "stub", heightM: 0, check: true, crackPa: CHECK_CRACK_PA },
        { from: "stub", to: "screen", heightM: 0, gate: open },
      ],
      openings: [{ ...mouth, cell: "screen" }],
    };
  },
};

// Common practice, no source: a light spring check opens at about half a psi.
const CHECK_CRACK_PA = 3400;
