import { draft } from "../patterns/draft.ts";
import { FILL, heater, house, mixer, pipesOf, RAW, single, waste } from "../patterns/pieces.ts";
import type { WaterMap } from "../watermap/index.ts";

/** Trailer sailer with a portable galley: a jerry tank, a foot pump and one tap. */
export const sundew = ((): WaterMap => {
  const b = draft(
    { id: "sundew", name: "Sundew", craft: "trailer sailer with a portable galley, 5.8 m" },
    false,
  );
  const box = "galley box";
  b.add("filler", "gravity-fill", "Filler neck", 0.5, { place: box });
  b.add("tank", "fresh-tank", "Jerry tank", 0.05, {
    place: box,
    params: { volumeL: 20, depthM: 0.35, level: 0.7 },
  });
  b.add("coupling", "coupling", "Quick coupling", 0.1, { place: box });
  b.add("foot-pump", "manual-pump", "Foot pump", 0.08, { place: "cabin sole" });
  b.add("tap", "single-tap", "Galley tap", 0.7, { place: box });
  b.add("drain", "tank-drain", "Tank tap", 0.02, { tag: "D1", place: box });
  b.add("trap", "trap", "Sink trap", 0.3, { place: box, params: { volumeL: 0.1 } });
  b.add("skin", "overboard", "Sink outlet", 0.2, { place: "port side" });
  b.way("filler 0.2 tank.fill", { ...FILL, pipe: "hose-32" });
  b.way("tank.outlet 0.2 coupling 0.9 foot-pump", { pipe: "hose-13", service: "suction" });
  b.way("tank.drain 0.1 drain", { pipe: "hose-13", service: "suction" });
  b.way("foot-pump 1.1 tap", { pipe: "hose-10", service: "cold", name: "riser to the tap" });
  b.way("tap.waste 0.2 trap 0.5 skin", { pipe: "waste-25", service: "waste" });
  return b.map();
})();

/** Ranger patrol launch: a tank that is part of the hull in two halves, engine-coil heater with no check, a wash-down on lake water. */
export const dipper = ((): WaterMap => {
  const b = draft(
    {
      id: "dipper",
      name: "Dipper",
      craft: "ranger patrol launch, 9 m",
      note: "No check at the heater yet: hot runs back out of the cold line.",
    },
    false,
  );
  const tube = pipesOf("metric-15");
  const hold = "hold, under the sole";
  const engine = "engine space";
  b.add("filler", "gravity-fill", "Deck fill", 0.9, { place: "on deck" });
  b.add("tank-a", "fresh-tank", "Hull tank, fore", -0.5, {
    place: hold,
    access: "eight bolts each hatch",
    params: { volumeL: 180, depthM: 0.4, hatches: 3 },
  });
  b.add("tank-b", "fresh-tank", "Hull tank, aft", -0.5, {
    place: hold,
    access: "eight bolts each hatch",
    params: { volumeL: 160, depthM: 0.4, hatches: 2 },
  });
  b.add("link", "coupling", "Hole in the divider", -0.47, { place: hold });
  b.add("v1", "ball-valve", "Tank valve", -0.2, { tag: "V1", place: engine });
  b.add("strainer", "strainer", "Strainer", -0.1, { place: engine });
  b.add("pump", "diaphragm-pump", "Pump", -0.1, { place: engine });
  b.add("t-low", "tee", "Tee to D1", -0.15, { place: engine });
  b.add("d1", "low-point-drain", "Cold low-point drain", -0.2, { tag: "D1", place: engine });
  b.add("jc", "tee", "Heater tee", -0.1, { place: engine });
  b.way("filler 1.2 tank-a.fill", FILL);
  b.way("tank-a.link 0.05 link 0.05 tank-b.link", { pipe: "hose-38", service: "suction" });
  b.way("tank-b.outlet 0.9 v1 0.3 strainer 0.2 pump", tube.suction);
  b.way("pump 0.4 t-low.a", tube.cold);
  b.way("t-low.b 0.1 d1", tube.cold);
  b.way("t-low.c 0.5 jc", tube.cold);
  const hot = heater(
    b,
    "jc",
    {
      kind: "storage",
      bypass: "none",
      volumeL: 25,
      place: engine,
      heightM: -0.1,
      params: { engineLoop: true, element: true },
    },
    tube,
  );
  const outlets = [
    mixer("galley", "Galley tap", "wheelhouse"),
    mixer("basin", "Basin tap", "fore cabin"),
    single("deck-tap", "Deck tap", "on deck, stern"),
  ];
  house(b, { cold: "jc", hot }, outlets, tube);
  b.add("skin", "overboard", "Sink discharge", 0, { place: "side" });
  waste(
    b,
    outlets.filter((o) => o.id !== "deck-tap"),
    { grey: "skin", greyRoom: 1 },
  );
  b.add("seacock", "raw-intake", "Seacock", -0.6, { tag: "S1", place: engine });
  b.add("raw-strainer", "strainer", "Lake strainer", -0.3, { place: engine });
  b.add("wash-pump", "diaphragm-pump", "Wash-down pump", -0.2, { place: engine });
  b.add("wash", "wash-down", "Deck wash-down", 0.6, { place: "on deck, bow" });
  b.way("seacock 0.4 raw-strainer 0.3 wash-pump 4 wash", RAW);
  return b.map();
})();
