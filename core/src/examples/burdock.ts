import type { WaterMap } from "../watermap/index.ts";
import { compose, part, run } from "./compose.ts";

const BAY = "service bay, left";
const CABIN = "galley cupboard";
const BATH = "wet room";
const OUTSIDE = "outside, left wall";

/** Slide-in truck camper: inlet with its own check, gas heater on a one-valve bypass with a check at its hot outlet, outside shower. */
export const burdock: WaterMap = compose(
  {
    id: "burdock",
    name: "Burdock",
    craft: "slide-in truck camper",
    places: [OUTSIDE, BAY, CABIN, BATH],
  },
  [
    part("inlet", "pressurised-inlet", "Supply inlet", 0.7, {
      place: OUTSIDE,
      params: { builtInCheck: true },
    }),
    part("filler", "gravity-fill", "Filler", 0.9, { place: OUTSIDE }),
    part("tank", "fresh-tank", "Fresh tank", 0.1, {
      place: BAY,
      params: { volumeL: 95, depthM: 0.3, level: 0.6 },
    }),
    part("tank-drain", "tank-drain", "Tank drain", 0.05, { tag: "D3", place: OUTSIDE }),
    part("v1", "selector-valve", "Suction selector", 0.2, {
      tag: "V1",
      place: BAY,
      params: { a: "tank", b: "pickup" },
    }),
    part("pickup", "winterizing-pickup", "Winterizing pickup", 0.3, { place: BAY }),
    part("strainer", "strainer", "Strainer", 0.25, { place: BAY }),
    part("pump", "diaphragm-pump", "Pump", 0.25, { place: BAY }),
    part("t-join", "tee", "Tee at the pump", 0.25, { place: BAY }),
    part("t-low", "tee", "Tee to the cold drain", 0.1, { place: BAY }),
    part("lc", "low-point-drain", "Cold low-point drain", 0.02, { tag: "D1", place: OUTSIDE }),
    part("t-heater", "tee", "Heater tee", 0.3, { place: BAY }),
    part("v4", "selector-valve", "Heater bypass", 0.35, {
      tag: "V4",
      place: BAY,
      params: { a: "heater", b: "bypass" },
    }),
    part("heater", "storage-heater", "Heater", 0.25, {
      place: BAY,
      params: { metal: "steel", anode: true, volumeL: 22, depthM: 0.3, element: true, gas: true },
    }),
    part("hot-check", "check-valve", "Heater hot check", 0.55, { place: BAY }),
    part("t-hot", "tee", "Bypass tee, hot", 0.5, { place: BAY }),
    part("t-lowh", "tee", "Tee to the hot drain", 0.1, { place: BAY }),
    part("lh", "low-point-drain", "Hot low-point drain", 0.02, { tag: "D2", place: OUTSIDE }),
    part("t-sc", "tee", "Sink tee, cold", 0.3, { place: CABIN }),
    part("t-sh", "tee", "Sink tee, hot", 0.3, { place: CABIN }),
    part("sink", "mixer-tap", "Sink tap", 1.0, { place: CABIN }),
    part("t-oc", "tee", "Outside tee, cold", 0.3, { place: BAY }),
    part("t-oh", "tee", "Outside tee, hot", 0.3, { place: BAY }),
    part("outside-shower", "outside-shower", "Outside shower", 0.7, { place: OUTSIDE }),
    part("t-wc", "tee", "Toilet tee", 0.3, { place: BATH }),
    part("toilet", "toilet", "Toilet", 0.5, { place: BATH }),
    part("shower", "shower", "Shower", 1.2, { place: BATH }),
    part("trap-sink", "trap", "Sink trap", 0.6, { place: CABIN }),
    part("trap-shower", "trap", "Shower trap", 0.1, { place: BATH }),
    part("grey", "waste-tank", "Grey tank", -0.1, {
      place: OUTSIDE,
      params: { volumeL: 60, depthM: 0.2, level: 0.5 },
    }),
    part("black", "waste-tank", "Black tank", -0.1, {
      place: OUTSIDE,
      params: { volumeL: 50, depthM: 0.25, level: 0.3, holds: "black" },
    }),
  ],
  [
    run("inlet.out", "t-join.b", "pex-1/2", 0.9, "cold", { name: "inlet line" }),
    run("filler.out", "tank.fill", "hose-38", 0.9, "fill", { name: "fill hose" }),
    run("tank.drain", "tank-drain.in", "hose-13", 0.2, "suction"),
    run("tank.outlet", "v1.a", "hose-13", 0.4, "suction", { name: "tank line" }),
    run("pickup.out", "v1.b", "hose-13", 0.2, "suction"),
    run("v1.common", "strainer.in", "hose-13", 0.2, "suction"),
    run("strainer.out", "pump.in", "hose-13", 0.15, "suction"),
    run("pump.out", "t-join.a", "hose-13", 0.3, "cold", { name: "pump outlet hose" }),
    run("t-join.c", "t-low.a", "pex-1/2", 0.8, "cold", { name: "cold main" }),
    run("t-low.b", "lc.in", "pex-1/2", 0.1, "cold"),
    run("t-low.c", "t-heater.a", "pex-1/2", 0.5, "cold", { name: "cold main, at the heater" }),
    run("t-heater.b", "v4.common", "pex-1/2", 0.2, "cold"),
    run("v4.a", "heater.cold", "pex-1/2", 0.2, "cold"),
    run("v4.b", "t-hot.b", "pex-1/2", 0.35, "cold", { name: "bypass" }),
    run("heater.hot", "hot-check.in", "pex-1/2", 0.15, "hot"),
    run("hot-check.out", "t-hot.a", "pex-1/2", 0.15, "hot"),
    run("t-hot.c", "t-lowh.a", "pex-1/2", 0.6, "hot", { name: "hot main" }),
    run("t-lowh.b", "lh.in", "pex-1/2", 0.1, "hot"),
    run("t-heater.c", "t-oc.a", "pex-1/2", 0.5, "cold"),
    run("t-oc.b", "outside-shower.cold", "pex-1/2", 0.6, "cold", {
      name: "outside shower cold branch",
    }),
    run("t-oc.c", "t-sc.a", "pex-1/2", 1.2, "cold", { name: "cold main, sink" }),
    run("t-sc.b", "sink.cold", "pex-1/2", 0.8, "cold", { name: "sink cold branch" }),
    run("t-sc.c", "t-wc.a", "pex-1/2", 1.0, "cold", { name: "cold main, wet room" }),
    run("t-wc.b", "toilet.water", "pex-1/2", 0.4, "cold", { name: "toilet branch" }),
    run("t-wc.c", "shower.cold", "pex-1/2", 1.1, "cold", { name: "shower cold branch" }),
    run("t-lowh.c", "t-oh.a", "pex-1/2", 0.5, "hot"),
    run("t-oh.b", "outside-shower.hot", "pex-1/2", 0.6, "hot", {
      name: "outside shower hot branch",
    }),
    run("t-oh.c", "t-sh.a", "pex-1/2", 1.2, "hot", { name: "hot main, sink" }),
    run("t-sh.b", "sink.hot", "pex-1/2", 0.8, "hot", { name: "sink hot branch" }),
    run("t-sh.c", "shower.hot", "pex-1/2", 2.0, "hot", { name: "shower hot branch" }),
    run("sink.waste", "trap-sink.in", "waste-32", 0.2, "waste"),
    run("trap-sink.out", "grey.in", "waste-32", 1.2, "waste", { name: "sink waste" }),
    run("shower.waste", "trap-shower.in", "waste-40", 0.2, "waste"),
    run("trap-shower.out", "grey.in2", "waste-40", 0.7, "waste", { name: "shower waste" }),
    run("toilet.waste", "black.in", "sanitation-38", 0.3, "waste", { name: "toilet discharge" }),
  ],
);
