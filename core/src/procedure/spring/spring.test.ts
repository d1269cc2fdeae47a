import { describe, expect, it } from "vitest";
import { chlorineOf, liquidIn, volumeOf } from "../../contents/index.ts";
import { EXAMPLE_MAPS, teasel, wagtail } from "../../examples/index.ts";
import { explain, type Symptom } from "../../symptoms/index.ts";
import { PATTERNS, starterMap } from "../../patterns/index.ts";
import { systemOf } from "../../testing/random-systems.ts";
import { replayed, type Shown, uncalledFor } from "../../testing/round-trip.ts";
import { networkOf } from "../../testing/variants.ts";
import { act } from "../act.ts";
import { buildNetwork, heatersOf, inUseLineup, type Network } from "../../watermap/index.ts";
import {
  type Method,
  type Physical,
  type Plan,
  planSanitize,
  planSpring,
  planWinterize,
  standardRequest,
  startPhysical,
  WATER_SETTINGS,
} from "../index.ts";

const leftBy = (network: Network, method: Method): Physical => ({
  ...planWinterize({ ...standardRequest(network, startPhysical(network)), method }).after,
  facts: [],
  drawnM3: 0,
});

const springOf = (network: Network, left: Physical): Plan =>
  planSpring({ ...standardRequest(network, left), water: WATER_SETTINGS });

const at = (plan: Plan, id: RegExp): number => plan.steps.findIndex((s) => id.test(s.id));

describe("a spring plan", () => {
  const network = networkOf(teasel);
  const left = leftBy(network, "antifreeze");
  const plan = springOf(network, left);

  it("closes, fills, flushes, and only then takes the heater back, proves it and lets heat on", () => {
    const order = [
      /:plug$/u,
      /^tank:first/u,
      /^flush:on/u,
      /^flush:galley/u,
      /^heater:valves/u,
      /^heater:heater:fill/u,
      /:heat$/u,
    ];
    const found = order.map((id) => at(plan, id));
    expect(found).not.toContain(-1);
    expect(found).toEqual(found.toSorted((a, b) => a - b));
    const heat = plan.steps[at(plan, /:heat$/u)];
    expect(heat?.needs).toEqual(
      expect.arrayContaining(["close:heater:plug", "heater:heater:fill", "heater:valves"]),
    );
  });

  it("is made from what was left: nothing is turned that stands so, nothing connected that was not off", () => {
    for (const method of ["antifreeze", "air", "suction", "dry"] as const) {
      const from = leftBy(network, method);
      expect(uncalledFor(network, from, springOf(network, from))).toEqual([]);
    }
    const [run] = network.map.runs;
    const off = { run: run?.id ?? "", end: "to" as const, jug: false };
    const apart = springOf(network, { ...left, apart: [off] });
    expect(apart.steps.some((s) => s.actions.some((a) => a.type === "reconnect"))).toBe(true);
    expect(plan.steps.some((s) => s.actions.some((a) => a.type === "reconnect"))).toBe(false);
  });

  it("asks nothing of what is in use and clear but to look", () => {
    const used = springOf(network, startPhysical(network));
    const turns = used.steps.flatMap((s) => s.actions.filter((a) => a.type === "set-valve"));
    expect(used.steps.some((s) => /^flush:(?!on)/u.test(s.id))).toBe(false);
    // Off for the battery, on again; a tap for proving the heater.
    expect(new Set(turns.map((t) => t.control.split(":")[0])).size).toBeLessThanOrEqual(2);
  });

  it("of what cannot be done leaves out what rests on it: a plug that stays out lets no heat on", () => {
    const stuck = planSpring({
      ...standardRequest(network, left),
      water: WATER_SETTINGS,
      undone: ["close:heater:plug"],
    });
    expect(at(stuck, /:heat$/u)).toBe(-1);
    expect(at(stuck, /:fill$/u)).toBe(-1);
  });

  it("brings every family back into use, every outlet clear and every heater proved", () => {
    for (const pattern of PATTERNS) {
      const family = buildNetwork(starterMap(pattern));
      const from = leftBy(family, "air");
      const asked = springOf(family, from);
      expect(uncalledFor(family, from, asked), pattern.id).toEqual([]);
      expect(
        asked.water?.warnings.filter((w) => /Nothing that is pressed|No hot tap/u.test(w)),
        pattern.id,
      ).toEqual([]);
      const use = inUseLineup(family);
      for (const c of family.controls.filter((c) => c.part.kind !== "supply-post"))
        expect(asked.after.lineup[c.key] ?? c.spec.inUse, `${pattern.id}: ${c.key}`).toBe(
          use[c.key] ?? c.spec.inUse,
        );
    }
  });

  it("never calls clear what nothing reaches, nor full what no tap proves, on hostile systems", () => {
    for (const seed of [4, 6, 14, 56]) {
      const hostile = buildNetwork(systemOf(seed));
      const asked = springOf(hostile, leftBy(hostile, "antifreeze"));
      expect(asked.water?.warnings.join(), `seed ${seed}`).toMatch(
        /No hot tap proves|Nothing that is pressed/u,
      );
    }
  });

  it("never seen before, it runs every outlet and proves every heater", () => {
    for (const map of EXAMPLE_MAPS.slice(0, 4)) {
      const unknown = buildNetwork(map);
      const start = startPhysical(unknown);
      const contents = start.contents.map((held, i) => {
        const cell = unknown.cells[i];
        return cell?.side === "fresh" && cell.form === "vessel"
          ? { plugs: [], source: "assumed" as const }
          : held;
      });
      const asked = springOf(unknown, { ...start, contents });
      for (const { part } of heatersOf(unknown))
        expect(asked.steps.some((s) => s.id === `heater:${part.id}:fill`)).toBe(true);
    }
  });
});

describe("what was forgotten in autumn shows at the sheet's checks, and is named", () => {
  const network = networkOf(teasel);
  const left = leftBy(network, "antifreeze");
  const plan = springOf(network, left);
  const skipping = (control: string): Shown[] =>
    replayed(
      network,
      left,
      plan,
      (_, a) =>
        a.type === "set-valve" &&
        a.control === control &&
        a.position === inUseLineup(network)[control],
    );
  const causes = (symptom: Symptom, turned: string, outlet?: string): string[] =>
    explain({
      network,
      symptom,
      lineup: inUseLineup(network),
      turned: new Set([turned]),
      ...(outlet ? { outlet } : {}),
    })
      .causes.slice(0, 3)
      .map((c) => c.what);
  const noticed = (shown: readonly Shown[]): Set<string> =>
    new Set(shown.flatMap((s) => s.notices.map((n) => n.code)));
  const clear = replayed(network, left, plan);

  it("done right, no check shows anything", () => {
    expect(clear.filter((s) => s.isShort)).toEqual([]);
    // The first of it draws the air that stands before the pump.
    const primed = clear.slice(at(plan, /^flush:(?!on)/u) + 1);
    expect(noticed(primed).has("pump-draws-air")).toBe(false);
  });

  it("the selector left on the jug: nothing comes, and the selector is the first thing named", () => {
    const stays = { ...left, lineup: { ...left.lineup, v2: "pickup" } };
    const from = springOf(network, stays);
    const shown = replayed(
      network,
      stays,
      from,
      (_, a) => a.type === "set-valve" && a.control === "v2",
    );
    expect(shown.some((s) => s.step.id.startsWith("flush:") && s.isShort)).toBe(true);
    expect(causes("nothing-comes", "v2")[0]).toMatch(/Suction selector stands pickup/u);
  });

  it("the bypass left open: the hot water is lukewarm, and the bypass is named", () => {
    const shown = skipping("v7");
    expect(shown.at(-1)?.state.lineup["v7"]).toBe("open");
    expect(causes("lukewarm", "v7")[0]).toMatch(/V7 Bypass stands open/u);
  });

  it("the plug left out: it runs out of the hole at the first pressure, and the plug is named", () => {
    const shown = skipping("heater:plug");
    const heater = heatersOf(network)[0]?.cell ?? -1;
    const last = shown.at(-1);
    expect(volumeOf(liquidIn(last?.state.contents[heater]))).toBeLessThan(
      0.5 * (network.cells[heater]?.capacityM3 ?? 0),
    );
    expect(shown.some((s) => s.isShort)).toBe(true);
    expect(causes("does-not-stop", "heater:plug").join()).toMatch(/drain plug stands out/u);
  });

  it("a line left off at a machine: it pours there, and the line is named", () => {
    const yarrow = EXAMPLE_MAPS.find((m) => m.id === "yarrow");
    const whole = buildNetwork(yarrow ?? teasel);
    const line = whole.map.runs.find(
      (r) => whole.map.parts.find((p) => p.id === r.to.part)?.kind === "ice-maker",
    );
    const found = explain({
      network: whole,
      symptom: "pours",
      lineup: inUseLineup(whole),
      turned: new Set([`${line?.id}:to`]),
    });
    const off = explain({
      network: whole,
      symptom: "pours",
      lineup: inUseLineup(whole),
      apart: [{ run: line?.id ?? "", end: "to", jug: false }],
    });
    expect(line).toBeDefined();
    expect(off.asWritten).toBeDefined();
    expect(found.causes.map((c) => c.id)).toContain(`off:${line?.id}:to`);
  });

  it("a one-way valve that has failed: hot water in the cold line is told by the sandbox, the pump that starts by itself by the check", () => {
    const found = explain({ network, symptom: "starts-alone", lineup: inUseLineup(network) });
    expect(found.causes.map((c) => c.what).join()).toMatch(/check in the pump lets water back/iu);
    expect(found.causes.map((c) => c.what).join()).toMatch(/Heater check lets water back/u);
  });
});

describe("a sanitizing plan", () => {
  const network = networkOf(teasel);
  const filled: Physical = { ...springOf(network, leftBy(network, "air")).after, facts: [] };
  const sanitize = (more: Partial<typeof WATER_SETTINGS.chlorine> = {}, start = filled): Plan =>
    planSanitize({
      ...standardRequest(network, start),
      water: { ...WATER_SETTINGS, chlorine: { ...WATER_SETTINGS.chlorine, ...more } },
    });

  it("doses tank, lines and heater: the outlet that gets least has what is wanted", () => {
    const plan = sanitize({ heater: "in" });
    const strip = plan.steps.find((s) => s.id.startsWith("stand:strip"));
    expect(strip?.asks[0]?.expected).toBeGreaterThan(0.95 * 50);
    const out = sanitize({ heater: "out" });
    expect(out.water?.bleachM3).toBeLessThan(plan.water?.bleachM3 ?? 0);
  });

  it("takes more of an old bottle, and of a weak one", () => {
    const fresh = sanitize().water?.bleachM3 ?? 0;
    const bottle = WATER_SETTINGS.chlorine.bottle;
    const old = sanitize({ bottle: { ...bottle, days: 426 } });
    expect(old.water?.bleachM3).toBeGreaterThan(1.3 * fresh);
    expect(old.water?.warnings.join()).toMatch(/14 months/u);
    expect(sanitize({ bottle: { ...bottle, strength: 0.03 } }).water?.bleachM3).toBeGreaterThan(
      fresh,
    );
  });

  it("with antifreeze still in the lines flushes first", () => {
    const start = leftBy(network, "antifreeze");
    const plan = sanitize({}, start);
    expect(at(plan, /^flush:galley/u)).toBeGreaterThan(-1);
    expect(at(plan, /^flush:galley/u)).toBeLessThan(at(plan, /^dose:bleach/u));
    const dose = plan.steps[at(plan, /^dose:bleach/u)];
    expect(dose?.cautions.join()).toMatch(/acid/u);
  });

  it("with a descaling no bleach comes aboard before its rinse is proved, and none at all where that cannot be", () => {
    const water = { ...WATER_SETTINGS, descale: true, handClean: true };
    const plan = planSanitize({ ...standardRequest(network, filled), water });
    const proof = "dose:heater:rinsed";
    const dose = plan.steps[at(plan, /^dose:bleach/u)];
    expect(dose?.needs).toContain(proof);
    expect(at(plan, /:rinsed$/u)).toBeLessThan(at(plan, /^dose:bleach/u));
    const never = planSanitize({ ...standardRequest(network, filled), water, undone: [proof] });
    expect(never.steps.flatMap((s) => s.actions).some((a) => a.type === "dose")).toBe(false);
    expect(never.steps.some((s) => s.id.startsWith("spread:"))).toBe(false);
  });

  it("is rinsed to the limit at every outlet, with carbon in and heat on last", () => {
    const plan = sanitize();
    const rinse = plan.steps.map((s) => s.id).findLastIndex((id) => id.startsWith("rinse:"));
    expect(at(plan, /:heat$/u)).toBeGreaterThan(rinse);
    expect(
      plan.steps.some((s) => s.asks.some((a) => a.kind === "chlorine" && a.atMost === 4)),
    ).toBe(true);
    for (const o of network.openings.filter(
      (o) => o.use === "outlet" && network.cells[o.cell]?.side === "fresh",
    ))
      expect(chlorineOf(liquidIn(plan.after.contents[o.cell]))).toBeLessThanOrEqual(4);
  });

  it("names the legs to which the dose does not come, and none where it comes everywhere", () => {
    const warned = (plan: Plan): string => plan.water?.warnings.join(" ") ?? "";
    // Shut off in use: the shore inlet's leg, the heater's bypass, the pickup's, a drain's stub.
    for (const name of ["shore inlet", "bypass", "winterizing pickup", "tank drain"])
      expect(warned(sanitize({}, startPhysical(network)))).toContain(name);
    const van = networkOf(wagtail);
    const all = planSanitize({
      ...standardRequest(van, startPhysical(van)),
      water: WATER_SETTINGS,
    });
    expect(warned(all)).not.toContain("Nothing runs through");
  });

  it("runs each outlet on past its own line when it rinses: what stands there may be more than was reckoned", () => {
    let now = filled;
    const came = sanitize().steps.flatMap((step) =>
      step.actions.flatMap((action) => {
        const { physical, push } = act(network, now, action, 0);
        now = physical;
        return push && /^rinse:(?!empty)/u.test(step.id) ? [volumeOf(push.watched)] : [];
      }),
    );
    expect(came.length).toBeGreaterThan(5);
    expect(Math.min(...came)).toBeGreaterThanOrEqual(0.0005 - 1e-6);
  });
});
