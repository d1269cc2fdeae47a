import { describe, expect, it } from "vitest";
import { liquidIn, NOTHING, strengthOf, volumeOf } from "../contents/index.ts";
import { PATTERNS, starterMap } from "../patterns/index.ts";
import { modeLineup } from "../survey/index.ts";
import { networkOf } from "../testing/variants.ts";
import {
  cellTold,
  cellAt,
  kindOfPart,
  type Lineup,
  type Network,
  removePart,
} from "../watermap/index.ts";
import {
  simActions,
  type SimActionInput,
  type SimDone,
  simStart,
  type SimState,
  simulate,
} from "./index.ts";

/**
 * What air sweeps, only presses or does not reach, and what antifreeze reaches, in each family of systems met in the field
 * (our own collection of them; common practice, no published source). Joints are left out of the lists.
 */

const family = (id: string): Network => {
  const pattern = PATTERNS.find((p) => p.id === id);
  if (!pattern) throw new Error(`no family ${id}`);
  return networkOf(starterMap(pattern));
};

const done = (
  network: Network,
  state: SimState,
  actions: readonly SimActionInput[],
): readonly SimDone[] => {
  const result = simulate(network, state, simActions.parse(actions));
  if (!result.ok) throw new Error(`${result.action}: ${result.problem}`);
  return result.after;
};

const isTold = (network: Network, cell: number): boolean => {
  const part = network.cells[cell]?.part;
  // Couplings and adapters are joints too.
  return (
    part !== undefined &&
    !kindOfPart(part).role.joint &&
    !["line", "waste"].includes(kindOfPart(part).group)
  );
};
const told = (network: Network, cells: readonly number[]): string =>
  cells
    .filter((c) => isTold(network, c))
    .map((c) => cellTold(network, c).replaceAll(" ", "_"))
    .toSorted()
    .join(" ");
const words = (text: string): string => text.split(/\s+/u).filter(Boolean).toSorted().join(" ");

const everyOutlet = (network: Network): Lineup =>
  Object.fromEntries(
    network.controls.filter((c) => c.spec.role === "outlet").map((c) => [c.key, "open"]),
  );

const inletOf = (network: Network): string => {
  const inlet = network.openings.find((o) => o.use === "supply");
  if (!inlet) throw new Error("no inlet");
  return inlet.id;
};

/** Blown at the inlet with every outlet open. */
const air = (network: Network, lineup: Lineup = {}, at = inletOf(network)) => {
  const state = simStart(network, {
    lineup: { ...modeLineup(network, "blow"), ...everyOutlet(network), ...lineup },
  });
  const [first] = done(network, state, [{ do: "blow", at }]);
  if (!first?.air) throw new Error("no air");
  return { ...first.air, state: first.state };
};

/** Drawn from a jug, one outlet after another. */
const drawn = (network: Network, jug: readonly SimActionInput[], lineup: Lineup = {}): SimState => {
  const state = simStart(network, {
    lineup: { ...modeLineup(network, "draw antifreeze"), ...lineup },
  });
  const outlets = network.controls.filter((c) => c.spec.role === "outlet");
  const all = outlets.flatMap<SimActionInput>((c) => [
    { do: "turn", control: c.key, to: "open" },
    { do: "wait", seconds: 90 },
    { do: "turn", control: c.key, to: "shut" },
  ]);
  return done(network, state, [...jug, ...all]).at(-1)?.state ?? state;
};
const pink = (network: Network, state: SimState): string =>
  told(
    network,
    network.cells.flatMap((_, i) => (strengthOf(liquidIn(state.contents[i])) > 0.02 ? [i] : [])),
  );
const share = (network: Network, state: SimState, id: string): number => {
  const cell = cellAt(network, id);
  return volumeOf(liquidIn(state.contents[cell])) / (network.cells[cell]?.capacityM3 ?? 1);
};
const runsIn = (network: Network, cells: readonly number[]): string[] =>
  cells.flatMap((c) => (network.cells[c]?.run ? [network.cells[c].id] : []));

const KITCHEN = "kitchen:cold kitchen:hot basin:cold basin:hot shower:cold shower:hot shower:hose";

describe("air let in at the pressurised inlet", () => {
  // In each: swept, pressed only, not reached. Where our collection says "not: pump" of a pump whose outlet is joined to the
  // way, the engine says "pressed only", as the collection itself has it for all families: the pump keeps its water either way.
  it.each([
    [
      "P01",
      "inlet heater sink:cold sink:hot shower:cold shower:hot shower:hose toilet:valve",
      "pump vout",
      "tank vd vin",
    ],
    [
      "P02",
      "inlet inlet-check vc heater vh sink:cold sink:hot basin:cold basin:hot shower:cold shower:hot shower:hose outside:cold outside:hot outside:hose ice toilet:valve",
      "pump lc lh",
      "tank vd vt vp vx strainer",
    ],
    ["P03", "supply-box regulator tap:supply", "", "tank pump tap:tank"],
    [
      "P04",
      "inlet panel:supply panel:house sc heater hot-check sh kitchen:cold kitchen:hot bath:cold bath:hot outside:cold outside:hot outside:hose toilet:valve",
      "pump lc lh",
      "panel:tank panel:pump panel:jug tank vd",
    ],
    [
      "P05",
      `inlet inlet-check sel:supply sel:house vc heater:screen heater:tubes heater-check ${KITCHEN} toilet:valve`,
      "pump",
      "sel:tank sel:pump sel:jug tank vd vw vx",
    ],
    [
      "P06",
      `inlet inlet-check sel canister:bowl canister:inlet_side canister:outlet_side heater ${KITCHEN} outside:cold outside:hot outside:hose dishwasher:valve washer:cold washer:hot ice toilet:valve`,
      "pump lc lh",
      "tank vd",
    ],
    [
      "P07",
      `inlet inlet-check sel vc heater vh ${KITCHEN} outside:cold outside:hot outside:hose toilet:valve`,
      "pump lc lh",
      "tank vd jw strainer vx flush breaker",
    ],
    [
      "P08",
      `inlet:screen inlet:stub byp heater heater-check ${KITCHEN} outside:cold outside:hot outside:hose toilet:valve`,
      "pump",
      "tank lt selp",
    ],
    [
      "P09",
      "inlet heater sink:cold sink:hot shower:cold shower:hot shower:hose toilet:valve",
      "pump",
      "tank",
    ],
    [
      "P10",
      "dock regulator dock-filter coupler-check vdock man:bar man:way1 man:way2 man:way3 man:way4 heater-a heater manh:bar manh:way1 manh:way2 manh:way3 galley:cold galley:hot basin-a:cold basin-a:hot shower:cold shower:hot shower:hose",
      "pump",
      "man:way5 tank-a tank-b tank-c tank-d strainer raw-pump head-a:valve head-b:valve seacock-a:fitting seacock-a:ball seacock-b:fitting seacock-b:ball wash wash-pump",
    ],
    [
      "P12",
      `inlet inlet-check sediment fine drinking vc heater vh ${KITCHEN}`,
      "acc pump",
      "tank vx",
    ],
    [
      "P14",
      "post regulator filter v1 inlet-check heater kitchen:cold kitchen:hot shower:cold shower:hot shower:hose outside:cold outside:hot outside:hose",
      "pump",
      "tank",
    ],
    ["P15", `riser regulator inlet-check heater ${KITCHEN} toilet:valve`, "pump", "tank vd"],
  ])("in %s sweeps only the ways to what stands open", (id, swept, pressed, not) => {
    const network = family(id);
    const got = air(network);
    expect(told(network, got.swept)).toBe(words(swept));
    expect(told(network, got.pressedOnly)).toBe(words(pressed));
    expect(told(network, got.notReached)).toBe(words(not));
  });

  it("has no way in where there is no inlet", () => {
    for (const id of ["P11", "P13", "P18"])
      expect(
        family(id).openings.some((o) => o.use === "supply"),
        id,
      ).toBe(false);
  });

  it("goes round a bypassed heater, whose two stubs are then pressed only", () => {
    const network = family("P02");
    const got = air(network, { vc: "shut", vh: "shut", vx: "open" });
    expect(told(network, got.swept)).toContain("vx");
    expect(told(network, got.notReached)).toContain("heater");
    const stubs = runsIn(network, got.pressedOnly).filter((id) => /vc|vh/u.test(id));
    expect(stubs).toHaveLength(2);
  });

  it("sweeps one way alone where only the screen's hole is open, and presses every branch", () => {
    const network = family("P05");
    const shut = Object.fromEntries(Object.keys(everyOutlet(network)).map((key) => [key, "shut"]));
    const got = air(network, { ...shut, "heater:screen": "open" });
    expect(told(network, got.swept)).toBe(
      words("inlet inlet-check sel:supply sel:house vc heater:screen"),
    );
    expect(told(network, got.pressedOnly)).toBe(
      words(`pump heater:tubes heater-check ${KITCHEN.replace("shower:hose", "")} toilet:valve`),
    );
  });

  it("does not empty a vessel that it enters low and leaves high: it bubbles through", () => {
    for (const [id, vessel] of [
      ["P04", "heater"],
      ["P10", "heater-a"],
      ["P10", "heater"],
    ] as const) {
      const network = family(id);
      expect(share(network, air(network).state, vessel), `${id} ${vessel}`).toBeGreaterThan(0.9);
    }
  });

  it("runs a heater out by its plug hole, where that is open", () => {
    const network = family("P08");
    const got = air(network, { "heater:plug": "open" });
    expect(share(network, got.state, "heater")).toBeLessThan(0.1);
  });

  it("enters a tank's flush line by that line's own inlet alone", () => {
    const network = family("P07");
    const got = air(network, {}, "flush:mouth");
    expect(told(network, got.swept)).toBe(words("flush breaker"));
    expect(told(network, got.notReached)).toContain("kitchen:cold");
  });

  it("leaves an accumulator pressed, which gives its water back when the pressure falls", () => {
    const network = family("P12");
    const before = share(network, simStart(network), "acc");
    const { state } = air(network);
    expect(share(network, state, "acc")).toBeLessThan(before / 2);
    // A second blow carries out what it gave back.
    const again = done(network, state, [{ do: "blow", at: inletOf(network) }])[0]?.air;
    expect(again?.outM3).toBeGreaterThan(1e-4);
  });

  it("sweeps a manifold's lines one at a time, and presses the others", () => {
    const network = family("P10");
    const shut = Object.fromEntries(Object.keys(everyOutlet(network)).map((key) => [key, "shut"]));
    const got = air(network, { ...shut, "basin-a:cold": "open" });
    expect(told(network, got.swept)).toContain("basin-a:cold");
    expect(told(network, got.pressedOnly)).toContain("galley:cold");
  });

  it("reaches the house from a coupling undone after the pump, where a boat has no inlet", () => {
    const network = family("P11");
    const run = network.map.runs.find((r) => r.from.part === "pump");
    if (!run) throw new Error("no pipe leaves the pump");
    const state = simStart(network, { lineup: everyOutlet(network) });
    const got = done(network, state, [
      { do: "turn", control: "pump", to: "off" },
      { do: "undo", run: run.id, end: "from" },
      { do: "blow", at: `${run.id}:from:pipe-end` },
    ]).at(-1)?.air;
    expect(told(network, got?.swept ?? [])).toContain("galley:hot");
    expect(told(network, got?.swept ?? [])).toContain("galley:cold");
    expect(told(network, got?.notReached ?? [])).toBe(words("pump strainer tank"));
  });
});

describe("antifreeze drawn by the pump", () => {
  it.each([
    [
      "P02",
      "tank heater inlet inlet-check vc vh vt vd",
      "pump vp vx strainer sink:hot outside:hot",
    ],
    [
      "P07",
      "tank heater sel inlet inlet-check flush breaker vc vh",
      "jw strainer pump vx kitchen:hot outside:hot",
    ],
    ["P08", "tank lt heater inlet:screen inlet:stub", "selp pump byp kitchen:hot outside:hot"],
    [
      "P05",
      "tank vd inlet inlet-check heater:tubes",
      "port vw sel:jug pump vx kitchen:hot shower:hot",
    ],
  ])("in %s begins where its hose joins and goes past the heater", (id, not, reached) => {
    const network = family(id);
    const pickup = network.openings.find(
      (o) => o.use === "pickup" && o.part.kind === "winterizing-pickup",
    );
    const state = drawn(network, [{ do: "jug", at: pickup?.id ?? "", strength: 0.5 }]);
    const got = pink(network, state).split(" ");
    expect(got).toEqual(expect.arrayContaining(reached.split(" ")));
    expect(got.filter((name) => not.split(" ").includes(name))).toEqual([]);
  });

  it("leaves low-point stubs with water until a little is let out of each", () => {
    const network = family("P02");
    const pickup = network.openings.find((o) => o.use === "pickup");
    const state = drawn(network, [{ do: "jug", at: pickup?.id ?? "", strength: 0.5 }]);
    expect(pink(network, state).split(" ")).not.toContain("lc");
    const let1 = done(network, state, [
      { do: "turn", control: "lc", to: "open" },
      { do: "wait", seconds: 10 },
    ]).at(-1)?.state;
    expect(pink(network, let1 ?? state).split(" ")).toContain("lc");
  });

  it("finds no way to the hot side of P04 with the heater's two isolators shut", () => {
    const network = family("P04");
    const pickup = network.openings.find((o) => o.use === "pickup");
    const state = drawn(network, [{ do: "jug", at: pickup?.id ?? "", strength: 0.5 }], {
      sc: "shut",
      sh: "shut",
    });
    const got = pink(network, state).split(" ");
    expect(got).toEqual(expect.arrayContaining(["kitchen:cold", "bath:cold", "outside:cold"]));
    expect(got.filter((name) => /heater|hot-check|kitchen:hot|bath:hot/u.test(name))).toEqual([]);
  });

  it("never gets into the second source's line of P03: one tap, pink, with half the pipe wet", () => {
    const network = family("P03");
    const fed = drawn(network, [{ do: "fill", tank: "tank", volumeM3: 0.02, strength: 0.5 }]);
    const got = pink(network, fed).split(" ");
    expect(got).toContain("tap:tank");
    expect(got).not.toContain("tap:supply");
  });

  it.each([
    ["P01", "coupling-a"],
    ["P06", "coupling-p"],
  ])(
    "in %s comes by a hose in place of the pump's inlet, and keeps out of the tank's line",
    (id, coupling) => {
      const network = family(id);
      const before = network.map.runs.find((r) => r.to.part === coupling);
      if (!before) throw new Error("nothing leads to the coupling");
      const state = drawn(network, [
        { do: "undo", run: before.id, end: "to" },
        { do: "jug", at: `${before.id}:to:open-end`, strength: 0.5 },
      ]);
      const got = pink(network, state).split(" ");
      expect(got).toContain("pump");
      expect(got).toContain(id === "P01" ? "toilet:valve" : "kitchen:cold");
      expect(got).not.toContain("tank");
      expect(got.filter((name) => name.startsWith("inlet"))).toEqual([]);
    },
  );

  it("in P08 stops at the check of the heater's hot outlet; with that gone it runs out at the open plug hole: a free proof", () => {
    const network = family("P08");
    const jug: SimActionInput[] = [
      { do: "turn", control: "heater:plug", to: "open" },
      { do: "wait", seconds: 1200 },
      { do: "jug", at: "pickup", strength: 0.5 },
    ];
    const working = drawn(network, jug, { pump: "on" });
    expect(strengthOf(liquidIn(working.contents[cellAt(network, "heater")]))).toBe(0);
    const without = removePart(network.map, "heater-check");
    if (!without.ok) throw new Error(without.problem);
    const failed = networkOf(without.map);
    const state = simStart(failed, { lineup: modeLineup(failed, "draw antifreeze") });
    const last = done(failed, state, [
      ...jug,
      { do: "turn", control: "kitchen:hot", to: "open" },
      { do: "wait", seconds: 240 },
    ]).at(-1);
    expect(strengthOf(last?.out.get("heater:plug") ?? NOTHING)).toBeGreaterThan(0.1);
  });

  it("in P09 runs out at the inlet, which has no check, unless that is capped", () => {
    const network = family("P09");
    const fed: SimActionInput[] = [
      { do: "fill", tank: "tank", volumeM3: 0.02, strength: 0.5 },
      { do: "wait", seconds: 30 },
    ];
    const open = done(network, simStart(network, { lineup: { inlet: "open" } }), fed).at(-1);
    const capped = done(network, simStart(network), fed).at(-1);
    expect(volumeOf(open?.out.get("inlet:mouth") ?? NOTHING)).toBeGreaterThan(1e-3);
    expect(capped?.out.has("inlet:mouth")).toBe(false);
  });
});
