import { draft } from "../patterns/draft.ts";
import { FILL, mixer, outside, pipesOf, RAW, shower, waste } from "../patterns/pieces.ts";
import type { WaterMap } from "../watermap/index.ts";

const tube = pipesOf("metric-15");
const ENGINE = "engine space, port";
const PORT = "port hull";
const STAR = "starboard hull";
const SALOON = "saloon, under the seat";

/** Catamaran day-charter boat: a tank in each hull linked low, manifold, two heaters in series, heads on lake water. */
export const turnstone = ((): WaterMap => {
  const b = draft(
    { id: "turnstone", name: "Turnstone", craft: "catamaran day-charter boat, 12 m" },
    false,
  );
  b.add("dock", "pressurised-inlet", "Dock inlet", 0.8, { place: "on deck, stern" });
  b.add("regulator", "pressure-regulator", "Regulator", 0.7, { place: "on deck, stern" });
  b.add("dock-filter", "filter-housing", "Dock filter", 0.6, {
    place: ENGINE,
    params: { holds: "sediment" },
  });
  b.add("dock-check", "check-valve", "Dock check", 0.5, { place: ENGINE });
  b.add("vdock", "ball-valve", "Dock valve", 0.5, { tag: "V1", place: ENGINE });
  b.add("man", "manifold", "Cold manifold", 0.5, { place: SALOON, params: { ways: 8 } });
  b.way("dock 0.3 regulator 1 dock-filter 0.5 dock-check 0.4 vdock 2 man.in", {
    pipe: "metric-15",
    service: "cold",
    name: "dock line",
  });
  b.add("fill-p", "gravity-fill", "Deck fill", 1, { place: "on deck, port" });
  b.add("tank-p", "fresh-tank", "Port tank", -0.4, {
    place: PORT,
    params: { volumeL: 200, depthM: 0.45, hatches: 1 },
  });
  b.add("tank-s", "fresh-tank", "Starboard tank", -0.4, {
    place: STAR,
    params: { volumeL: 200, depthM: 0.45, hatches: 1 },
  });
  b.add("vlink", "ball-valve", "Tank link valve", -0.35, { tag: "V2", place: SALOON });
  b.add("dp", "tank-drain", "Port tank drain", -0.45, { tag: "D1", place: PORT });
  b.add("ds", "tank-drain", "Starboard tank drain", -0.45, { tag: "D2", place: STAR });
  b.add("vsel", "selector-valve", "Suction selector", -0.1, {
    tag: "V3",
    place: SALOON,
    params: { a: "tanks", b: "jug" },
  });
  b.add("jug", "winterizing-pickup", "Jug hose", 0, { place: SALOON });
  b.add("strainer", "strainer", "Strainer", -0.1, { place: SALOON });
  b.add("pump", "diaphragm-pump", "Pump", -0.1, { place: SALOON });
  b.way("fill-p 1.2 tank-p.fill", FILL);
  b.way("tank-p.link 2.5 vlink 2.5 tank-s.link", {
    pipe: "hose-19",
    service: "suction",
    name: "tank link",
  });
  b.way("tank-p.drain 0.2 dp", tube.suction);
  b.way("tank-s.drain 0.2 ds", tube.suction);
  b.way("tank-s.outlet 1.2 vsel.a", tube.suction);
  b.way("jug 0.3 vsel.b", tube.suction);
  b.way("vsel.common 0.3 strainer 0.2 pump", tube.suction);
  b.way("pump 0.8 man.in2", tube.cold);
  const at = { place: ENGINE, access: "hatch, two latches" };
  b.add("t-hc", "tee", "Heater tee, cold", 0.1, at);
  b.add("v4", "ball-valve", "Heater cold in", 0.1, { ...at, tag: "V4" });
  b.add("heater-check", "check-valve", "Heater check", 0.1, at);
  b.add("heater-a", "storage-heater", "Heater A", 0, {
    ...at,
    params: { volumeL: 40, depthM: 0.4, engineLoop: true, metal: "stainless steel" },
  });
  b.add("heater-b", "storage-heater", "Heater B", 0, {
    ...at,
    params: { volumeL: 40, depthM: 0.4, engineLoop: true, metal: "stainless steel" },
  });
  b.add("v5", "ball-valve", "Heater hot out", 0.4, { ...at, tag: "V5" });
  b.add("v6", "ball-valve", "Heater bypass", 0.3, { ...at, tag: "V6" });
  b.add("jh", "tee", "Heater tee, hot", 0.4, at);
  b.add("manh", "manifold", "Hot manifold", 0.5, { place: SALOON, params: { ways: 6 } });
  b.way("man.out1 2 t-hc", tube.cold);
  b.way("t-hc.b 0.2 v4 0.2 heater-check 0.2 heater-a.cold", tube.cold);
  b.way("heater-a.hot 0.5 heater-b.cold", tube.hot);
  b.way("heater-b.hot 0.3 v5 0.2 jh.a", tube.hot);
  b.way("t-hc.c 0.4 v6", tube.cold);
  b.way("v6 0.4 jh.b", tube.hot);
  b.way("jh.c 2 manh.in", tube.hot);
  b.lineup({ v6: "shut" });
  const outlets = [
    mixer("galley", "Galley tap", "galley"),
    mixer("basin-p", "Port basin", PORT),
    mixer("basin-s", "Starboard basin", STAR),
    shower("shower-p", "Port shower", PORT),
    shower("shower-s", "Starboard shower", STAR),
    outside("deck", "Swim shower", "on deck, stern"),
  ];
  outlets.forEach((o, i) => {
    b.add(o.id, o.kind, o.name, o.heightM, o.more);
    b.way(`man.out${i + 2} ${2 + i * 0.5} ${o.id}.cold`, tube.cold);
    b.way(`manh.out${i + 1} ${2 + i * 0.5} ${o.id}.hot`, tube.hot);
  });
  b.add("ice", "ice-maker", "Ice maker", 0.6, { place: "galley" });
  b.way("man.out8 2 ice", { ...tube.cold, pipe: "hose-6" });
  b.add("sump-p", "waste-tank", "Port shower sump", -0.5, {
    place: PORT,
    params: { volumeL: 30, depthM: 0.2, level: 0.2 },
  });
  b.add("sump-s", "waste-tank", "Starboard shower sump", -0.5, {
    place: STAR,
    params: { volumeL: 30, depthM: 0.2, level: 0.2 },
  });
  waste(
    b,
    outlets.filter((o) => o.more?.place !== STAR),
    { grey: "sump-p" },
  );
  waste(
    b,
    outlets.filter((o) => o.more?.place === STAR),
    { grey: "sump-s" },
  );
  const head = (side: "p" | "s", name: string, place: string): void => {
    b.add(`seacock-${side}`, "raw-intake", `Seacock, ${name.toLowerCase()}`, -0.7, {
      tag: side === "p" ? "S1" : "S2",
      place,
      params: { rodOutCap: true },
    });
    b.add(`head-${side}`, "raw-toilet", name, 0.1, { place, params: { macerator: true } });
    b.add(
      `holding-${side}`,
      "waste-tank",
      `Holding tank, ${side === "p" ? "port" : "starboard"}`,
      -0.3,
      {
        place,
        params: { volumeL: 80, holds: "black", empties: "by its pipe" },
      },
    );
    b.add(
      `out-${side}`,
      "pump-out-fitting",
      `Pump-out, ${side === "p" ? "port" : "starboard"}`,
      0.9,
      { place: "on deck" },
    );
    b.way(`seacock-${side} 1 head-${side}`, RAW);
    b.way(`head-${side}.waste 0.6 holding-${side}`, { pipe: "sanitation-38", service: "waste" });
    b.way(`holding-${side}.out 1.5 out-${side}`, { pipe: "sanitation-38", service: "waste" });
  };
  head("p", "Port head", PORT);
  head("s", "Starboard head", STAR);
  return b.map();
})();
