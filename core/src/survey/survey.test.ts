import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { compose, part, run } from "../examples/compose.ts";
import {
  dipper,
  EXAMPLE_MAPS,
  foxglove,
  sundew,
  teasel,
  turnstone,
  wagtail,
  yarrow,
} from "../examples/index.ts";
import { anyMap } from "../testing/random-maps.ts";
import { networkOf, nobodyKnows, noBypass, shuffled, without } from "../testing/variants.ts";
import {
  inUseLineup,
  MODES,
  PART_KINDS,
  readWaterMap,
  removePart,
  type WaterMap,
} from "../watermap/index.ts";
import {
  applyMend,
  modeLineup,
  type Problem,
  proposeMode,
  reachOf,
  surveyMap,
  turnsBetween,
} from "./index.ts";

const codes = (map: WaterMap): string[] =>
  surveyMap(map).problems.map((p) => `${p.code}:${p.parts[0]}`);
const find = (map: WaterMap, code: Problem["code"], id?: string): Problem => {
  const found = surveyMap(map).problems.find(
    (p) => p.code === code && (id === undefined || p.parts[0] === id),
  );
  if (!found) throw new Error(`${code} is not among ${codes(map).join(", ")}`);
  return found;
};
const mended = (map: WaterMap, problem: Problem, n = 0): WaterMap => {
  const mend = problem.mends[n];
  const done = mend && applyMend(map, mend);
  if (!done?.ok) throw new Error(done?.problem ?? "no mend");
  return done.map;
};

describe("a part of which nobody knows what it is", () => {
  it("may be the guard that is missed: nothing is said to be missing behind it", () => {
    const map = nobodyKnows(teasel, "heater-check");
    expect(codes(map).filter((c) => c.startsWith("no-check-at-heater"))).toEqual([]);
    const gone = removePart(teasel, "heater-check");
    expect(gone.ok && codes(gone.map)).toContain("no-check-at-heater:heater");
  });
});

describe("problems, each with the mend that one tap does", () => {
  const loose = { ...teasel, parts: [...teasel.parts, part("x", "ball-valve", "Spare valve", 0)] };
  const noTap = without(teasel, ["galley", "trap-galley"]);
  const healed = removePart(teasel, "heater-check");
  const noCheck = healed.ok ? healed.map : teasel;
  it.each<[string, WaterMap, Problem["code"], string]>([
    ["a part that joins nothing", loose, "loose-part", "x"],
    ["a tee left open", noTap, "open-port", "t-gc"],
    ["a heater without a check", dipper, "no-check-at-heater", "heater"],
    ["an inlet without a check", wagtail, "no-check-at-inlet", "supply-box"],
    ["a pump without a strainer", wagtail, "no-strainer", "pump"],
    ["a tank flush without a breaker", withoutBreaker(), "no-breaker", "flush"],
    ["a tank without a vent", airless(), "no-vent", "fresh-tank"],
    ["half-inch tube in a 15 mm tee", mixedTube("pex-1/2"), "no-fit", "t-gc"],
    ["3/4 tube beside 22 mm", mixedTube("pex-3/4", "metric-22"), "measure-fit", "t-gc"],
    ["one tag on two valves", tagTwice(), "tag-twice", "v6"],
    ["a dead leg", deadLeg(), "dead-leg", "stop"],
  ])("%s", (_, map, code, id) => {
    const problem = find(map, code, id);
    expect(problem.message).toMatch(/[.?]$/u);
    expect(problem.mends.length).toBeGreaterThan(0);
    const after = mended(map, problem);
    expect(readWaterMap(after).ok).toBe(true);
    expect(codes(after)).not.toContain(`${code}:${id}`);
  });

  it.each<[string, WaterMap, Problem["code"], string]>([
    [
      "an outlet that no source reaches: its check stands the wrong way",
      backwards(),
      "outlet-not-reached",
      "galley",
    ],
    ["carbon before a tank", carbonFill(), "carbon-before-tank", "carbon"],
    ["lake water joined to drinking water", crossed(), "cross-connection", "seacock"],
    ["vacuum hose under pressure", weakPipe(), "pressure-on-weak-pipe", "r-t-gc-b-galley-cold"],
    ["a part that is not known", foxglove, "not-known", "inlet-check"],
  ])("%s", (_, map, code, id) => {
    expect(find(map, code, id).message.length).toBeGreaterThan(20);
  });

  it("a mend that puts a check in points it the right way: what comes from the inlet passes, what comes back does not", () => {
    const map = mended(wagtail, find(wagtail, "no-check-at-inlet"));
    const network = networkOf(map);
    const [reach] = reachOf(network, {
      ...inUseLineup(network),
      "supply-box": "open",
      "tap:supply": "open",
    });
    expect(reach?.source).toBe("Supply box");
    const heater = mended(noCheck, find(noCheck, "no-check-at-heater"));
    const check = heater.parts.find((p) => p.kind === "check-valve" && p.id !== "shore-check");
    expect(
      heater.runs.some(
        (r) => r.from.part === check?.id && r.from.port === "out" && r.to.part === "heater",
      ),
    ).toBe(true);
    // Nearer to what it guards, whichever way the pipe was drawn; nothing is longer for it.
    for (const [before, after, guarded] of [
      [wagtail, map, "supply-box"],
      [noCheck, heater, "heater"],
    ] as const) {
      const put = after.parts.find((p) => !before.parts.some((q) => q.id === p.id));
      const pieces = after.runs.filter((r) => r.from.part === put?.id || r.to.part === put?.id);
      const [near, far] = pieces.toSorted((a) =>
        a.from.part === guarded || a.to.part === guarded ? -1 : 1,
      );
      const whole = before.runs.find(
        (r) =>
          (r.from.part === guarded || r.to.part === guarded) &&
          !after.runs.some((q) => q.id === r.id && q.lengthM === r.lengthM),
      );
      expect(near?.lengthM).toBeLessThan(far?.lengthM ?? 0);
      expect((near?.lengthM ?? 0) + (far?.lengthM ?? 0)).toBeCloseTo(whole?.lengthM ?? 0, 6);
    }
  });

  it("the demo units have no problem but what is meant to be there", () => {
    const wrong = EXAMPLE_MAPS.flatMap((m) =>
      surveyMap(m).problems.filter((p) => p.severity === "wrong"),
    );
    expect(wrong).toEqual([]);
    for (const quiet of [teasel, sundew, yarrow]) expect(codes(quiet)).toEqual([]);
  });

  it("are the same however the map is stored", () => {
    for (const map of [foxglove, dipper, loose]) expect(codes(shuffled(map))).toEqual(codes(map));
  });
});

describe("any map somebody has been at", () => {
  it("is surveyed, and every mend leaves a sound map", () => {
    fc.assert(
      fc.property(anyMap, (map) => {
        for (const problem of surveyMap(map).problems)
          for (const mend of problem.mends) {
            const done = applyMend(map, mend);
            if (!done.ok) continue;
            const read = readWaterMap(done.map);
            expect(read.ok ? [] : read.problems).toEqual([]);
          }
      }),
      { seed: 51, numRuns: 40 },
    );
  });
});

describe("sections", () => {
  const network = networkOf(teasel);
  const sections = surveyMap(teasel).sections;
  const sectionOf = (id: string) => sections.find((s) => s.owners.includes(id));
  it("are what stays joined when every valve is shut: the heater stands alone between V5 and V6", () => {
    expect(sectionOf("heater")?.bounds).toEqual(["v5", "v6"]);
    expect(sectionOf("heater")?.owners).toContain("heater-check");
    expect(sectionOf("galley")).toBe(sectionOf("shower"));
    expect(sectionOf("strainer")?.bounds).toContain("pump");
  });
  it.each(EXAMPLE_MAPS.map((m) => [m.name, m] as const))(
    "of %s: no waste, and every valve between two of them bounds both",
    (_, map) => {
      const net = networkOf(map);
      const all = surveyMap(map).sections;
      const inSection = (cell: number) => all.findIndex((s) => s.cells.includes(cell));
      for (const s of all)
        for (const c of s.cells) {
          const cell = net.cells[c];
          expect(["waste-pipe", "trap"], cell?.id).not.toContain(cell?.form);
          expect(cell?.kind?.role.vessel, cell?.id).not.toBe("waste");
        }
      for (const l of net.links) {
        const [a, b] = [inSection(l.a), inSection(l.b)];
        const cut = l.gates.find((g) =>
          net.controls.some(
            (c) => c.key === g.key && (c.spec.role === "valve" || c.spec.role === "selector"),
          ),
        );
        if (a < 0 || b < 0 || !cut) continue;
        expect(all[a]?.bounds, cut.key).toContain(cut.key);
        expect(all[b]?.bounds, cut.key).toContain(cut.key);
      }
      expect(all.map((s) => s.volumeM3)).toEqual(
        all.map((s) => s.volumeM3).toSorted((x, y) => y - x),
      );
    },
  );
  it("do not overlap, and hold together what every wet pipe holds", () => {
    const owners = sections.flatMap((s) => s.cells);
    expect(new Set(owners).size).toBe(owners.length);
    const pipes = network.cells.flatMap((c, i) => (c.form === "pipe" ? [i] : []));
    expect(pipes.every((i) => owners.includes(i))).toBe(true);
  });
});

describe("how water can be got out", () => {
  it("a tank drains, a pump is pushed through, a plugged stub keeps its water", () => {
    const { clearing } = surveyMap(deadLeg());
    expect(clearing.get("fresh-tank")).toBe("drains");
    expect(clearing.get("pump")).toBe("can be pushed through");
    expect(clearing.get("stop")).toBe("nothing clears it");
  });
});

describe("what nothing clears", () => {
  it.each(EXAMPLE_MAPS.map((m) => [m.name, m] as const))(
    "on %s is named, and nothing that drains or is pushed through",
    (_, map) => {
      const { problems, clearing } = surveyMap(map);
      for (const p of problems.filter((x) => x.code === "nothing-clears"))
        expect(clearing.get(p.parts[0] ?? ""), p.message).toBe("nothing clears it");
      // Vessels that hold much are never passed over, but for waste tanks: those are pumped out.
      const kept = map.parts.filter(
        (p) =>
          clearing.get(p.id) === "nothing clears it" &&
          PART_KINDS.get(p.kind)?.role.vessel === "heater",
      );
      const named = problems.flatMap((p) => p.parts);
      for (const p of kept) expect(named, p.name).toContain(p.id);
    },
  );
});

describe("the turns from one lineup to another", () => {
  it("come stage by stage in the order of a walk: what stops first, then valves, then what opens", () => {
    const network = networkOf(teasel);
    const turns = turnsBetween(network, inUseLineup(network), modeLineup(network, "drain"));
    const places = teasel.places;
    expect(turns[0]?.key).toBe("pump");
    const valves = turns.filter((t) => /^v\d$/u.test(t.key));
    expect(valves.length).toBeGreaterThan(0);
    const taps = turns.filter((t) => t.key.endsWith(":cold") || t.key.endsWith(":hot"));
    expect(taps.map((t) => places.indexOf(t.place))).toEqual(
      taps.map((t) => places.indexOf(t.place)).toSorted((a, b) => a - b),
    );
    // Of one place by name.
    for (const [i, t] of taps.entries()) {
      const next = taps[i + 1];
      if (next && next.place === t.place) expect(t.key < next.key).toBe(true);
    }
    for (const t of turns) expect(t.from).not.toBe(t.to);
    expect(turns.find((t) => t.key === "galley:cold")?.name).toBe("Galley tap, cold");
    expect(turns.find((t) => t.key === "pump")?.name).toBe(
      teasel.parts.find((p) => p.id === "pump")?.name,
    );
  });
});

describe("the reach path", () => {
  const network = networkOf(teasel);
  const use = inUseLineup(network);
  it("runs from the tank past pump and tees to the tap that stands open, with its volume and length", () => {
    const [reach] = reachOf(network, { ...use, "galley:cold": "open" });
    expect(reach?.source).toBe("Fresh tank");
    for (const id of ["v2", "strainer", "pump", "t-gc", "galley"])
      expect(reach?.owners).toContain(id);
    expect(reach?.owners).not.toContain("heater");
    const runs = teasel.runs.filter((r) => reach?.owners.includes(r.id));
    expect(reach?.lengthM).toBeCloseTo(
      runs.reduce((sum, r) => sum + r.lengthM, 0),
      9,
    );
    expect(reach?.volumeM3).toBeGreaterThan(0.0005);
  });
  it("goes through the heater on the hot side, and over the bypass when that is open and the heater shut", () => {
    const hot = (lineup: Record<string, string>) =>
      reachOf(network, { ...use, "galley:hot": "open", ...lineup })[0]?.owners ?? [];
    expect(hot({})).toContain("heater");
    expect(hot({ v5: "shut", v6: "shut", v7: "open" })).not.toContain("heater");
    expect(hot({ v5: "shut", v6: "shut", v7: "open" })).toContain("v7");
  });
  it("has a way for each open side of a shower whose head is behind both", () => {
    const showers = (lineup: Record<string, string>) =>
      reachOf(network, { ...use, ...lineup }).filter((r) => r.part === "deck-shower");
    expect(showers({})).toEqual([]);
    const [hot, ...more] = showers({ "deck-shower:hot": "open" });
    expect(more).toEqual([]);
    expect(hot?.source).toBe("Fresh tank");
    expect(hot?.owners).toContain("heater");
    const both = showers({ "deck-shower:hot": "open", "deck-shower:cold": "open" });
    expect(both.map((r) => r.side)).toEqual(["deck-shower:cold", "deck-shower:hot"]);
    expect(both.map((r) => r.owners.includes("heater"))).toEqual([false, true]);
  });
  it("says what stands in the way", () => {
    const blocked = (lineup: Record<string, string>) =>
      reachOf(network, { ...use, "galley:hot": "open", ...lineup })[0]?.blockedBy;
    const plain = networkOf(noBypass());
    const [reach] = reachOf(plain, { ...inUseLineup(plain), "galley:hot": "open", v6: "shut" });
    expect(reach?.source).toBeUndefined();
    expect(reach?.blockedBy).toEqual([{ key: "v6", needs: "open" }]);
    expect(blocked({ pump: "off" })).toEqual([{ key: "pump", needs: "on" }]);
    // A hose that is to be connected counts as one more; one that is connected stands in no way.
    const shore = (lineup: Record<string, string>) =>
      reachOf(plain, {
        ...inUseLineup(plain),
        pump: "off",
        "galley:hot": "open",
        v6: "shut",
        ...lineup,
      })[0]?.blockedBy;
    expect(shore({ "shore-inlet": "open" })).toEqual([{ key: "v6", needs: "open" }]);
  });
  it("comes from the shore when that is connected and the pump stands", () => {
    expect(
      reachOf(network, { ...use, pump: "off", "shore-inlet": "open", "galley:cold": "open" })[0]
        ?.source,
    ).toBe("Shore inlet");
  });
});

describe("modes", () => {
  const turns = (map: WaterMap, mode: (typeof MODES)[number]) => {
    const network = networkOf(map);
    return turnsBetween(network, inUseLineup(network), modeLineup(network, mode)).map(
      (t) => `${t.key}=${t.to}`,
    );
  };
  it("stored keeps what protects: the heater stays shut off and by-passed, a seacock shut, the jug hose capped", () => {
    expect(turns(teasel, "stored")).toEqual(
      expect.arrayContaining(["v5=shut", "v6=shut", "v7=open", "pump=off"]),
    );
    const cocks = EXAMPLE_MAPS.flatMap((map) => {
      const lineup = proposeMode(networkOf(map), "stored");
      return map.parts.filter((p) => p.kind === "raw-intake").map((p) => lineup[p.id]);
    });
    expect(cocks.length).toBeGreaterThan(0);
    expect(new Set(cocks)).toEqual(new Set(["shut"]));
    // Where nothing leads round the heater its valves stay as in use.
    expect(turns(noBypass(), "stored").filter((t) => /^v[56]=/u.test(t))).toEqual([]);
  });
  it.each(EXAMPLE_MAPS.map((m) => [m.name, m] as const))(
    "%s has a position of every control in every mode",
    (_, map) => {
      const network = networkOf(map);
      for (const mode of MODES) {
        const lineup = proposeMode(network, mode);
        for (const c of network.controls)
          expect(
            c.spec.positions.map((p) => p.name),
            `${mode} ${c.key}`,
          ).toContain(lineup[c.key]);
      }
    },
  );
  it("use on tank is how it stands; on supply the pump is off and the inlet connected", () => {
    expect(turns(teasel, "use on tank")).toEqual([]);
    expect(turns(teasel, "use on supply")).toEqual(["pump=off", "shore-inlet=open"]);
  });
  it("drawing antifreeze selects the pickup, goes past the heater by all three valves of its bypass, and shuts the tank off where a valve stands there", () => {
    expect(turns(teasel, "draw antifreeze").toSorted()).toEqual([
      "pickup=in jug",
      "v2=b",
      "v5=shut",
      "v6=shut",
      "v7=open",
    ]);
    expect(turns(foxglove, "draw antifreeze")).toContain("panel=jug");
  });
  it("filling goes by the selector where one joins inlet and tank, else by the filler", () => {
    expect(turns(yarrow, "fill tank")).toContain("sel=b");
    expect(turns(teasel, "fill tank")).toContain("deck-fill=open");
  });
  it("draining opens every tap, drain and plug; waste valves stay shut", () => {
    const drained = turns(turnstone, "drain");
    for (const key of ["dp=open", "heater-a:plug=open", "galley:hot=open", "v6=open"])
      expect(drained).toContain(key);
    expect(drained.some((t) => t.startsWith("out-p"))).toBe(false);
  });
  it("a correction by hand stands above the proposal", () => {
    const map = { ...teasel, modes: { "draw antifreeze": { v7: "open" } } };
    expect(turns(map, "draw antifreeze")).toContain("v7=open");
  });
});

describe("turns between two lineups", () => {
  it("come in an order that hurts nobody: pump off first, ways out shut before ways in are opened, pump on last", () => {
    const network = networkOf(teasel);
    const use = inUseLineup(network);
    const to = {
      ...use,
      pump: "off",
      v5: "shut",
      v7: "open",
      v2: "b",
      "galley:cold": "open",
      "heater:plug": "open",
    };
    const order = (from: Record<string, string>, into: Record<string, string>) =>
      turnsBetween(network, from, into).map((t) => t.key);
    expect(order(use, to)[0]).toBe("pump");
    expect(order(use, to).indexOf("v5")).toBeLessThan(order(use, to).indexOf("v7"));
    expect(order(use, to).indexOf("v7")).toBeLessThan(order(use, to).indexOf("heater:plug"));
    expect(order(to, use).at(-1)).toBe("pump");
    expect(order(to, use).indexOf("heater:plug")).toBeLessThan(order(to, use).indexOf("v5"));
    expect(order(use, use)).toEqual([]);
  });
});

/** Maps with one thing wrong. */
function withoutBreaker(): WaterMap {
  const yarrowRuns = without(yarrow, ["breaker"]);
  return {
    ...yarrowRuns,
    runs: [...yarrowRuns.runs, run("flush.out", "black.in4", "hose-19", 3, "raw")],
  };
}
function airless(): WaterMap {
  return {
    ...teasel,
    parts: teasel.parts.map((p) =>
      p.id === "fresh-tank" ? { ...p, params: { ...p.params, vented: false } } : p,
    ),
  };
}
function mixedTube(pipe: string, others = "metric-15"): WaterMap {
  return {
    ...teasel,
    runs: teasel.runs.map((r) => {
      if (r.from.part !== "t-gc" && r.to.part !== "t-gc") return r;
      return { ...r, pipe: r.id === "r-t-gc-b-galley-cold" ? pipe : others };
    }),
  };
}
function tagTwice(): WaterMap {
  return { ...teasel, parts: teasel.parts.map((p) => (p.id === "v6" ? { ...p, tag: "v5" } : p)) };
}
function deadLeg(): WaterMap {
  return {
    ...teasel,
    parts: [
      ...teasel.parts,
      part("t-x", "tee", "Old tee", 0.2),
      part("stop", "end-plug", "Stop", 0.05),
    ],
    runs: [
      ...teasel.runs.filter((r) => r.id !== "r-t-gc-b-galley-cold"),
      run("t-gc.b", "t-x.a", "metric-15", 0.4, "cold"),
      run("t-x.b", "galley.cold", "metric-15", 0.5, "cold"),
      run("t-x.c", "stop.in", "metric-15", 1.2, "cold"),
    ],
  };
}
function backwards(): WaterMap {
  return {
    ...teasel,
    parts: [...teasel.parts, part("bad", "check-valve", "Check", 0.3)],
    runs: [
      ...teasel.runs.filter((r) => r.id !== "r-t-gc-b-galley-cold"),
      run("t-gc.b", "bad.out", "metric-15", 0.4, "cold"),
      run("bad.in", "galley.cold", "metric-15", 0.5, "cold"),
    ],
  };
}
function carbonFill(): WaterMap {
  return compose(
    { id: "c", name: "C", craft: "bench" },
    [
      part("inlet", "pressurised-inlet", "Inlet", 0.5),
      part("carbon", "filter-housing", "Carbon filter", 0.4, { params: { holds: "carbon" } }),
      part("tank", "fresh-tank", "Tank", 0),
    ],
    [
      run("inlet.out", "carbon.in", "pex-1/2", 1, "cold"),
      run("carbon.out", "tank.fill", "pex-1/2", 1, "fill"),
    ],
  );
}
function crossed(): WaterMap {
  return {
    ...teasel,
    parts: [
      ...teasel.parts,
      part("seacock", "raw-intake", "Seacock", -0.5),
      part("t-x", "tee", "Odd tee", 0.2),
    ],
    runs: [
      ...teasel.runs.filter((r) => r.id !== "r-t-gc-b-galley-cold"),
      run("t-gc.b", "t-x.a", "metric-15", 0.4, "cold"),
      run("t-x.b", "galley.cold", "metric-15", 0.5, "cold"),
      run("seacock.out", "t-x.c", "hose-19", 1, "raw"),
    ],
  };
}
function weakPipe(): WaterMap {
  return {
    ...teasel,
    runs: teasel.runs.map((r) =>
      r.id === "r-t-gc-b-galley-cold" ? { ...r, pipe: "vacuum-13" } : r,
    ),
  };
}
