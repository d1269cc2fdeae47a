import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { compose, part, run } from "../examples/compose.ts";
import { EXAMPLE_MAPS, teasel } from "../examples/index.ts";
import { END_LOSS_K, frictionFactor, INSIDE, TAP_COEFFICIENT } from "../hydraulics/index.ts";
import { networkOf, noPickup, singleValveBypass } from "../testing/variants.ts";
import {
  cellAt,
  inUseLineup,
  type Lineup,
  type Network,
  type Situation,
} from "../watermap/index.ts";
import { type Drive, findFlow, type Flow } from "./index.ts";

const situation = (network: Network, lineup: Lineup): Situation => ({
  network,
  lineup: { ...inUseLineup(network), ...lineup },
  apart: [],
});
const flowIn = (at: Situation, drive: Drive): Flow => {
  const found = findFlow(at, drive);
  if (!found.ok) throw new Error(found.reason);
  return found.flow;
};
const PUMP: Drive = { kind: "pump", switchKey: "pump" };

/** What comes into each cell less what leaves it, with the drive's own supply; zero everywhere if nothing is lost. */
const balances = (at: Situation, flow: Flow, drive: Drive): number[] => {
  const sum = at.network.cells.map(() => 0);
  const add = (cell: number, q: number): void => {
    sum[cell] = (sum[cell] ?? 0) + q;
  };
  at.network.links.forEach((link, i) => {
    const q = flow.link[i] ?? 0;
    add(link.a, -q);
    add(link.b, q);
  });
  for (const o of flow.opening) add(o.at.cell, -o.share);
  if (drive.kind === "push") add(drive.cell, 1);
  return sum;
};

/** Two taps on legs of different length from one tee. */
const fork = (lengthA: number, lengthB: number) =>
  networkOf(
    compose(
      { id: "fork", name: "Fork", craft: "bench" },
      [
        part("in", "pressurised-inlet", "Inlet", 0),
        part("t", "tee", "Tee", 0),
        part("tap-a", "single-tap", "Tap A", 0),
        part("tap-b", "single-tap", "Tap B", 0),
      ],
      [
        run("in.out", "t.a", "pex-1/2", 1, "cold"),
        run("t.b", "tap-a.in", "pex-1/2", lengthA, "cold"),
        run("t.c", "tap-b.in", "pex-1/2", lengthB, "cold"),
      ],
    ),
  );

describe("forced flow", () => {
  it("takes the only way there is, whole", () => {
    const network = networkOf(teasel);
    const flow = flowIn(situation(network, { "galley:cold": "open" }), PUMP);
    expect(flow.opening.find((o) => o.at.id === "galley:cold")?.share).toBeCloseTo(1, 6);
    expect(flow.opening.find((o) => o.at.id === "fresh-tank:vent")?.share).toBeCloseTo(-1, 6);
  });

  it("is told anew for each drive: what is pushed in goes out where what is drawn comes in", () => {
    const network = fork(2, 2);
    const at = situation(network, { "tap-a": "open", in: "shut" });
    const shareOf = (kind: "push" | "draw"): number =>
      flowIn(at, { kind, cell: cellAt(network, "t") }).opening.find(
        (o) => o.at.id === "tap-a:spout",
      )?.share ?? Number.NaN;
    expect([shareOf("push"), shareOf("draw"), shareOf("push")]).toEqual([1, -1, 1]);
  });

  it("splits alike over legs alike, and favours the shorter", () => {
    const shares = (a: number, b: number) => {
      const network = fork(a, b);
      const flow = flowIn(situation(network, { "tap-a": "open", "tap-b": "open", in: "shut" }), {
        kind: "push",
        cell: cellAt(network, "in"),
      });
      return ["tap-a:spout", "tap-b:spout"].map(
        (id) => flow.opening.find((o) => o.at.id === id)?.share ?? 0,
      );
    };
    const [a, b] = shares(2, 2);
    expect(a).toBeCloseTo(0.5, 9);
    expect(b).toBeCloseTo(0.5, 9);
    const [short, long] = shares(1, 8);
    expect(short).toBeGreaterThan(long ?? 1);
    expect((short ?? 0) + (long ?? 0)).toBeCloseTo(1, 9);
  });

  it("splits so that both legs lose the same pressure (pipe loss by Darcy and Weisbach, tap by its coefficient)", () => {
    const network = fork(3, 6);
    const flow = flowIn(situation(network, { "tap-a": "open", "tap-b": "open", in: "shut" }), {
      kind: "push",
      cell: cellAt(network, "in"),
    });
    const lossPa = (tap: string, lengthM: number): number => {
      const q = 1e-4 * (flow.opening.find((o) => o.at.id === `${tap}:spout`)?.share ?? 0);
      const bore = 0.475 * 0.0254;
      const speed = q / ((Math.PI / 4) * bore ** 2);
      const factor = frictionFactor((speed * bore * 1000) / 1.14e-3, 1.5e-6 / bore);
      // Both ends of the pipe, half a tee and half a tap.
      const k = 2 * END_LOSS_K + INSIDE.lossK;
      return ((factor * lengthM) / bore + k) * 500 * speed ** 2 + (q / TAP_COEFFICIENT) ** 2;
    };
    expect(lossPa("tap-a", 3) / lossPa("tap-b", 6)).toBeCloseTo(1, 3);
  });

  it("does not go back through a check: out of the shore inlet comes nothing", () => {
    const network = networkOf(teasel);
    const flow = flowIn(situation(network, { "galley:cold": "open", "shore-inlet": "open" }), PUMP);
    expect(flow.opening.find((o) => o.at.id === "shore-inlet:mouth")?.share).toBe(0);
    const found = findFlow(situation(network, { "shore-inlet": "open" }), PUMP);
    expect(found).toEqual({ ok: false, reason: "no way out" });
  });

  it("says why there is none", () => {
    const network = networkOf(teasel);
    expect(findFlow(situation(network, {}), PUMP)).toEqual({ ok: false, reason: "no way out" });
    expect(findFlow(situation(network, { "galley:cold": "open", v2: "b" }), PUMP)).toEqual({
      ok: false,
      reason: "no way in",
    });
    expect(findFlow(situation(network, {}), { kind: "pump", switchKey: "no-such" })).toEqual({
      ok: false,
      reason: "no pump",
    });
  });

  it("names cells in an order in which each comes after what feeds it", () => {
    const network = networkOf(teasel);
    const { order } = flowIn(situation(network, { "deck-shower:hot": "open" }), PUMP);
    const at = (id: string): number => order.indexOf(cellAt(network, id));
    const way = [
      "fresh-tank",
      "v2",
      "strainer",
      "pump",
      "t-join",
      "t-cold",
      "heater",
      "t-gh",
      "deck-shower:hot",
      "deck-shower:hose",
    ];
    expect(way.map(at)).toEqual(way.map(at).sort((a, b) => a - b));
    expect(way.every((id) => at(id) >= 0)).toBe(true);
  });
});

describe.each(
  [...EXAMPLE_MAPS, singleValveBypass(), noPickup()].map(
    (m) => [`${m.name}, ${m.parts.length} parts`, m] as const,
  ),
)("in any lineup of %s", (_, map) => {
  const network = networkOf(map);
  const lineups = fc.record(
    Object.fromEntries(
      network.controls.map((c) => [c.key, fc.constantFrom(...c.spec.positions.map((p) => p.name))]),
    ),
  ) as fc.Arbitrary<Lineup>;
  const cells = network.cells.flatMap((c, i) =>
    c.form === "pipe" || c.form === "fitting" ? [i] : [],
  );
  const drives: fc.Arbitrary<Drive> = fc.oneof(
    fc.constant(PUMP),
    fc.constantFrom(...cells).map((cell) => ({ kind: "push" as const, cell })),
  );

  it("what flows into a cell flows out of it, checks pass one way, shut ways nothing, no NaN", () => {
    fc.assert(
      fc.property(lineups, drives, (lineup, drive) => {
        const at = situation(network, lineup);
        const found = findFlow(at, drive);
        if (!found.ok) return;
        for (const sum of balances(at, found.flow, drive)) expect(Math.abs(sum)).toBeLessThan(1e-6);
        network.links.forEach((link, i) => {
          const q = found.flow.link[i] ?? Number.NaN;
          expect(Number.isFinite(q)).toBe(true);
          if (link.oneWay) expect(q).toBeGreaterThanOrEqual(-1e-6);
          if (link.gates.some((g) => !g.in.includes(at.lineup[g.key] ?? ""))) expect(q).toBe(0);
        });
      }),
      { seed: 17, numRuns: 120 },
    );
  });
});
