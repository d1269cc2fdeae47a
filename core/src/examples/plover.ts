import type { WaterMap } from "../watermap/index.ts";
import { compose, part, run } from "./compose.ts";

const CUDDY = "cuddy, under the port berth";
const GALLEY = "galley";
const HEAD = "head compartment";
const COCKPIT = "cockpit locker";

/** River cabin boat: tank only, small heater on an engine loop with no bypass, sink overboard, hand shower. */
export const plover: WaterMap = compose(
  {
    id: "plover",
    name: "Plover",
    craft: "river cabin boat, 8.2 m",
    places: [COCKPIT, CUDDY, GALLEY, HEAD],
    note: "No bypass at the heater: it is filled, or its two hoses are joined.",
  },
  [
    part("fill", "gravity-fill", "Deck fill", 0.9, { place: COCKPIT }),
    part("tank", "fresh-tank", "Fresh tank", 0.1, {
      place: CUDDY,
      params: { volumeL: 70, depthM: 0.3, level: 0.4 },
    }),
    part("tank-drain", "tank-drain", "Tank drain", 0.06, { tag: "D1", place: CUDDY }),
    part("v1", "selector-valve", "Suction selector", 0.15, {
      tag: "V1",
      place: CUDDY,
      params: { a: "tank", b: "pickup" },
    }),
    part("pickup", "winterizing-pickup", "Winterizing pickup", 0.25, { place: CUDDY }),
    part("strainer", "strainer", "Strainer", 0.2, { place: CUDDY }),
    part("pump", "diaphragm-pump", "Pump", 0.2, { place: CUDDY }),
    part("t-low", "tee", "Tee to the drain", 0.1, { place: CUDDY }),
    part("lc", "low-point-drain", "Low-point drain", 0.05, { tag: "D2", place: CUDDY }),
    part("t-heater", "tee", "Heater tee", 0.2, { place: COCKPIT }),
    part("heater-check", "check-valve", "Heater check", 0.22, { place: COCKPIT }),
    part("heater", "storage-heater", "Heater", 0.2, {
      place: COCKPIT,
      params: { metal: "aluminium", volumeL: 15, depthM: 0.3, element: false, engineLoop: true },
    }),
    part("t-bc", "tee", "Head tee, cold", 0.2, { place: GALLEY }),
    part("t-sh", "tee", "Hot tee", 0.2, { place: GALLEY }),
    part("sink", "mixer-tap", "Sink tap", 0.85, { place: GALLEY }),
    part("t-wc", "tee", "Toilet tee", 0.2, { place: HEAD }),
    part("toilet", "toilet", "Toilet", 0.4, { place: HEAD }),
    part("hand-shower", "shower", "Hand shower", 0.9, { place: HEAD }),
    part("trap-sink", "trap", "Sink trap", 0.45, { place: GALLEY }),
    part("skin", "overboard", "Sink discharge", 0.3, { place: GALLEY }),
    part("trap-shower", "trap", "Shower trap", 0.1, { place: HEAD }),
    part("grey", "waste-tank", "Shower sump", -0.05, {
      place: HEAD,
      params: { volumeL: 20, depthM: 0.15, level: 0.2 },
    }),
    part("black", "waste-tank", "Holding tank", 0.0, {
      place: HEAD,
      params: { volumeL: 40, depthM: 0.3, level: 0.1, holds: "black" },
    }),
  ],
  [
    run("fill.out", "tank.fill", "hose-38", 0.9, "fill", { name: "fill hose" }),
    run("tank.drain", "tank-drain.in", "hose-13", 0.1, "suction"),
    run("tank.outlet", "v1.a", "hose-13", 0.3, "suction", { name: "tank line" }),
    run("pickup.out", "v1.b", "hose-13", 0.2, "suction"),
    run("v1.common", "strainer.in", "hose-13", 0.2, "suction"),
    run("strainer.out", "pump.in", "hose-13", 0.2, "suction"),
    run("pump.out", "t-low.a", "hose-13", 0.6, "cold", { name: "pump outlet hose" }),
    run("t-low.b", "lc.in", "metric-15", 0.1, "cold"),
    run("t-low.c", "t-heater.a", "metric-15", 1.4, "cold", { name: "cold main" }),
    run("t-heater.b", "heater-check.in", "metric-15", 0.3, "cold"),
    run("heater-check.out", "heater.cold", "metric-15", 0.2, "cold"),
    run("heater.hot", "t-sh.a", "metric-15", 1.4, "hot", { name: "hot main" }),
    run("t-heater.c", "t-bc.a", "metric-15", 1.2, "cold", { name: "cold main, galley" }),
    run("t-bc.b", "sink.cold", "metric-15", 0.8, "cold", { name: "sink cold branch" }),
    run("t-bc.c", "t-wc.a", "metric-15", 1.0, "cold", { name: "cold main, head" }),
    run("t-wc.b", "toilet.water", "metric-15", 0.5, "cold", { name: "toilet branch" }),
    run("t-wc.c", "hand-shower.cold", "metric-15", 0.9, "cold", { name: "shower cold branch" }),
    run("t-sh.b", "sink.hot", "metric-15", 0.8, "hot", { name: "sink hot branch" }),
    run("t-sh.c", "hand-shower.hot", "metric-15", 1.7, "hot", { name: "shower hot branch" }),
    run("sink.waste", "trap-sink.in", "waste-32", 0.2, "waste"),
    run("trap-sink.out", "skin.in", "waste-25", 0.6, "waste", { name: "sink waste" }),
    run("hand-shower.waste", "trap-shower.in", "waste-32", 0.2, "waste"),
    run("trap-shower.out", "grey.in", "waste-32", 0.3, "waste", { name: "shower waste" }),
    run("toilet.waste", "black.in", "sanitation-38", 0.5, "waste", { name: "toilet discharge" }),
  ],
);
