import { describe, expect, it } from "vitest";
import { liquidIn, NOTHING, strengthOf, volumeOf, warmthOf } from "../contents/index.ts";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { networkOf } from "../testing/variants.ts";
import {
  cellAt,
  cellTold,
  cellName,
  type Lineup,
  type Network,
  removePart,
} from "../watermap/index.ts";
import {
  COMMON_SIM_SETTINGS,
  simActions,
  type SimActionInput,
  type SimDone,
  simStart,
  type SimState,
  simulate,
} from "./index.ts";

/** Traps known to the trade, each on a unit of the demo (common practice, no published source, where none is named). */

const unit = (id: string): Network => {
  const map = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!map) throw new Error(`no unit ${id}`);
  return networkOf(map);
};
const AROUND = COMMON_SIM_SETTINGS.flow.temperatureC;

const done = (
  network: Network,
  actions: readonly SimActionInput[],
  lineup: Lineup = {},
): readonly SimDone[] => {
  const result = simulate(network, simStart(network, { lineup }), simActions.parse(actions));
  if (!result.ok) throw new Error(`${result.action}: ${result.problem}`);
  return result.after;
};
const last = (
  network: Network,
  actions: readonly SimActionInput[],
  lineup: Lineup = {},
): SimDone => {
  const after = done(network, actions, lineup).at(-1);
  if (!after) throw new Error("nothing was done");
  return after;
};
const at = (network: Network, id: string): number => {
  const cell = cellAt(network, id);
  if (cell < 0) throw new Error(`no cell ${id}`);
  return cell;
};
const share = (network: Network, state: SimState, id: string): number =>
  volumeOf(liquidIn(state.contents[at(network, id)])) /
  (network.cells[at(network, id)]?.capacityM3 ?? 1);
const open = (...keys: string[]): SimActionInput[] =>
  keys.map((control) => ({ do: "turn", control, to: "open" }));
const OFF: SimActionInput = { do: "turn", control: "pump", to: "off" };
const codes = (of: SimDone): string[] => of.notices.map((n) => n.code);
const said = (of: SimDone, code: string): string =>
  of.notices.find((n) => n.code === code)?.message ?? "";
const TAPS = ["galley:cold", "galley:hot", "basin:cold", "basin:hot", "shower:cold", "shower:hot"];

describe("traps of the trade", () => {
  it("air from the pressurised inlet leaves the pump's suction side full", () => {
    const network = unit("teasel");
    const { state, air } = last(network, [
      OFF,
      ...open("shore-inlet", ...TAPS),
      { do: "blow", at: "shore-inlet:mouth" },
    ]);
    const names = (cells: readonly number[] | undefined): string[] =>
      (cells ?? []).map((c) => network.cells[c]?.ownerId ?? "");
    expect(names(air?.notReached)).toEqual(
      expect.arrayContaining(["strainer", "v2", "fresh-tank", "r-strainer-out-pump-in"]),
    );
    expect(names(air?.pressedOnly)).toContain("pump");
    for (const id of ["r-strainer-out-pump-in", "strainer", "pump"])
      expect(share(network, state, id), id).toBe(1);
    expect(share(network, state, "galley:cold")).toBeLessThan(0.2);
  });

  it("a dip keeps its water after the low points have been pulled and every tap stands open", () => {
    const network = unit("teasel");
    const { state } = last(network, [
      OFF,
      ...open("d1", "d2", "d3", ...TAPS),
      { do: "wait", seconds: 7200 },
    ]);
    const dips = network.cells.flatMap((c) => (c.sagM3 > 0 ? [c] : []));
    expect(dips.length).toBeGreaterThan(0);
    for (const dip of dips) {
      const kept = volumeOf(liquidIn(state.contents[at(network, dip.id)]));
      expect(kept, dip.id).toBeGreaterThanOrEqual(dip.sagM3);
      expect(kept, dip.id).toBeLessThan(dip.sagM3 + 0.05 * dip.capacityM3);
    }
  });

  it("draining with every tap shut leaves the hot side full", () => {
    const network = unit("teasel");
    const shut = last(network, [OFF, ...open("d1", "d2", "d3"), { do: "wait", seconds: 7200 }]);
    const aired = last(network, [
      OFF,
      ...open("d1", "d2", "d3", ...TAPS),
      { do: "wait", seconds: 7200 },
    ]);
    const hot = network.cells.filter((c) => c.run?.service === "hot").map((c) => c.id);
    const held = (state: SimState): number =>
      hot.reduce((s, id) => s + volumeOf(liquidIn(state.contents[at(network, id)])), 0);
    const whole = hot.reduce((s, id) => s + (network.cells[at(network, id)]?.capacityM3 ?? 0), 0);
    expect(held(shut.state)).toBeCloseTo(whole, 9);
    expect(held(aired.state)).toBeLessThan(0.5 * whole);
    expect(shut.trace.some((t) => t.what === "no air can enter" && hot.includes(t.at))).toBe(true);
  });

  it("a bypass left open gives lukewarm water, and says how warm", () => {
    // Past a spring check at the heater's inlet a bypass left open takes all: half a psi is more than the bypass loses.
    const bare = removePart(unit("teasel").map, "heater-check");
    if (!bare.ok) throw new Error("no such part");
    const network = networkOf(bare.map);
    const hot: SimActionInput[] = [
      { do: "heat", heater: "heater", watts: 1400 },
      { do: "wait", seconds: 5400 },
      ...open("galley:hot"),
      { do: "wait", seconds: 90 },
    ];
    const left = last(network, hot, { v7: "open" });
    const right = last(network, hot, { v7: "shut" });
    const tapC = (of: SimDone): number =>
      AROUND + warmthOf(liquidIn(of.state.contents[at(network, "galley:hot")]));
    const heaterC = (of: SimDone): number =>
      AROUND + warmthOf(liquidIn(of.state.contents[at(network, "heater")]));
    expect(tapC(left)).toBeLessThan(AROUND + 0.75 * (heaterC(left) - AROUND));
    expect(tapC(right)).toBeGreaterThan(heaterC(right) - 3);
    expect(said(left, "lukewarm")).toMatch(
      new RegExp(`gives \\{c:${Math.round(tapC(left))}\\}`, "u"),
    );
    expect(codes(right)).not.toContain("lukewarm");
  });

  it("a pickup left open to the air means no water: the pump draws air, and it is said by which way", () => {
    const network = unit("teasel");
    const tried = last(network, [
      { do: "turn", control: "v2", to: "b" },
      { do: "turn", control: "pickup", to: "in jug" },
      ...open("galley:cold"),
      { do: "wait", seconds: 120 },
    ]);
    expect(said(tried, "pump-draws-air")).toMatch(
      /Pump draws air and gives nothing: Winterizing pickup stands open/u,
    );
    expect(volumeOf(tried.out.get("galley:cold") ?? NOTHING)).toBeLessThan(1.5e-3);
    expect(volumeOf(tried.came)).toBe(0);
  });

  it("a selector left on a capped pickup means nothing at all, and says what to turn", () => {
    const network = unit("teasel");
    const tried = last(network, [
      { do: "turn", control: "v2", to: "b" },
      ...open("galley:cold"),
      { do: "wait", seconds: 60 },
    ]);
    expect(volumeOf(tried.out.get("galley:cold") ?? NOTHING)).toBe(0);
    expect(said(tried, "nothing-comes")).toMatch(
      /Galley tap, cold: it needs V2 tank \(now pickup\)/u,
    );
  });

  it("a missing check valve lets hot water out of the cold line", () => {
    const dipper = unit("dipper");
    const opened: SimActionInput[] = [
      { do: "heat", heater: "heater", watts: 1400 },
      { do: "wait", seconds: 3600 },
      { do: "heat", heater: "heater", watts: 0 },
      OFF,
    ];
    const tried = last(dipper, [
      ...opened,
      ...open("d1", "basin:hot"),
      { do: "wait", seconds: 300 },
    ]);
    expect(AROUND + warmthOf(tried.out.get("d1:out") ?? NOTHING)).toBeGreaterThan(50);
    expect(said(tried, "hot-from-cold")).toMatch(/D1: \{c:5\d\}/u);
    // Teasel has one: its heater stays shut in.
    const teasel = unit("teasel");
    const held = last(teasel, [
      ...opened,
      ...open("d1", "galley:hot", "galley:cold"),
      { do: "wait", seconds: 300 },
    ]);
    expect(codes(held)).not.toContain("hot-from-cold");
    expect(share(teasel, held.state, "heater")).toBe(1);
  });

  it("a one-valve bypass keeps antifreeze out of the heater while its check works, and not when that has failed", () => {
    const network = unit("burdock");
    const fill: SimActionInput[] = [
      { do: "turn", control: "v4", to: "b" },
      { do: "turn", control: "v1", to: "b" },
      // Emptied first, as it is: a full heater would bear no more anyway.
      { do: "turn", control: "heater:plug", to: "open" },
      { do: "wait", seconds: 1800 },
      { do: "jug", at: "pickup:mouth", strength: 0.5 },
      ...open("sink:hot"),
      { do: "wait", seconds: 180 },
    ];
    const working = last(network, fill);
    expect(strengthOf(working.out.get("sink:hot") ?? NOTHING)).toBeGreaterThan(0.2);
    expect(liquidIn(working.state.contents[at(network, "heater")]).glycolM3).toBe(0);
    expect(codes(working)).not.toContain("antifreeze-in-heater");
    const without = removePart(network.map, "hot-check");
    if (!without.ok) throw new Error(without.problem);
    const broken = networkOf(without.map);
    const failed = last(broken, fill);
    expect(codes(failed).some((c) => c === "antifreeze-in-heater" || c === "runs-out")).toBe(true);
    expect(volumeOf(failed.out.get("heater:plug") ?? NOTHING)).toBeGreaterThan(1e-4);
  });

  it("a tank-flush line and its vacuum breaker stay wet unless they are blown on their own", () => {
    const network = unit("yarrow");
    const house = done(network, [
      OFF,
      ...open("inlet", "kitchen:cold", "kitchen:hot", "basin:cold", "basin:hot"),
      { do: "blow", at: "inlet:mouth" },
      { do: "blow", at: "flush:mouth" },
    ]);
    const line = ["r-flush-out-breaker-in", "breaker"];
    const [first, second] = house.slice(-2);
    for (const id of line) {
      expect(
        first?.air?.notReached.map((c) => cellTold(network, c)),
        cellName(network, at(network, id)),
      ).toContain(id);
      expect(share(network, first?.state as SimState, id), id).toBe(1);
      expect(share(network, second?.state as SimState, id), id).toBeLessThan(0.2);
    }
  });

  it("a heater that is on while empty, a tank that is filled over its brim", () => {
    const network = unit("teasel");
    const dry = last(network, [
      OFF,
      ...open("heater:plug", "heater:relief"),
      { do: "wait", seconds: 3600 },
      { do: "heat", heater: "heater", watts: 1400 },
      { do: "wait", seconds: 5 },
    ]);
    expect(said(dry, "heater-on-empty")).toMatch(
      /^Heater is on with \{m3:0\.0019\} of \{m3:0\.038\} in it/u,
    );
    const spilt = last(network, [{ do: "fill", tank: "fresh-tank", volumeM3: 0.3 }]);
    expect(said(spilt, "tank-spills")).toMatch(/Fresh tank is full and runs over/u);
    expect(volumeOf(spilt.gone)).toBeCloseTo(
      0.3 -
        (1 - share(network, simStart(network), "fresh-tank")) *
          (network.cells[at(network, "fresh-tank")]?.capacityM3 ?? 0),
      9,
    );
  });
});
