import { describe, expect, it } from "vitest";
import { situationOf } from "../../contents/index.ts";
import { EXAMPLE_MAPS, teasel } from "../../examples/index.ts";
import { PATTERNS, starterMap } from "../../patterns/index.ts";
import { systemOf } from "../../testing/random-systems.ts";
import {
  addOnPipeRun,
  againstChecks,
  buildNetwork,
  liveOpenings,
  passableLinks,
  reach,
  type WaterMap,
} from "../../watermap/index.ts";
import { startPhysical } from "../physical.ts";
import { newContext } from "./context.ts";
import { findEntries } from "./entry.ts";
import { standardRequest } from "./index.ts";

const FEW = 6;

const begun = (map: WaterMap) => {
  const network = buildNetwork(map);
  const context = newContext(standardRequest(network, startPhysical(network)));
  return { network, context, entries: findEntries(context) };
};

/** Valves in a row on one pipe. */
const withValves = (map: WaterMap, run: string, count: number): WaterMap => {
  let now = map;
  for (let i = 0; i < count; i++) {
    const added = addOnPipeRun(now, "ball-valve", run, 0.5);
    if (!added.ok) throw new Error("no valve there");
    now = added.map;
  }
  return now;
};

/** The fewest turns by which a pump draws on nothing but the pickup, by trying every standing. */
const fewestByTrying = (map: WaterMap): number | undefined => {
  const { network, context, entries } = begun(map);
  const entry = entries.find((e) => e.kind === "pickup");
  const pickup = network.openings.find((o) => o.use === "pickup");
  if (!entry?.pump || !pickup?.gate) return undefined;
  const valves = network.controls.filter((c) => entry.suctionControls.includes(c.key));
  if (valves.length > FEW) return undefined;
  const inlet = network.links.find((l) => l.drivenBy === entry.pump?.key)?.a ?? -1;
  const ready = { ...context.physical.lineup, [pickup.gate.key]: "in jug", [entry.pump.key]: "on" };
  let all: Record<string, string>[] = [{}];
  for (const v of valves)
    all = all.flatMap((c) => v.spec.positions.map((p) => ({ ...c, [v.key]: p.name })));
  const suits = (turns: Record<string, string>): boolean => {
    const situation = situationOf(network, { ...context.physical, lineup: { ...ready, ...turns } });
    const drawn = reach(network, [inlet], againstChecks(network, passableLinks(situation)));
    const from = liveOpenings(situation).filter((o) => drawn[o.cell] === 1);
    return from.length > 0 && from.every((o) => o.id === pickup.id);
  };
  const lineup: Readonly<Record<string, string>> = ready;
  return Math.min(
    ...all
      .filter(suits)
      .map((turns) => Object.entries(turns).filter(([key, to]) => lineup[key] !== to).length),
  );
};

const turnsOf = (map: WaterMap): number => {
  const { context, entries } = begun(map);
  const entry = entries.find((e) => e.kind === "pickup");
  const hoses = new Set(
    context.network.openings.flatMap((o) => (o.use === "pickup" && o.gate ? [o.gate.key] : [])),
  );
  return (entry?.connect(context) ?? []).filter(
    (a) => a.type === "set-valve" && !hoses.has(a.control),
  ).length;
};

describe("how the valves before a pump must stand to draw on a pickup", () => {
  it("takes no more turns than the best of all standings: families, examples and hostile systems, seeded", () => {
    const maps = [
      ...EXAMPLE_MAPS,
      ...PATTERNS.map(starterMap),
      ...Array.from({ length: 60 }, (_, i) => systemOf(700_001 + i)),
    ];
    const compared = maps.flatMap((map, i) => {
      const fewest = fewestByTrying(map);
      return fewest === undefined ? [] : [[i, turnsOf(map), fewest]];
    });
    expect(compared.length).toBeGreaterThan(20);
    expect(compared.filter(([, turns, fewest]) => turns !== fewest)).toEqual([]);
  });

  it("is found past two dozen valves in a row, shut or open", () => {
    const many = withValves(
      withValves(teasel, "r-fresh-tank-outlet-v2-a", 12),
      "r-pickup-out-v2-b",
      12,
    );
    expect(turnsOf(many)).toBe(turnsOf(teasel));
    const { network } = begun(many);
    const shut = network.controls
      .filter((c) => c.spec.role === "valve" && !teasel.parts.some((p) => p.id === c.part.id))
      .map((c) => c.key);
    const closed = {
      ...many,
      lineup: { ...many.lineup, ...Object.fromEntries(shut.map((key) => [key, "shut"])) },
    };
    // The twelve of the pickup's own line are opened; those of the tank's line stay shut.
    expect(turnsOf(closed)).toBe(12 + turnsOf(teasel));
  });

  it("is not there where nothing holds the tank back: a hose goes on in place of its line", () => {
    const straight: WaterMap = {
      ...teasel,
      parts: teasel.parts.map((p) => (p.id === "v2" ? { ...p, kind: "tee", params: {} } : p)),
    };
    const ports: Readonly<Record<string, string>> = { common: "c" };
    const runs = straight.runs.map((r) => ({
      ...r,
      from: r.from.part === "v2" ? { ...r.from, port: ports[r.from.port] ?? r.from.port } : r.from,
      to: r.to.part === "v2" ? { ...r.to, port: ports[r.to.port] ?? r.to.port } : r.to,
    }));
    const lineup = Object.fromEntries(
      Object.entries(straight.lineup).filter(([key]) => key !== "v2"),
    );
    expect(begun({ ...straight, runs, lineup, modes: {} }).entries.map((e) => e.kind)).toEqual([
      "pump-inlet-hose",
    ]);
  });
});
