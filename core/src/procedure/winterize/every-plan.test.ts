import { describe, expect, it } from "vitest";
import { frostVerdict, liquidIn, strengthOf, volumeOf } from "../../contents/index.ts";
import { EXAMPLE_MAPS } from "../../examples/index.ts";
import { PATTERNS, starterMap } from "../../patterns/index.ts";
import { systemOf } from "../../testing/random-systems.ts";
import { networkOf } from "../../testing/variants.ts";
import type { Network, WaterMap } from "../../watermap/index.ts";
import { type Method, METHOD_NAMES } from "../method.ts";
import { act } from "../act.ts";
import { type Physical, startPhysical } from "../physical.ts";
import type { Step } from "../step.ts";
import type { Plan } from "../plan.ts";
import { planWinterize, standardRequest, type WinterizeRequest } from "./index.ts";

/** What holds of every sheet, whatever the unit: each step does what it says, in an order in which it can be done. */

interface Made {
  readonly map: WaterMap;
  readonly network: Network;
  readonly request: WinterizeRequest;
  readonly plan: Plan;
  /** The unit before each step, and after the last. */
  readonly stood: readonly Physical[];
}

const made = (map: WaterMap, method: Method = "antifreeze"): Made => {
  const network = networkOf(map);
  const request = { ...standardRequest(network, startPhysical(network)), method };
  const plan = planWinterize(request);
  const stood = [request.start];
  for (const step of plan.steps)
    stood.push(
      step.actions.reduce(
        (now, action) => act(network, now, action, request.product.strength).physical,
        stood.at(-1) as Physical,
      ),
    );
  return { map, network, request, plan, stood };
};

// An undrainable heater, appliances with a canister, a boat with raw water, a check at a heater's hot side, a heater of thin tubes.
const BY_EVERY_METHOD = [
  ...["P04", "P05", "P06", "P18"].flatMap((id) =>
    PATTERNS.filter((p) => p.id === id).map(starterMap),
  ),
  ...EXAMPLE_MAPS.filter((m) => m.id === "burdock" || m.id === "wagtail"),
  ...[60_001, 60_009].map(systemOf),
];
const SEEDS = [60_001, 60_002, 60_003, 60_004, 60_005, 60_006, 60_007, 60_008];
const all = [
  ...EXAMPLE_MAPS.filter((m) => m.id !== "yarrow"),
  ...PATTERNS.map(starterMap),
  ...SEEDS.map(systemOf),
]
  .map((map) => made(map))
  .concat(
    BY_EVERY_METHOD.flatMap((map) =>
      METHOD_NAMES.filter((m) => m !== "antifreeze").map((m) => made(map, m)),
    ),
  );
const each = <T>(of: (m: Made) => readonly T[]): T[] => all.flatMap(of);
const steps = (
  of: (step: Step, before: Physical, after: Physical, m: Made) => readonly unknown[],
): unknown[] =>
  each((m) =>
    m.plan.steps.flatMap((s, i) => of(s, m.stood[i] as Physical, m.stood[i + 1] as Physical, m)),
  );
const held = (p: Physical, cell: number): number => volumeOf(liquidIn(p.contents[cell]));

describe("every sheet", () => {
  it("comes to what it says: its steps done one after another leave the unit as promised", () => {
    for (const { plan, stood, network } of all)
      network.cells.forEach((_, i) =>
        expect(held(stood.at(-1) as Physical, i)).toBeCloseTo(held(plan.after, i), 9),
      );
  });

  it("turns nothing to where it stands already, and says from where to where", () => {
    expect(
      steps((step, before, _, { network }) => {
        const lineup: Record<string, string> = { ...before.lineup };
        return step.actions.flatMap((a) => {
          if (a.type !== "set-valve") return [];
          const stands =
            lineup[a.control] ?? network.controls.find((c) => c.key === a.control)?.spec.inUse;
          lineup[a.control] = a.position;
          return a.from === stands && a.position !== stands
            ? []
            : [`${step.id} ${a.control}: ${stands} to ${a.position}`];
        });
      }),
    ).toEqual([]);
  });

  it("needs only steps that come before, each with a name of its own", () => {
    for (const { plan } of all) {
      const ids = plan.steps.map((s) => s.id);
      expect(new Set(ids).size).toBe(ids.length);
      plan.steps.forEach((s, i) =>
        s.needs.forEach((id) => expect(ids.indexOf(id), `${s.id} needs ${id}`).toBeLessThan(i)),
      );
      plan.steps.forEach((s) => s.needs.forEach((id) => expect(ids).toContain(id)));
    }
  });

  it("draws antifreeze only where something gains by it", () => {
    expect(
      steps((step, before, after, { network, request }) => {
        if (step.stage !== "fill" || step.antifreezeM3 <= 0) return [];
        const limit = (p: Physical) => frostVerdict(network, p.contents, request.basis).cells;
        const [was, is] = [limit(before), limit(after)];
        const gains = is.some(
          (c, i) =>
            (c.holdsToC ?? -99) < (was[i]?.holdsToC ?? -99) - 0.1 ||
            (c.strength > 0.1 && was[i]?.holdsToC === null),
        );
        return gains ? [] : [step.id];
      }),
    ).toEqual([]);
  });

  it("says how much of the antifreeze each step takes, and how long that is at a tap's seven litres a minute", () => {
    expect(
      steps((step, before, after) => {
        const drawn = after.drawnM3 - before.drawnM3;
        const told = Math.abs(step.antifreezeM3 - drawn) < 1e-9 && step.antifreezeM3 >= 0;
        const runs = step.actions.some((a) => a.type === "pump" || a.type === "push-by-hand");
        const pumped = runs
          ? Math.max(drawn, volumeOf(after.gone) - volumeOf(before.gone)) / 0.00012 / 60
          : 0;
        return told &&
          step.minutes > 0 &&
          step.minutes >= pumped * 0.9 &&
          step.minutes < 45 + pumped * 1.5 + step.actions.length * 2
          ? []
          : [`${step.id}: ${step.antifreezeM3} ${drawn} ${step.minutes}`];
      }),
    ).toEqual([]);
    for (const { plan } of all)
      expect(plan.minutes).toBe(Math.round(plan.steps.reduce((sum, s) => sum + s.minutes, 0)));
  });

  it("carries on each pump what is to come out, for whoever can see no more", () => {
    expect(
      steps((step, before, _, { network, request }) => {
        let now = before;
        return step.actions.flatMap((a) => {
          const effect = act(network, now, a, request.product.strength);
          now = effect.physical;
          if (a.type !== "pump" && a.type !== "push-by-hand") return [];
          return a.aboutM3 !== undefined &&
            Math.abs(a.aboutM3 - (effect.push?.drawnM3 ?? 0)) <= 1e-5 * a.aboutM3 + 1e-12
            ? []
            : [step.id];
        });
      }),
    ).toEqual([]);
  });

  it("is written out: no gap, no figure that is none, a place where there is one", () => {
    const broken = /undefined|NaN|Infinity|\{m3:0\}|\{m3:-| {2}|\.\./u;
    expect(
      steps((s) =>
        [s.title, s.why, s.expect, s.where, ...s.cautions]
          .filter((text) => broken.test(text))
          .map((text) => `${s.id}: ${text}`),
      ),
    ).toEqual([]);
    expect(
      steps((s) =>
        /^\P{Ll}/u.test(s.title) && (s.where === "" || /^\P{Ll}/u.test(s.where))
          ? []
          : [`${s.id}: ${s.title} ${s.where}`],
      ),
    ).toEqual([]);
    expect(steps((s) => (s.actions.length > 0 ? [] : [s.id]))).toEqual([]);
    // A tank that is emptied twice says so the second time.
    expect(
      steps((s) =>
        s.stage !== "drain" || s.title.endsWith(" again") === s.id.endsWith(":again")
          ? []
          : [s.title],
      ),
    ).toEqual([]);
  });

  it("asks for what came out of a heater, and expects all but what its kind keeps", () => {
    expect(
      steps((step, before, after, { network }) =>
        step.asks.flatMap((ask) => {
          if (ask.kind !== "recovered") return [];
          const cell = network.cellIndex.get(ask.cell ?? "") ?? -1;
          const came = held(before, cell) - held(after, cell);
          return Math.abs((ask.expected ?? 0) - came) < 1e-9 && came > 0
            ? []
            : [`${step.id}: ${ask.expected} of ${came}`];
        }),
      ),
    ).toEqual([]);
  });

  it("has an outlet read what it will read", () => {
    expect(
      steps((step, _, after, { network }) =>
        step.asks.flatMap((ask) => {
          const cell = network.cellIndex.get(ask.cell ?? "");
          if (ask.kind !== "strength" || cell === undefined) return [];
          const there = strengthOf(liquidIn(after.contents[cell]));
          // Behind a hose that the other side has filled it is stronger than what comes out, never weaker.
          const over = there - (ask.expected ?? 0);
          return over > -0.01 && over < 0.1 ? [] : [`${step.id}: ${ask.expected} in ${there}`];
        }),
      ),
    ).toEqual([]);
  });

  it("leaves taps and inlets shut, pumps off and heaters off, cooled and tagged", () => {
    expect(
      each(({ map, network, plan }) =>
        network.controls.flatMap((c) => {
          const { role } = c.spec;
          const stands = plan.after.lineup[c.key] ?? c.spec.inUse;
          if (role === "outlet" || role === "cap")
            return stands === "open" ? [`${map.id} ${c.key} ${stands}`] : [];
          return role === "switch" && stands === "on" ? [`${map.id} ${c.key} ${stands}`] : [];
        }),
      ),
    ).toEqual([]);
    expect(each(({ map, plan }) => (plan.after.apart.length === 0 ? [] : [map.id]))).toEqual([]);
  });

  it("brings what its steps need, and no more", () => {
    for (const { map, plan } of all) {
      const has = (word: RegExp): boolean => plan.carry.some((c) => word.test(c));
      const asks = (kind: string): boolean =>
        plan.steps.some((s) => s.asks.some((a) => a.kind === kind));
      expect(has(/Refractometer/u), map.id).toBe(asks("strength"));
      expect(has(/Bucket/u), map.id).toBe(asks("recovered"));
      expect(has(/Thermometer/u), map.id).toBe(asks("temperature"));
      expect(has(/Hand pump/u), map.id).toBe(
        plan.steps.some((s) => s.actions.some((a) => a.type === "push-by-hand")),
      );
      const does = (of: (a: Step["actions"][number]) => boolean): boolean =>
        plan.steps.some((s) => s.actions.some(of));
      expect(has(/coupling/u), map.id).toBe(does((a) => a.type === "disconnect" && a.jug));
      expect(has(/new washers/u), map.id).toBe(does((a) => a.type === "disconnect" && !a.jug));
      expect(has(/Compressor/u), map.id).toBe(does((a) => a.type === "blow"));
      expect(has(/Suction pump/u), map.id).toBe(does((a) => a.type === "suck"));
      expect(has(/Tag/u), map.id).toBe(plan.steps.some((s) => s.id.endsWith(":tag")));
      expect(has(/jugs/u), map.id).toBe(plan.antifreeze.jugs > 0);
    }
  });

  it("carries whole jugs for nine jobs in ten, and takes the figure apart without a rest", () => {
    for (const { map, plan, request } of all) {
      const { lines, workedM3, p90M3, medianM3, jugs } = plan.antifreeze;
      expect(
        lines.reduce((sum, l) => sum + l.volumeM3, 0),
        map.id,
      ).toBeGreaterThanOrEqual(workedM3 - 1e-9);
      expect(
        plan.steps
          .filter((s) => s.stage === "fill" || s.stage === "traps")
          .reduce((sum, s) => sum + s.antifreezeM3, 0),
      ).toBeCloseTo(workedM3, 9);
      expect(jugs * request.product.jugM3).toBeGreaterThanOrEqual(p90M3 - 1e-9);
      expect((jugs - 1) * request.product.jugM3).toBeLessThan(Math.max(p90M3, 1e-12));
      expect(medianM3).toBeLessThanOrEqual(p90M3);
    }
  });

  it("fills by the pump that reaches most first", () => {
    const both = all.filter(
      ({ plan }) => plan.steps.filter((s) => s.id.startsWith("fill:jug")).length > 1,
    );
    expect(both.length).toBeGreaterThan(0);
    for (const { plan } of both) {
      const runs = plan.steps.filter((s) => s.stage === "fill").map((s) => s.id);
      const second = runs.indexOf("fill:jug:2");
      expect(second, runs.join(" ")).toBeGreaterThan(runs.length - second);
    }
  });

  it("asks for nothing again on the day after", () => {
    // What ended unprotected may be tried again; that hand pumps and traps have had their dose is not on the map.
    const again = all
      .filter(({ map }) => map.id !== "random")
      .flatMap(({ map, network, plan }) =>
        planWinterize({
          ...standardRequest(network, plan.after),
          method: plan.method,
        }).steps.flatMap((s) => (s.stage === "traps" ? [] : [`${map.id} ${plan.method} ${s.id}`])),
      );
    expect(again).toEqual([]);
  });
});
