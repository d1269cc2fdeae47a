import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { compose, part, run } from "../examples/compose.ts";
import { EXAMPLE_MAPS, teasel } from "../examples/index.ts";
import { act } from "../procedure/act.ts";
import { type Physical, startPhysical } from "../procedure/physical.ts";
import type { Action } from "../procedure/step.ts";
import { planWinterize, standardRequest } from "../procedure/winterize/index.ts";
import { networkOf, noBypass, noPickup, shuffled, singleValveBypass } from "../testing/variants.ts";
import { cellAt, type Network } from "../watermap/index.ts";
import {
  drain,
  emptyingTimeS,
  liquidIn,
  liquidVolume,
  plus,
  product,
  push,
  situationOf,
  strengthOf,
  totalAboard,
  volumeOf,
} from "./index.ts";

const at = (network: Network, id: string): number => {
  const index = cellAt(network, id);
  if (index < 0) throw new Error(`no cell ${id}`);
  return index;
};
const held = (network: Network, physical: Pick<Physical, "contents">, id: string): number =>
  liquidVolume(physical.contents[at(network, id)]);
const PRODUCT = 0.5;

const withLineup = (network: Network, lineup: Record<string, string>): Physical => {
  const start = startPhysical(network);
  return { ...start, lineup: { ...start.lineup, ...lineup } };
};

/** A tank on a floor, a pipe that dips, a tap higher up and a drain at the low end. */
const dipped = (sag: boolean) =>
  networkOf(
    compose(
      { id: "dip", name: "Dip", craft: "bench" },
      [
        part("tank", "fresh-tank", "Tank", 1, { params: { volumeL: 50, depthM: 0.4, level: 0.5 } }),
        part("t", "tee", "Tee", 0.5),
        part("tap", "single-tap", "Tap", 0.9),
        part("low", "low-point-drain", "Low point", 0.1),
      ],
      [
        run("tank.outlet", "t.a", "pex-1/2", 2, "cold"),
        run("t.b", "tap.in", "pex-1/2", 1, "cold"),
        run(
          "t.c",
          "low.in",
          "pex-1/2",
          1,
          "cold",
          sag ? { sag: { depthM: 0.2, lengthM: 0.5 } } : {},
        ),
      ],
    ),
  );

/** Whoever changes any of it in place throws. */
const frozen = (physical: Physical): Physical => {
  for (const c of physical.contents) for (const x of [...c.plugs, c.plugs, c]) Object.freeze(x);
  Object.freeze(physical.contents);
  return physical;
};

describe("what is done to a unit", () => {
  it.each(EXAMPLE_MAPS.map((m) => [m.name, m] as const))(
    "makes it anew and leaves what was before as it was: %s",
    (_, map) => {
      const network = networkOf(map);
      const { steps } = planWinterize(standardRequest(network, startPhysical(network)));
      const said = (p: Physical): string => JSON.stringify(p.contents);
      let now = frozen(startPhysical(network));
      for (const action of steps.flatMap((s) => s.actions)) {
        const before = said(now);
        const next = act(network, now, action, PRODUCT).physical;
        expect(said(now)).toBe(before);
        now = frozen(next);
      }
      expect(volumeOf(totalAboard(now.contents))).toBeGreaterThan(0);
    },
  );
});

describe("what is pushed by the sheet, by eye", () => {
  // From tee to tee by a plain pipe, and beside it by one with a spring in it.
  const network = networkOf(
    compose(
      { id: "beside", name: "Beside", craft: "bench" },
      [
        part("in", "pressurised-inlet", "Inlet", 0),
        part("t1", "tee", "First tee", 0),
        part("t2", "tee", "Second tee", 0),
        part("spring", "check-valve", "Check", 0),
        part("tap", "single-tap", "Tap", 0),
      ],
      [
        run("in.out", "t1.a", "pex-1/2", 1, "cold"),
        run("t1.b", "t2.a", "pex-1/2", 0.2, "cold"),
        run("t1.c", "spring.in", "pex-1/2", 1, "cold"),
        run("spring.out", "t2.c", "pex-1/2", 1, "cold"),
        run("t2.b", "tap.in", "pex-1/2", 1, "cold"),
      ],
    ),
  );
  const full = network.cells.map((c) => ({
    plugs: c.capacityM3 > 0 ? [product(c.capacityM3, PRODUCT)] : [],
    source: "worked out" as const,
  }));
  const after = (byEyeM3?: number) =>
    push(situationOf(network, withLineup(network, { in: "shut", tap: "open" })), full, {
      drive: { kind: "push", cell: cellAt(network, "in") },
      productStrength: PRODUCT,
      watch: "tap:spout",
      untilStrength: 0.4,
      maxM3: 0.002,
      ...(byEyeM3 === undefined ? {} : { byEyeM3 }),
    }).contents;
  const strengths = (contents: ReturnType<typeof after>): number[] =>
    network.map.runs.map((r) => strengthOf(liquidIn(contents[cellAt(network, r.id)])));

  it("cannot tell what a way beside it holds that takes next to nothing of it: that counts as water", () => {
    expect(strengths(after()).map((s) => s.toFixed(2))).toEqual([
      "0.50",
      "0.50",
      "0.50",
      "0.50",
      "0.50",
    ]);
    const [toTee, plain, before, behind, toTap] = strengths(after(0.0005));
    expect([toTee, plain, toTap].every((s) => (s ?? 0) > 0.4)).toBe(true);
    expect([before, behind]).toEqual([0, 0]);
  });
});

describe("gravity", () => {
  it("gets air by an undone end, and none by one that stands in a jug", () => {
    const network = networkOf(
      compose(
        { id: "jug", name: "Jug", craft: "bench" },
        [
          part("stop", "end-plug", "Stop", 0.5),
          part("t", "tee", "Tee", 0.5),
          part("tap", "single-tap", "Tap", 0.9),
          part("low", "low-point-drain", "Low point", 0.1),
        ],
        [
          run("stop.in", "t.a", "pex-1/2", 0.3, "cold"),
          run("t.b", "tap.in", "pex-1/2", 1, "cold"),
          run("t.c", "low.in", "pex-1/2", 1, "cold"),
        ],
      ),
    );
    const toTap = network.map.runs.find((r) => r.to.part === "tap")?.id;
    if (!toTap) throw new Error("no run");
    const leg = network.map.runs.find((r) => r.to.part === "low")?.id ?? "";
    const start = withLineup(network, { low: "open" });
    const stays = (jug: boolean): number => {
      const now = { ...start, apart: [{ run: toTap, end: "from" as const, jug }] };
      return held(
        network,
        { contents: drain(situationOf(network, now), start.contents).contents },
        leg,
      );
    };
    // Asked in turn: what is known of one is not told of the other.
    const [inJug, open] = [stays(true), stays(false)];
    expect(inJug).toBeGreaterThan(0.9 * held(network, start, leg));
    expect(open).toBeLessThan(0.1 * held(network, start, leg));
    expect(stays(true)).toBe(inJug);
  });

  it("lets nothing out of a closed line: a shut tap holds it like a straw", () => {
    const network = networkOf(teasel);
    const open = { d1: "open", d2: "open" };
    const shut = drain(
      situationOf(network, withLineup(network, open)),
      startPhysical(network).contents,
    );
    const aired = drain(
      situationOf(
        network,
        withLineup(network, { ...open, "galley:cold": "open", "galley:hot": "open" }),
      ),
      startPhysical(network).contents,
    );
    const lines = ["r-t-gc-b-galley-cold", "r-t-gh-b-galley-hot"];
    for (const id of lines) {
      expect(held(network, shut, id)).toBeCloseTo(
        network.cells[at(network, id)]?.capacityM3 ?? 0,
        12,
      );
      expect(held(network, aired, id)).toBeLessThan(
        0.05 * (network.cells[at(network, id)]?.capacityM3 ?? 0),
      );
    }
  });

  it("leaves the hot side full while every hot tap is shut", () => {
    const network = networkOf(teasel);
    const result = drain(
      situationOf(network, withLineup(network, { d1: "open", d2: "open", "basin:cold": "open" })),
      startPhysical(network).contents,
    );
    expect(held(network, result, "r-t-sh-c-deck-shower-hot")).toBeCloseTo(
      network.cells[at(network, "r-t-sh-c-deck-shower-hot")]?.capacityM3 ?? 0,
      12,
    );
  });

  it("keeps what lies in a sag after a low point is pulled", () => {
    const open = { low: "open", tap: "open" };
    for (const sag of [false, true]) {
      const network = dipped(sag);
      const result = drain(
        situationOf(network, withLineup(network, open)),
        startPhysical(network).contents,
      );
      const cell = network.cells[at(network, "r-t-c-low-in")];
      const bare = 0.03 * (cell?.capacityM3 ?? 0);
      expect(held(network, result, "r-t-c-low-in")).toBeCloseTo(
        bare + (sag ? (cell?.sagM3 ?? 0) : 0),
        12,
      );
    }
  });

  it("drains only what stands above the way out: the tap alone leaves the pipe below it full", () => {
    const network = dipped(false);
    const result = drain(
      situationOf(network, withLineup(network, { tap: "open" })),
      startPhysical(network).contents,
    );
    expect(held(network, result, "r-t-c-low-in")).toBeCloseTo(
      network.cells[at(network, "r-t-c-low-in")]?.capacityM3 ?? 0,
      12,
    );
    // The tank stands above the tap, whose spout is 0.1 m over its body: it runs down to 1.02 m, its own outlet.
    expect(held(network, result, "tank")).toBeLessThan(0.06 * 0.05);
  });

  it("cannot pass a pump's valves: the suction line stays full when the tank is drained", () => {
    const network = networkOf(teasel);
    const result = drain(
      situationOf(network, withLineup(network, { d3: "open", "galley:cold": "open", d1: "open" })),
      startPhysical(network).contents,
    );
    expect(held(network, result, "fresh-tank")).toBeLessThan(0.03 * 0.28);
    expect(held(network, result, "pump")).toBeGreaterThan(0.5 * 0.06e-3);
  });

  it("empties the heater by its plug only when the relief valve or a hot tap lets air in", () => {
    const network = networkOf(teasel);
    const isolated = { v5: "shut", v6: "shut", "heater:plug": "open" };
    const closed = drain(
      situationOf(network, withLineup(network, isolated)),
      startPhysical(network).contents,
    );
    const vented = drain(
      situationOf(network, withLineup(network, { ...isolated, "heater:relief": "open" })),
      startPhysical(network).contents,
    );
    expect(held(network, closed, "heater")).toBeCloseTo(0.038, 12);
    expect(held(network, vented, "heater")).toBeCloseTo(0.05 * 0.038, 9);
  });

  it("takes 33.2 min for a 39.9 gal tank through a half-inch hole (Torricelli, Cd 0.6; White, Fluid Mechanics)", () => {
    // 48 × 24 × 8 in: the arithmetic follows from the formula, its inputs are a worked example.
    const volumeM3 = 48 * 24 * 8 * 0.0254 ** 3;
    expect(emptyingTimeS(volumeM3, 8 * 0.0254, 8 * 0.0254, 0.5 * 0.0254) / 60).toBeCloseTo(33.2, 1);
  });
});

describe("pumping", () => {
  const fillLineup = { v2: "b", pickup: "in jug", v5: "shut", v6: "shut", v7: "open", pump: "on" };
  it("draws product only by a pickup that stands in a jug, and to the drop", () => {
    const network = networkOf(teasel);
    const order = {
      drive: { kind: "pump", switchKey: "pump" },
      productStrength: PRODUCT,
      watch: "galley:cold",
      maxM3: 0.002,
    } as const;
    const onTank = push(
      situationOf(network, withLineup(network, { "galley:cold": "open" })),
      startPhysical(network).contents,
      order,
    );
    const onJug = push(
      situationOf(network, withLineup(network, { ...fillLineup, "galley:cold": "open" })),
      startPhysical(network).contents,
      order,
    );
    const capped = push(
      situationOf(
        network,
        withLineup(network, { ...fillLineup, pickup: "capped", "galley:cold": "open" }),
      ),
      startPhysical(network).contents,
      order,
    );
    expect(onTank.drawnM3).toBe(0);
    expect(onJug.drawnM3).toBeCloseTo(0.002, 12);
    expect(capped.outcome).toBe("no way in");
  });

  it("thins antifreeze by the water that was left in the lines", () => {
    const network = networkOf(teasel);
    const order = {
      drive: { kind: "pump", switchKey: "pump" },
      productStrength: PRODUCT,
      watch: "galley:cold",
      untilStrength: 0.4,
      maxM3: 0.05,
    } as const;
    const lineup = { ...fillLineup, "galley:cold": "open" };
    const full = push(
      situationOf(network, withLineup(network, lineup)),
      startPhysical(network).contents,
      order,
    );
    const emptied = drain(
      situationOf(
        network,
        withLineup(network, {
          d1: "open",
          d2: "open",
          "galley:cold": "open",
          "basin:cold": "open",
        }),
      ),
      startPhysical(network).contents,
    ).contents;
    const half = push(situationOf(network, withLineup(network, lineup)), emptied, order);
    expect(full.outcome).toBe("reached");
    const water = (result: typeof full): number =>
      liquidIn(result.contents[at(network, "grey-tank")]).waterM3;
    expect(water(full)).toBeGreaterThan(water(half));
    // What was left stays behind, mixed in: the first run past the drained tee is weaker than what is in the jug.
    const firstMain = half.contents[at(network, "r-t-d1-c-t-cold-a")];
    expect(Math.min(...(firstMain?.plugs ?? []).map(strengthOf))).toBeLessThan(PRODUCT);
    expect(half.strengthAtEnd).toBeLessThan(PRODUCT);
  });

  it("goes only where a way is open: the hot side gets none while the bypass is shut", () => {
    const network = networkOf(teasel);
    const order = {
      drive: { kind: "pump", switchKey: "pump" },
      productStrength: PRODUCT,
      watch: "galley:hot",
      maxM3: 0.01,
    } as const;
    const result = push(
      situationOf(
        network,
        withLineup(network, { ...fillLineup, v7: "shut", "galley:hot": "open" }),
      ),
      startPhysical(network).contents,
      order,
    );
    expect(result.outcome).toBe("no way out");
  });

  it("fills the heater when there is no way round it", () => {
    const network = networkOf(noBypass());
    const lineup = { v2: "b", pickup: "in jug", pump: "on", "galley:hot": "open" };
    const order = {
      drive: { kind: "pump", switchKey: "pump" },
      productStrength: PRODUCT,
      watch: "galley:hot",
      maxM3: 0.02,
    } as const;
    const result = push(
      situationOf(network, withLineup(network, lineup)),
      startPhysical(network).contents,
      order,
    );
    expect(strengthOf(liquidIn(result.contents[at(network, "heater")]))).toBeGreaterThan(0.1);
  });

  it("keeps product out of a one-lever bypass's heater while its hot check works", () => {
    const network = networkOf(singleValveBypass());
    const lineup = { v2: "b", pickup: "in jug", pump: "on", vb: "b", "galley:hot": "open" };
    const order = {
      drive: { kind: "pump", switchKey: "pump" },
      productStrength: PRODUCT,
      watch: "galley:hot",
      maxM3: 0.02,
    } as const;
    const result = push(
      situationOf(network, withLineup(network, lineup)),
      startPhysical(network).contents,
      order,
    );
    expect(result.outcome).toBe("stopped at volume");
    expect(strengthOf(liquidIn(result.contents[at(network, "heater")]))).toBe(0);
  });
});

describe("traps", () => {
  it("mix with what stands in them and overflow to the tank", () => {
    const network = networkOf(teasel);
    const start = startPhysical(network);
    const { physical } = act(
      network,
      start,
      { type: "pour", cell: "trap-galley:seal", volumeM3: 0.0005, label: "" },
      PRODUCT,
    );
    expect(held(network, physical, "trap-galley")).toBeCloseTo(0.00025, 9);
    expect(strengthOf(liquidIn(physical.contents[at(network, "trap-galley")]))).toBeGreaterThan(
      0.4,
    );
    expect(held(network, physical, "grey-tank") - held(network, start, "grey-tank")).toBeCloseTo(
      0.0005,
      9,
    );
  });
});

/** Random actions on a map: turns, drains, pumping, pouring, undoing ends. */
const actionsFor = (network: Network): fc.Arbitrary<Action[]> => {
  const controls = network.controls.flatMap((c) =>
    c.spec.positions.map((p) => ({ key: c.key, position: p.name })),
  );
  const outlets = network.openings.map((o) => o.id);
  const pumps = network.controls.filter((c) => c.spec.role === "switch").map((c) => c.key);
  const traps = network.cells.filter((c) => c.form === "trap").map((c) => c.id);
  const cells = network.cells
    .filter((c) => c.form !== "waste-pipe" && c.form !== "trap")
    .map((c) => c.id);
  const runs = network.map.runs.filter((r) => r.service !== "waste").map((r) => r.id);
  const base = { label: "", tag: "", handle: "", from: "" };
  const volume = fc.double({ min: 1e-5, max: 0.01, noNaN: true });
  const one: fc.Arbitrary<Action> = fc.oneof(
    {
      weight: 6,
      arbitrary: fc.constantFrom(...controls).map(({ key, position }) => ({
        type: "set-valve" as const,
        control: key,
        position,
        ...base,
      })),
    },
    { weight: 2, arbitrary: fc.constant({ type: "drain" as const }) },
    {
      weight: 3,
      arbitrary: fc
        .tuple(fc.constantFrom(...pumps), fc.constantFrom(...outlets), volume)
        .map(([sw, watch, maxM3]) => ({ type: "pump" as const, switch: sw, watch, maxM3 })),
    },
    {
      weight: 1,
      arbitrary: fc
        .tuple(fc.constantFrom(...cells), fc.constantFrom(...outlets), volume)
        .map(([cell, watch, maxM3]) => ({
          type: "push-by-hand" as const,
          cell,
          watch,
          untilStrength: 0.4,
          maxM3,
          label: "",
        })),
    },
    {
      weight: 1,
      arbitrary: fc
        .tuple(fc.constantFrom(...traps), volume)
        .map(([cell, volumeM3]) => ({ type: "pour" as const, cell, volumeM3, label: "" })),
    },
    {
      weight: 1,
      arbitrary: fc.tuple(fc.constantFrom(...runs), fc.boolean()).map(([r, jug]) => ({
        type: "disconnect" as const,
        run: r,
        end: "to" as const,
        jug,
        label: "",
      })),
    },
  );
  return fc.array(one, { minLength: 1, maxLength: 14 });
};

const maps = [...EXAMPLE_MAPS, noBypass(), singleValveBypass(), noPickup()].map(
  (m) => [`${m.name} with ${m.parts.length} parts`, m] as const,
);
const runAll = (network: Network, actions: readonly Action[]): Physical =>
  actions.reduce(
    (physical, action) => act(network, physical, action, PRODUCT).physical,
    startPhysical(network),
  );

describe.each(maps)("whatever is done to %s", (_, map) => {
  const network = networkOf(map);
  const start = totalAboard(startPhysical(network).contents);

  it("liquid and glycol are conserved to 1e-9, nothing is negative, nothing holds more than its volume", () => {
    fc.assert(
      fc.property(actionsFor(network), (actions) => {
        const end = runAll(network, actions);
        const before = plus(start, end.came);
        const after = plus(totalAboard(end.contents), end.gone);
        expect(Math.abs(volumeOf(after) - volumeOf(before))).toBeLessThan(1e-9 * volumeOf(before));
        expect(Math.abs(after.glycolM3 - before.glycolM3)).toBeLessThan(
          1e-9 * Math.max(before.glycolM3, 1e-6),
        );
        end.contents.forEach((cell, i) => {
          expect(cell.plugs.every((p) => p.waterM3 >= -1e-15 && p.glycolM3 >= -1e-15)).toBe(true);
          expect(liquidVolume(cell)).toBeLessThanOrEqual(
            (network.cells[i]?.capacityM3 ?? 0) * (1 + 1e-9),
          );
        });
      }),
      { seed: 41, numRuns: 60 },
    );
  });

  it("the order in which parts are stored changes nothing", () => {
    const other = networkOf(shuffled(map));
    fc.assert(
      fc.property(actionsFor(network), (actions) => {
        const [a, b] = [runAll(network, actions), runAll(other, actions)];
        network.cells.forEach((cell, i) => {
          expect(liquidVolume(b.contents[at(other, cell.id)])).toBe(liquidVolume(a.contents[i]));
        });
      }),
      { seed: 43, numRuns: 25 },
    );
  });
});

describe("products", () => {
  it("hold their strength", () => {
    expect(strengthOf(product(0.003, 0.36))).toBeCloseTo(0.36, 12);
  });
});

describe("what is on the way", () => {
  it("holds the strength asked for before a push is called done, however strong it already comes out", () => {
    const network = networkOf(
      compose(
        { id: "line", name: "Line", craft: "bench" },
        [part("in", "pressurised-inlet", "Inlet", 0.5), part("tap", "single-tap", "Tap", 0.9)],
        [run("in.out", "tap.in", "pex-1/2", 4, "cold")],
      ),
    );
    const line = at(network, "r-in-out-tap-in");
    const weak = startPhysical(network).contents.map((c, i) => {
      const capacity = network.cells[i]?.capacityM3 ?? 0;
      // On the way nine tenths of what is asked, at the tap more.
      return capacity > 0 && network.cells[i]?.form !== "vessel"
        ? { ...c, plugs: [product(capacity, i === line ? 0.9 * 0.45 : PRODUCT)] }
        : c;
    });
    const pushed = push(situationOf(network, withLineup(network, { tap: "open" })), weak, {
      drive: { kind: "push", cell: at(network, "in") },
      productStrength: PRODUCT,
      watch: "tap:spout",
      untilStrength: 0.45,
      maxM3: 0.01,
    });
    expect(pushed.outcome).toBe("reached");
    expect(pushed.drawnM3).toBeGreaterThan(0.8 * (network.cells[line]?.capacityM3 ?? 1));
  });

  it("an open seacock lets in no air: a drain below it empties nothing", () => {
    const network = networkOf(
      compose(
        { id: "raw", name: "Raw", craft: "bench" },
        [
          part("sea", "raw-intake", "Seacock", -0.3),
          part("t", "tee", "Tee", -0.3),
          part("low", "low-point-drain", "Bilge drain", -0.9),
          part("wash", "wash-down", "Wash", 0.5),
        ],
        [
          run("sea.out", "t.a", "hose-19", 1, "raw"),
          run("t.b", "low.in", "hose-13", 0.6, "raw"),
          run("t.c", "wash.in", "hose-13", 1, "raw"),
        ],
      ),
    );
    const open = drain(
      situationOf(network, withLineup(network, { sea: "open", low: "open" })),
      startPhysical(network).contents,
    );
    expect(held(network, open, "r-sea-out-t-a")).toBeCloseTo(
      network.cells[at(network, "r-sea-out-t-a")]?.capacityM3 ?? 0,
      12,
    );
    expect(held(network, open, "r-t-b-low-in")).toBeCloseTo(
      network.cells[at(network, "r-t-b-low-in")]?.capacityM3 ?? 0,
      12,
    );
  });
});
