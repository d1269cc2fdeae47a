import { family, type Pattern } from "../pattern.ts";
import {
  FILL,
  heater,
  house,
  outletsOf,
  pipesOf,
  rail,
  RAW,
  shower,
  single,
  toilet,
  waste,
  withHot,
} from "../pieces.ts";
import { doubt, perhaps, UNKNOWN } from "../questions.ts";

const tube = pipesOf("metric-15");
// Ways of the cold manifold that are left for outlets beside the heater's.
const OWN_WAYS = 7;

/** Boats. */
export const BOATS: readonly Pattern[] = [
  family({
    id: "P10",
    label: "Houseboat, manifold, linked tanks, two heaters in series, raw-water toilets",
    craft: "houseboat",
    about:
      "A manifold with a valve for each outlet, four tanks linked low, two heaters one behind the other, toilets on raw water.",
    trap: "Linked tanks drain only down to the link: four heels. A shut seacock holds water round its ball. 15 mm is taken for half-inch.",
    questions: ["taps", "inletCheck", "outsideShower"],
    usual: {
      taps: "2",
      heater: "storage",
      inletCheck: UNKNOWN,
      toilet: "raw",
      pumpPlace: "engine space",
    },
    lay: (b, a) => {
      const bilge = "bilge, amidships";
      b.add("dock", "supply-post", "Dock tap", 0.8, { place: "on the dock" });
      b.add("regulator", "pressure-regulator", "Regulator", 0.8, {
        place: "on the dock",
        ...doubt("Look at the dock tap for a brass body with an arrow."),
      });
      b.add("dock-filter", "filter-housing", "Dock filter", 0.8, {
        place: "on the dock",
        params: { holds: "sediment" },
      });
      b.add("coupler-check", "check-valve", "Coupler check", 0.6, {
        place: "on deck",
        ...(a.inletCheck === "yes" ? {} : perhaps(UNKNOWN, "inletCheck")),
      });
      b.add("vdock", "ball-valve", "Dock valve", 0.5, { tag: "Vdock", place: "engine space" });
      b.add("man", "manifold", "Cold manifold", 0.5, {
        place: "engine space",
        params: { ways: 8 },
      });
      b.way("dock 0.5 regulator 0.3 dock-filter 12 coupler-check 1 vdock 0.4 man.in", {
        pipe: "hose-16",
        service: "cold",
      });
      const tanks = ["a", "b", "c", "d"];
      tanks.forEach((t) =>
        b.add(`tank-${t}`, "fresh-tank", `Tank ${t.toUpperCase()}`, -0.6, {
          place: bilge,
          params: { volumeL: 300, depthM: 0.5, hatches: 1 },
        }),
      );
      b.add("filler", "gravity-fill", "Deck fill", 1, { place: "on deck" });
      b.way("filler tank-a.fill", FILL);
      b.way("tank-a.link 0.5 tank-b.link", {
        pipe: "hose-19",
        service: "suction",
        name: "tank link",
      });
      b.way("tank-b.link2 0.5 tank-c.link", {
        pipe: "hose-19",
        service: "suction",
        name: "tank link",
      });
      b.way("tank-c.link2 0.5 tank-d.link", {
        pipe: "hose-19",
        service: "suction",
        name: "tank link",
      });
      b.add("strainer", "strainer", "Strainer", -0.2, {
        place: "engine space",
        ...doubt("Look at the pump's inlet for a clear bowl."),
      });
      b.add("pump", "diaphragm-pump", "Pump", -0.2, { place: "engine space" });
      b.way("tank-d.outlet 1 strainer pump", tube.suction);
      b.way("pump 0.6 man.in2", tube.cold);
      b.add("heater-a", "storage-heater", "Heater A", 0, {
        place: "engine space",
        params: { volumeL: 75, depthM: 0.5, engineLoop: true },
      });
      b.add("heater", "storage-heater", "Heater B", 0, {
        place: "engine space",
        params: { volumeL: 75, depthM: 0.5 },
      });
      b.way("man.out1 0.6 heater-a.cold", tube.cold);
      b.way("heater-a.hot 0.6 heater.cold", tube.hot);
      const outlets = [
        ...outletsOf(a, [
          ["galley", "Galley tap", "galley"],
          ["basin-a", "Basin, aft", "aft head"],
          ["basin-b", "Basin, fore", "fore head"],
        ]),
        shower("shower", "Shower", "aft head"),
      ];
      const hotOutlets = outlets.filter((o) => o.hot);
      // Eight ways at most: what is more shares the last line of its side. The last free way fills the tanks.
      const own = outlets.length > OWN_WAYS ? OWN_WAYS - 1 : outlets.length;
      const fills = outlets.length <= OWN_WAYS - 1;
      b.change("man", {
        params: { ways: 1 + own + (outlets.length > own ? 1 : 0) + (fills ? 1 : 0) },
      });
      b.add("manh", "manifold", "Hot manifold", 0.5, {
        place: "engine space",
        params: { ways: Math.min(8, Math.max(2, hotOutlets.length > 8 ? 8 : hotOutlets.length)) },
      });
      b.way("heater.hot 0.8 manh.in", tube.hot);
      for (const o of outlets) b.add(o.id, o.kind, o.name, o.heightM, o.more);
      outlets
        .slice(0, own)
        .forEach((o, i) => b.way(`man.out${i + 2} 3 ${o.id}.${o.cold}`, tube.cold));
      rail(b, "man", outlets.slice(own), "cold", tube, 0.2);
      hotOutlets
        .slice(0, 7)
        .forEach((o, i) => b.way(`manh.out${i + 1} 3 ${o.id}.${o.hot}`, tube.hot));
      rail(b, "manh", hotOutlets.slice(7), "hot", tube, 0.25);
      if (fills)
        b.way("man 1 tank-a.outlet2", {
          pipe: "metric-15",
          service: "fill",
          name: "tank fill from the manifold",
        });
      b.add("skin", "overboard", "Grey discharge", 0, { place: "side, aft" });
      waste(b, outlets, { grey: "skin", greyRoom: 1 });
      b.add("seacock-a", "raw-intake", "Seacock, toilets", -0.8, {
        tag: "S1",
        place: bilge,
        params: { rodOutCap: true },
      });
      b.add("raw-pump", "diaphragm-pump", "Raw-water pump", -0.4, { place: bilge });
      b.add("t-raw", "tee", "Raw tee", 0, { place: "aft head" });
      b.add("head-a", "raw-toilet", "Head, aft", 0.3, { place: "aft head" });
      b.add("head-b", "raw-toilet", "Head, fore", 0.3, { place: "fore head" });
      b.add("black-a", "waste-tank", "Holding tank, aft", -0.5, {
        place: bilge,
        params: { volumeL: 150, holds: "black" },
      });
      b.add("black-b", "waste-tank", "Holding tank, fore", -0.5, {
        place: bilge,
        params: { volumeL: 150, holds: "black" },
      });
      b.way("seacock-a 1 raw-pump 2 t-raw", RAW);
      b.way("t-raw 1 head-a", RAW);
      b.way("t-raw 4 head-b", RAW);
      b.way("head-a.waste 0.6 black-a", { pipe: "sanitation-38", service: "waste" });
      b.way("head-b.waste 0.6 black-b", { pipe: "sanitation-38", service: "waste" });
      b.add("seacock-b", "raw-intake", "Seacock, wash-down", -0.8, {
        tag: "S2",
        place: "bow locker",
      });
      b.add("wash-pump", "diaphragm-pump", "Wash-down pump", -0.3, { place: "bow locker" });
      b.add("wash", "wash-down", "Deck wash-down", 0.8, { place: "on deck" });
      b.way("seacock-b 0.5 wash-pump 2 wash", RAW);
    },
  }),
  family({
    id: "P11",
    label: "Sailing boat, engine-coil heater, check valve missing",
    craft: "sailing boat",
    about:
      "No pressurised inlet, no pickup, no bypass: the pump fills cold main and heater, and hot runs back out of the cold line.",
    trap: "Element off is not heat off: the engine heats to 80 °C. First cold joint opened: hot flood. A check then closes the system and its growth must go somewhere.",
    questions: ["taps", "outsideShower", "pumpPlace"],
    usual: { taps: "2", heater: "storage", toilet: "fresh", pumpPlace: "engine space" },
    lay: (b, a) => {
      b.add("filler", "gravity-fill", "Deck fill", 1, { place: "on deck" });
      b.add("tank", "fresh-tank", "Fresh tank", -0.2, {
        place: "under the saloon berth",
        params: { volumeL: 200, depthM: 0.4, hatches: 1 },
      });
      b.add("strainer", "strainer", "Strainer", 0, {
        place: "under the saloon berth",
        ...doubt("Look at the pump's inlet for a clear bowl."),
      });
      b.add("pump", "diaphragm-pump", "Pump", 0, {
        place: a.pumpPlace === UNKNOWN ? "not found yet" : a.pumpPlace,
      });
      b.add("jc", "tee", "Tee at the pump", 0, { place: "engine space" });
      b.way("filler tank.fill", FILL);
      b.way("tank.outlet 0.8 strainer pump", tube.suction);
      b.way("pump jc.a", tube.cold);
      const hot = heater(
        b,
        "jc",
        {
          kind: "storage",
          bypass: "none",
          volumeL: 25,
          place: "engine space",
          heightM: 0,
          params: { engineLoop: true, element: true },
        },
        tube,
      );
      const outlets = outletsOf(
        a,
        [
          ["galley", "Galley tap", "galley"],
          ["basin", "Basin tap", "head"],
        ],
        [
          shower("shower", "Shower", "head"),
          {
            ...toilet("toilet", "Toilet", "head"),
            more: {
              place: "head",
              ...doubt(
                "Flush it with the pump off: does water still come? Then it is on raw water.",
              ),
            },
          },
        ],
        "on deck, stern",
      );
      house(b, { cold: "jc", hot }, withHot(outlets, hot), tube);
      b.add("skin", "overboard", "Sink discharge", 0, { place: "side" });
      b.add("holding", "waste-tank", "Holding tank", -0.2, {
        place: "head",
        params: { volumeL: 60, holds: "black" },
      });
      waste(b, outlets, { grey: "skin", greyRoom: 1, black: "holding" });
    },
  }),
  family({
    id: "P13",
    label: "Hull-integral tank with hatches",
    craft: "workboat",
    about:
      "A tank that is part of the hull, in two halves with perhaps a hole between, many bolted hatches, a dip for the suction.",
    trap: "Both halves at one pressure hide a leak in the divider: each half is tested with the other open. The pressurised side must not reach it.",
    questions: ["taps", "pumpPlace"],
    usual: { taps: "1", pumpPlace: "engine space" },
    lay: (b, a) => {
      const hold = "hold, under the sole";
      b.add("filler", "gravity-fill", "Deck fill", 1, { place: "on deck" });
      b.add("tank-a", "fresh-tank", "Tank, fore half", -0.5, {
        place: hold,
        params: { volumeL: 400, depthM: 0.5, hatches: 4 },
      });
      b.add("tank-b", "fresh-tank", "Tank, aft half", -0.5, {
        place: hold,
        params: { volumeL: 400, depthM: 0.5, hatches: 4 },
      });
      b.add("link", "coupling", "Hole in the divider", -0.47, {
        place: hold,
        ...doubt("Fill one half a hand's depth and look into the other."),
      });
      b.add("pump", "diaphragm-pump", "Pump", 0, {
        place: a.pumpPlace === UNKNOWN ? "not found yet" : a.pumpPlace,
      });
      b.way("filler tank-a.fill", FILL);
      b.way("tank-a.link 0.1 link 0.1 tank-b.link", { pipe: "hose-38", service: "suction" });
      b.way("tank-b.outlet 1 pump", tube.suction);
      const outlets = withHot(outletsOf(a, [["sink", "Sink tap", "galley"]]), undefined);
      b.add("jc", "tee", "Tee at the pump", 0);
      b.way("pump jc.a", tube.cold);
      b.add("end", "end-plug", "Plugged branch", 0, { place: "engine space" });
      b.way("jc.b 0.5 end", tube.cold);
      house(b, { cold: "jc", hot: undefined }, outlets, tube);
      b.add("skin", "overboard", "Sink discharge", 0, { place: "side" });
      waste(b, outlets, { grey: "skin", greyRoom: 1 });
    },
  }),
  family({
    id: "P18",
    label: "Sailing boat with pressure and foot pumps",
    craft: "sailing boat",
    about:
      "One tank, two ways out of it: a pressure pump for the mixers and a foot pump for a tap of its own in the galley.",
    trap: "The foot pump's line is a second system: antifreeze drawn by the pressure pump never reaches it.",
    questions: ["taps", "heater", "outsideShower", "pumpPlace"],
    usual: { taps: "2", heater: "storage", toilet: "raw", pumpPlace: "under the galley" },
    lay: (b, a) => {
      b.add("filler", "gravity-fill", "Deck fill", 1, { place: "on deck" });
      b.add("tank", "fresh-tank", "Fresh tank", -0.2, {
        place: "under the saloon berth",
        params: { volumeL: 160, depthM: 0.35, hatches: 1 },
      });
      b.add("v-t", "ball-valve", "Tank valve", -0.1, {
        tag: "V1",
        place: "under the saloon berth",
      });
      b.add("strainer", "strainer", "Strainer", 0, {
        place: a.pumpPlace === UNKNOWN ? "not found yet" : a.pumpPlace,
      });
      b.add("pump", "diaphragm-pump", "Pump", 0, {
        place: a.pumpPlace === UNKNOWN ? "not found yet" : a.pumpPlace,
      });
      b.add("foot-pump", "manual-pump", "Foot pump", 0.1, { place: "galley, at the floor" });
      b.add("foot-tap", "single-tap", "Foot-pump tap", 0.9, { place: "galley" });
      b.add("j1", "tee", "Heater branch tee", 0);
      b.way("filler tank.fill", FILL);
      b.way("tank.outlet 0.3 v-t 0.5 strainer pump", tube.suction);
      b.way("tank.outlet2 1 foot-pump", tube.suction);
      b.way("foot-pump 1.2 foot-tap", { pipe: "hose-13", service: "cold" });
      b.way("pump j1", tube.cold);
      const hot = heater(
        b,
        "j1",
        {
          kind: a.heater,
          bypass: "none",
          volumeL: 22,
          place: "engine space",
          check: "cold",
          params: { engineLoop: true },
        },
        tube,
      );
      const outlets = [
        ...outletsOf(
          a,
          [
            ["galley", "Galley tap", "galley"],
            ["basin", "Basin tap", "head"],
          ],
          [],
          "on deck, stern",
        ),
        { ...shower("shower", "Shower", "head"), waste: "trap" as const },
      ];
      house(b, { cold: "j1", hot }, withHot(outlets, hot), tube);
      b.add("skin", "overboard", "Sink discharge", 0, { place: "side" });
      waste(b, [...outlets, { ...single("foot-tap", "Foot-pump tap", "galley") }], {
        grey: "skin",
        greyRoom: 1,
      });
      b.add("seacock", "raw-intake", "Seacock, head", -0.6, { tag: "S1", place: "head" });
      b.add("head", "raw-toilet", "Head", 0.2, { place: "head" });
      b.add("holding", "waste-tank", "Holding tank", -0.1, {
        place: "head",
        params: { volumeL: 50, holds: "black" },
      });
      b.way("seacock 0.6 head", RAW);
      b.way("head.waste 0.6 holding", { pipe: "sanitation-38", service: "waste" });
    },
  }),
];
