import { part, run } from "../examples/compose.ts";
import { teasel } from "../examples/teasel.ts";
import { buildNetwork, type Network, readWaterMap, type WaterMap } from "../watermap/index.ts";

/** Variants of the canal cruiser for the tests: the same boat with other plumbing. */

export const without = (map: WaterMap, partIds: readonly string[]): WaterMap => ({
  ...map,
  parts: map.parts.filter((p) => !partIds.includes(p.id)),
  runs: map.runs.filter((r) => !partIds.includes(r.from.part) && !partIds.includes(r.to.part)),
  lineup: Object.fromEntries(
    Object.entries(map.lineup).filter(([key]) => !partIds.includes(key.split(":")[0] ?? "")),
  ),
});

export const adding = (
  map: WaterMap,
  parts: WaterMap["parts"],
  runs: WaterMap["runs"],
): WaterMap => ({
  ...map,
  parts: [...map.parts, ...parts],
  runs: [...map.runs, ...runs],
});

/** A part with an "in" and an "out" that nobody knows: something of brass stands in its place. */
export const nobodyKnows = (map: WaterMap, id: string): WaterMap => {
  const ports: Readonly<Record<string, string>> = { in: "a", out: "b" };
  const end = <E extends { part: string; port: string }>(e: E): E =>
    e.part === id ? { ...e, port: ports[e.port] ?? e.port } : e;
  return {
    ...map,
    parts: map.parts.map((p) => (p.id === id ? part(id, "unknown-part", "Brass thing", 0.25) : p)),
    runs: map.runs.map((r) => ({ ...r, from: end(r.from), to: end(r.to) })),
  };
};

/** No way round the heater: its two tees and V7 are gone, V5 and V6 stay. */
export const noBypass = (): WaterMap =>
  adding(
    without(teasel, ["v7", "t-hc", "t-hh"]),
    [],
    [
      run("t-cold.b", "v5.a", "metric-15", 0.4, "cold"),
      run("v6.b", "t-d2.a", "metric-15", 1, "hot"),
    ],
  );

/** One lever: heater or bypass, and a check at the heater's hot outlet. */
export const singleValveBypass = (): WaterMap =>
  adding(
    without(teasel, ["v5", "v6", "v7", "t-hc", "heater-check"]),
    [
      part("vb", "selector-valve", "Heater lever", 0.2, {
        tag: "V8",
        params: { a: "heater", b: "bypass" },
      }),
      part("hot-check", "check-valve", "Hot check", 0.6),
    ],
    [
      run("t-cold.b", "vb.common", "metric-15", 0.3, "cold"),
      run("vb.a", "heater.cold", "metric-15", 0.3, "cold"),
      run("vb.b", "t-hh.b", "metric-15", 0.5, "cold"),
      run("heater.hot", "hot-check.in", "metric-15", 0.2, "hot"),
      run("hot-check.out", "t-hh.a", "metric-15", 0.2, "hot"),
    ],
  );

/** A second outside shower on the stern, teed into the deck shower's branches. */
export const extraOutsideShower = (): WaterMap =>
  adding(
    { ...teasel, runs: teasel.runs.filter((r) => r.to.part !== "deck-shower") },
    [
      part("t-xc", "tee", "Stern tee, cold", 0.2),
      part("t-xh", "tee", "Stern tee, hot", 0.2),
      part("stern-shower", "outside-shower", "Stern shower", 0.9, { place: "on deck" }),
    ],
    [
      run("t-sc.c", "t-xc.a", "metric-15", 1.2, "cold"),
      run("t-xc.b", "deck-shower.cold", "metric-15", 1.2, "cold"),
      run("t-xc.c", "stern-shower.cold", "metric-15", 3, "cold"),
      run("t-sh.c", "t-xh.a", "metric-15", 1.2, "hot"),
      run("t-xh.b", "deck-shower.hot", "metric-15", 1.2, "hot"),
      run("t-xh.c", "stern-shower.hot", "metric-15", 3, "hot"),
    ],
  );

/** No winterizing pickup: the tank line runs straight to the strainer. */
export const noPickup = (): WaterMap =>
  adding(
    without(teasel, ["pickup", "v2"]),
    [],
    [run("fresh-tank.outlet", "strainer.in", "hose-13", 0.8, "suction")],
  );

/** A map that must be sound, taken apart. */
export const networkOf = (map: WaterMap): Network => {
  const read = readWaterMap(map);
  if (!read.ok) throw new Error(read.problems.map((p) => `${p.where}: ${p.problem}`).join("\n"));
  return buildNetwork(read.map);
};

export const shuffled = (map: WaterMap): WaterMap => ({
  ...map,
  parts: map.parts.toReversed(),
  runs: map.runs.toReversed(),
});
