import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { PATTERNS, starterMap } from "../patterns/index.ts";
import { planWinterize, standardRequest, startPhysical } from "../procedure/index.ts";
import { surveyMap } from "../survey/index.ts";
import { networkOf } from "../testing/variants.ts";
import { buildNetwork, readWaterMap, roleOf, type WaterMap } from "../watermap/index.ts";
import {
  auditMap,
  cardParts,
  commissioning,
  flowSaid,
  habitsSchema,
  inOneGo,
  isolationOf,
  jobCard,
  pipeFamilies,
  piecesOf,
  repiped,
  withBypass,
} from "./index.ts";

const maps: [string, WaterMap][] = [...EXAMPLE_MAPS, ...PATTERNS.map((p) => starterMap(p))].map(
  (m) => [m.name, m],
);
const demo = (id: string): WaterMap => {
  const found = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!found) throw new Error(id);
  return found;
};
const partOf = (map: WaterMap, is: (p: WaterMap["parts"][number]) => boolean) => {
  const part = map.parts.find(is);
  if (!part) throw new Error("no such part");
  return part;
};

/** A second, simpler way: walk the map's pipes by hand from the part, stopping at shut valves, pumps and tanks. */
const standsOn = (map: WaterMap, start: string, shut: ReadonlySet<string>): Set<string> => {
  const seen = new Set([start]);
  const queue = [start];
  for (let id = queue.pop(); id !== undefined; id = queue.pop()) {
    const part = map.parts.find((p) => p.id === id);
    const stops =
      id !== start && part && (shut.has(id) || roleOf(part).pump || roleOf(part).vessel);
    if (stops) continue;
    for (const r of map.runs) {
      // What has been used falls: it stands on nothing.
      if (r.service === "waste") continue;
      const other = r.from.part === id ? r.to.part : r.to.part === id ? r.from.part : undefined;
      if (other !== undefined && !seen.has(other)) {
        seen.add(other);
        queue.push(other);
      }
    }
  }
  return seen;
};

describe("isolating a part", () => {
  it.each(maps)(
    "of %s names every tank that stands on it past the valves that are shut",
    (_, map) => {
      const network = networkOf(map);
      for (const part of cardParts(network).filter((_p, i) => i % 3 === 0)) {
        const { shut, still, outM3 } = isolationOf(network, part);
        const fresh = (reached: ReadonlySet<string>): string[] =>
          map.parts.flatMap((p) =>
            p.id !== part.id && roleOf(p).vessel === "fresh" && reached.has(p.id) ? [p.name] : [],
          );
        const valves = new Set(shut.map((x) => x.key.split(":")[0] ?? x.key));
        // Whatever tank a walk by hand comes to past the valves that are shut is named.
        for (const name of fresh(standsOn(map, part.id, valves)))
          expect(still.join("|")).toContain(name);
        // And what is named is joined to it at all.
        const joined = fresh(standsOn(map, part.id, new Set()));
        for (const p of map.parts)
          if (roleOf(p).vessel === "fresh" && still.some((x) => x.endsWith(p.name)))
            expect(joined).toContain(p.name);
        expect(outM3).toBeGreaterThanOrEqual(0);
      }
    },
  );

  it("a pump with the tank's valve before it lets out next to nothing; without one, the tank stands on it", () => {
    const dipper = demo("dipper");
    const network = buildNetwork(dipper);
    const pump = partOf(dipper, (p) => p.name === "Pump");
    const { shut, still, outM3 } = isolationOf(network, pump);
    expect(shut.map((s) => s.name).join()).toContain("V1");
    expect(still).not.toContain("Hull tank, aft");
    expect(outM3).toBeLessThan(0.03);
    const bare = {
      ...dipper,
      parts: dipper.parts.map((p) => (p.tag === "V1" ? { ...p, kind: "coupling", params: {} } : p)),
      runs: dipper.runs.map((r) => {
        const end = (e: typeof r.from) =>
          dipper.parts.find((p) => p.id === e.part)?.tag === "V1"
            ? { ...e, port: e.port === "in" ? "a" : "b" }
            : e;
        return { ...r, from: end(r.from), to: end(r.to) };
      }),
      lineup: {},
      modes: {},
    } as WaterMap;
    const open = isolationOf(
      buildNetwork(bare),
      partOf(bare, (p) => p.name === "Pump"),
    );
    expect(open.still.join()).toContain("Hull tank");
    // The pump lies above the tank: it stands on it, and by gravity runs nowhere.
    expect(open.outM3).toBeLessThan(0.03);
  });

  it("lets a whole tank out where its own drain is undone: nothing shuts that off", () => {
    const haywain = demo("haywain");
    const drain = partOf(haywain, (p) => p.name === "Tank drain");
    const { still, outM3 } = isolationOf(buildNetwork(haywain), drain);
    expect(still.join()).toContain("Fresh tank");
    expect(outM3).toBeGreaterThan(0.1);
  });

  it("with another tap open lets out what stands above it, which every tap shut holds up", () => {
    const dipper = demo("dipper");
    const tap = partOf(dipper, (p) => p.name === "Basin tap");
    const { still, outM3, mostM3 } = isolationOf(buildNetwork(dipper), tap);
    expect(still).toContain("Heater");
    expect(mostM3).toBeGreaterThanOrEqual(outM3);
  });

  it("tells a hot line from a cold one", () => {
    const haywain = demo("haywain");
    const network = buildNetwork(haywain);
    const heater = partOf(haywain, (p) => roleOf(p).vessel === "heater");
    expect(isolationOf(network, heater).isHot).toBe(true);
    const filler = partOf(haywain, (p) => p.kind === "gravity-fill");
    expect(isolationOf(network, filler).isHot).toBe(false);
  });
});

describe("a job card", () => {
  it.each(maps)(
    "for everything on %s begins with a reading and ends with the same one",
    (_, map) => {
      const network = networkOf(map);
      for (const part of cardParts(network)) {
        const card = jobCard(network, part);
        expect(card.title).toContain(part.name);
        expect(card.steps[0]?.title).toBe("Read before");
        expect(card.steps.at(-1)?.rows.join(" ")).toContain("The same reading as before");
        const hot = card.steps.some((s) => s.caution?.startsWith("Hot water stands"));
        expect(hot).toBe(card.isolation.isHot);
      }
    },
  );

  it("for a heater has its energy off before anything is undone, and heat last", () => {
    const map = demo("haywain");
    const titles = jobCard(
      buildNetwork(map),
      partOf(map, (p) => roleOf(p).vessel === "heater"),
    ).steps.map((s) => s.title);
    expect(titles.indexOf("Energy off")).toBeLessThan(
      titles.findIndex((t) => t.includes("hut it off") || t.includes("shuts it off")),
    );
    expect(titles.indexOf("Fill, then heat")).toBe(titles.length - 2);
    expect(titles).toContain("Room to expand");
  });

  it("for a waste gate has ten cycles with their current, and its release by hand", () => {
    const map = demo("yarrow");
    const card = jobCard(
      buildNetwork(map),
      partOf(map, (p) => p.name === "Black gate"),
    );
    const rows = card.steps.flatMap((s) => s.rows).join(" ");
    expect(card.title).toContain("Waste gate");
    expect(rows).toContain("Current of each stroke");
    expect(rows).toContain("release");
  });
});

describe("the commissioning sheet", () => {
  it.each(maps)(
    "of %s has every outlet bled and run, every relief and check proved, no row twice",
    (_, map) => {
      const network = networkOf(map);
      const rows = commissioning(network).flatMap((p) => p.rows);
      expect(new Set(rows.map((r) => r.key)).size).toBe(rows.length);
      const outlets = network.openings.filter(
        (o) => o.use === "outlet" && o.gate && network.cells[o.cell]?.side === "fresh",
      );
      for (const o of outlets) {
        expect(rows.some((r) => r.key === `air ${o.id}`)).toBe(true);
        expect(rows.find((r) => r.key === `flow ${o.id}`)?.forecastM3S).toBeGreaterThanOrEqual(0);
      }
      expect(rows.filter((r) => r.key.startsWith("check ")).length).toBe(
        map.parts.filter((p) => roleOf(p).guard === "check").length,
      );
    },
  );

  it("says of a flow far off what may be behind it, and nothing of one that agrees", () => {
    expect(flowSaid(1e-4, 1.05e-4)).toBeUndefined();
    expect(flowSaid(5e-5, 1e-4)).toContain("Far less");
    expect(flowSaid(2e-4, 1e-4)).toContain("Far more");
    expect(flowSaid(0, 1e-4)).toContain("Nothing comes");
    expect(flowSaid(1e-4, 0)).toContain("nothing should come");
  });
});

describe("re-piping", () => {
  it.each(maps)(
    "of %s changes the system of every pressed pipe of that family, and nothing else",
    (_, map) => {
      const [family] = pipeFamilies(map);
      if (!family) return expect(pipeFamilies(map)).toEqual([]);
      const to = family.family === "metric tube" ? "copper-size tube" : "metric tube";
      const then = repiped(map, family.family, to);
      expect(pipeFamilies(then).some((f) => f.family === family.family)).toBe(false);
      expect(then.parts).toEqual(map.parts);
      expect(then.runs.map((r) => ({ ...r, pipe: "" }))).toEqual(
        map.runs.map((r) => ({ ...r, pipe: "" })),
      );
      // Each pipe can go in by itself.
      const pieces = piecesOf(map, then);
      expect(pieces.every((p) => p.parts.length === 0 && p.runs.length === 1)).toBe(true);
      return undefined;
    },
  );
});

describe("a bypass drawn round a heater", () => {
  it.each(["dipper", "plover"])(
    "of %s saves most of the heater in antifreeze, and changes nothing in use",
    (id) => {
      const map = demo(id);
      const heater = partOf(map, (p) => roleOf(p).vessel === "heater");
      const done = withBypass(map, heater.id);
      if (!done.ok) throw new Error(done.problem);
      expect(surveyMap(done.map).problems.filter((p) => p.severity === "wrong")).toEqual([]);
      expect(done.map.lineup[done.part ?? ""]).toBe("shut");
      const plan = (of: WaterMap) => {
        const network = buildNetwork(of);
        return planWinterize({
          ...standardRequest(network, startPhysical(network)),
          method: "antifreeze",
        });
      };
      const [was, now] = [plan(map), plan(done.map)];
      const holds = Number(heater.params["volumeL"]) / 1000;
      expect(was.antifreeze.medianM3 - now.antifreeze.medianM3).toBeGreaterThan(holds / 2);
      expect(now.unprotected).toEqual([]);
      // Hot water comes as it did: nothing runs round the heater.
      const flows = (of: WaterMap) =>
        commissioning(buildNetwork(of))
          .flatMap((p) => p.rows)
          .filter((r) => r.forecastM3S !== undefined);
      for (const row of flows(map))
        expect(flows(done.map).find((r) => r.key === row.key)?.forecastM3S).toBeGreaterThan(
          0.85 * (row.forecastM3S ?? 0),
        );
      // One piece: it goes in together or not at all.
      expect(piecesOf(map, done.map)).toHaveLength(1);
    },
  );

  it("of something that is no heater is refused", () => {
    const map = demo("dipper");
    const tap = partOf(map, (p) => p.name === "Deck tap");
    expect(withBypass(map, tap.id).ok).toBe(false);
    expect(withBypass(map, "ghost").ok).toBe(false);
  });
});

describe("what is commonly added, drawn in one go", () => {
  it.each(maps)(
    "to %s gives a sound map with nothing wrong that was not, and one piece to put in",
    (_, map) => {
      const wrong = (of: WaterMap): number =>
        surveyMap(of).problems.filter((p) => p.severity === "wrong").length;
      for (const { label, draw } of inOneGo(map)) {
        const done = draw(map);
        if (!done.ok) throw new Error(`${label}: ${done.problem}`);
        expect(readWaterMap(done.map).ok, label).toBe(true);
        expect(wrong(done.map), label).toBeLessThanOrEqual(wrong(map));
        expect(piecesOf(map, done.map).length, label).toBe(1);
      }
    },
  );

  it("a pickup is drawn from: without one antifreeze has no way in by the pump, with it the plan takes it", () => {
    const found = maps.find(([, m]) => inOneGo(m).some((g) => g.label.startsWith("A pickup")));
    if (!found) throw new Error("every unit has its pickup");
    const [, map] = found;
    const done = inOneGo(map)
      .find((g) => g.label.startsWith("A pickup"))
      ?.draw(map);
    if (!done?.ok || !done.part) throw new Error("not drawn");
    const network = buildNetwork(done.map);
    const plan = planWinterize({
      ...standardRequest(network, startPhysical(network)),
      method: "antifreeze",
    });
    const used = plan.steps.flatMap((s) => s.parts ?? []);
    expect(used).toContain(done.part);
  });

  it("an accumulator lets the pump rest: it gives between two starts", () => {
    const map = demo("haywain");
    const done = inOneGo(map)
      .find((g) => g.label.startsWith("An accumulator"))
      ?.draw(map);
    if (!done?.ok) throw new Error("not drawn");
    const audit = (of: WaterMap) =>
      auditMap(of, { winter: {}, habits: habitsSchema.parse({}), limits: [] }, []);
    expect(audit(map).cushionM3).toBe(0);
    expect(audit(done.map).cushionM3).toBeGreaterThan(0);
    expect(inOneGo(done.map).some((g) => g.label.startsWith("An accumulator"))).toBe(false);
  });
});
