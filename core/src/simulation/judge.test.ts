import { describe, expect, it } from "vitest";
import { compose, part, run } from "../examples/compose.ts";
import { burdock, teasel } from "../examples/index.ts";
import { networkOf } from "../testing/variants.ts";
import type { Lineup, Network } from "../watermap/index.ts";
import { judge, simActions, type SimActionInput, simDo, simStart, type SimState } from "./index.ts";

/** Words before the hand moves. */

const action = (a: SimActionInput) =>
  simActions.parse([a])[0] as ReturnType<typeof simActions.parse>[number];
const after = (network: Network, lineup: Lineup, ...actions: SimActionInput[]): SimState =>
  actions.reduce<SimState>(
    (state, a) => {
      const step = simDo(network, state, action(a));
      if (!step.ok) throw new Error(step.problem);
      return step.done.state;
    },
    simStart(network, { lineup }),
  );
const words = (network: Network, state: SimState, a: SimActionInput): Record<string, string> =>
  Object.fromEntries(judge(network, state, action(a)).map((n) => [n.code, n.message]));
const PUMP_ON: SimActionInput = { do: "turn", control: "pump", to: "on" };
const JUG: SimActionInput = { do: "jug", at: "pickup:mouth", strength: 0.5 };

describe("before a hand moves", () => {
  const boat = networkOf(teasel);
  const drawing: Lineup = { pump: "off", v2: "b", "galley:hot": "open" };

  it("a pump about to draw air is told, with the pickup that stands open", () => {
    const state = after(boat, { ...drawing, pickup: "in jug" });
    expect(words(boat, state, PUMP_ON)["pump-draws-air"]).toMatch(
      /Winterizing pickup stands open/u,
    );
  });

  it("antifreeze about to fill the heater is told, with how much the heater holds", () => {
    const state = after(boat, drawing, JUG);
    expect(words(boat, state, PUMP_ON)["antifreeze-in-heater"]).toMatch(
      /goes into Heater: \{m3:\d\S*\} of glycol so far, it holds \{m3:0\.038\}/u,
    );
    const past = after(boat, { ...drawing, v5: "shut", v6: "shut", v7: "open" }, JUG);
    expect(words(boat, past, PUMP_ON)).not.toHaveProperty("antifreeze-in-heater");
  });

  it("a hot side that will get none is told, with the bypass valve that shuts it off", () => {
    const state = after(
      boat,
      {
        ...drawing,
        "galley:hot": "shut",
        "galley:cold": "open",
        v5: "shut",
        v6: "shut",
        v7: "shut",
      },
      JUG,
    );
    expect(words(boat, state, PUMP_ON)["nothing-comes"]).toMatch(/Galley tap, hot.*needs V7 open/u);
  });

  it("water from an open drain is told before the hose is turned on, not what runs already", () => {
    const state = after(boat, { pump: "off", d1: "open" });
    const hose: SimActionInput = { do: "hose", at: "shore-inlet:mouth" };
    expect(words(boat, state, hose)["runs-out"]).toMatch(/^Water runs out at D1: \{m3:0\.0/u);
    const open = after(boat, { pump: "off", d1: "open" }, hose);
    expect(
      words(boat, open, { do: "turn", control: "galley:cold", to: "open" }),
    ).not.toHaveProperty("runs-out");
  });

  it("a heater that would be on while empty is told", () => {
    const state = after(
      boat,
      { pump: "off", "heater:plug": "open", "heater:relief": "open" },
      { do: "wait", seconds: 3600 },
    );
    expect(
      words(boat, state, { do: "heat", heater: "heater", watts: 1400 })["heater-on-empty"],
    ).toMatch(/burns out/u);
    expect(words(boat, simStart(boat), { do: "heat", heater: "heater", watts: 1400 })).toEqual({});
  });

  it("a tank that will run over is told", () => {
    const words1 = words(boat, simStart(boat), { do: "fill", tank: "fresh-tank", volumeM3: 0.3 });
    expect(words1["tank-spills"]).toMatch(/Fresh tank is full and runs over/u);
    expect(
      words(boat, simStart(boat), { do: "fill", tank: "fresh-tank", volumeM3: 0.001 }),
    ).toEqual({});
  });

  it("two waters about to join are told: a valve between a wash-down on lake water and the house", () => {
    const network = networkOf(
      compose(
        { id: "joined", name: "Joined", craft: "bench" },
        [
          part("sea", "raw-intake", "Seacock", -0.3),
          part("raw-pump", "diaphragm-pump", "Wash pump", 0),
          part("t-raw", "tee", "Raw tee", 0),
          part("wash", "wash-down", "Deck wash", 0.8),
          part("link", "ball-valve", "Emergency link", 0, { tag: "V1" }),
          part("tank", "fresh-tank", "Tank", 0),
          part("pump", "diaphragm-pump", "Pump", 0),
          part("t-house", "tee", "House tee", 0),
          part("tap", "single-tap", "Galley tap", 0.9),
        ],
        [
          run("sea.out", "raw-pump.in", "hose-19", 1, "raw"),
          run("raw-pump.out", "t-raw.a", "hose-13", 1, "raw"),
          run("t-raw.b", "wash.in", "hose-13", 3, "raw"),
          run("t-raw.c", "link.a", "hose-13", 0.5, "raw"),
          run("link.b", "t-house.c", "hose-13", 0.5, "cold"),
          run("tank.outlet", "pump.in", "hose-13", 1, "suction"),
          run("pump.out", "t-house.a", "hose-13", 1, "cold"),
          run("t-house.b", "tap.in", "hose-13", 2, "cold"),
        ],
      ),
    );
    const state = after(network, { link: "shut", pump: "off", tap: "open" });
    expect(words(network, state, { do: "turn", control: "V1", to: "open" })["waters-join"]).toMatch(
      /raw water gets into the drinking side/u,
    );
    expect(words(network, state, { do: "turn", control: "wash", to: "open" })).toEqual({});
  });

  it("what is harmless has no word, and what cannot be done says why", () => {
    const network = networkOf(burdock);
    expect(
      judge(network, simStart(network), action({ do: "turn", control: "sink:cold", to: "open" })),
    ).toEqual([]);
    expect(
      words(network, simStart(network), { do: "turn", control: "nothing", to: "open" })[
        "cannot-solve"
      ],
    ).toMatch(/no control "nothing"/u);
  });
});
