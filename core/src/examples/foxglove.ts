import { draft } from "../patterns/draft.ts";
import {
  FILL,
  heater,
  house,
  iceMaker,
  mixer,
  pipesOf,
  shower,
  toilet,
  waste,
} from "../patterns/pieces.ts";
import { HEATED_HOSE_C, type WaterMap } from "../watermap/index.ts";

const half = pipesOf("pex-1/2");
const BAY = "service bay, nearside";

/**
 * A film unit's dressing-room trailer: six basins in a row, a diverter panel, an on-demand heater. In use all winter on a heated hose.
 * Two roles at the heater are still not known.
 */
export const foxglove = ((): WaterMap => {
  const b = draft(
    {
      id: "foxglove",
      name: "Foxglove",
      craft: "film unit's dressing-room trailer",
      note: "Came from another hirer with no papers.",
    },
    false,
  );
  b.add("post", "supply-post", "Site riser", 0.6, {
    place: "outside, at the post",
    params: { heatCable: true },
  });
  b.add("regulator", "pressure-regulator", "Regulator", 0.6, { place: BAY });
  b.add("coupler", "coupling", "Hose coupler", 0.6, { place: BAY });
  b.add("inlet-check", "check-valve", "Inlet check", 0.55, {
    place: BAY,
    unknown: {
      of: "fitted",
      ask: "Pump on, hose off: what comes out of the coupler says there is none, or that it passes.",
    },
  });
  b.add("panel", "diverter-panel", "Diverter panel", 0.5, { tag: "P", place: BAY });
  b.add("jug", "winterizing-pickup", "Service port", 0.4, { place: BAY });
  b.add("vw", "ball-valve", "Service port valve", 0.4, { tag: "V1", place: BAY });
  b.add("filler", "gravity-fill", "Filler", 1, { place: "outside, nearside" });
  b.add("tank", "fresh-tank", "Fresh tank", 0.05, {
    place: "under floor",
    params: { volumeL: 200, depthM: 0.3, sender: true },
  });
  b.add("d1", "tank-drain", "Tank drain", -0.05, { tag: "D1", place: "under floor" });
  b.add("strainer", "strainer", "Strainer", 0.35, { place: BAY });
  b.add("pump", "diaphragm-pump", "Pump", 0.35, { place: BAY });
  b.add("jc", "tee", "Tee after the pump", 0.4, { place: BAY });
  b.way("post 8 regulator", {
    pipe: "hose-16",
    service: "cold",
    insulated: true,
    ratedToC: HEATED_HOSE_C,
    name: "heated hose",
  });
  b.way("regulator 0.1 coupler 0.2 inlet-check 0.2 panel.supply", half.cold);
  b.way("filler 1.4 tank.fill", FILL);
  b.way("tank.drain 0.2 d1", half.suction);
  b.way("tank.outlet 1.5 panel.tank", half.suction);
  b.way("jug 0.2 vw 0.2 panel.jug", half.suction);
  b.way("panel.pump 0.2 strainer 0.2 pump", half.suction);
  b.way("pump 0.3 jc.a", half.cold);
  b.way("panel.house 0.3 jc.b", half.cold);
  b.lineup({ vw: "shut" });
  b.add("j1", "tee", "Heater branch tee", 0.3, { place: BAY });
  b.way("jc.c 1 j1", half.cold);
  const hot = heater(
    b,
    "j1",
    {
      kind: "on-demand",
      bypass: "two valves",
      place: "behind the outside door, offside",
      access: "square key",
      check: "hot unknown",
    },
    half,
  );
  b.change("vc", { tag: "V2" });
  b.change("vx", {
    tag: "V3",
    unknown: {
      of: "role",
      ask: "Photograph both valves and trace the upper one: from the cold line to the hot, or in the hot line?",
    },
  });
  const rooms = [1, 2, 3, 4, 5, 6].map((n) =>
    mixer(`basin-${n}`, `Basin ${n}`, `dressing room ${n}`),
  );
  const outlets = [
    ...rooms,
    mixer("make-up", "Make-up sink", "make-up room"),
    shower("shower", "Shower", "wash room"),
    toilet("toilet", "Toilet", "wash room"),
    iceMaker("ice", "make-up room"),
  ];
  house(b, { cold: "j1", hot }, outlets, half, {
    cold: { tag: "D2", place: "under floor" },
    hot: { tag: "D3", place: "under floor" },
  });
  b.add("grey", "waste-tank", "Grey tank", -0.4, {
    place: "under floor",
    params: { volumeL: 400, depthM: 0.35, sender: true },
  });
  b.add("black", "waste-tank", "Black tank", -0.4, {
    place: "under floor",
    params: { volumeL: 200, depthM: 0.3, holds: "black" },
  });
  waste(b, outlets, { grey: "grey", black: "black" });
  return b.map();
})();
