import { draft } from "../patterns/draft.ts";
import {
  FILL,
  heater,
  house,
  iceMaker,
  mixer,
  outside,
  pipesOf,
  RAW,
  shower,
  toilet,
  waste,
} from "../patterns/pieces.ts";
import { lookedAt } from "./seen.ts";
import { addOnPipeRun, type WaterMap } from "../watermap/index.ts";

const half = pipesOf("pex-1/2");
const BAY = "pump bay, under the bunk";
const GALLEY = "galley, behind the drawers";
const WET = "wet room";
const OUTSIDE = "outside, left";
const FRAME = "between the frames";

const STOPS = [
  ["dishwasher", "water", "V7"],
  ["ice", "water", "V8"],
  ["washer", "cold", "V9"],
  ["washer", "hot", "V10"],
  ["boot-wash", "in", "V11"],
  ["toilet", "water", "V12"],
  ["outside", "cold", "V13"],
] as const;

type Drawing = ReturnType<typeof draft>;

/** Supply, filler, two linked tanks, jug, pump and accumulator, to the tee where the two sources meet. */
const supplySide = (b: Drawing): void => {
  b.add("inlet", "pressurised-inlet", "Supply inlet", 0.9, { place: OUTSIDE });
  b.add("regulator", "pressure-regulator", "Regulator", 0.8, { place: BAY });
  b.add("inlet-check", "check-valve", "Inlet check", 0.7, { place: BAY });
  b.add("sediment", "filter-housing", "Sediment filter", 0.6, {
    place: BAY,
    params: { holds: "sediment", bypass: true },
  });
  b.add("sel", "selector-valve", "Fill selector", 0.6, {
    tag: "V1",
    place: BAY,
    params: { a: "house", b: "fill" },
  });
  b.way("inlet 0.3 regulator 0.3 inlet-check 0.2 sediment 0.3 sel.common", half.cold);
  b.add("filler", "gravity-fill", "Filler", 1.3, { place: OUTSIDE });
  b.add("t-fill", "tee", "Fill tee", 0.5, { place: BAY });
  b.add("tank-a", "fresh-tank", "Tank, left", 0, {
    place: FRAME,
    params: { volumeL: 250, depthM: 0.35, sender: true, hatches: 1 },
  });
  b.add("tank-b", "fresh-tank", "Tank, right", 0, {
    place: FRAME,
    params: { volumeL: 250, depthM: 0.35, sender: true, hatches: 1 },
  });
  b.add("vlink", "ball-valve", "Tank link valve", 0.05, { tag: "V2", place: FRAME });
  b.add("da", "tank-drain", "Left tank drain", -0.1, { tag: "D1", place: FRAME });
  b.add("db", "tank-drain", "Right tank drain", -0.1, { tag: "D2", place: FRAME });
  b.way("sel.b 0.8 t-fill.a", { pipe: "pex-1/2", service: "fill" });
  b.way("filler 0.8 t-fill.b", FILL);
  b.way("t-fill.c 0.8 tank-a.fill", FILL);
  b.way("tank-a.link 0.6 vlink 0.6 tank-b.link", {
    pipe: "hose-19",
    service: "suction",
    name: "tank link",
  });
  b.way("tank-a.drain 0.2 da", half.suction);
  b.way("tank-b.drain 0.2 db", half.suction);
  b.add("jw", "selector-valve", "Jug valve", 0.2, {
    tag: "V3",
    place: BAY,
    params: { a: "tanks", b: "jug" },
  });
  b.add("jug", "winterizing-pickup", "Jug hose", 0.3, { place: BAY });
  b.add("strainer", "strainer", "Strainer", 0.2, { place: BAY });
  b.add("pump", "diaphragm-pump", "Pump", 0.2, { place: BAY });
  b.add("t-acc", "tee", "Accumulator tee", 0.25, { place: BAY });
  b.add("acc", "accumulator", "Accumulator", 0.3, { place: BAY, params: { volumeL: 2 } });
  b.add("jm", "tee", "Tee of the two sources", 0.25, { place: BAY });
  b.way("tank-b.outlet 1.2 jw.a", half.suction);
  b.way("jug 0.3 jw.b", half.suction);
  b.way("jw.common 0.3 strainer 0.2 pump", half.suction);
  b.way("pump 0.3 t-acc.a", half.cold);
  b.way("t-acc.b 0.1 acc", half.cold);
  b.way("t-acc.c 0.3 jm.a", half.cold);
  b.way("sel.a 0.6 jm.b", half.cold);
};

/** Drinking tap by a carbon filter, and the heater with its bypass. @returns where its hot line leaves */
const heaterSide = (b: Drawing): ReturnType<typeof heater> => {
  b.add("t-fine", "tee", "Drinking tee", 0.3, { place: GALLEY });
  b.add("carbon", "filter-housing", "Carbon filter", 0.4, {
    place: GALLEY,
    params: { holds: "carbon" },
  });
  b.add("drinking", "single-tap", "Drinking tap", 1, { place: GALLEY });
  b.way("jm.c 1.2 t-fine.a", half.cold);
  b.way("t-fine.b 0.3 carbon 0.5 drinking", { ...half.cold, pipe: "pex-3/8" });
  b.add("j1", "tee", "Heater branch tee", 0.25, { place: GALLEY });
  b.way("t-fine.c 0.4 j1", half.cold);
  const hot = heater(
    b,
    "j1",
    {
      kind: "storage",
      bypass: "three valves",
      check: "cold",
      volumeL: 20,
      place: GALLEY,
      access: "four screws",
      params: { engineLoop: true, gas: true, anode: true, metal: "steel" },
    },
    half,
  );
  b.change("vc", { tag: "V4" });
  b.change("vh", { tag: "V5" });
  b.change("vx", { tag: "V6" });
  return hot;
};

const OUTLETS = [
  mixer("kitchen", "Kitchen tap", GALLEY),
  {
    id: "dishwasher",
    kind: "dishwasher",
    name: "Dishwasher",
    heightM: 0.3,
    cold: "water",
    waste: "trap" as const,
    more: { place: GALLEY },
  },
  iceMaker("ice", GALLEY),
  mixer("basin", "Basin tap", WET),
  shower("shower", "Shower", WET),
  toilet("toilet", "Toilet", WET),
  {
    id: "washer",
    kind: "washing-machine",
    name: "Washing machine",
    heightM: 0.3,
    cold: "cold",
    hot: "hot",
    waste: "trap" as const,
    more: { place: WET },
  },
  outside("outside", "Outside shower", OUTSIDE),
  {
    id: "boot-wash",
    kind: "wash-down",
    name: "Boot wash",
    heightM: 0.4,
    cold: "in",
    more: { place: "outside, rear" },
  },
];

/** Grey and black tank, their gates, vents with filters, and the flush of the black one. */
const wasteSide = (b: Drawing): void => {
  const waste40 = { pipe: "waste-40", service: "waste" as const };
  b.add("grey", "waste-tank", "Grey tank", -0.2, {
    place: FRAME,
    params: { volumeL: 150, depthM: 0.3, empties: "by its pipe", vented: false, sender: true },
  });
  b.add("black", "waste-tank", "Black tank", -0.2, {
    place: FRAME,
    params: { volumeL: 90, depthM: 0.3, holds: "black", empties: "by its pipe", vented: false },
  });
  waste(b, OUTLETS, { grey: "grey", black: "black" });
  b.add("gate-g", "motor-gate-valve", "Grey gate", -0.25, { tag: "G1", place: FRAME });
  b.add("gate-b", "gate-valve", "Black gate", -0.25, { tag: "G2", place: FRAME });
  b.add("jo", "tee", "Outlet tee", -0.3, { place: FRAME });
  b.add("outlet", "waste-outlet", "Waste outlet", -0.35, { place: OUTSIDE });
  b.way("grey.out 0.3 gate-g 0.3 jo.a", waste40);
  b.way("black.out 0.3 gate-b 0.3 jo.b", { ...waste40, pipe: "waste-3" });
  b.way("jo.c 0.5 outlet", { ...waste40, pipe: "waste-3" });
  b.add("filter-g", "vent-filter", "Grey vent filter", 0.5, { place: WET });
  b.add("vent-g", "waste-vent", "Grey vent", 2, { place: "roof" });
  b.way("grey.air 1 filter-g 1.5 vent-g", { pipe: "waste-25", service: "waste" });
  b.add("filter-b", "vent-filter", "Black vent filter", 0.5, { place: WET });
  b.add("vent-b", "waste-vent", "Black vent", 2, { place: "roof" });
  b.way("black.air 1 filter-b 1.5 vent-b", { pipe: "waste-25", service: "waste" });
  b.add("flush", "tank-flush-inlet", "Tank-flush inlet", 0.7, { place: OUTSIDE });
  b.add("breaker", "vacuum-breaker", "Vacuum breaker", 1.2, { place: "inside the wet-room wall" });
  b.way("flush 1.5 breaker 1.5 black.in4", RAW);
};

/** Expedition truck: two linked tanks, accumulator, two filters, three-valve bypass with a tempering valve, appliances, tank flush. */
export const yarrow = ((): WaterMap => {
  const b = draft({ id: "yarrow", name: "Yarrow", craft: "expedition truck" }, false);
  supplySide(b);
  const hot = heaterSide(b);
  house(b, { cold: "j1", hot }, OUTLETS, half, {
    cold: { tag: "D3", place: FRAME },
    hot: { tag: "D4", place: FRAME },
  });
  wasteSide(b);
  // Each appliance has its own stop, where the line leaves the main.
  const withStops = STOPS.reduce((map, [outlet, port, tag]) => {
    const run = map.runs.find((r) => r.to.part === outlet && r.to.port === port);
    const done =
      run &&
      addOnPipeRun(map, "plug-valve", run.id, 0.8, {
        name: `${map.parts.find((p) => p.id === outlet)?.name ?? outlet} stop, ${port === "hot" ? "hot" : "cold"}`,
        tag,
      });
    return done?.ok ? done.map : map;
  }, b.map());
  return lookedAt(withStops);
})();
