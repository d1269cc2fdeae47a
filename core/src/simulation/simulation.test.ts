import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  chlorineOf,
  emptyingTimeS,
  liquidIn,
  NOTHING,
  strengthOf,
  totalAboard,
  volumeOf,
  warmthOf,
} from "../contents/index.ts";
import { EXAMPLE_MAPS, teasel } from "../examples/index.ts";
import { anyMap } from "../testing/random-maps.ts";
import { networkOf, shuffled } from "../testing/variants.ts";
import { cellAt, type Network, readWaterMap, type WaterMap } from "../watermap/index.ts";
import {
  COMMON_SIM_SETTINGS,
  contentsToStart,
  simAction,
  type SimAction,
  simActions,
  simDo,
  simStart,
  simulate,
  type SimState,
  type StartContents,
} from "./index.ts";
import { airThroughHole } from "./blow.ts";

/** One random action, told by numbers so that it means something on any map. */
type RandomAction = readonly [what: number, a: number, b: number, share: number];
const randomAction: fc.Arbitrary<RandomAction> = fc.tuple(
  fc.nat({ max: 15 }),
  fc.nat({ max: 9999 }),
  fc.nat({ max: 9999 }),
  fc.double({ min: 0, max: 1, noNaN: true }),
);

const pick = <T>(list: readonly T[], n: number): T | undefined =>
  list[n % Math.max(1, list.length)];

const actionOf = (network: Network, [what, a, b, share]: RandomAction): SimAction | undefined => {
  const control = pick(network.controls, a);
  const opening = pick(network.openings, a);
  const run = pick(
    network.cells.flatMap((c) => (c.run ? [c.run] : [])),
    a,
  );
  const cell = pick(network.cells, a)?.id ?? "";
  const part = pick(network.cells, a)?.ownerId ?? "";
  const end = b % 2 === 0 ? "from" : "to";
  // Turning is what is done most.
  const turn = control && {
    do: "turn",
    control: control.key,
    to: pick(control.spec.positions, b)?.name ?? "",
  };
  const all: readonly (object | undefined)[] = [
    turn,
    turn,
    turn,
    turn,
    turn,
    { do: "wait", seconds: share * 120 },
    { do: "wait", seconds: share * 40_000 },
    opening && {
      do: "jug",
      at: opening.id,
      strength: share,
      ...(b % 3 === 0 ? { volumeM3: 0.002 * share } : {}),
    },
    opening && { do: "hose", at: opening.id, pa: 100_000 + 300_000 * share },
    run && { do: "undo", run: run.id, end },
    run && { do: "remake", run: run.id, end },
    opening && { do: "blow", at: opening.id },
    b % 2 === 0 ? { do: "suck", from: cell } : { do: "hold", in: cell, share, strength: share / 2 },
    {
      do: b % 2 === 0 ? "fill" : "pour",
      [b % 2 === 0 ? "tank" : "into"]: cell,
      volumeM3: 0.01 * share,
      strength: share,
    },
    { do: "dose", into: cell, chlorineMg: 100 * share },
    b % 2 === 0
      ? { do: "cycle", appliance: part }
      : { do: "heat", heater: part, watts: 2000 * share },
  ];
  const read = simAction.safeParse(all[what]);
  return read.success ? read.data : undefined;
};

const STARTS: readonly StartContents[] = [
  "in use",
  "empty",
  "water everywhere",
  { antifreeze: 0.4 },
];
const SETTINGS = { ...COMMON_SIM_SETTINGS, frames: 0 };

const run = (
  network: Network,
  actions: readonly RandomAction[],
  start: StartContents,
  check: (state: SimState) => void,
): SimState => {
  let state = simStart(network, { contents: contentsToStart(network, start) });
  for (const random of actions) {
    const action = actionOf(network, random);
    const step = action && simDo(network, state, action, SETTINGS);
    if (!step?.ok) continue;
    ({ state } = step.done);
    check(state);
  }
  return state;
};

// A part that has become of another kind may keep a figure that its new kind does not allow: such a map is not read at all.
const maps: fc.Arbitrary<WaterMap> = fc.oneof(
  fc.constantFrom(...EXAMPLE_MAPS),
  anyMap.filter((map) => readWaterMap(map).ok),
);
const lists = fc.array(randomAction, { minLength: 1, maxLength: 14 });

describe("what a unit holds at first", () => {
  const network = networkOf(teasel);
  const at = (id: string): number => cellAt(network, id);
  const held = (start: StartContents, id: string) =>
    liquidIn(contentsToStart(network, start)[at(id)]);
  const capacity = (id: string): number => network.cells[at(id)]?.capacityM3 ?? 0;

  it("is water everywhere, nothing, or antifreeze in the lines with tanks and heaters empty; the waste side stays as it is in use", () => {
    expect(volumeOf(held("water everywhere", "fresh-tank"))).toBe(capacity("fresh-tank"));
    expect(volumeOf(held("empty", "pump"))).toBe(0);
    expect(strengthOf(held({ antifreeze: 0.4 }, "galley:hot"))).toBeCloseTo(0.4, 12);
    for (const id of ["heater", "fresh-tank"])
      expect(volumeOf(held({ antifreeze: 0.4 }, id)), id).toBe(0);
    for (const start of ["water everywhere", "empty", { antifreeze: 0.4 }] as const)
      for (const id of ["grey-tank", "trap-galley"])
        expect(held(start, id), id).toEqual(held("in use", id));
  });

  it("is what a record says of some parts, never more than they hold, and as in use of the others", () => {
    const start = {
      held: { heater: { waterM3: 0.002, glycolM3: 0 }, pump: { waterM3: 1, glycolM3: 1 } },
    };
    expect(volumeOf(held(start, "heater"))).toBe(0.002);
    expect(volumeOf(held(start, "pump"))).toBeCloseTo(capacity("pump"), 12);
    expect(strengthOf(held(start, "pump"))).toBeCloseTo(0.5, 12);
    expect(held(start, "galley:hot")).toEqual(held("in use", "galley:hot"));
  });

  it("can be said of one part or pipe, and the balance stays whole", () => {
    const step = simDo(network, simStart(network), {
      do: "hold",
      in: "heater",
      share: 0.25,
      strength: 0.3,
    });
    if (!step.ok) throw new Error(step.problem);
    const now = liquidIn(step.done.state.contents[at("heater")]);
    expect(volumeOf(now)).toBeCloseTo(0.25 * capacity("heater"), 12);
    expect(strengthOf(now)).toBeCloseTo(0.3, 12);
    expect(volumeOf(step.done.gone)).toBeCloseTo(capacity("heater"), 12);
  });
});

describe("a wait", () => {
  const network = networkOf(teasel);
  const open = simStart(network, { lineup: { "galley:cold": "open" } });

  it("ends when so much has come, when it spits, or when the strength is there", () => {
    const until = (more: object): SimAction =>
      simAction.parse({ do: "wait", seconds: 3600, until: { at: "galley:cold", ...more } });
    const litre = simDo(network, open, until({ volumeM3: 0.001 }));
    expect(litre.ok && litre.done.ended).toBe("seen");
    expect(litre.ok && volumeOf(litre.done.out.get("galley:cold") ?? NOTHING)).toBeCloseTo(
      0.001,
      4,
    );
    const dry = simDo(network, open, until({ air: 0.5 }));
    expect(dry.ok && dry.done.ended).toBe("seen");
    expect(dry.ok && dry.done.notices.map((n) => n.code)).toContain("pump-draws-air");
    const never = simDo(network, simStart(network), until({ strength: 0.5 }));
    expect(never.ok && never.done.ended).toBe("at rest");
  });

  it("of a machine with two valves lets in what it is told, half by each, and pumps its sump out but for a tenth", () => {
    const yarrow = EXAMPLE_MAPS.find((m) => m.id === "yarrow");
    if (!yarrow) throw new Error("no such map");
    const ship = networkOf(yarrow);
    const start = simStart(ship, { lineup: { pump: "on" } });
    const cycled = simDo(ship, start, { do: "cycle", appliance: "washer", volumeM3: 0.006 });
    if (!cycled.ok) throw new Error(cycled.problem);
    const by = [...cycled.done.out]
      .filter(([id]) => id.startsWith("washer"))
      .map(([, m]) => 1000 * volumeOf(m));
    expect(by).toHaveLength(2);
    for (const litres of by) expect(litres).toBeCloseTo(3, 2);
    const sump = ship.cells.findIndex((c) => c.ownerId === "washer" && c.form === "trap");
    if (sump >= 0)
      expect(volumeOf(liquidIn(cycled.done.state.contents[sump]))).toBeLessThanOrEqual(
        0.1 * (ship.cells[sump]?.capacityM3 ?? 0) * 1.001,
      );
    // Both valves stand again as they did.
    expect(cycled.done.state.lineup).toEqual(start.lineup);
  });

  it("for something that is not there says so, and nothing is done", () => {
    const nowhere = simDo(
      network,
      open,
      simAction.parse({ do: "wait", seconds: 5, until: { at: "nowhere", air: 0.5 } }),
    );
    expect(nowhere).toEqual({ ok: false, problem: 'there is no opening "nowhere"' });
  });

  it("fades chlorine by half a day, and lets a pipe cool faster than a heater", () => {
    const hot: SimState = {
      ...simStart(network),
      contents: simStart(network).contents.map((c) => ({
        ...c,
        plugs: c.plugs.map((p) => ({
          ...p,
          warmthM3K: 40 * volumeOf(p),
          chlorineMg: 50_000 * volumeOf(p),
          foreignM3: 0,
        })),
      })),
    };
    const day = simDo(network, hot, { do: "wait", seconds: 86_400 });
    if (!day.ok) throw new Error(day.problem);
    const after = (id: string) => liquidIn(day.done.state.contents[cellAt(network, id)]);
    expect(chlorineOf(after("heater"))).toBeCloseTo(25, 6);
    expect(warmthOf(after("heater"))).toBeGreaterThan(10);
    expect(warmthOf(after("pump"))).toBeLessThan(0.001);
  });

  it("drains a tank in the time that Torricelli says (White, Fluid Mechanics; coefficient 0.6, common practice)", () => {
    const draining = simStart(network, { lineup: { d3: "open", pump: "off" } });
    const tank = cellAt(network, "fresh-tank");
    const cell = network.cells[tank];
    if (!cell) throw new Error("no tank");
    const heel = cell.drainRemainder * cell.capacityM3;
    const held = volumeOf(liquidIn(draining.contents[tank])) - heel;
    const level = (held / cell.capacityM3) * (cell.topM - cell.bottomM);
    const whole = emptyingTimeS(cell.capacityM3, cell.topM - cell.bottomM, level, 0.012);
    const half = simDo(network, draining, { do: "wait", seconds: whole / 2 });
    if (!half.ok) throw new Error(half.problem);
    // After half the time a quarter is left: the root of the head falls evenly.
    expect((volumeOf(liquidIn(half.done.state.contents[tank])) - heel) / held).toBeCloseTo(0.25, 2);
  });
});

describe("whatever is done to whatever map", () => {
  it("liquid and glycol are kept to 1e-9, no part holds less than nothing or more than its volume, and no figure is lost", () => {
    fc.assert(
      fc.property(maps, lists, fc.constantFrom(...STARTS), (map, actions, start) => {
        const network = networkOf(map);
        const before = totalAboard(contentsToStart(network, start));
        run(network, actions, start, (state) => {
          const held = totalAboard(state.contents);
          for (const what of ["waterM3", "glycolM3"] as const) {
            const brought = before[what] + state.came[what];
            const there = held[what] + state.gone[what];
            expect(Math.abs(brought - there), what).toBeLessThanOrEqual(
              1e-9 * Math.max(brought, 1e-6),
            );
          }
          state.contents.forEach((c, i) => {
            const capacity = network.cells[i]?.capacityM3 ?? 0;
            for (const plug of c.plugs) {
              expect(
                Math.min(plug.waterM3, plug.glycolM3),
                network.cells[i]?.id,
              ).toBeGreaterThanOrEqual(-1e-15);
              for (const amount of Object.values(plug)) expect(Number.isFinite(amount)).toBe(true);
            }
            expect(volumeOf(liquidIn(c)), network.cells[i]?.id).toBeLessThanOrEqual(
              capacity * (1 + 1e-9) + 1e-15,
            );
          });
        });
      }),
      { numRuns: 60, seed: 1 },
    );
  }, 120_000);

  it("does not depend on the order in which parts and pipes are stored", () => {
    fc.assert(
      fc.property(maps, lists, (map, actions) => {
        const [one, two] = [networkOf(map), networkOf(shuffled(map))];
        const [a, b] = [one, two].map((n) => run(n, actions, "in use", () => undefined));
        expect(two.cells.map((c) => c.id)).toEqual(one.cells.map((c) => c.id));
        expect(b?.contents).toEqual(a?.contents);
        expect(b?.gone).toEqual(a?.gone);
      }),
      { numRuns: 25, seed: 1 },
    );
  }, 120_000);
});

describe("figures of the trade's books", () => {
  it("a quarter-inch orifice passes 104 cubic feet of free air a minute at 100 psi (compressed-air tables, coefficient 1; from memory)", () => {
    const area = (Math.PI / 4) * (0.25 * 0.0254) ** 2;
    const cfm = (airThroughHole(area, 100 * 6894.757, 15) * 60) / 0.0283168;
    expect(cfm / 104).toBeGreaterThan(0.97);
    expect(cfm / 104).toBeLessThan(1.03);
  });

  it("1400 W warm 38 L by 32 K in an hour (heat of water 4.18 kJ/kgK, 992 kg/m3; steam tables, from memory)", () => {
    const network = networkOf(teasel);
    const heated = simulate(
      network,
      simStart(network),
      simActions.parse([
        { do: "heat", heater: "heater", watts: 1400, toC: 90 },
        { do: "wait", seconds: 3600 },
      ]),
    );
    if (!heated.ok) throw new Error(heated.problem);
    const rise = warmthOf(liquidIn(heated.after.at(-1)?.state.contents[cellAt(network, "heater")]));
    expect(rise / ((1400 * 3600) / (0.038 * 992 * 4180))).toBeGreaterThan(0.98);
    expect(rise / ((1400 * 3600) / (0.038 * 992 * 4180))).toBeLessThan(1.02);
  });
});
