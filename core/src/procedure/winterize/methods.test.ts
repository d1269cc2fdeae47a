import { describe, expect, it } from "vitest";
import { liquidIn, type Mixture, strengthOf, volumeOf } from "../../contents/index.ts";
import { EXAMPLE_MAPS } from "../../examples/index.ts";
import { compose, part, run } from "../../examples/compose.ts";
import { PATTERNS, starterMap } from "../../patterns/index.ts";
import { judgeMap } from "../../testing/safety.ts";
import { networkOf } from "../../testing/variants.ts";
import type { WaterMap } from "../../watermap/index.ts";
import { comparedBy, proposedOf } from "../compare.ts";
import { AIR_LIMITS, HOUSE_LIMITS } from "../house-settings.ts";
import { type Method, METHOD_NAMES } from "../method.ts";
import { startPhysical } from "../physical.ts";
import { storedEnergyJ } from "../../fluid/index.ts";
import type { Plan } from "../plan.ts";
import type { Step } from "../step.ts";
import { planWinterize, standardRequest, type WinterizeRequest } from "./index.ts";

const family = (id: string): WaterMap => {
  const found = PATTERNS.find((p) => p.id === id);
  if (!found) throw new Error(`no family ${id}`);
  return starterMap(found);
};
const demo = (id: string): WaterMap => {
  const found = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!found) throw new Error(`no unit ${id}`);
  return found;
};
const planFor = (map: WaterMap, method: Method, more: Partial<WinterizeRequest> = {}): Plan => {
  const network = networkOf(map);
  return planWinterize({
    ...standardRequest(network, startPhysical(network)),
    method,
    ...more,
  });
};
const compared = (map: WaterMap) =>
  METHOD_NAMES.map((method) => comparedBy(networkOf(map), planFor(map, method)));
const stepOf = (plan: Plan, id: RegExp) => plan.steps.find((s) => id.test(s.id));

const maps: [string, WaterMap][] = [
  ...EXAMPLE_MAPS.map((m): [string, WaterMap] => [m.name, m]),
  ...PATTERNS.map((p): [string, WaterMap] => [p.id, starterMap(p)]),
];

describe("every method", () => {
  it.each(maps)(
    "on %s, judged by the checker: nothing called protected is wet, and no hazard is passed",
    (_, map) => {
      for (const method of METHOD_NAMES.filter((m) => m !== "antifreeze")) {
        const { plan, judged } = judgeMap(map, method);
        expect(judged.falseProtected, method).toEqual([]);
        expect(judged.hazards, method).toEqual([]);
        for (const u of plan.unprotected) expect(u.why).not.toBe("");
      }
    },
  );

  it("together bring every family below the winter low", () => {
    const short = PATTERNS.filter((p) =>
      METHOD_NAMES.every((method) => planFor(starterMap(p), method).unprotected.length > 0),
    );
    expect(short.map((p) => p.id)).toEqual([]);
  });

  it("takes no more antifreeze after air than without it", () => {
    for (const id of ["teasel", "haywain", "foxglove"]) {
      const drawn = (method: Method): number =>
        planFor(demo(id), method).steps.reduce((sum, s) => sum + s.antifreezeM3, 0);
      expect(drawn("air-antifreeze"), id).toBeLessThan(drawn("antifreeze"));
    }
  });
});

describe("air", () => {
  it("alone never protects what stands behind the pump's check, and says so first", () => {
    for (const id of ["teasel", "burdock", "haywain"]) {
      const { wet, cannot, protects } = comparedBy(networkOf(demo(id)), planFor(demo(id), "air"));
      expect(wet.map((w) => w.id)).toContain("pump");
      expect(protects).toBe(false);
      expect(cannot).toMatch(
        /^Does not protect this unit: pump.* wet; air from the inlet stops at/u,
      );
    }
  });

  it("sweeps the leg before a check at a heater's hot outlet, which nothing else does", () => {
    const map = demo("burdock");
    expect(planFor(map, "antifreeze").unprotected.map((u) => u.id)).toContain("hot-check");
    const plan = planFor(map, "air-antifreeze");
    expect(plan.unprotected).toEqual([]);
    const leg = stepOf(plan, /:leg:.*plug=shut/u);
    // The plug comes out again only when somebody has read zero.
    const rows = leg?.actions.map((a) =>
      a.type === "set-valve"
        ? `${a.control}=${a.position}`
        : a.type === "confirm"
          ? a.fact
          : a.type,
    );
    const zero = rows?.findIndex((r) => r.startsWith("air-zero")) ?? -1;
    expect(zero).toBeGreaterThan(rows?.indexOf("blow") ?? 0);
    expect(rows?.indexOf("heater:plug=open")).toBeGreaterThan(zero);
    expect(leg?.cautions.join(" ")).toMatch(/becomes an air vessel: .* holds about \d/u);
  });

  it("is set to the house's figure, and to half of what the weakest pipe bears where that is less", () => {
    const set = (plan: Plan): number[] =>
      plan.steps.flatMap((s) => s.actions.flatMap((a) => (a.type === "blow" ? [a.pa] : [])));
    const usual = new Set(set(planFor(demo("teasel"), "air")));
    expect([...usual]).toEqual([275_000]);
    const low = planFor(demo("teasel"), "air", {
      house: { ...HOUSE_LIMITS, air: { ...AIR_LIMITS, pa: 200_000, ceilingPa: 210_000 } },
    });
    expect(new Set(set(low))).toEqual(new Set([200_000]));
    // The gauge stops the work above the ceiling.
    const ask = stepOf(low, /:on$/u)?.asks[0];
    expect(ask).toMatchObject({ kind: "pressure", required: true, atMost: 210_000 });
  });

  it("is not planned where a pipe bears too little", () => {
    const weak: WaterMap = compose(
      { id: "weak", name: "Weak", craft: "bench" },
      [
        part("in", "pressurised-inlet", "Inlet", 0, { params: { builtInCheck: false } }),
        part("tap", "single-tap", "Tap", 0),
      ],
      [run("in.out", "tap.in", "hose-13", 3, "cold")],
    );
    const rated = planFor(weak, "air");
    const pressures = rated.steps.flatMap((s) =>
      s.actions.flatMap((a) => (a.type === "blow" ? [a.pa] : [])),
    );
    expect(pressures.every((pa) => pa <= 275_000)).toBe(true);
  });

  it("goes once more round every opening it was let out at, and asks for zero before the hose comes off", () => {
    const plan = planFor(demo("teasel"), "air");
    const blown = plan.steps.flatMap((s) =>
      s.id.includes(":leg:")
        ? []
        : s.actions.flatMap((a, i) => {
            const before = s.actions[i - 1];
            return a.type === "blow" && before?.type === "set-valve" ? [before.control] : [];
          }),
    );
    const again = stepOf(plan, /:again$/u)?.actions.map((a) =>
      a.type === "confirm" ? a.fact : "",
    );
    expect(again).toEqual(expect.arrayContaining(blown.map((c) => `mist:shore-inlet:${c}`)));
    expect(blown).toEqual(expect.arrayContaining(["deck-shower:cold", "galley:hot"]));
    // What had nothing to give is opened all the same the second time.
    expect(again).toEqual(
      expect.arrayContaining(["mist:shore-inlet:galley:cold", "mist:shore-inlet:d1"]),
    );
    const off = stepOf(plan, /^air:.*:off$/u);
    expect(off?.asks).toEqual([expect.objectContaining({ kind: "pressure", required: true })]);
    expect(plan.steps.findIndex((s) => s.id === "air:shore-inlet:off")).toBeGreaterThan(
      plan.steps.findIndex((s) => s.id === "air:shore-inlet:again"),
    );
    const rounds = planFor(demo("teasel"), "air", {
      house: { ...HOUSE_LIMITS, air: { ...AIR_LIMITS, rounds: 1 } },
    });
    expect(stepOf(rounds, /:again$/u)).toBeUndefined();
  });

  it("comes in by an undone joint after the pump where a boat has no inlet", () => {
    const plan = planFor(family("P11"), "air");
    const on = stepOf(plan, /^air:.*:on$/u);
    expect(on?.actions.map((a) => a.type)).toContain("disconnect");
    expect(plan.after.apart).toEqual([]);
  });

  // Adiabatic, by hand: 25 L at 40 psi over the air are 7.4 kJ.
  it("in a vessel sets free what the textbook says", () => {
    expect(storedEnergyJ(0.025, 40 * 6894.757) / 1000).toBeCloseTo(7.4, 1);
  });
});

describe("suction", () => {
  // Common practice, no source: 8.5 of 10 L come.
  it("empties a heater without a drain but for what ice has room over, and nothing is drawn into it again", () => {
    const plan = planFor(family("P04"), "suction");
    const step = stepOf(plan, /:suck$/u);
    expect(step?.asks[0]).toMatchObject({ kind: "recovered", required: true });
    expect(step?.asks[0]?.expected).toBeCloseTo(0.0085, 4);
    expect(step?.why).toContain("with its relief lifted");
    expect(step?.expect).toContain("15 % full");
    const heater = plan.verdict.owners.find((o) => o.id === "heater");
    expect(heater).toMatchObject({ state: "room for ice", holdsToC: null });
    const filled = planFor(family("P04"), "antifreeze");
    const drawn = (p: Plan): number => p.steps.reduce((sum, s) => sum + s.antifreezeM3, 0);
    expect(drawn(filled) - drawn(plan)).toBeGreaterThan(0.02);
  });

  it("is the plain way, and said to be, where every vessel has a drain", () => {
    const found = compared(demo("teasel")).find((m) => m.method === "suction");
    expect(found?.sameAs).toContain("no vessel aboard is without a drain");
  });
});

describe("what is proposed", () => {
  it("is the house's own where it protects the unit", () => {
    const all = compared(demo("teasel"));
    expect(proposedOf(all, "drain-antifreeze")?.method).toBe("antifreeze");
    expect(proposedOf(all, "air-antifreeze")?.method).toBe("air-antifreeze");
  });

  it("is another where the house's own leaves something wet, with the reason", () => {
    const found = proposedOf(compared(demo("burdock")), "drain-antifreeze");
    expect(found?.method).toBe("air-antifreeze");
    expect(found?.reason).toContain("the house's own, does not");
    expect(proposedOf(compared(demo("teasel")), "air")?.method).not.toBe("air");
  });

  it("says of each what spring will owe", () => {
    const all = compared(demo("teasel"));
    const of = (method: Method) => all.find((m) => m.method === method)?.spring.join("; ") ?? "";
    expect(of("antifreeze")).toContain("antifreeze to flush out");
    expect(of("antifreeze")).toContain("heater to fill and prove full");
    expect(of("air")).toContain("1 plug to refit");
  });
});

describe("a raw-water side", () => {
  it("is filled by its own intake hose, off a seacock that is shut, and what stands on its ball is dried", () => {
    const plan = planFor(family("P18"), "antifreeze");
    expect(plan.unprotected).toEqual([]);
    const step = plan.steps.find((s) => s.id.startsWith("fill:seacock"));
    expect(step?.actions.map((a) => a.type)).toEqual(
      expect.arrayContaining(["disconnect", "suck", "push-by-hand", "reconnect"]),
    );
    expect(plan.after.lineup["seacock"]).toBe("shut");
  });
});

describe("an accumulator", () => {
  it("is let out and pressed again until its own pipe holds", () => {
    const plan = planFor(family("P12"), "antifreeze");
    expect(stepOf(plan, /:work$/u)?.parts).toContain("acc");
    expect(plan.unprotected).toEqual([]);
    // Let out at the low point first, what thin liquid stood before it never comes to this one's.
    expect(planFor(demo("yarrow"), "antifreeze").unprotected).toEqual([]);
  });
});

describe("what is emptied by hand", () => {
  const withSoftener = (bypass: boolean): WaterMap => {
    const map = demo("yarrow");
    return {
      ...map,
      parts: map.parts.map((p) =>
        p.id === "sediment"
          ? { ...p, kind: "softener", name: "Softener", params: { bypass, volumeL: 6 } }
          : p,
      ),
    };
  };
  const inColumn = (plan: Plan, map: WaterMap): Mixture =>
    liquidIn(plan.after.contents[networkOf(map).cellIndex.get("sediment:column") ?? -1]);

  it("a canister's bowl comes off before anything is drawn, whatever else is still full", () => {
    const plan = planFor(demo("yarrow"), "antifreeze");
    const out = (id: string): Step | undefined =>
      plan.steps.find((s) => s.id === `drain:${id}:bowl`);
    for (const id of ["sediment", "carbon"])
      expect(out(id)?.actions.map((a) => a.type)).toContain("drain");
  });

  it.each(["antifreeze", "air-antifreeze", "suction"] as const)(
    "a softener with a lever is tipped out and passed by, and stays so: %s",
    (method) => {
      const map = withSoftener(true);
      const { plan, judged } = judgeMap(map, method);
      const held = inColumn(plan, map);
      expect(strengthOf(held)).toBe(0);
      // Wet resin, and more than half of the column for ice.
      expect(volumeOf(held)).toBeCloseTo(0.0024, 6);
      expect(plan.unprotected).toEqual([]);
      expect(plan.after.lineup["sediment:bypass"]).toBe("bypass");
      expect(judged.falseProtected).toEqual([]);
      expect(judged.hazards).toEqual([]);
    },
  );

  it("a softener without one is filled, which takes its whole column", () => {
    const map = withSoftener(false);
    const plan = planFor(map, "antifreeze");
    expect(volumeOf(inColumn(plan, map))).toBeCloseTo(0.006, 5);
    expect(plan.unprotected).toEqual([]);
    expect(plan.antifreeze.workedM3).toBeGreaterThan(
      planFor(withSoftener(true), "antifreeze").antifreeze.workedM3 + 0.006,
    );
  });
});

describe("the line of a pickup", () => {
  it("is let out by its own hose where nothing is drawn through it, and everything is put back", () => {
    const { plan, judged } = judgeMap(demo("foxglove"), "air");
    const step = stepOf(plan, /^drain:jug:line$/u);
    const turned = step?.actions.flatMap((a) =>
      a.type === "set-valve" ? [`${a.control}=${a.position}`] : [],
    );
    expect(turned).toEqual(expect.arrayContaining(["jug=in jug", "vw=open", "panel=jug"]));
    expect(plan.unprotected.map((u) => u.id)).toEqual(["pump"]);
    expect(judged.falseProtected).toEqual([]);
    expect(judged.hazards).toEqual([]);
    for (const control of ["jug", "vw", "panel", "strainer"])
      expect(plan.after.lineup[control] ?? "").not.toMatch(/^(?:in jug|jug)$/u);
    // Where product is drawn through it, it is filled.
    expect(stepOf(planFor(demo("foxglove"), "antifreeze"), /^drain:jug:line$/u)).toBeUndefined();
  });

  it("never opens what stands between the boat and the sea", () => {
    for (const id of ["turnstone", "dipper"]) {
      const plan = planFor(demo(id), "air");
      for (const s of plan.steps.filter((x) => x.id.endsWith(":line")))
        expect(s.parts.some((part) => part.startsWith("seacock"))).toBe(false);
    }
  });
});
