import { GRAVITY } from "../quantity/index.ts";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { inEpanet } from "../testing/epanet.ts";
import { randomPipes, seeded } from "../testing/random-pipes.ts";
import {
  type HydraulicAnswer,
  type HydraulicElement,
  type HydraulicNetwork,
  type Liquid,
  prepareHydraulics,
  solveHydraulics,
} from "./index.ts";

type Solved = Extract<HydraulicAnswer, { ok: true }>;
const solved = (network: HydraulicNetwork): Solved => {
  const answer = solveHydraulics(network);
  if (!answer.ok) throw new Error(answer.problem);
  return answer;
};

const water: Liquid = { densityKgM3: 1000, viscosityPaS: 1.1e-3 };
const pipe = (id: string, from: number, to: number, more: object = {}): HydraulicElement => ({
  id,
  kind: "pipe",
  from,
  to,
  lengthM: 3,
  boreM: 0.012,
  roughnessM: 1.5e-6,
  lossK: 0,
  liquid: water,
  ...more,
});
const tap = (node: number, heightM = 0, coefficient = 2.2e-7) => ({
  id: `tap${node}`,
  node,
  heightM,
  coefficient,
  densityKgM3: 1000,
});
const source = (fixedPa: number, heightM = 0) => ({ id: "source", heightM, fixedPa });
const joint = (id: string, heightM = 0) => ({ id, heightM });

/**
 * Whether EPANET can say the pressure here: behind a regulator at rest with a shut check after it, it cannot, and gives any.
 * We give the regulator's setting.
 */
const told = (network: HydraulicNetwork, answer: Solved, node: number): boolean => {
  const seen = new Set([node]);
  for (const at of seen) {
    if (
      network.nodes[at]?.fixedPa !== undefined ||
      network.nodes[at]?.drawM3PerS ||
      network.outlets.some((o) => o.node === at)
    )
      return true;
    for (const [i, e] of network.elements.entries()) {
      if (e.from !== at && e.to !== at) continue;
      if ((answer.flowsM3PerS[i] ?? 0) !== 0) return true;
      if (e.kind === "pipe" && !e.oneWay) seen.add(e.from === at ? e.to : e.from);
    }
  }
  return false;
};

describe("flows and pressures agree with EPANET 2.3 (by epanet-js)", () => {
  const seeds = Array.from({ length: 240 }, (_, i) => i + 1);
  it.each(seeds.filter((s) => s % 24 === 1).map((s) => [s, s + 23] as const))(
    "random networks %d to %d: flows within 0.5 % or 1e-6 m3/s, pressures within 0.5 % or 50 Pa",
    async (first, last) => {
      for (let seed = first; seed <= last; seed++) {
        const network = randomPipes(seed);
        const ours = solved(network);
        const theirs = await inEpanet(network);
        const near = (a: number, b: number, least: number): boolean =>
          Math.abs(a - b) <= Math.max(least, 0.005 * Math.abs(b));
        ours.flowsM3PerS.forEach((q, i) => {
          const reference = theirs.flowsM3PerS[i] as number;
          expect(
            near(q, reference, 1e-6),
            `seed ${seed}, ${network.elements[i]?.id}: ${q} against ${reference}`,
          ).toBe(true);
        });
        ours.outM3PerS.forEach((q, i) =>
          expect(near(q, theirs.outM3PerS[i] as number, 1e-6), `seed ${seed}, outlet ${i}`).toBe(
            true,
          ),
        );
        ours.pressuresPa.forEach((p, i) => {
          if (p === undefined || !told(network, ours, i)) return;
          const reference = theirs.pressuresPa[i] as number;
          expect(
            near(p, reference, 50),
            `seed ${seed}, ${network.nodes[i]?.id}: ${p} against ${reference}`,
          ).toBe(true);
        });
      }
    },
  );

  it("the networks compared have loops, checks at work, pumps, regulators and laminar flow among them", () => {
    const seen = { loops: 0, checksShut: 0, pumps: 0, regulators: 0, stiff: 0 };
    for (const seed of seeds) {
      const network = randomPipes(seed);
      const answer = solved(network);
      if (network.elements.length >= network.nodes.length) seen.loops++;
      network.elements.forEach((e, i) => {
        if (e.kind === "pipe" && e.oneWay && answer.flowsM3PerS[i] === 0) seen.checksShut++;
        if (e.kind === "pump" && (answer.flowsM3PerS[i] ?? 0) > 0) seen.pumps++;
        if (e.kind === "regulator" && (answer.flowsM3PerS[i] ?? 0) > 0) seen.regulators++;
      });
      if (network.elements[0]?.liquid.viscosityPaS !== 1.1e-3) seen.stiff++;
    }
    for (const [what, count] of Object.entries(seen)) expect(count, what).toBeGreaterThan(20);
  });
});

describe("laws that hold in any network", () => {
  const anySeed = fc.integer({ min: 1000, max: 1_000_000 });

  it("what flows into a joint flows out of it; nothing is NaN; checks, pumps, regulators and taps pass one way only", () => {
    fc.assert(
      fc.property(anySeed, (seed) => {
        const network = randomPipes(seed);
        const answer = solved(network);
        const net = network.nodes.map((n) => -(n.drawM3PerS ?? 0));
        network.elements.forEach((e, i) => {
          const q = answer.flowsM3PerS[i] as number;
          expect(Number.isFinite(q)).toBe(true);
          net[e.from] = (net[e.from] as number) - q;
          net[e.to] = (net[e.to] as number) + q;
          if (e.kind !== "pipe" || e.oneWay) expect(q).toBeGreaterThanOrEqual(0);
        });
        network.outlets.forEach(
          (o, i) => (net[o.node] = (net[o.node] as number) - (answer.outM3PerS[i] as number)),
        );
        network.nodes.forEach((n, i) => {
          if (n.fixedPa === undefined) expect(Math.abs(net[i] as number)).toBeLessThan(1e-7);
        });
      }),
      { seed: 43, numRuns: 150 },
    );
  });

  it("the order in which nodes and pipes are stored changes nothing", () => {
    fc.assert(
      fc.property(anySeed, (seed) => {
        const network = randomPipes(seed);
        const next = seeded(seed + 1);
        const shuffle = (count: number): number[] =>
          Array.from({ length: count }, (_, i) => [next(), i] as const)
            .toSorted((a, b) => a[0] - b[0])
            .map(([, i]) => i);
        const [nodes, elements] = [shuffle(network.nodes.length), shuffle(network.elements.length)];
        const mixed: HydraulicNetwork = {
          nodes: nodes.map((i) => network.nodes[i] as (typeof network.nodes)[number]),
          elements: elements.map((i) => {
            const e = network.elements[i] as HydraulicElement;
            return { ...e, from: nodes.indexOf(e.from), to: nodes.indexOf(e.to) };
          }),
          outlets: network.outlets.map((o) => ({ ...o, node: nodes.indexOf(o.node) })),
        };
        const [one, other] = [solved(network), solved(mixed)];
        elements.forEach((was, i) =>
          expect(
            Math.abs((one.flowsM3PerS[was] as number) - (other.flowsM3PerS[i] as number)),
          ).toBeLessThan(1e-8),
        );
      }),
      { seed: 44, numRuns: 80 },
    );
  });

  it("ends with an answer or a reason on networks that no unit has: hair-thin and huge bores, no source, sources pulling, pumps in circles", () => {
    const wild = fc.record({
      bore: fc.constantFrom(1e-4, 0.004, 0.3),
      pressure: fc.constantFrom(-1e5, 0, 1e7),
      circle: fc.boolean(),
      setPa: fc.constantFrom(0, 1e5, 1e6),
      height: fc.constantFrom(-30, 0, 80),
      shut: fc.boolean(),
    });
    fc.assert(
      fc.property(wild, ({ bore, pressure, circle, setPa, height, shut }) => {
        const answer = solveHydraulics({
          nodes: [
            source(pressure),
            joint("a", height),
            joint("b"),
            joint("c"),
            joint("d", -height),
            { id: "e", heightM: 1, fixedPa: 0 },
          ],
          elements: [
            pipe("ab", 0, 1, { boreM: bore, shut }),
            pipe("bc", 1, 2, { boreM: 0.01, oneWay: true }),
            {
              id: "pump",
              kind: "pump",
              from: 2,
              to: circle ? 1 : 3,
              shutOffPa: 3e5,
              mostM3PerS: 2e-4,
              liquid: water,
            },
            { id: "r1", kind: "regulator", from: 2, to: 4, setPa, liquid: water },
            { id: "r2", kind: "regulator", from: 4, to: 3, setPa: 2e5, liquid: water },
            pipe("de", 3, 5, { boreM: bore }),
          ],
          outlets: [tap(3), tap(4, height)],
        });
        if (answer.ok)
          for (const q of [...answer.flowsM3PerS, ...answer.outM3PerS])
            expect(Number.isFinite(q)).toBe(true);
        else expect(answer.problem.length).toBeGreaterThan(20);
      }),
      { seed: 45, numRuns: 300 },
    );
  });
});

describe("single devices", () => {
  it("a tap at the end of no resistance passes its coefficient times the root of the pressure", () => {
    const answer = solved({
      nodes: [source(200_000), joint("end")],
      elements: [pipe("p", 0, 1, { boreM: 0.2, lengthM: 0.01 })],
      outlets: [tap(1)],
    });
    expect(answer.outM3PerS[0]).toBeCloseTo(2.2e-7 * Math.sqrt(200_000), 7);
  });

  it("a regulator holds its setting at rest and while flowing, lets through what is lower, and lets nothing back", () => {
    const behind = (supply: number, taps: boolean, other?: number): Solved =>
      solved({
        nodes: [
          source(supply),
          joint("before"),
          joint("behind"),
          ...(other === undefined ? [] : [source(other)]),
        ],
        elements: [
          pipe("p", 0, 1),
          { id: "r", kind: "regulator", from: 1, to: 2, setPa: 250_000, liquid: water },
          ...(other === undefined ? [] : [pipe("q", 3, 2)]),
        ],
        outlets: taps ? [tap(2)] : [],
      });
    expect(behind(600_000, false).pressuresPa[2]).toBeCloseTo(250_000, 3);
    expect(behind(600_000, true).pressuresPa[2]).toBeCloseTo(250_000, 3);
    const low = behind(150_000, true);
    expect(low.pressuresPa[2]).toBeLessThan(150_000);
    expect(low.outM3PerS[0]).toBeGreaterThan(5e-5);
    const against = behind(600_000, true, 400_000);
    expect(against.flowsM3PerS[1]).toBe(0);
    expect(against.pressuresPa[2]).toBeGreaterThan(250_000);
  });

  it("a pump against a shut pipe gives its shut-off pressure and no flow, and gives less pressure the more it gives", () => {
    const pumped = (taps: number): Solved =>
      solved({
        nodes: [source(0), joint("inlet"), joint("outlet")],
        elements: [
          pipe("p", 0, 1),
          {
            id: "pump",
            kind: "pump",
            from: 1,
            to: 2,
            shutOffPa: 300_000,
            mostM3PerS: 2e-4,
            liquid: water,
          },
        ],
        outlets: Array.from({ length: taps }, () => tap(2)),
      });
    expect(pumped(0).flowsM3PerS[1]).toBeLessThan(1e-9);
    expect(pumped(0).pressuresPa[2]).toBeCloseTo(300_000, 0);
    const [one, two] = [pumped(1), pumped(2)];
    expect(two.flowsM3PerS[1] as number).toBeGreaterThan(one.flowsM3PerS[1] as number);
    expect(two.pressuresPa[2] as number).toBeLessThan(one.pressuresPa[2] as number);
  });

  it("a standing column weighs by what is in it: antifreeze of 1,040 kg/m3 two metres up takes 4 % more off than water", () => {
    const top = (densityKgM3: number): number =>
      solved({
        nodes: [source(100_000), joint("top", 2)],
        elements: [pipe("p", 0, 1, { liquid: { densityKgM3, viscosityPaS: 5e-3 } })],
        outlets: [],
      }).pressuresPa[1] as number;
    expect(top(1000)).toBeCloseTo(100_000 - 1000 * GRAVITY * 2, 3);
    expect(top(1040)).toBeCloseTo(100_000 - 1040 * GRAVITY * 2, 3);
  });

  it("stiff antifreeze flows less than water by the same way", () => {
    const out = (viscosityPaS: number): number =>
      solved({
        nodes: [source(50_000), joint("end")],
        elements: [
          pipe("p", 0, 1, {
            boreM: 0.006,
            lengthM: 8,
            liquid: { densityKgM3: 1000, viscosityPaS },
          }),
        ],
        outlets: [tap(1, 0, 1e-6)],
      }).outM3PerS[0] as number;
    expect(out(17e-3)).toBeLessThan(0.5 * out(1.1e-3));
  });

  it("a piece closed off from everything has no pressure to tell, what is drawn there is named as unmet, and the rest is answered", () => {
    const off = (draw: number) =>
      solveHydraulics({
        nodes: [source(1e5), joint("a"), { id: "far", heightM: 0, drawM3PerS: draw }],
        elements: [pipe("p", 0, 1), pipe("q", 1, 2, { shut: true })],
        outlets: [],
      });
    const answer = off(0);
    expect(answer.ok && answer.pressuresPa[2]).toBeUndefined();
    expect(off(1e-5)).toMatchObject({ ok: true, unmet: ["far"], flowsM3PerS: [0, 0] });
    expect(off(0)).toMatchObject({ unmet: [] });
  });

  it("a draw below the vapour pressure is not met: water boils at 98.3 % of an atmosphere under it (1.7 kPa at 15 °C, IAPWS)", () => {
    const lifted = (heightM: number) =>
      solveHydraulics({
        nodes: [source(0), { id: "high", heightM, drawM3PerS: 1e-5 }],
        elements: [pipe("p", 0, 1)],
        outlets: [],
      });
    expect(lifted(9)).toMatchObject({ unmet: [] });
    expect(lifted(10.5)).toMatchObject({ unmet: ["high"] });
  });

  it.each<[string, HydraulicNetwork]>([
    ["joins no node", { nodes: [joint("a")], elements: [pipe("p", 0, 3)], outlets: [] }],
    [
      "has no length",
      { nodes: [joint("a"), joint("b")], elements: [pipe("p", 0, 1, { lengthM: 0 })], outlets: [] },
    ],
    [
      "has a figure that is not a number",
      { nodes: [joint("a", Number.NaN)], elements: [], outlets: [] },
    ],
    [
      "a liquid without viscosity",
      {
        nodes: [joint("a"), joint("b")],
        elements: [pipe("p", 0, 1, { liquid: { densityKgM3: 1000, viscosityPaS: 0 } })],
        outlets: [],
      },
    ],
    [
      "a pump without pressure",
      {
        nodes: [joint("a"), joint("b")],
        elements: [
          { id: "u", kind: "pump", from: 0, to: 1, shutOffPa: 0, mostM3PerS: 1, liquid: water },
        ],
        outlets: [],
      },
    ],
    ["a tap without coefficient", { nodes: [joint("a")], elements: [], outlets: [tap(0, 0, 0)] }],
  ])("refuses what %s", (_, network) => {
    expect(solveHydraulics(network)).toEqual({ ok: false, problem: expect.any(String) as string });
  });
});

describe("a network made ready", () => {
  it("comes to the same again, whether it goes on from where it ended or has forgotten that; seeded", () => {
    for (let seed = 1; seed <= 60; seed++) {
      const network = randomPipes(seed);
      const first = solved(network);
      const prepared = prepareHydraulics(network);
      const answers = [prepared.solve(), prepared.solve(), (prepared.forget(), prepared.solve())];
      for (const again of answers) {
        if (!again.ok) throw new Error(again.problem);
        const most = Math.max(...first.flowsM3PerS.map(Math.abs), 1e-9);
        again.flowsM3PerS.forEach((q, i) =>
          expect(Math.abs(q - (first.flowsM3PerS[i] ?? 0)) / most, `${seed}`).toBeLessThan(1e-6),
        );
        expect(again.unmet).toEqual(first.unmet);
      }
      // It takes fewer rounds to find that nothing has changed.
      expect(answers[1]?.ok && answers[1].iterations).toBeLessThanOrEqual(first.iterations);
    }
  });

  it("says each time what cannot be drawn, once, and what is wrong with it", () => {
    const dry = prepareHydraulics({
      nodes: [source(200_000), joint("a"), { id: "far", heightM: 0, drawM3PerS: 1e-5 }, joint("b")],
      elements: [pipe("p", 0, 1), pipe("q", 2, 3)],
      outlets: [tap(1)],
    });
    for (let n = 0; n < 3; n++) expect(dry.solve()).toMatchObject({ ok: true, unmet: ["far"] });
    const wrong = prepareHydraulics({
      nodes: [joint("a")],
      elements: [pipe("p", 0, 3)],
      outlets: [],
    });
    expect(wrong.solve()).toEqual({ ok: false, problem: expect.any(String) as string });
  });
});
