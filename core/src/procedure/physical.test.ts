import { describe, expect, it } from "vitest";
import { liquidIn, liquidVolume, strengthOf, totalAboard, volumeOf } from "../contents/index.ts";
import { teasel } from "../examples/index.ts";
import { networkOf } from "../testing/variants.ts";
import { act } from "./act.ts";
import { startPhysical, withRecovered } from "./physical.ts";
import type { Action } from "./step.ts";
import { cellAt } from "../watermap/index.ts";

const network = networkOf(teasel);
const start = startPhysical(network);
const at = (id: string): number => cellAt(network, id);
const turn = (control: string, position: string): Action => ({
  type: "set-valve",
  control,
  position,
  from: "",
  label: "",
  tag: "",
  handle: "",
});
const doing = (actions: readonly Action[], from = start) =>
  actions.reduce((physical, action) => act(network, physical, action, 0.5).physical, from);

describe("the unit as it stands", () => {
  it("starts in use, or as it was found", () => {
    expect(start.lineup).toMatchObject({ v7: "shut", pump: "on" });
    expect(startPhysical(network, { v7: "open" }).lineup).toMatchObject({ v7: "open", pump: "on" });
    expect(start.drawnM3).toBe(0);
    expect(volumeOf(totalAboard(start.contents))).toBeGreaterThan(0.13);
  });

  it("remembers what a person vouches for, once", () => {
    const twice = doing([
      { type: "confirm", fact: "off", label: "" },
      { type: "confirm", fact: "off", label: "" },
    ]);
    expect(twice.facts).toEqual(["off"]);
  });

  it("changes nothing by waiting", () => {
    expect(doing([{ type: "wait", seconds: 600, label: "" }])).toEqual(start);
  });

  it("keeps undone ends until they are made again; undoing one twice is one", () => {
    const undo: Action = {
      type: "disconnect",
      run: "r-strainer-out-pump-in",
      end: "from",
      jug: false,
      label: "",
    };
    expect(doing([undo, undo]).apart).toHaveLength(1);
    expect(
      doing([undo, { type: "reconnect", run: undo.run, end: "from", label: "" }]).apart,
    ).toEqual([]);
    expect(
      doing([undo, { type: "reconnect", run: undo.run, end: "to", label: "" }]).apart,
    ).toHaveLength(1);
  });

  it("counts product drawn and poured, and what has left the boat", () => {
    const end = doing([
      turn("v2", "b"),
      turn("pickup", "in jug"),
      turn("deck-shower:cold", "open"),
      { type: "pump", switch: "pump", watch: "deck-shower:head", maxM3: 0.003 },
    ]);
    expect(end.drawnM3).toBeCloseTo(0.003, 12);
    expect(end.came.glycolM3).toBeCloseTo(0.0015, 12);
    expect(volumeOf(end.gone)).toBeGreaterThan(0.002);
    const poured = doing([{ type: "pour", cell: "trap-basin:seal", volumeM3: 0.0005, label: "" }]);
    expect(poured.drawnM3).toBeCloseTo(0.0005, 12);
    expect(doing([{ type: "pour", cell: "nowhere", volumeM3: 0.0005, label: "" }]).drawnM3).toBe(0);
  });

  it("draws nothing by a pump whose pickup is capped", () => {
    const effect = act(
      network,
      doing([turn("v2", "b"), turn("galley:cold", "open")]),
      { type: "pump", switch: "pump", watch: "galley:cold", maxM3: 0.003 },
      0.5,
    );
    expect(effect.push).toMatchObject({ outcome: "no way in", drawnM3: 0 });
    expect(effect.physical.contents).toBe(effect.physical.contents);
    expect(effect.physical.drawnM3).toBe(0);
  });
});

describe("what was caught in the bucket", () => {
  it("replaces what was worked out, and says that it was measured", () => {
    const after = withRecovered(network, start, "heater:vessel", 0.038, 0.036);
    expect(liquidVolume(after.contents[at("heater")])).toBeCloseTo(0.002, 12);
    expect(after.contents[at("heater")]?.source).toBe("measured");
  });

  it("puts back what had been thought gone, at the strength that it had", () => {
    const drained = withRecovered(network, start, "heater:vessel", 0.038, 0.037);
    const more = withRecovered(network, drained, "heater:vessel", 0.038, 0.03);
    expect(liquidVolume(more.contents[at("heater")])).toBeCloseTo(0.008, 12);
    expect(strengthOf(liquidIn(more.contents[at("heater")]))).toBe(0);
  });

  it("never holds less than nothing, nor more than it can", () => {
    expect(
      liquidVolume(
        withRecovered(network, start, "heater:vessel", 0.038, 0.05).contents[at("heater")],
      ),
    ).toBe(0);
    expect(
      liquidVolume(withRecovered(network, start, "heater:vessel", 0.05, 0).contents[at("heater")]),
    ).toBeCloseTo(0.038, 12);
    expect(withRecovered(network, start, "nowhere", 1, 0)).toBe(start);
  });
});
