import * as epanet from "epanet-js";
import { describe, expect, it } from "vitest";
import { startingContents } from "../contents/index.ts";
import { mapHydraulics } from "../flows/index.ts";
import { solveHydraulics } from "../hydraulics/index.ts";
import { EXAMPLE_MAPS, teasel } from "../examples/index.ts";
import { PATTERNS, starterMap } from "../patterns/index.ts";
import { modeLineup } from "../survey/index.ts";
import { networkOf } from "../testing/variants.ts";
import { controlKey, controlsOfPart, inUseLineup } from "../watermap/index.ts";
import { INP_SETTINGS, MOST_ID, writeInp } from "./inp-write.ts";

/** Outside reference: the EPANET 2.3 engine itself, by way of the package epanet-js. */

const workspace = new epanet.Workspace();
const ready = workspace.loadModule();

interface Solved {
  readonly nodes: number;
  readonly flow: (link: string) => number;
  readonly pressureM: (node: string) => number;
}

/** Opens and solves a file in the engine; throws what the engine says where it cannot. */
const solved = async (text: string): Promise<Solved> => {
  await ready;
  workspace.writeFile("map.inp", text);
  const project = new epanet.Project(workspace);
  try {
    project.open("map.inp", "map.rpt", "map.bin");
    project.solveH();
    const flows = new Map<string, number>();
    const pressures = new Map<string, number>();
    for (let i = 1; i <= project.getCount(epanet.CountType.LinkCount); i++)
      flows.set(project.getLinkId(i), project.getLinkValue(i, epanet.LinkProperty.Flow));
    for (let i = 1; i <= project.getCount(epanet.CountType.NodeCount); i++)
      pressures.set(project.getNodeId(i), project.getNodeValue(i, epanet.NodeProperty.Pressure));
    return {
      nodes: pressures.size,
      flow: (id) => flows.get(id) ?? Number.NaN,
      pressureM: (id) => pressures.get(id) ?? Number.NaN,
    };
  } finally {
    project.close();
  }
};

describe("INP files open and solve in EPANET", () => {
  it.each([...EXAMPLE_MAPS, ...PATTERNS.map(starterMap)].map((m) => [m.id, m] as const))(
    "%s, in use and drained",
    async (_, map) => {
      const network = networkOf(map);
      for (const lineup of [inUseLineup(network), modeLineup(network, "drain")]) {
        const result = await solved(writeInp(map, lineup).text);
        expect(result.nodes).toBeGreaterThan(3);
      }
    },
  );

  it.each([...EXAMPLE_MAPS, ...PATTERNS.map(starterMap)].map((m) => [m.id, m] as const))(
    "%s: what flows there is what our own solver lets flow, with one tap open and with all",
    async (_, map) => {
      const network = networkOf(map);
      const outlets = map.parts.flatMap((p) =>
        controlsOfPart(p).flatMap((c) =>
          c.role === "outlet" ? [[controlKey(p.id, c.name), "open"] as const] : [],
        ),
      );
      for (const some of [outlets.slice(0, 1), outlets.slice(-1), outlets]) {
        const lineup = { ...inUseLineup(network), ...Object.fromEntries(some) };
        const made = mapHydraulics(
          { network, lineup, apart: [] },
          startingContents(network),
          INP_SETTINGS,
        );
        // The format has no springs: ours are taken out for this.
        const elements = made.network.elements.map((e) =>
          e.kind === "pipe" ? { ...e, crackPa: 0 } : e,
        );
        const ours = solveHydraulics({ ...made.network, elements });
        const { flow } = await solved(writeInp(map, lineup).text);
        const apart = [...made.elementOf].flatMap(([run, i]) => {
          const [theirs, own] = [
            flow(run.slice(0, MOST_ID)),
            (ours.ok ? (ours.flowsM3PerS[i] ?? 0) : Number.NaN) * 1000,
          ];
          return Math.abs(theirs - own) < 2e-4 ? [] : [[run, theirs, own]];
        });
        expect(apart).toEqual([]);
      }
    },
  );

  it("with a tap open the engine sends water by the way that the map says: past pump and tees, not into the shut bypass", async () => {
    const network = networkOf(teasel);
    const { flow } = await solved(
      writeInp(teasel, { ...inUseLineup(network), "galley:cold": "open" }).text,
    );
    const open = flow("r-t-gc-b-galley-cold");
    expect(open).toBeGreaterThan(0.01);
    expect(flow("r-fresh-tank-outlet-v2-a")).toBeCloseTo(open, 3);
    expect(flow("pump~pump")).toBeCloseTo(open, 3);
    for (const still of ["r-t-hc-c-v7-a", "r-t-gh-b-galley-hot", "r-shore-check-out-t-join-b"])
      expect(Math.abs(flow(still)), still).toBeLessThan(1e-3);
  });

  it("a regulator holds its setting where the supply has more", async () => {
    const network = networkOf(teasel);
    const low = {
      ...teasel,
      parts: teasel.parts.map((p) =>
        p.id === "regulator" ? { ...p, params: { setPa: 150_000 } } : p,
      ),
    };
    const { pressureM } = await solved(
      writeInp(low, {
        ...inUseLineup(network),
        pump: "off",
        "shore-inlet": "open",
        "galley:cold": "open",
      }).text,
    );
    expect(pressureM("regulator")).toBeCloseTo(150_000 / 9806.65, 1);
  });
});
