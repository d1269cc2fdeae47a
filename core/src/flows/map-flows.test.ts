import { describe, expect, it } from "vitest";
import { product, startingContents, water } from "../contents/index.ts";
import { EXAMPLE_MAPS, teasel } from "../examples/index.ts";
import { PATTERNS, starterMap } from "../patterns/index.ts";
import { MODES } from "../watermap/index.ts";
import { modeLineup } from "../survey/index.ts";
import { forReference, inEpanet } from "../testing/epanet.ts";
import { networkOf } from "../testing/variants.ts";
import { inUseLineup, type Lineup, type Network } from "../watermap/index.ts";
import { solveHydraulics } from "../hydraulics/index.ts";
import {
  COMMON_FLOW_SETTINGS,
  cushionPa,
  cushionsAtRest,
  type FlowSettings,
  liveFlows,
  type MapFlows,
  mapFlows,
  mapHydraulics,
} from "./index.ts";

const flowsOf = (
  network: Network,
  lineup: Lineup,
  settings?: FlowSettings,
): Extract<MapFlows, { ok: true }> => {
  const found = mapFlows(network, lineup, settings);
  if (!found.ok) throw new Error(found.problem);
  return found;
};

/** As in use, pumps on, with the first taps open. */
const inFlow = (network: Network, taps: number): Lineup => {
  const gates = network.openings
    .flatMap((o) => (o.use === "outlet" && o.gate ? [o.gate] : []))
    .slice(0, taps);
  const switches = network.controls.filter(
    (c) => c.spec.role === "switch" && c.spec.positions.some((p) => p.name === "on"),
  );
  return {
    ...inUseLineup(network),
    ...Object.fromEntries(switches.map((c) => [c.key, "on"])),
    ...Object.fromEntries(gates.map((g) => [g.key, g.in[0] ?? ""])),
  };
};

describe("the demo maps agree with EPANET 2.3", () => {
  it.each(EXAMPLE_MAPS.map((m) => [m.id, m] as const))(
    "%s, with one and with three taps open",
    async (_, map) => {
      const network = networkOf(map);
      for (const taps of [1, 3]) {
        const made = mapHydraulics(
          { network, lineup: inFlow(network, taps), apart: [] },
          startingContents(network),
        );
        const reference = forReference(made.network);
        const [ours, theirs] = [solveHydraulics(reference), await inEpanet(reference)];
        if (!ours.ok) throw new Error(ours.problem);
        expect(Math.max(...ours.outM3PerS)).toBeGreaterThan(1e-5);
        ours.flowsM3PerS.forEach((q, i) => {
          const r = theirs.flowsM3PerS[i] as number;
          expect(
            Math.abs(q - r),
            `${reference.elements[i]?.id}: ${q} against ${r}`,
          ).toBeLessThanOrEqual(Math.max(1e-6, 0.005 * Math.abs(r)));
        });
      }
    },
  );
});

describe("flows told in a map's own ids", () => {
  const network = networkOf(teasel);
  const use = inUseLineup(network);

  it("a cold tap draws from the tank past the pump, and nothing moves on the hot side", () => {
    const { flowsM3PerS, outM3PerS } = flowsOf(network, { ...use, "galley:cold": "open" });
    const out = outM3PerS.get("galley:cold") ?? 0;
    expect(out * 60_000).toBeGreaterThan(3);
    const run = (part: string, port: string) =>
      teasel.runs.find((r) => r.from.part === part && r.from.port === port)?.id ?? "";
    expect(flowsM3PerS.get(run("fresh-tank", "outlet"))).toBeCloseTo(out, 7);
    expect(flowsM3PerS.get(run("shore-check", "out"))).toBe(0);
    for (const r of teasel.runs.filter((x) => x.service === "hot"))
      expect(Math.abs(flowsM3PerS.get(r.id) ?? 1), r.id).toBeLessThan(1e-7);
  });

  it("two taps share: each gives less than alone, both together more; a tap half open gives about half", () => {
    const alone =
      flowsOf(network, { ...use, "galley:cold": "open" }).outM3PerS.get("galley:cold") ?? 0;
    const both = flowsOf(network, {
      ...use,
      "galley:cold": "open",
      "basin:cold": "open",
    }).outM3PerS;
    expect(both.get("galley:cold") ?? 0).toBeLessThan(alone);
    expect((both.get("galley:cold") ?? 0) + (both.get("basin:cold") ?? 0)).toBeGreaterThan(alone);
    const half = flowsOf(
      network,
      { ...use, "galley:cold": "open" },
      { ...COMMON_FLOW_SETTINGS, openings: { "galley:cold": 0.5 } },
    );
    const share = (half.outM3PerS.get("galley:cold") ?? 0) / alone;
    expect(share).toBeGreaterThan(0.45);
    expect(share).toBeLessThan(0.65);
  });

  it("on shore water the regulator holds its setting, and the stopped pump lets nothing back into the tank", () => {
    const strong = { ...COMMON_FLOW_SETTINGS, supplyPa: 700_000 };
    const { flowsM3PerS, pressuresPa } = flowsOf(
      network,
      { ...use, pump: "off", "shore-inlet": "open" },
      strong,
    );
    expect(pressuresPa.get("regulator")).toBeCloseTo(310_000, -1);
    expect(pressuresPa.get("shore-inlet")).toBeGreaterThan(650_000);
    for (const r of teasel.runs)
      expect(Math.abs(flowsM3PerS.get(r.id) ?? 0), r.id).toBeLessThan(1e-7);
  });

  it("with pump and shore both off nothing rises to a tap above the tank", () => {
    const { outM3PerS } = flowsOf(network, { ...use, pump: "off", "galley:cold": "open" });
    expect(outM3PerS.get("galley:cold")).toBe(0);
  });

  it("pipes full of cold antifreeze give less at the tap than pipes full of water", () => {
    const lineup = { ...use, "galley:cold": "open" };
    const cold = { ...COMMON_FLOW_SETTINGS, temperatureC: 2 };
    const stiff = network.cells.map((c) => ({
      plugs: [product(c.capacityM3, 0.5)],
      source: "assumed" as const,
    }));
    const [water, glycol] = [
      mapFlows(network, lineup, cold),
      mapFlows(network, lineup, cold, stiff),
    ];
    if (!water.ok || !glycol.ok) throw new Error("no answer");
    // The tap itself hinders most; the pipes take a little more.
    expect(glycol.outM3PerS.get("galley:cold")).toBeLessThan(
      0.99 * (water.outM3PerS.get("galley:cold") ?? 0),
    );
  });

  it("every family and every demo map has an answer in every lineup, with finite figures", () => {
    for (const map of [...EXAMPLE_MAPS, ...PATTERNS.map(starterMap)]) {
      const of = networkOf(map);
      for (const mode of MODES) {
        const found = mapFlows(of, modeLineup(of, mode));
        expect(found.ok || found.problem, `${map.id}, ${mode}`).toBe(true);
        if (found.ok)
          for (const q of [...found.flowsM3PerS.values(), ...found.pressuresPa.values()])
            expect(Number.isFinite(q)).toBe(true);
      }
    }
  });
});

describe("air behind a bladder", () => {
  it("follows Boyle from a vacuum on: half full of water it stands at twice the absolute pressure (worked by hand)", () => {
    // (200 000 + 101 325) × 2 − 101 325 = 501 325 Pa.
    expect(cushionPa(0.002, 200_000, 0.001)).toBeCloseTo(501_325, 6);
    expect(cushionPa(0.002, 200_000, 0)).toBeCloseTo(200_000, 6);
  });
});

describe("a tank over a dry drain line", () => {
  const network = networkOf(teasel);
  const situation = { network, lineup: { ...inUseLineup(network), d3: "open" }, apart: [] };
  /** The tank at a share of its volume, its drain line and the drain empty, everything else as in use. */
  const outAt = (share: number, opened: number): number => {
    const contents = startingContents(network).map((held, i) => {
      const cell = network.cells[i];
      if (cell?.ownerId === "fresh-tank")
        return { plugs: [water(share * cell.capacityM3)], source: "assumed" as const };
      return cell?.ownerId === "d3" || cell?.id === "r-fresh-tank-drain-d3-in"
        ? { plugs: [], source: "assumed" as const }
        : held;
    });
    const found = liveFlows(situation, contents, {
      ...COMMON_FLOW_SETTINGS,
      dry: true,
      hosesPa: {},
      openings: { d3: opened },
    });
    if (!found.ok) throw new Error(found.problem);
    return found.holes.find((h) => h.at.id.startsWith("d3"))?.q ?? 0;
  };
  it("gives a trickle through a drain that is hardly open, and nothing once only what lies below its lip is left", () => {
    expect(outAt(0.5, 0.01)).toBeGreaterThan(0);
    expect(outAt(0.5, 0.01)).toBeLessThan(1e-5);
    expect(outAt(0.5, 1)).toBeGreaterThan(1e-4);
    expect(outAt(0.02, 1)).toBe(0);
  });
});

describe("an empty unit", () => {
  it("is filled by a hose however little a tap stands open", () => {
    const network = networkOf(teasel);
    const situation = {
      network,
      lineup: {
        ...inUseLineup(network),
        "shore-inlet": "open",
        "galley:cold": "open",
        pump: "off",
      },
      apart: [],
    };
    const empty = network.cells.map(() => ({ plugs: [], source: "assumed" as const }));
    const settings = { ...COMMON_FLOW_SETTINGS, dry: true, openings: { "galley:cold": 0.002 } };
    const found = liveFlows(situation, empty, settings);
    if (!found.ok) throw new Error(found.problem);
    const into = -(found.holes.find((h) => h.at.id.startsWith("shore-inlet"))?.q ?? 0);
    expect(into).toBeGreaterThan(0);
    expect(into).toBeLessThan(1e-5);
  });
});

describe("an accumulator", () => {
  it("comes to rest where Boyle has it, and takes the slower the fuller it is", () => {
    const yarrow = EXAMPLE_MAPS.find((m) => m.id === "yarrow");
    if (!yarrow) throw new Error("no such map");
    const network = networkOf(yarrow);
    const lineup = { ...inUseLineup(network), pump: "on", "kitchen:cold": "open" };
    const situation = { network, lineup, apart: [] };
    const acc = network.cells.findIndex((c) => c.prechargePa !== undefined);
    const cell = network.cells[acc];
    if (!cell?.prechargePa) throw new Error("no accumulator");
    const holding = (m3: number) =>
      startingContents(network).map((held, i) =>
        i === acc ? { plugs: [water(m3)], source: "assumed" as const } : held,
      );
    const rest = cushionsAtRest(situation, holding(0.0002), COMMON_FLOW_SETTINGS).get(acc);
    if (!rest) throw new Error("nothing said of it");
    // p₀V₀ = pV, absolute: at rest the air behind the bladder has the line's pressure.
    const flows = liveFlows(situation, holding(rest.restM3), {
      ...COMMON_FLOW_SETTINGS,
      dry: true,
      cushions: true,
    });
    if (!flows.ok) throw new Error(flows.problem);
    const pumped = Math.max(
      ...network.links.map((l, i) => (l.drivenBy ? Math.abs(flows.linkM3PerS[i] ?? 0) : 0)),
    );
    expect(Math.abs(flows.cushions.get(acc) ?? 1)).toBeLessThan(0.01 * pumped);
    const air = cell.capacityM3 - rest.restM3;
    expect(((cell.prechargePa + 101_325) * cell.capacityM3) / air - 101_325).toBeCloseTo(
      cushionPa(cell.capacityM3, cell.prechargePa, rest.restM3),
      3,
    );
    const fuller = cushionsAtRest(situation, holding(0.9 * rest.restM3), COMMON_FLOW_SETTINGS).get(
      acc,
    );
    expect(fuller?.restM3).toBeCloseTo(rest.restM3, 9);
    expect(fuller?.pumpedPerTakenM3).toBeGreaterThan(rest.pumpedPerTakenM3);
  });
});
