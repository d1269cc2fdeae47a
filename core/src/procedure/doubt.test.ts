import { describe, expect, it } from "vitest";
import { frostVerdict } from "../contents/index.ts";
import { foxglove, teasel } from "../examples/index.ts";
import { part, run } from "../examples/compose.ts";
import { adding, networkOf, nobodyKnows } from "../testing/variants.ts";
import { changePart, type Network, type WaterMap } from "../watermap/index.ts";
import { doubtsOf } from "./doubt.ts";
import {
  doubtsNow,
  planWinterize,
  standardRequest,
  standardSetup,
  startPhysical,
  startRun,
  summarize,
} from "./index.ts";
import { act } from "./act.ts";
import type { Action } from "./step.ts";

const planFor = (map: WaterMap) => {
  const network = networkOf(map);
  return planWinterize(standardRequest(network, startPhysical(network)));
};
const doubting = (
  map: WaterMap,
  id: string,
  of: "fitted" | "role",
  ask = "Look behind the panel.",
): WaterMap => {
  const changed = changePart(map, id, { unknown: { of, ask } });
  return changed.ok ? changed.map : map;
};
const ids = (map: WaterMap) => planFor(map).cannotTell.map((d) => d.id);

describe("what is not known blocks the verdict of whatever rests on it", () => {
  it("nothing is in doubt where everything is known", () => {
    expect(planFor(teasel).cannotTell).toEqual([]);
    expect(planFor(teasel).meetsMargin).toBe(true);
  });

  it("a part that may not be there is itself in doubt, with how to find out, and the plan no longer meets its margin", () => {
    const plan = planFor(doubting(teasel, "strainer", "fitted"));
    expect(plan.cannotTell).toEqual([
      {
        id: "strainer",
        name: "Strainer",
        because: "strainer",
        becauseName: "Strainer",
        ask: "Look behind the panel.",
      },
    ]);
    expect(plan.meetsMargin).toBe(false);
    expect(plan.holdsToC).toBeLessThan(-18);
  });

  it("a bypass whose role is not known: if turning it does nothing, the hot side gets none, and every hot cartridge is in doubt", () => {
    const doubted = ids(doubting(teasel, "v7", "role"));
    for (const id of ["v7", "galley", "shower", "deck-shower"]) expect(doubted).toContain(id);
    // Drained pipe holds without antifreeze: it is not in doubt.
    expect(doubted).not.toContain("t-gh");
    expect(doubted).not.toContain("trap-galley");
  });

  it("a suction selector whose role is not known puts pump, strainer and both its lines in doubt", () => {
    const doubted = ids(doubting(teasel, "v2", "role"));
    for (const id of ["v2", "pump", "strainer", "r-pickup-out-v2-b", "r-fresh-tank-outlet-v2-a"])
      expect(doubted).toContain(id);
  });

  it("two valves in a row towards the tank, each harmless alone: stuck open together the fill runs into the tank", () => {
    const leg: WaterMap = {
      ...adding(
        teasel,
        [
          part("t-x", "tee", "Tank line tee", 0.1),
          part("v9", "ball-valve", "First tank valve", 0.3, { tag: "V9" }),
          part("v10", "ball-valve", "Second tank valve", 0.5, { tag: "V10" }),
          part("t-y", "tee", "Fill tee", 0.8),
        ],
        [
          run("t-join.c", "t-x.a", "metric-15", 0.3, "cold"),
          run("t-x.b", "t-d1.a", "metric-15", 0.3, "cold"),
          run("t-x.c", "v9.a", "metric-15", 0.2, "cold"),
          run("v9.b", "v10.a", "metric-15", 0.2, "cold"),
          run("v10.b", "t-y.c", "metric-15", 0.4, "cold"),
          run("deck-fill.out", "t-y.a", "hose-38", 0.3, "cold"),
          run("t-y.b", "fresh-tank.fill", "hose-38", 1, "cold"),
        ],
      ),
      lineup: { ...teasel.lineup, v9: "shut", v10: "shut" },
    };
    const cut = (r: WaterMap["runs"][number], from: string, to: string): boolean =>
      r.from.part === from && r.to.part === to;
    const map = {
      ...leg,
      runs: leg.runs.filter((r) => !cut(r, "t-join", "t-d1") && !cut(r, "deck-fill", "fresh-tank")),
    };
    const because = (...unknown: string[]) =>
      planFor(unknown.reduce((m, id) => doubting(m, id, "role"), map)).cannotTell.find(
        (d) => d.id === "shower",
      )?.becauseName;
    expect(because("v9")).toBeUndefined();
    expect(because("v10")).toBeUndefined();
    expect(because("v9", "v10")).toBe("First tank valve and Second tank valve");
  });

  it("the demo's hired trailer: its unknown bypass and checks are named", () => {
    const plan = planFor(foxglove);
    expect(plan.meetsMargin).toBe(false);
    expect([...new Set(plan.cannotTell.map((d) => d.because))].toSorted()).toEqual([
      "heater-check",
      "inlet-check",
      "vx",
    ]);
    expect(plan.cannotTell.find((d) => d.because === "vx")?.ask).toContain(
      "Photograph both valves",
    );
  });

  it("what ends a line and may not be there leaves its tank full; what only lies in a line changes nothing behind it", () => {
    const full = changePart(teasel, "fresh-tank", { params: { level: 1 } });
    const tank = planFor(doubting(full.ok ? full.map : teasel, "d3", "fitted")).cannotTell.find(
      (d) => d.id === "fresh-tank",
    );
    expect(tank).toMatchObject({
      because: "d3",
      becauseName: "Tank drain",
      ask: "Look behind the panel.",
    });
    expect(ids(doubting(teasel, "strainer", "fitted"))).toEqual(["strainer"]);
  });

  it("a part of which nobody knows what it is may block what it stands in, or pass it one way", () => {
    const map = nobodyKnows(teasel, "strainer");
    const doubted = planFor(map).cannotTell;
    for (const id of ["galley", "shower", "pump"])
      expect(doubted.find((d) => d.id === id)?.because, id).toBe("strainer");
    expect(doubted.find((d) => d.id === "trap-galley")).toBeUndefined();
  });

  it("a run says so too, and its summary names what must be found out", () => {
    const state = startRun(networkOf(doubting(teasel, "v7", "role")), standardSetup());
    expect(doubtsNow(state).map((d) => d.because)).toContain("v7");
    expect(summarize(state).cannotTell).toEqual(["Bypass"]);
    expect(summarize(startRun(networkOf(teasel), standardSetup())).cannotTell).toEqual([]);
  });
});

describe("doubts asked again and again on one network", () => {
  const map = doubting(doubting(teasel, "v7", "role"), "v2", "role");
  const settings = {
    basis: "burst",
    productStrength: 0.5,
    measured: new Map(),
    winterLowC: -18,
  } as const;
  const told = (network: Network, actions: readonly Action[]) => {
    const start = startPhysical(network);
    let after = start;
    for (const action of actions) after = act(network, after, action, 0.5).physical;
    const verdict = frostVerdict(network, after.contents, "burst", after.measured);
    return doubtsOf(network, start, actions, verdict, settings).map((d) => `${d.id} ${d.because}`);
  };
  const actions = planFor(map).steps.flatMap((s) => s.actions);
  const turn = actions.findIndex((a) => a.type === "set-valve" && a.control === "v2");
  // On it first all of the plan, then beginnings of it, then another way on from the middle, as after an answer "can't do this".
  const asked = [
    actions,
    ...[0.3, 0.6, 0.9].map((share) => actions.slice(0, Math.round(share * actions.length))),
    actions.filter((_, i) => i !== turn),
    [...actions.slice(0, turn), ...actions.slice(turn + 4)],
    actions,
  ];

  it("are those of a network that was never asked, whatever was asked before", () => {
    const kept = networkOf(map);
    const fresh = asked.map((a) => told(networkOf(map), a));
    expect(turn).toBeGreaterThan(0);
    expect(new Set(fresh.map((d) => d.join())).size).toBeGreaterThan(2);
    expect(asked.map((a) => told(kept, a))).toEqual(fresh);
  });
});
