import { family, type Pattern } from "../pattern.ts";
import {
  FILL,
  greyAndBlack,
  heater,
  house,
  outletsOf,
  pipesOf,
  RAW,
  shower,
  toilet,
  waste,
  withHot,
} from "../pieces.ts";
import { doubt, perhaps, UNKNOWN } from "../questions.ts";

const half = pipesOf("pex-1/2");
const place = (answer: string): string => (answer === UNKNOWN ? "not found yet" : answer);
/** Towed homes and trailers. */
export const TOWABLES: readonly Pattern[] = [
  family({
    id: "P01",
    label: "Crew or bunk trailer, a valve each side of the pump",
    craft: "crew trailer",
    about:
      "Tank under the lowest bunk, a valve and a coupling each side of the pump, outlets one after another with the toilet last.",
    trap: "Undoing the tank's coupling with the tank full lets the whole content go. Only the last outlet proves a series run.",
    questions: ["taps", "heater", "pumpPlace", "outsideShower"],
    usual: { taps: "1", heater: UNKNOWN, toilet: "fresh" },
    lay: (b, a) => {
      const bunk = "under the lowest bunk";
      const pump = place(a.pumpPlace);
      b.add("filler", "gravity-fill", "Filler", 1, { place: "outside, side wall" });
      b.add("tank", "fresh-tank", "Fresh tank", 0.1, {
        place: bunk,
        params: { volumeL: 150, depthM: 0.35 },
      });
      b.add("vd", "tank-drain", "Tank drain, through the floor", 0.02, { tag: "Vd", place: bunk });
      b.add("coupling-t", "coupling", "Tank coupling", 0.12, { place: bunk });
      b.add("vin", "ball-valve", "Pump valve, tank side", 0.12, { tag: "Vin", place: pump });
      b.add("coupling-a", "coupling", "Pump inlet coupling", 0.15, { place: pump });
      b.add("pump", "diaphragm-pump", "Pump", 0.15, { place: pump });
      b.add("coupling-b", "coupling", "Pump outlet coupling", 0.15, { place: pump });
      b.add("vout", "ball-valve", "Pump valve, house side", 0.15, { tag: "Vout", place: pump });
      b.add("jr", "tee", "Tee to the inlet", 0.15);
      b.add("inlet", "pressurised-inlet", "Supply inlet", 0.5, {
        place: "outside, side wall",
        ...doubt("Walk round outside and look for a hose fitting; where does it join?"),
      });
      b.way("filler tank.fill", FILL);
      b.way("tank.drain 0.1 vd", half.suction);
      b.way("tank.outlet coupling-t vin coupling-a pump", half.suction);
      b.way("pump coupling-b vout jr", { ...half.cold, lengthM: 0.3 });
      b.way("inlet 1.5 jr.c", half.cold);
      const outlets = [
        ...outletsOf(a, [
          ["sink", "Sink tap", "galley"],
          ["basin", "Basin tap", "wash place"],
        ]),
        { ...shower("shower", "Shower", "wash place") },
        toilet("toilet", "Toilet", "wash place"),
      ];
      b.add("ja", "tee", "Floor run tee", 0.1);
      b.way("jr.b 2.5 ja", { ...half.cold, name: "floor run" });
      const hot = heater(
        b,
        "ja",
        { kind: a.heater, bypass: "none", place: "not found yet", volumeL: 22 },
        half,
      );
      house(b, { cold: "ja", hot }, withHot(outlets, hot), half);
      greyAndBlack(b, outlets, { place: "under floor", heightM: -0.2, greyL: 120, blackL: 100 });
    },
  }),
  family({
    id: "P02",
    label: "Dealer trailer, three-valve bypass and pickup",
    craft: "travel trailer",
    about:
      "Pickup hose and valve before the pump, three valves round the heater, two stems under the floor, a plug in the heater.",
    trap: "Valves turned and the heater never drained: closed in full, it bursts. Bypass left open in spring gives lukewarm water.",
    questions: ["taps", "heater", "bypass", "outsideShower", "iceMaker", "inletCheck", "pumpPlace"],
    usual: {
      taps: "2",
      heater: "storage",
      bypass: "three valves",
      outsideShower: "yes",
      iceMaker: UNKNOWN,
      inletCheck: UNKNOWN,
      pickup: "yes",
      lowPoints: "yes",
      toilet: "fresh",
    },
    lay: (b, a) => {
      const pump = place(a.pumpPlace);
      b.add("filler", "gravity-fill", "Filler", 1, { place: "outside, left wall" });
      b.add("tank", "fresh-tank", "Fresh tank", 0.1, {
        place: "under floor",
        params: { volumeL: 80, depthM: 0.25 },
      });
      b.add("vd", "tank-drain", "Tank drain", 0.02, { tag: "Vd", place: "under floor" });
      b.add("vt", "ball-valve", "Tank valve", 0.15, { tag: "Vt", place: pump });
      b.add("pickup", "winterizing-pickup", "Pickup hose", 0.25, { place: pump });
      b.add("vp", "ball-valve", "Pickup valve", 0.2, { tag: "Vp", place: pump });
      b.add("j0", "tee", "Suction tee", 0.15, { place: pump });
      b.add("strainer", "strainer", "Strainer", 0.15, {
        place: pump,
        ...doubt("Look at the pump's inlet for a clear bowl."),
      });
      b.add("pump", "diaphragm-pump", "Pump", 0.15, { place: pump });
      b.add("jc", "tee", "Tee at the pump", 0.15, { place: pump });
      b.add("inlet", "pressurised-inlet", "Supply inlet", 0.6, { place: "outside, left wall" });
      b.add("inlet-check", "check-valve", "Inlet check", 0.5, {
        place: "outside, left wall",
        ...(a.inletCheck === "yes" ? {} : perhaps(UNKNOWN, "inletCheck")),
      });
      b.way("filler tank.fill", FILL);
      b.way("tank.drain 0.2 vd", half.suction);
      b.way("tank.outlet 0.6 vt j0.a", half.suction);
      b.way("pickup vp j0.b", half.suction);
      b.way("j0.c strainer pump", half.suction);
      b.way("pump 0.3 jc.a", half.cold);
      b.way("inlet 0.3 inlet-check 1.2 jc.b", half.cold);
      b.lineup({ vp: "shut" });
      b.add("j1", "tee", "Heater branch tee", 0.15);
      b.way("jc.c j1", half.cold);
      const hot = heater(
        b,
        "j1",
        {
          kind: a.heater,
          bypass: a.bypass,
          volumeL: 25,
          place: "behind the galley kick panel",
          access: "four screws",
          params: { gas: true },
        },
        half,
      );
      const outlets = outletsOf(
        a,
        [
          ["sink", "Kitchen sink", "galley"],
          ["basin", "Basin", "bathroom"],
          ["tub", "Tub", "bathroom"],
        ],
        [shower("shower", "Shower", "bathroom"), toilet("toilet", "Toilet", "bathroom")],
        "outside, right wall",
      );
      house(b, { cold: "j1", hot }, withHot(outlets, hot), half, {
        cold: { place: "under floor" },
        ...(hot ? { hot: { place: "under floor" } } : {}),
      });
      greyAndBlack(b, outlets, { place: "under floor", heightM: -0.3, greyL: 110, blackL: 100 });
    },
  }),
  family({
    id: "P04",
    label: "Small trailer, outside panel, electric heater without a drain",
    craft: "small travel trailer",
    about:
      "A panel behind an outside hatch chooses supply, fill, tank or jug. A small electric heater with an isolator each side, no drain, and no cross-link seen.",
    trap: "Air pushed in through the cold dip bubbles out and empties nothing: gas in at the top, water out by the dip. The skipped outside port breaks.",
    questions: ["taps", "heater", "outsideShower", "iceMaker", "bypass"],
    usual: {
      taps: "2",
      heater: "point-of-use",
      bypass: "none",
      outsideShower: "yes",
      lowPoints: "yes",
      toilet: "fresh",
    },
    lay: (b, a) => {
      const hatch = "outside panel, left wall";
      const bay = "behind the panel";
      b.add("inlet", "pressurised-inlet", "Supply inlet", 0.7, { place: hatch });
      b.add("panel", "diverter-panel", "Diverter panel", 0.5, {
        tag: "P",
        place: hatch,
        unknown: {
          of: "role",
          ask: "Read the maker's sheet inside the hatch, or try each mark by flow.",
        },
      });
      b.add("pickup", "winterizing-pickup", "Jug hose", 0.4, { place: hatch });
      b.add("tank", "fresh-tank", "Fresh tank", 0.1, {
        place: bay,
        params: { volumeL: 90, depthM: 0.3 },
      });
      b.add("vd", "tank-drain", "Tank drain", 0.02, { tag: "Vd", place: "under floor" });
      b.add("pump", "diaphragm-pump", "Pump", 0.3, { place: bay });
      b.add("jp", "tee", "Tee after the panel", 0.4, { place: bay });
      b.way("inlet 0.3 panel.supply", half.cold);
      b.way("tank.outlet 0.6 panel.tank", half.suction);
      b.way("pickup 0.3 panel.jug", half.suction);
      b.way("panel.pump 0.3 pump", half.suction);
      b.way("tank.drain 0.2 vd", half.suction);
      b.way("pump 0.3 jp.a", half.cold);
      b.way("panel.house 0.3 jp.b", half.cold);
      b.add("filler", "gravity-fill", "Filler", 0.8, { place: hatch });
      b.way("filler tank.fill", FILL);
      b.add("j1", "tee", "Heater branch tee", 0.2);
      b.way("jp.c j1", half.cold);
      let hot: string | undefined;
      if (a.heater === "point-of-use" && a.bypass === "none") {
        const at = { place: "under the sink" };
        b.add("joint-k", "coupling", "Cold joint, undoable", 0.2, at);
        b.add("sc", "plug-valve", "Heater stop, cold", 0.2, { ...at, tag: "Sc" });
        b.add("heater", "point-of-use-heater", "Heater", 0.2, { ...at, params: { volumeL: 10 } });
        b.add("joint-h", "coupling", "Hot joint", 0.5, at);
        b.add("hot-check", "check-valve", "Hot check", 0.5, {
          ...at,
          ...doubt(
            "Open the hot joint on each side in turn: the side where nothing moves is behind the check.",
          ),
        });
        b.add("sh", "plug-valve", "Heater stop, hot", 0.5, { ...at, tag: "Sh" });
        b.way("j1 joint-k sc heater.cold", { ...half.cold, lengthM: 0.3 });
        b.way("heater.hot joint-h hot-check sh", { ...half.hot, lengthM: 0.25 });
        hot = "sh";
      } else
        hot = heater(
          b,
          "j1",
          { kind: a.heater, bypass: a.bypass, volumeL: 22, place: "under the sink" },
          half,
        );
      const outlets = outletsOf(
        a,
        [
          ["kitchen", "Kitchen tap", "galley"],
          ["bath", "Bath tap", "wash room"],
        ],
        [toilet("toilet", "Toilet", "wash room")],
        hatch,
      );
      house(b, { cold: "j1", hot }, withHot(outlets, hot), half, {
        cold: { place: "under floor" },
        ...(hot ? { hot: { place: "under floor" } } : {}),
      });
      greyAndBlack(b, outlets, { place: "under floor", heightM: -0.3, greyL: 80, blackL: 60 });
    },
  }),
  family({
    id: "P07",
    label: "Travel trailer, three-way fill selector, strainer before the pump, tank flush",
    craft: "travel trailer",
    about:
      "A selector at the inlet fills the tank or feeds the house, a strainer before the pump with its jug valve, a separate flush inlet for the black tank.",
    trap: "Heater in circuit is right for the air and wrong for the antifreeze later. With a plain tee for the jug the pump sucks air from the empty tank.",
    questions: ["taps", "heater", "bypass", "lowPoints", "iceMaker", "pumpPlace"],
    usual: {
      taps: "2",
      heater: "storage",
      bypass: UNKNOWN,
      outsideShower: "yes",
      lowPoints: UNKNOWN,
      pickup: "yes",
      toilet: "fresh",
    },
    lay: (b, a) => {
      const pump = place(a.pumpPlace);
      const wall = "outside, left wall";
      b.add("inlet", "pressurised-inlet", "Supply inlet", 0.6, { place: wall });
      b.add("inlet-check", "check-valve", "Inlet check", 0.5, {
        place: wall,
        ...perhaps(UNKNOWN, "inletCheck"),
      });
      b.add("sel", "selector-valve", "Fill selector", 0.5, {
        tag: "S",
        place: wall,
        params: { a: "house", b: "fill" },
      });
      b.add("tank", "fresh-tank", "Fresh tank", 0.1, {
        place: "under the bed",
        params: { volumeL: 150, depthM: 0.3 },
      });
      b.add("vd", "tank-drain", "Tank drain", 0.02, { tag: "Vd", place: "under floor" });
      b.add("jw", "selector-valve", "Jug valve", 0.15, {
        tag: "Jw",
        place: pump,
        params: { a: "tank", b: "jug" },
      });
      b.add("pickup", "winterizing-pickup", "Jug hose", 0.25, { place: pump });
      b.add("strainer", "strainer", "Strainer", 0.15, { place: pump });
      b.add("pump", "diaphragm-pump", "Pump", 0.15, { place: pump });
      b.add("jm", "tee", "Tee at the pump", 0.15, { place: pump });
      b.way("inlet 0.3 inlet-check sel.common", { ...half.cold, lengthM: 0.3 });
      b.way("sel.a 1 jm.b", half.cold);
      b.way("sel.b 1 tank.fill", { pipe: "hose-13", service: "fill" });
      b.way("tank.outlet 0.8 jw.a", half.suction);
      b.way("tank.drain 0.2 vd", half.suction);
      b.way("pickup jw.b", half.suction);
      b.way("jw.common strainer pump", half.suction);
      b.way("pump 0.3 jm.a", half.cold);
      b.add("j1", "tee", "Heater branch tee", 0.15);
      b.way("jm.c j1", half.cold);
      const hot = heater(
        b,
        "j1",
        {
          kind: a.heater,
          bypass: a.bypass,
          volumeL: 25,
          place: "under the wardrobe",
          access: "six screws",
          params: { anode: true, gas: true },
        },
        half,
      );
      const outlets = outletsOf(
        a,
        [
          ["kitchen", "Kitchen tap", "galley"],
          ["basin", "Basin tap", "bathroom"],
        ],
        [shower("shower", "Shower", "bathroom"), toilet("toilet", "Toilet", "bathroom")],
        "outside, right wall",
      );
      const low =
        a.lowPoints === "no"
          ? undefined
          : { place: "under floor", ...perhaps(a.lowPoints, "lowPoints") };
      house(
        b,
        { cold: "j1", hot },
        withHot(outlets, hot),
        half,
        low ? { cold: low, ...(hot ? { hot: low } : {}) } : {},
      );
      greyAndBlack(b, outlets, { place: "under floor", heightM: -0.3, greyL: 130, blackL: 120 });
      b.add("flush", "tank-flush-inlet", "Tank-flush inlet", 0.5, { place: wall });
      b.add("breaker", "vacuum-breaker", "Vacuum breaker", 1.1, {
        place: "inside the bathroom wall",
        ...doubt("Follow the flush hose inside; listen at the wall while it runs."),
      });
      b.way("flush 1.5 breaker 1.5 black.in4", RAW);
    },
  }),
  family({
    id: "P08",
    label: "Big towable, selector on the pickup, one-valve bypass",
    craft: "fifth-wheel trailer",
    about:
      "A selector chooses tank or jug tube, one lever bypasses the heater with a check at its hot outlet, one low point under a slide.",
    trap: "Selector left on pickup: in spring the pump runs and nothing comes. Anode out: the first fill pours through the hole. The low point is not the lowest.",
    questions: ["taps", "heater", "bypass", "outsideShower", "iceMaker", "inletCheck"],
    usual: {
      taps: "2",
      heater: "storage",
      bypass: "one valve",
      outsideShower: "yes",
      inletCheck: UNKNOWN,
      pickup: "yes",
      toilet: "fresh",
      pumpPlace: "service bay",
    },
    lay: (b, a) => {
      const bay = place(a.pumpPlace);
      b.add("filler", "gravity-fill", "Filler", 1, { place: "outside, left wall" });
      b.add("tank", "fresh-tank", "Fresh tank", 0, {
        place: "under floor",
        params: { volumeL: 350, depthM: 0.35 },
      });
      b.add("lt", "tank-drain", "Low point under the slide", -0.05, {
        tag: "Lt",
        place: "under the slide",
      });
      b.add("selp", "selector-valve", "Pickup selector", 0.3, {
        tag: "Sp",
        place: bay,
        params: { a: "tank", b: "pickup" },
      });
      b.add("pickup", "winterizing-pickup", "Jug tube", 0.4, { place: bay });
      b.add("pump", "diaphragm-pump", "Pump", 0.3, { place: bay });
      b.add("jc", "tee", "Tee at the pump", 0.3, { place: bay });
      b.add("inlet", "pressurised-inlet", "Supply inlet", 0.7, {
        place: bay,
        params: { builtInCheck: true },
        ...(a.inletCheck === "yes"
          ? {}
          : { unknown: { of: "role" as const, ask: "Pump on, cap off: does anything come out?" } }),
      });
      b.way("filler 1.2 tank.fill", FILL);
      b.way("tank.drain 0.3 lt", half.suction);
      b.way("tank.outlet 1 selp.a", half.suction);
      b.way("pickup selp.b", half.suction);
      b.way("selp.common pump", half.suction);
      b.way("pump jc.a", half.cold);
      b.way("inlet 0.8 jc.b", half.cold);
      b.add("j1", "tee", "Heater branch tee", 0.2, { place: bay });
      b.way("jc.c 1.5 j1", half.cold);
      const hot = heater(
        b,
        "j1",
        {
          kind: a.heater,
          bypass: a.bypass,
          volumeL: 38,
          place: bay,
          check: a.bypass === "one valve" ? "hot" : "none",
          params: { anode: true, gas: true },
        },
        half,
      );
      const outlets = outletsOf(
        a,
        [
          ["kitchen", "Kitchen tap", "galley"],
          ["basin", "Basin tap", "bathroom"],
        ],
        [shower("shower", "Shower", "bathroom"), toilet("toilet", "Toilet", "bathroom")],
        "outside, right wall",
      );
      house(b, { cold: "j1", hot }, withHot(outlets, hot), half);
      greyAndBlack(b, outlets, { place: "under floor", heightM: -0.3, greyL: 220, blackL: 150 });
    },
  }),
  family({
    id: "P09",
    label: "Vintage trailer, two waste tanks",
    craft: "vintage trailer",
    about:
      "Supply and tank join in a plain tee with no check on either branch, braided hose on barbs, shower into the black tank.",
    trap: "Without proven checks the supply fills the tank through a worn pump, and the pump empties the tank out of the inlet.",
    questions: ["taps", "heater"],
    usual: { taps: "1", heater: UNKNOWN, toilet: "fresh" },
    lay: (b, a) => {
      const bench = "under the front bench";
      const hose = pipesOf("hose-13");
      b.add("inlet", "pressurised-inlet", "Supply inlet", 0.5, { place: "outside, side wall" });
      b.add("filler", "gravity-fill", "Filler", 0.8, { place: "outside, side wall" });
      b.add("tank", "fresh-tank", "Fresh tank", 0.1, {
        place: "on its membrane, rear",
        params: { volumeL: 100, depthM: 0.3 },
      });
      b.add("barb", "adapter", "Lowest barb", 0.1, { place: "rear" });
      b.add("pump", "diaphragm-pump", "Pump", 0.2, { place: "rear" });
      b.add("jc", "tee", "Tee of the two sources", 0.2, { place: "rear" });
      b.way("filler tank.fill", FILL);
      b.way("tank.outlet barb pump", hose.suction);
      b.way("pump jc.a", hose.cold);
      b.way("inlet 1.5 jc.b", hose.cold);
      b.add("j1", "tee", "Front tee", 0.15);
      b.way("jc.c 2 j1", hose.cold);
      const hot = heater(
        b,
        "j1",
        { kind: a.heater, bypass: "none", volumeL: 20, place: bench },
        hose,
      );
      const outlets = [
        ...outletsOf(a, [["sink", "Sink tap", "galley"]]),
        { ...shower("shower", "Shower", "wet corner"), waste: "straight" as const },
        toilet("toilet", "Toilet", "wet corner"),
      ];
      house(b, { cold: "j1", hot }, withHot(outlets, hot), hose);
      const tank = (id: string, name: string, volumeL: number, holds: string): void =>
        b.add(id, "waste-tank", name, -0.2, {
          place: "under floor",
          params: { volumeL, holds, empties: "by its pipe" },
        });
      tank("black", "Black tank", 70, "grey and black");
      tank("grey", "Grey tank", 40, "grey");
      b.add("wb", "gate-valve", "Black gate", -0.25, { tag: "Wb", place: "under floor" });
      b.add("wg", "gate-valve", "Grey gate", -0.25, { tag: "Wg", place: "under floor" });
      b.add("jo", "tee", "Outlet tee", -0.3, { place: "under floor" });
      b.add("outlet", "waste-outlet", "Waste outlet", -0.35, { place: "outside, left" });
      const w = { pipe: "waste-3", service: "waste" as const };
      b.way("black.out 0.3 wb jo.a", w);
      b.way("grey.out 0.3 wg jo.b", w);
      b.way("jo.c 0.5 outlet", w);
      waste(b, outlets, { grey: "grey", black: "black" });
    },
  }),
  family({
    id: "P12",
    label: "Rebuilt trailer, accumulator, two filters, motorised grey gate",
    craft: "rebuilt trailer",
    about:
      "Sediment housing at the inlet, accumulator after the pump, a fine filter before the drinking tap, a motor on the grey gate.",
    trap: "An accumulator inside a hold test feeds the leak. A cartridge left in splits the bowl. 'Closed' on the lamp with no power at the motor.",
    questions: ["taps", "heater", "bypass", "outsideShower"],
    usual: { taps: "2", heater: UNKNOWN, bypass: UNKNOWN, toilet: "none" },
    lay: (b, a) => {
      b.add("inlet", "pressurised-inlet", "Supply inlet", 0.6, { place: "outside, left wall" });
      b.add("inlet-check", "check-valve", "Inlet check", 0.5, perhaps(UNKNOWN, "inletCheck"));
      b.add("sediment", "filter-housing", "Sediment filter", 0.4, {
        place: "service bay",
        params: { holds: "sediment" },
      });
      b.add("tank", "fresh-tank", "Fresh tank", 0.1, {
        place: "under the bed",
        params: { volumeL: 100, depthM: 0.3 },
        ...doubt("Look under the bed for a filler hose."),
      });
      b.add("filler", "gravity-fill", "Filler", 0.9, {
        place: "outside, left wall",
        ...doubt("Look outside for a filler cap."),
      });
      b.add("pump", "diaphragm-pump", "Pump", 0.2, { place: place(a.pumpPlace) });
      b.add("t-acc", "tee", "Accumulator tee", 0.25, { place: "service bay" });
      b.add("acc", "accumulator", "Accumulator", 0.3, {
        place: "service bay",
        params: { volumeL: 2 },
      });
      b.add("j", "tee", "Tee of the two sources", 0.25, { place: "service bay" });
      b.way("filler tank.fill", FILL);
      b.way("tank.outlet 0.5 pump", half.suction);
      b.way("pump t-acc.a", half.cold);
      b.way("t-acc.b 0.1 acc", half.cold);
      b.way("t-acc.c j.a", half.cold);
      b.way("inlet 0.5 inlet-check sediment j.b", half.cold);
      b.add("t-fine", "tee", "Drinking tee", 0.2, { place: "galley" });
      b.add("fine", "filter-housing", "Fine filter", 0.4, {
        place: "galley",
        params: { holds: "fine" },
      });
      b.add("drinking", "single-tap", "Drinking tap", 0.9, { place: "galley" });
      b.add("j1", "tee", "Heater branch tee", 0.2);
      b.way("j.c t-fine.a", half.cold);
      b.way("t-fine.b fine drinking", half.cold);
      b.way("t-fine.c j1", half.cold);
      const hot = heater(
        b,
        "j1",
        { kind: a.heater, bypass: a.bypass, volumeL: 22, place: "service bay" },
        half,
      );
      const outlets = outletsOf(
        a,
        [
          ["kitchen", "Kitchen tap", "galley"],
          ["basin", "Basin tap", "bathroom"],
        ],
        [shower("shower", "Shower", "bathroom")],
      );
      house(b, { cold: "j1", hot }, withHot(outlets, hot), half);
      b.add("grey", "waste-tank", "Grey tank", -0.3, {
        place: "under floor",
        params: { volumeL: 90, empties: "by its pipe" },
      });
      b.add("gate", "motor-gate-valve", "Grey gate", -0.35, { tag: "Wg", place: "under floor" });
      b.add("outlet", "waste-outlet", "Waste outlet", -0.4, { place: "outside, left" });
      b.way("grey.out 0.3 gate 0.3 outlet", { pipe: "waste-3", service: "waste" });
      waste(b, outlets, { grey: "grey" });
    },
  }),
];
