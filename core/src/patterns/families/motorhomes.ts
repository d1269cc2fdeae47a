import { HEATED_HOSE_C } from "../../watermap/index.ts";
import { family, type Pattern } from "../pattern.ts";
import {
  FILL,
  greyAndBlack,
  heater,
  house,
  outletsOf,
  pipesOf,
  shower,
  toilet,
  waste,
  withHot,
} from "../pieces.ts";
import { doubt, perhaps, UNKNOWN } from "../questions.ts";

const half = pipesOf("pex-1/2");
/** Motorhomes and vans. */
export const MOTORHOMES: readonly Pattern[] = [
  family({
    id: "P03",
    label: "Camper van, the tap selects the source",
    craft: "camper van",
    about: "Tank and supply meet nowhere but in the tap. No heater, no filter, no pickup.",
    trap: "One tap, pink, looks finished with half the pipe wet. Two jobs, two ticks.",
    questions: ["pumpPlace"],
    usual: { taps: "1", pumpPlace: "beside the tank" },
    lay: (b, a) => {
      const locker = "bench locker";
      b.add("fill-box", "gravity-fill", "Fill box", 0.8, { place: "outside, left wall" });
      b.add("tank", "fresh-tank", "Fresh tank", 0.1, {
        place: locker,
        params: { volumeL: 50, depthM: 0.35, hatches: 1 },
      });
      b.add("pump", "diaphragm-pump", "Pump", 0.2, {
        place: a.pumpPlace === UNKNOWN ? "not found yet" : a.pumpPlace,
      });
      b.add("supply-box", "pressurised-inlet", "Supply box", 0.7, { place: "outside, left wall" });
      b.add("regulator", "pressure-regulator", "Regulator", 0.7, { place: "outside, left wall" });
      b.add("tap", "two-source-tap", "Tap", 0.9, { place: "galley" });
      b.add("trap", "trap", "Sink trap", 0.5, { place: "galley" });
      b.add("outlet", "overboard", "Sink outlet", 0.1, { place: "under floor" });
      b.way("fill-box tank.fill", { ...FILL, pipe: "hose-32" });
      b.way("tank.outlet 0.3 pump", half.suction);
      b.way("pump 2.5 tap.tank", { pipe: "hose-10", service: "cold", name: "line A" });
      b.way("supply-box 0.2 regulator 3 tap.supply", {
        pipe: "hose-10",
        service: "cold",
        name: "line B",
      });
      b.way("tap.waste 0.2 trap 0.8 outlet", { pipe: "waste-25", service: "waste" });
    },
  }),
  family({
    id: "P05",
    label: "Motorhome, threaded service port, selector, on-demand heater with inlet screen",
    craft: "motorhome",
    about:
      "A four-way selector, a threaded port for the jug, an on-demand heater with its screen, two valves whose roles are not clear.",
    trap: "The screen leaves like a cork if pressure remains. If the upper valve is the hot isolator, open in winter lets product back into the heater.",
    questions: ["taps", "heater", "bypass", "outsideShower", "iceMaker"],
    usual: {
      taps: "2",
      heater: "on-demand",
      bypass: "two valves",
      outsideShower: "no",
      pickup: "yes",
      toilet: "fresh",
      pumpPlace: "service bay",
    },
    lay: (b, a) => {
      const bay = "service bay";
      b.add("inlet", "pressurised-inlet", "Supply inlet", 0.7, { place: bay });
      b.add("inlet-check", "check-valve", "Inlet check", 0.6, {
        place: bay,
        ...perhaps(UNKNOWN, "inletCheck"),
      });
      b.add("sel", "diverter-panel", "Selector", 0.5, { tag: "S", place: bay });
      b.add("port", "winterizing-pickup", "Service port, threaded", 0.4, { place: bay });
      b.add("vw", "ball-valve", "Service port valve", 0.4, { tag: "Vw", place: bay });
      b.add("filler", "gravity-fill", "Filler", 1, { place: "outside, left wall" });
      b.add("tank", "fresh-tank", "Fresh tank", 0.1, {
        place: "between the frames",
        params: { volumeL: 120, depthM: 0.3 },
      });
      b.add("vd", "tank-drain", "Hanging drain line, rear", -0.1, {
        tag: "Vd",
        place: "outside, rear",
      });
      b.add("pump", "diaphragm-pump", "Pump", 0.4, { place: bay });
      b.add("jc", "tee", "Tee after the pump", 0.4, { place: bay });
      b.way("inlet 0.2 inlet-check 0.2 sel.supply", half.cold);
      b.way("filler tank.fill", FILL);
      b.way("tank.drain 2 vd", half.suction);
      b.way("tank.outlet 1 sel.tank", half.suction);
      b.way("port vw sel.jug", half.suction);
      b.way("sel.pump 0.2 pump", half.suction);
      b.way("pump 0.3 jc.a", half.cold);
      b.way("sel.house 0.3 jc.b", half.cold);
      b.lineup({ vw: "shut" });
      b.add("j1", "tee", "Heater branch tee", 0.3, { place: bay });
      b.way("jc.c 1 j1", half.cold);
      const hot = heater(
        b,
        "j1",
        {
          kind: a.heater,
          bypass: a.bypass,
          place: "behind the outside door",
          check: "hot unknown",
          volumeL: 22,
        },
        half,
      );
      if (b.has("vc") && a.bypass === "two valves") {
        b.change("vc", { tag: "Va" });
        b.change("vx", {
          tag: "Vb",
          unknown: {
            of: "role",
            ask: "Photograph both valves and trace the upper one: from the cold line to the hot, or in the hot line?",
          },
        });
      }
      const outlets = outletsOf(
        a,
        [
          ["kitchen", "Kitchen tap", "galley"],
          ["basin", "Basin tap", "bathroom"],
        ],
        [shower("shower", "Shower", "bathroom"), toilet("toilet", "Toilet", "bathroom")],
      );
      house(b, { cold: "j1", hot }, withHot(outlets, hot), half);
      greyAndBlack(b, outlets, { place: "under floor", heightM: -0.3, greyL: 100, blackL: 90 });
    },
  }),
  family({
    id: "P06",
    label: "Large motorhome, selector, bypass, pump-inlet swap, appliances",
    craft: "large motorhome",
    about:
      "House canister, a bypass lever whose role is not known, appliances on their own stops, the jug hose goes on in place of the pump's inlet line.",
    trap: "Two ends undone and remembered afterwards. Appliances take product only if their cycle really opens hot and cold.",
    questions: ["taps", "heater", "iceMaker", "outsideShower"],
    usual: {
      taps: "2",
      heater: "storage",
      bypass: "none",
      iceMaker: "yes",
      outsideShower: UNKNOWN,
      lowPoints: "yes",
      toilet: "fresh",
      pumpPlace: "service bay",
    },
    lay: (b, a) => {
      const bay = "service bay";
      b.add("inlet", "pressurised-inlet", "Supply inlet", 0.7, { place: bay });
      b.add("inlet-check", "check-valve", "Inlet check", 0.6, {
        place: bay,
        ...perhaps(UNKNOWN, "inletCheck"),
      });
      b.add("sel", "selector-valve", "Fill selector", 0.5, {
        tag: "S",
        place: bay,
        params: { a: "supply", b: "fill" },
      });
      b.add("tank", "fresh-tank", "Fresh tank", 0.2, {
        place: bay,
        params: { volumeL: 380, depthM: 0.5, sender: true },
      });
      b.add("vd", "tank-drain", "Tank drain", 0.1, { tag: "Vd", place: bay });
      b.add("coupling-p", "coupling", "Pump inlet coupling", 0.25, { place: bay });
      b.add("pump", "diaphragm-pump", "Pump", 0.25, { place: bay });
      b.add("jc", "tee", "Tee at the pump", 0.3, { place: bay });
      b.way("inlet 0.2 inlet-check 0.2 sel.common", half.cold);
      b.way("sel.a 0.5 jc.b", half.cold);
      b.way("sel.b 0.8 tank.fill", { pipe: "hose-13", service: "fill" });
      b.way("tank.drain 0.2 vd", half.suction);
      b.way("tank.outlet 0.4 coupling-p 0.2 pump", half.suction);
      b.way("pump jc.a", half.cold);
      b.add("canister", "filter-housing", "House canister", 0.5, {
        place: bay,
        params: { holds: "carbon", bypass: true },
        unknown: {
          of: "role",
          ask: "Turn the lever with a tap running: what changes, the filter's flow or the hot side?",
        },
      });
      b.add("j1", "tee", "Heater branch tee", 0.3, { place: bay });
      b.way("jc.c canister j1", half.cold);
      const hot = heater(
        b,
        "j1",
        {
          kind: a.heater,
          bypass: a.bypass,
          volumeL: 45,
          place: bay,
          params: { gas: true, engineLoop: true },
        },
        half,
      );
      const outlets = [
        ...outletsOf(
          a,
          [
            ["kitchen", "Kitchen tap", "galley"],
            ["basin", "Basin tap", "bathroom"],
          ],
          [shower("shower", "Shower", "bathroom"), toilet("toilet", "Toilet", "bathroom")],
          bay,
          "behind the fridge",
        ),
        {
          id: "dishwasher",
          kind: "dishwasher",
          name: "Dishwasher",
          heightM: 0.2,
          cold: "water",
          waste: "trap" as const,
          more: { place: "galley" },
        },
        {
          id: "washer",
          kind: "washing-machine",
          name: "Washer",
          heightM: 0.2,
          cold: "cold",
          hot: "hot",
          waste: "trap" as const,
          more: { place: "bathroom" },
        },
      ];
      house(b, { cold: "j1", hot }, withHot(outlets, hot), half, {
        cold: { place: bay },
        ...(hot ? { hot: { place: bay } } : {}),
      });
      b.add("grey", "waste-tank", "Grey tank", -0.2, {
        place: bay,
        params: { volumeL: 250, sender: true },
      });
      b.add("black", "waste-tank", "Black tank", -0.2, {
        place: bay,
        params: { volumeL: 180, holds: "black", sender: true },
      });
      waste(b, outlets, { grey: "grey", black: "black" });
    },
  }),
  family({
    id: "P14",
    label: "Rental motorhome, external regulator and filter chain, gravity filler",
    craft: "rental motorhome",
    about:
      "A chain outside: post, hose, regulator, filter, valve. A gravity filler. Everything inboard is not known until it is drawn.",
    trap: "Regulator at the unit: the hose is under full site pressure. The chain is the first thing to freeze, and nobody owns it.",
    questions: ["taps", "heater", "outsideShower"],
    usual: { taps: "1", heater: UNKNOWN, outsideShower: UNKNOWN, toilet: "none" },
    lay: (b, a) => {
      const outside = "outside, at the post";
      b.add("post", "supply-post", "Site post", 0.5, { place: outside });
      b.add("regulator", "pressure-regulator", "Regulator", 0.5, { place: outside });
      b.add("filter", "filter-housing", "Hose filter", 0.5, {
        place: outside,
        params: { holds: "carbon" },
      });
      b.add("v1", "ball-valve", "Chain valve", 0.6, { tag: "V1", place: outside });
      b.add("coupler", "coupling", "Hose coupler", 0.6, { place: "outside, left wall" });
      b.add("inlet-check", "check-valve", "Inlet check", 0.5, perhaps(UNKNOWN, "inletCheck"));
      b.add(
        "jc",
        "tee",
        "Tee of the two sources",
        0.3,
        doubt("Trace the inlet line inside: where does it meet the pump's?"),
      );
      b.add("filler", "gravity-fill", "Filler", 1, { place: "outside, left wall" });
      b.add("tank", "fresh-tank", "Fresh tank", 0.1, {
        place: "under the bench",
        params: { volumeL: 120, depthM: 0.3 },
      });
      b.add("pump", "diaphragm-pump", "Pump", 0.2, {
        place: "not found yet",
        ...doubt("Open a tap on tank water and listen."),
      });
      const hose = { pipe: "hose-16", service: "cold" as const };
      b.way("post 1.2 regulator filter v1 15 coupler 0.3 inlet-check jc.b", hose);
      b.way("filler tank.fill", FILL);
      b.way("tank.outlet 1 pump", half.suction);
      b.way("pump jc.a", half.cold);
      b.add("j1", "tee", "House tee", 0.3);
      b.way("jc.c j1", half.cold);
      const hot = heater(
        b,
        "j1",
        { kind: a.heater, bypass: "none", place: "not found yet", volumeL: 10 },
        half,
      );
      const outlets = outletsOf(
        a,
        [["kitchen", "Kitchen tap", "galley"]],
        [shower("shower", "Shower", "wet room")],
      );
      house(b, { cold: "j1", hot }, withHot(outlets, hot), half);
      b.add("grey", "waste-tank", "Grey tank", -0.3, {
        place: "under floor",
        params: { volumeL: 100 },
      });
      waste(b, outlets, { grey: "grey" });
    },
  }),
  family({
    id: "P15",
    label: "Winter hook-up with heated hose",
    craft: "wintering trailer",
    about:
      "Heated riser, heated hose, inlet; the tank stands by in a heated bay. In use all winter: no air, no antifreeze.",
    trap: "The hose guards only itself: riser, couplings, regulator and the stub between are bare metal. No lamp tells that the hose is dead.",
    questions: ["taps", "heater", "outsideShower"],
    usual: { taps: "2", heater: "storage", toilet: "fresh", pumpPlace: "service bay" },
    lay: (b, a) => {
      b.add("riser", "supply-post", "Post riser", 0.6, {
        place: "outside, at the post",
        params: { heatCable: true },
      });
      b.add("regulator", "pressure-regulator", "Regulator", 0.6, {
        place: "outside, left wall",
        ...doubt("Look at the inlet's coupling for a brass body with an arrow."),
      });
      b.add("coupler", "coupling", "Inlet coupling", 0.6, { place: "outside, left wall" });
      b.add("inlet-check", "check-valve", "Inlet check", 0.5, { place: "service bay" });
      b.add("tank", "fresh-tank", "Fresh tank, heated", 0.1, {
        place: "service bay",
        params: { volumeL: 150, depthM: 0.35, level: 1 },
      });
      b.add("filler", "gravity-fill", "Filler", 1, { place: "outside, left wall" });
      b.add("vd", "tank-drain", "Tank drain", 0, { tag: "Vd", place: "under floor" });
      b.add("pump", "diaphragm-pump", "Pump", 0.2, { place: "service bay" });
      b.add("jc", "tee", "Tee of the two sources", 0.3, { place: "service bay" });
      b.way("riser 8 regulator", {
        pipe: "hose-16",
        service: "cold",
        insulated: true,
        ratedToC: HEATED_HOSE_C,
        name: "heated hose",
      });
      b.way("regulator 0.1 coupler 0.3 inlet-check jc.b", { pipe: "hose-13", service: "cold" });
      b.way("filler tank.fill", FILL);
      b.way("tank.outlet 0.4 pump", { ...half.suction, heated: true });
      b.way("tank.drain 0.3 vd", half.suction);
      b.way("pump jc.a", { ...half.cold, heated: true });
      b.add("j1", "tee", "Heater branch tee", 0.3);
      b.way("jc.c j1", half.cold);
      const hot = heater(
        b,
        "j1",
        { kind: a.heater, bypass: a.bypass, place: "service bay", volumeL: 22 },
        half,
      );
      const outlets = outletsOf(
        a,
        [
          ["kitchen", "Kitchen tap", "galley"],
          ["basin", "Basin tap", "bathroom"],
        ],
        [shower("shower", "Shower", "bathroom"), toilet("toilet", "Toilet", "bathroom")],
      );
      house(b, { cold: "j1", hot }, withHot(outlets, hot), half);
      greyAndBlack(b, outlets, { place: "under floor", heightM: -0.3, greyL: 120, blackL: 100 });
    },
  }),
  family({
    id: "P16",
    label: "Slide-in camper",
    craft: "slide-in truck camper",
    about:
      "Small tank, gas heater on a lever with a check at its hot outlet, outside shower, all within arm's reach of one bay.",
    trap: "It comes off the truck: drains that run free when it sits on its legs are low when it is tilted on the truck.",
    questions: ["taps", "heater", "bypass", "outsideShower", "pickup"],
    usual: {
      taps: "1",
      heater: "storage",
      bypass: "one valve",
      outsideShower: "yes",
      pickup: "yes",
      lowPoints: "yes",
      inletCheck: "yes",
      toilet: "fresh",
      pumpPlace: "service bay",
    },
    lay: (b, a) => {
      const bay = "service bay";
      b.add("inlet", "pressurised-inlet", "Supply inlet", 0.7, {
        place: "outside, left wall",
        params: { builtInCheck: true },
      });
      b.add("filler", "gravity-fill", "Filler", 0.9, { place: "outside, left wall" });
      b.add("tank", "fresh-tank", "Fresh tank", 0.1, {
        place: bay,
        params: { volumeL: 95, depthM: 0.3 },
      });
      b.add("vd", "tank-drain", "Tank drain", 0.05, { tag: "D3", place: "outside, left wall" });
      b.add("strainer", "strainer", "Strainer", 0.25, { place: bay });
      b.add("pump", "diaphragm-pump", "Pump", 0.25, { place: bay });
      b.add("jc", "tee", "Tee at the pump", 0.25, { place: bay });
      b.way("filler tank.fill", FILL);
      b.way("tank.drain 0.2 vd", half.suction);
      if (a.pickup === "no") b.way("tank.outlet 0.4 strainer pump", half.suction);
      else {
        b.add("v1", "selector-valve", "Suction selector", 0.2, {
          tag: "V1",
          place: bay,
          params: { a: "tank", b: "pickup" },
          ...perhaps(a.pickup, "pickup"),
        });
        b.add("pickup", "winterizing-pickup", "Winterizing pickup", 0.3, {
          place: bay,
          ...perhaps(a.pickup, "pickup"),
        });
        b.way("tank.outlet 0.4 v1.a", half.suction);
        b.way("pickup 0.2 v1.b", half.suction);
        b.way("v1.common strainer pump", half.suction);
      }
      b.way("pump jc.a", half.cold);
      b.way("inlet 0.9 jc.b", half.cold);
      b.add("j1", "tee", "Heater branch tee", 0.25, { place: bay });
      b.way("jc.c j1", half.cold);
      const hot = heater(
        b,
        "j1",
        {
          kind: a.heater,
          bypass: a.bypass,
          volumeL: 22,
          place: bay,
          check: a.bypass === "one valve" ? "hot" : "none",
          params: { gas: true },
        },
        half,
      );
      const outlets = outletsOf(
        a,
        [
          ["sink", "Sink tap", "galley"],
          ["basin", "Basin tap", "wet room"],
        ],
        [shower("shower", "Shower", "wet room"), toilet("toilet", "Toilet", "wet room")],
        "outside, right wall",
      );
      house(b, { cold: "j1", hot }, withHot(outlets, hot), half, {
        cold: { place: "outside, left wall" },
        ...(hot ? { hot: { place: "outside, left wall" } } : {}),
      });
      b.add("grey", "waste-tank", "Grey tank", -0.1, {
        place: "outside, left wall",
        params: { volumeL: 60 },
      });
      b.add("black", "waste-tank", "Black tank", -0.1, {
        place: "outside, left wall",
        params: { volumeL: 50, holds: "black" },
      });
      waste(b, outlets, { grey: "grey", black: "black" });
    },
  }),
  family({
    id: "P17",
    label: "Horse transporter with living quarters",
    craft: "horse transporter",
    about:
      "Living quarters forward, a big tank over the axles that also feeds a wash-down in the horse area, cold, on its own stop.",
    trap: "The wash-down line runs the length of the lorry under the floor, is forgotten, and is the longest undrained pipe aboard.",
    questions: ["taps", "heater", "bypass", "outsideShower", "pickup"],
    usual: {
      taps: "2",
      heater: "storage",
      bypass: "three valves",
      outsideShower: "no",
      pickup: "yes",
      lowPoints: "yes",
      inletCheck: "yes",
      toilet: "none",
      pumpPlace: "service bay",
    },
    lay: (b, a) => {
      const locker = "side locker, left";
      b.add("inlet", "pressurised-inlet", "Supply inlet", 0.8, {
        place: locker,
        params: { builtInCheck: true },
      });
      b.add("regulator", "pressure-regulator", "Regulator", 0.7, { place: locker });
      b.add("filler", "gravity-fill", "Filler", 1.2, { place: "outside, left wall" });
      b.add("tank", "fresh-tank", "Fresh tank", 0, {
        place: "over the axles",
        params: { volumeL: 300, depthM: 0.4, sender: true },
      });
      b.add("vd", "tank-drain", "Tank drain", -0.05, { tag: "D1", place: "under floor" });
      b.add("v1", "selector-valve", "Suction selector", 0.2, {
        tag: "V1",
        place: locker,
        params: { a: "tank", b: "pickup" },
        ...perhaps(a.pickup, "pickup"),
      });
      b.add("pickup", "winterizing-pickup", "Winterizing pickup", 0.3, {
        place: locker,
        ...perhaps(a.pickup, "pickup"),
      });
      b.add("strainer", "strainer", "Strainer", 0.2, { place: locker });
      b.add("pump", "diaphragm-pump", "Pump", 0.2, { place: locker });
      b.add("jc", "tee", "Tee at the pump", 0.2, { place: locker });
      b.way("filler tank.fill", FILL);
      b.way("tank.drain 0.2 vd", half.suction);
      b.way("tank.outlet 1.5 v1.a", half.suction);
      b.way("pickup v1.b", half.suction);
      b.way("v1.common strainer pump", half.suction);
      b.way("pump jc.a", half.cold);
      b.way("inlet 0.3 regulator 0.6 jc.b", half.cold);
      b.add("t-wash", "tee", "Wash-down tee", 0.1, { place: locker });
      b.add("v2", "ball-valve", "Wash-down stop", 0.1, { tag: "V2", place: locker });
      b.add("wash", "wash-down", "Horse wash-down", 0.5, { place: "horse area, rear" });
      b.way("jc.c t-wash.a", half.cold);
      b.way("t-wash.b 0.2 v2", half.cold);
      b.way("v2 6 wash", {
        ...half.cold,
        name: "wash-down line",
        sag: { depthM: 0.06, lengthM: 0.6 },
      });
      b.add("j1", "tee", "Heater branch tee", 0.2, { place: "under the bench" });
      b.way("t-wash.c 2 j1", half.cold);
      const hot = heater(
        b,
        "j1",
        {
          kind: a.heater,
          bypass: a.bypass,
          volumeL: 15,
          place: "under the bench",
          check: "cold",
          params: { gas: true },
        },
        half,
      );
      const outlets = outletsOf(
        a,
        [
          ["sink", "Sink tap", "living, galley"],
          ["basin", "Basin tap", "living, wash room"],
        ],
        [shower("shower", "Shower", "living, wash room")],
      );
      house(b, { cold: "j1", hot }, withHot(outlets, hot), half, {
        cold: { place: "under floor" },
        ...(hot ? { hot: { place: "under floor" } } : {}),
      });
      b.add("grey", "waste-tank", "Grey tank", -0.4, {
        place: "under floor",
        params: { volumeL: 110 },
      });
      waste(b, outlets, { grey: "grey" });
    },
  }),
];
