import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { liquidIn, totalAboard, volumeOf } from "../contents/index.ts";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { anyMap } from "../testing/random-maps.ts";
import { networkOf, shuffled } from "../testing/variants.ts";
import { type Network, readWaterMap, type WaterMap } from "../watermap/index.ts";
import {
  COMMON_SIM_SETTINGS,
  contentsToStart,
  simAction,
  type SimAction,
  simDo,
  simStart,
  type SimState,
  type StartContents,
} from "./index.ts";

/** One random action, told by numbers so that it means something on any map. */
type RandomAction = readonly [what: number, a: number, b: number, share: number];
const randomAction: fc.Arbitrary<RandomAction> = fc.tuple(
  fc.nat({ max: 15 }),
  fc.nat({ max: 9999 }),
  fc.nat({ max: 9999 }),
  fc.double({ min: 0, max: 1, noNaN: true }),
);

const pick = <T>(list: readonly T[], n: number): T | undefined => list[n % Math.max(1, list.length)];

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
  const turn = control && { do: "turn", control: control.key, to: pick(control.spec.positions, b)?.name ?? "" };
  const all: readonly (object | undefined)[] = [
    turn,
    turn,
    turn,
    turn,
    turn,
    { do: "wait", seconds: share * 120 },
    { do: "wait", seconds: share * 40_000 },
    opening && { do: "jug", at: opening.id, strength: share, ...(b % 3 === 0 ? { volumeM3: 0.002 * share } : {}) },
    opening && { do: "hose", at: opening.id, pa: 100_000 + 300_000 * share },
    run && { do: "undo", run: run.id, end },
    run && { do: "remake", run: run.id, end },
    opening && { do: "blow", at: opening.id },
    { do: "suck", from: cell },
    { do: b % 2 === 0 ? "fill" : "pour", [b % 2 === 0 ? "tank" : "into"]: cell, volumeM3: 0.01 * share, strength: share },
    { do: "dose", into: cell, chlorineMg: 100 * share },
    b % 2 === 0 ? { do: "cycle", appliance: part } : { do: "heat", heater: part, watts: 2000 * share },
  ];
  const read = simAction.safeParse(all[what]);
  return read.success ? read.data : undefined;
};

const STARTS: readonly StartContents[] = ["in use", "empty", "water everywhere", { antifreeze: 0.4 }];
const SETTINGS = { ...COMMON_SIM_SETTINGS, frames: 0 };

const run = (network: Network, actions: readonly RandomAction[], start: StartContents, check: (state: SimState) => void): SimState => {
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
            expect(Math.abs(brought - there), what).toBeLessThanOrEqual(1e-9 * Math.max(brought, 1e-6));
          }
          state.contents.forEach((c, i) => {
            const capacity = network.cells[i]?.capacityM3 ?? 0;
            for (const plug of c.plugs) {
              expect(Math.min(plug.waterM3, plug.glycolM3), network.cells[i]?.id).toBeGreaterThanOrEqual(-1e-15);
              for (const amount of Object.values(plug)) expect(Number.isFinite(amount)).toBe(true);
            }
            expect(volumeOf(liquidIn(c)), network.cells[i]?.id).toBeLessThanOrEqual(capacity * (1 + 1e-9) + 1e-15);
          });
        });
      }),
      { numRuns: 60 },
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
      { numRuns: 25 },
    );
  }, 120_000);
});
