import { describe, expect, it } from "vitest";
import { totalAboard } from "../../contents/index.ts";
import { burdock, EXAMPLE_MAPS, plover, teasel } from "../../examples/index.ts";
import {
  extraOutsideShower,
  networkOf,
  noBypass,
  noPickup,
  shuffled,
  singleValveBypass,
  without,
} from "../../testing/variants.ts";
import type { WaterMap } from "../../watermap/index.ts";
import { startPhysical } from "../physical.ts";
import type { Step } from "../step.ts";
import type { Plan } from "../plan.ts";
import { planWinterize, standardRequest, type WinterizeRequest } from "./index.ts";

const planFor = (map: WaterMap, more: Partial<WinterizeRequest> = {}): Plan => {
  const network = networkOf(map);
  return planWinterize({ ...standardRequest(network, startPhysical(network)), ...more });
};
const turnsOf = (step: Step | undefined): string[] =>
  (step?.actions ?? []).flatMap((a) =>
    a.type === "set-valve" ? [`${a.control}=${a.position}`] : [],
  );
const stage = (plan: Plan, name: Step["stage"]): Step[] =>
  plan.steps.filter((s) => s.stage === name);
const ids = (plan: Plan): string[] => plan.steps.map((s) => s.id);

describe("the antifreeze plan of the canal cruiser", () => {
  const plan = planFor(teasel);

  it("holds the winter low with its margin, and proves it on the map", () => {
    expect(plan.holdsToC).toBeLessThanOrEqual(-23);
    expect(plan.meetsMargin).toBe(true);
    expect(plan.unprotected).toEqual([]);
    expect(plan.weakest?.source).toBe("worked out");
  });

  it("runs the pump dry only while something is left before it", () => {
    const network = networkOf(teasel);
    const start = startPhysical(network);
    const dryIn = (contents: typeof start.contents): string[] =>
      planWinterize(standardRequest(network, { ...start, contents })).steps.flatMap((s) =>
        s.id.endsWith(":dry") ? [s.id] : [],
      );
    expect(dryIn(start.contents)).toEqual(["drain:pump:dry"]);
    expect(dryIn(start.contents.map((c) => ({ ...c, plugs: [] })))).toEqual([]);
  });

  it("keeps the order that hands and fluids need", () => {
    const list = ids(plan);
    const order = [
      "secure:heater:off",
      "secure:heater:cool",
      "drain:heater",
      "drain:shut",
      "fill:jug",
      "fill:pump-on",
      "fill:deck-shower:cold",
      "fill:pump-off",
      "button-up:jug",
    ];
    expect(order.map((id) => list.indexOf(id))).toEqual(
      order.map((id) => list.indexOf(id)).sort((a, b) => a - b),
    );
    expect(list.indexOf("secure:heater:off")).toBe(0);
    const heater = plan.steps.find((s) => s.id === "drain:heater");
    expect(heater?.needs).toEqual([
      "secure:heater:off",
      "secure:heater:cool",
      "secure:pump-and-supply",
    ]);
    const turns = turnsOf(heater);
    expect(turns.indexOf("heater:relief=open")).toBeLessThan(turns.indexOf("heater:plug=open"));
  });

  it("takes the heater out of the loop by V5, V6 and V7 before any antifreeze is drawn", () => {
    expect(stage(plan, "bypass").flatMap(turnsOf).sort()).toEqual([
      "v5=shut",
      "v6=shut",
      "v7=open",
    ]);
  });

  it("reads the hot and cold side of every outlet, low points first and hot before cold, and doses every trap and the bowl", () => {
    const fill = stage(plan, "fill");
    const read = fill.flatMap((s) => s.asks.map((a) => a.key));
    for (const side of ["galley", "basin", "shower", "deck-shower"].flatMap((o) => [
      `strength:${o}:cold`,
      `strength:${o}:hot`,
    ]))
      expect(read).toContain(side);
    expect(read).toContain("strength:toilet:flush");
    const order = fill.map((s) => s.id).filter((id) => !id.endsWith(":hand"));
    expect(order.slice(order.indexOf("fill:d1"), order.indexOf("fill:d1") + 3)).toEqual([
      "fill:d1",
      "fill:d2",
      expect.stringMatching(/:hot$/u),
    ]);
    expect(order.indexOf("fill:deck-shower:hot") + 1).toBe(order.indexOf("fill:deck-shower:cold"));
    expect(stage(plan, "traps").map((s) => s.id)).toEqual([
      "traps:trap-galley:seal",
      "traps:toilet:bowl",
      "traps:trap-basin:seal",
      "traps:trap-shower:seal",
    ]);
  });

  it("needs antifreeze of the order that the trade expects: about two US gallons (common practice, no source)", () => {
    const gallons = plan.antifreeze.medianM3 / 3.785411784e-3;
    expect(gallons).toBeGreaterThan(1.3);
    expect(gallons).toBeLessThan(3.2);
    expect(plan.antifreeze.p90M3).toBeGreaterThanOrEqual(plan.antifreeze.medianM3);
    expect(plan.antifreeze.lines.reduce((s, l) => s + l.volumeM3, 0)).toBeCloseTo(
      plan.antifreeze.workedM3,
      6,
    );
  });

  it("needs the heater's volume more when the heater is filled instead", () => {
    const inLine = planFor(teasel, { heaterInLine: true });
    const more = inLine.antifreeze.medianM3 - plan.antifreeze.medianM3;
    expect(more).toBeGreaterThan(0.9 * 0.038);
    expect(more).toBeLessThan(1.3 * 0.038);
  });

  it("is the same plan every time, however the map is stored", () => {
    const again = planFor(teasel);
    const other = planFor(shuffled(teasel));
    expect(JSON.stringify(again.steps)).toBe(JSON.stringify(plan.steps));
    expect(JSON.stringify(other.steps)).toBe(JSON.stringify(plan.steps));
    expect(other.antifreeze).toEqual(plan.antifreeze);
  });

  it("conserves what is drawn: aboard after = aboard before + drawn − gone", () => {
    const before = totalAboard(startPhysical(networkOf(teasel)).contents);
    const after = totalAboard(plan.after.contents);
    expect(after.glycolM3 + plan.after.gone.glycolM3).toBeCloseTo(
      before.glycolM3 + plan.after.came.glycolM3,
      12,
    );
  });

  it("asks for a stronger reading where the winter is colder, and says when the product cannot give it", () => {
    const mild = planFor(teasel, { winterLowC: -8 });
    const harsh = planFor(teasel, { winterLowC: -35 });
    expect(harsh.targetStrength).toBeGreaterThanOrEqual(mild.targetStrength);
    expect(harsh.meetsMargin).toBe(false);
    expect(harsh.unprotected.length).toBeGreaterThan(0);
    expect(mild.unprotected).toEqual([]);
  });
});

describe("the plan follows the map", () => {
  const base = planFor(teasel);

  it("without a bypass: no valve takes the heater out, its plug goes back, and it takes its volume more", () => {
    const plan = planFor(noBypass());
    expect(stage(plan, "bypass").flatMap(turnsOf)).toEqual(["heater:plug=shut"]);
    expect(plan.antifreeze.lines.some((l) => l.label.startsWith("Heater"))).toBe(true);
    expect(plan.antifreeze.medianM3 - base.antifreeze.medianM3).toBeGreaterThan(0.9 * 0.038);
    expect(plan.unprotected).toEqual([]);
  });

  it("with a one-lever bypass: one lever is turned and the hot side still gets its antifreeze", () => {
    const plan = planFor(singleValveBypass());
    expect(stage(plan, "bypass").flatMap(turnsOf)).toEqual(["vb=b"]);
    expect(Math.abs(plan.antifreeze.medianM3 - base.antifreeze.medianM3)).toBeLessThan(0.002);
    // The leg before the check at the hot outlet neither drains against its spring nor is passed: it is named, and nothing else.
    expect(plan.unprotected.map((u) => u.id)).toEqual([
      "hot-check",
      "r-heater-hot-hot-check-in",
      "r-hot-check-out-t-hh-a",
    ]);
  });

  it("with one more outside shower: two more steps and more antifreeze", () => {
    const plan = planFor(extraOutsideShower());
    const fill = stage(plan, "fill")
      .map((s) => s.id)
      .filter((id) => id.includes("shower"));
    expect(fill).toEqual(
      expect.arrayContaining(["fill:stern-shower:hot", "fill:stern-shower:cold"]),
    );
    expect(plan.antifreeze.medianM3).toBeGreaterThan(base.antifreeze.medianM3 + 0.0005);
    expect(plan.steps.find((s) => s.id === "drain:lines")?.parts).toContain("stern-shower");
    expect(plan.unprotected).toEqual([]);
  });

  it("without a pickup: the line to the pump is undone, a jug hose goes on, and it is made good again", () => {
    const plan = planFor(noPickup());
    const jug = plan.steps.find((s) => s.id === "fill:jug");
    expect(jug?.actions.map((a) => a.type)).toEqual(["disconnect"]);
    expect(plan.steps.find((s) => s.id === "button-up:jug")?.actions.map((a) => a.type)).toEqual([
      "reconnect",
    ]);
    expect(plan.carry.join(" ")).toContain("Jug hose");
    expect(plan.after.apart).toEqual([]);
    expect(plan.unprotected).toEqual([]);
  });

  it.each(EXAMPLE_MAPS.map((m) => [m.name, m] as const))(
    "%s: what a step opens or shuts all over the unit goes along the walk",
    (_, map) => {
      const plan = planFor(map);
      const network = networkOf(map);
      const placeOf = (key: string): number => {
        const at = map.places.indexOf(
          network.controls.find((c) => c.key === key)?.part.place ?? "",
        );
        return at < 0 ? map.places.length : at;
      };
      const shut = plan.steps.find((s) => s.id === "drain:shut")?.actions ?? [];
      const taps = shut.flatMap((a) => {
        const control =
          a.type === "set-valve" ? network.controls.find((c) => c.key === a.control) : undefined;
        return control?.spec.role === "outlet" ? [placeOf(control.key)] : [];
      });
      expect(taps).toEqual(taps.toSorted((a, b) => a - b));
      // A minute or two for a hand's turn, more where something runs; never nothing, never a day.
      for (const s of plan.steps) {
        expect(s.minutes, s.id).toBeGreaterThanOrEqual(1);
        expect(s.minutes, s.id).toBeLessThan(120);
        const drawnMin = s.stage === "fill" ? s.antifreezeM3 / (0.00012 * 60) : 0;
        // What is drawn comes at some seven litres a minute (common practice, no source), with a few minutes for the hands.
        expect(s.minutes - drawnMin, s.id).toBeLessThan(60);
        expect(s.minutes, s.id).toBeGreaterThanOrEqual(drawnMin + (s.stage === "fill" ? 0.99 : 0));
      }
    },
  );

  // Units whose every part the antifreeze school reaches.
  // Burdock's heater has its check at the hot side: the leg before it neither drains nor is passed by what the pump sends.
  const whole = EXAMPLE_MAPS.map((m) => m.id).filter((id) => id !== "burdock");
  it.each(EXAMPLE_MAPS.filter((m) => whole.includes(m.id)).map((m) => [m.name, m] as const))(
    "%s comes out protected",
    (_, map) => {
      const plan = planFor(map);
      expect(plan.unprotected).toEqual([]);
      expect(plan.holdsToC).toBeLessThanOrEqual(-18);
      expect(new Set(ids(plan)).size).toBe(plan.steps.length);
    },
  );

  it.each(EXAMPLE_MAPS.filter((m) => !whole.includes(m.id)).map((m) => [m.name, m] as const))(
    "%s: what this school cannot reach is named, and the plan does not say that it holds",
    (_, map) => {
      const plan = planFor(map);
      expect(plan.unprotected.length).toBeGreaterThan(0);
      expect(plan.meetsMargin).toBe(false);
      expect(plan.weakest?.holdsToC).toBeGreaterThan(-18);
    },
  );
});

describe("a map that is odd", () => {
  const torn = [plover, burdock].flatMap((map) =>
    map.parts.map((p) => [`${map.name} without ${p.name}`, without(map, [p.id])] as const),
  );
  it.each(torn)("%s is planned all the same, and what it cannot protect is named", (_, map) => {
    const plan = planFor(map);
    expect(plan.steps.length).toBeGreaterThan(0);
    const open = plan.verdict.owners
      .filter((o) => o.holdsToC !== null && o.holdsToC > -18)
      .map((o) => o.id);
    expect(plan.unprotected.map((u) => u.id).sort()).toEqual(open.sort());
  });

  it("a tank without a drain is emptied by the pump", () => {
    const plan = planFor(without(teasel, ["d3"]));
    expect(plan.steps.find((s) => s.id === "drain:pump:dry")?.why).toContain("no drain");
    expect(plan.verdict.owners.find((o) => o.id === "fresh-tank")?.evidence).toMatch(
      /^[0-4] % full/u,
    );
    expect(plan.unprotected).toEqual([]);
  });
});

describe("what cannot be done", () => {
  it("the deck shower: no step touches it, the boat holds to 0 °C and the deck shower is named with the reason", () => {
    const plan = planFor(teasel, {
      cannot: [{ stepId: "drain:lines", parts: ["deck-shower"], reason: "flap rusted shut" }],
    });
    expect(plan.steps.flatMap((s) => s.parts)).not.toContain("deck-shower");
    expect(plan.holdsToC).toBe(0);
    expect(plan.weakest?.id).toBe("deck-shower");
    expect(plan.unprotected.find((u) => u.id === "deck-shower")?.why).toContain("flap rusted shut");
  });

  it("a heater that cannot be drained is never called protected", () => {
    const plan = planFor(teasel, {
      cannot: [{ stepId: "drain:heater", parts: ["heater"], reason: "plug seized" }],
    });
    expect(plan.holdsToC).toBe(0);
    expect(plan.unprotected.map((u) => u.id)).toContain("heater");
  });

  it("a heater that stays full is never left shut in: its hot valve is opened again", () => {
    const plan = planFor(teasel, {
      cannot: [{ stepId: "drain:heater", parts: ["heater"], reason: "plug seized" }],
    });
    expect(turnsOf(plan.steps.find((s) => s.id === "button-up:heater:free"))).toEqual(["v6=open"]);
    expect(planFor(teasel).steps.some((s) => s.id.endsWith(":free"))).toBe(false);
  });

  it("a blocked bypass valve is left as it stands", () => {
    const plan = planFor(teasel, {
      cannot: [{ stepId: "bypass", parts: ["v7"], reason: "handle gone" }],
    });
    expect(plan.steps.flatMap(turnsOf).some((t) => t.startsWith("v7="))).toBe(false);
  });
});
