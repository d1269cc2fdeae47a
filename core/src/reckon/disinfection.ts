import {
  agedBleach,
  bleachFor,
  chlorineBy,
  chlorineGPerL,
  QUARTER_CUP_RULE,
} from "../fluid/index.ts";
import { answered, type Calculation, figure, input, line, refused } from "./calculation.ts";

const litres = 1e-3;
const DAY_S = 86_400;
const HOUR_S = 3600;
const MINUTE_S = 60;
const CLEAN_CAUTION =
  "Plain unscented bleach; never with acid, descaler, ammonia or toilet chemicals; heater off and cold; carbon out.";

export const chlorineDose: Calculation = {
  name: "chlorine-dose",
  title: "Bleach for a tank with its lines and heater",
  inputs: [
    input("tank", "Tank", "volume", 150 * litres, 1 * litres, 5),
    input("lines", "Lines", "volume", 3 * litres, 0, 1),
    input("heater", "Heater, where it is dosed too", "volume", 0, 0, 2),
    input("target", "Free chlorine wanted", "concentration", 50, 0.5, 500),
    input(
      "strength",
      "Sodium hypochlorite on the label, by weight",
      "fraction",
      0.0525,
      0.005,
      0.15,
    ),
    input("age", "Open since", "time", 0, 0, 5000 * DAY_S),
    input("stored", "Kept at", "temperature", 20, -5, 60),
  ],
  source:
    "Available chlorine is 0.9525 of the hypochlorite, density 1 + 0.0144 for each per cent (The Chlorine Institute; White's Handbook of Chlorination; from memory, density to 1.5 %). Ageing of second order, half of 5 % in 790 days at 25 °C, 98 kJ/mol (from memory, middling certain).",
  thumb: "A quarter cup for each 15 gallons names no strength: see what it gives with this bottle.",
  caution: CLEAN_CAUTION,
  work: ({ tank = 0, lines = 0, heater = 0, target = 0, strength = 0, age = 0, stored = 25 }) => {
    const now = agedBleach(strength, age / DAY_S, stored);
    const gPerL = chlorineGPerL(now);
    const all = tank + lines + heater;
    const dose = figure("Bleach", bleachFor(all, target, gPerL), "volume");
    const thumb = QUARTER_CUP_RULE * tank;
    const left = figure("Strength of the bottle now", now, "fraction");
    const gives = figure("It gives", gPerL, "number", "g/L");
    const tankOnly = figure(
      "Dosed for the tank alone, it comes to",
      chlorineBy(bleachFor(tank, target, gPerL), gPerL, all),
      "concentration",
    );
    const rule = figure(
      "The trade's quarter cup for each 15 gal gives",
      chlorineBy(thumb, gPerL, all),
      "concentration",
    );
    return answered(
      dose,
      [
        line(left, "1/(1/s + k·t), k by strength and warmth", { s: strength, t: age / DAY_S }),
        line(gives, "s · 0.9525 · ρ · 10", { s: now * 100 }),
        line(dose, "c · (V_tank + V_lines + V_heater) / g", { c: target, V: all, g: gPerL }),
        line(tankOnly, "c · V_tank / V", { c: target, V_tank: tank, V: all }),
        line(rule, "¼ cup/15 gal · V_tank · g / V", { V_tank: tank, g: gPerL, V: all }),
      ],
      [gives, left, tankOnly, rule],
    );
  },
};

export const contactTime: Calculation = {
  name: "contact",
  title: "Strength by time: has it stood long enough?",
  inputs: [
    input("start", "Read at the start", "concentration", 50, 0.1, 1000),
    input("end", "Read at the end", "concentration", 40, 0, 1000),
    input("time", "Stood", "time", 4 * HOUR_S, MINUTE_S, 14 * DAY_S),
    input("wanted", "Wanted, as strength", "concentration", 50, 0.1, 1000),
    input("wantedTime", "for so long", "time", 4 * HOUR_S, MINUTE_S, 14 * DAY_S),
  ],
  source:
    "Strength by time; between two strips by the mean that a decay of first order has. IPC 610.1: 50 mg/L for 24 h or 200 for 3 h; CDC Vessel Sanitation Program: 50 for 4 h (from memory).",
  caution:
    "Cryptosporidium asks for 15 300 mg·min/L at pH 7.5 and 25 °C (CDC): four hours at 50 do not meet it.",
  work: ({ start = 0, end = 0, time = 0, wanted = 0, wantedTime = 0 }) => {
    if (end > start) return refused("It cannot end stronger than it began: read both again.");
    const mean =
      end <= 0 || end === start ? (start + end) / 2 : (start - end) / Math.log(start / end);
    const product = figure("Strength by time", (mean * time) / MINUTE_S, "number", "mg·min/L");
    const asked = figure("Wanted", (wanted * wantedTime) / MINUTE_S, "number", "mg·min/L");
    // With hardly any left there is nothing to wait for: it is dosed again.
    const more =
      end >= LEAST_LEFT_MG_L
        ? figure(
            "Still to stand at the last strength",
            Math.max(0, ((asked.value - product.value) * MINUTE_S) / end),
            "time",
          )
        : undefined;
    return answered(
      product,
      [
        line(product, "(c0 − c1)/ln(c0/c1) · t", { c0: start, c1: end, t: time / MINUTE_S }),
        line(asked, "c · t", { c: wanted, t: wantedTime / MINUTE_S }),
        ...(more
          ? [line(more, "(wanted − reached) / c1", { wanted: asked.value, reached: product.value })]
          : []),
      ],
      [asked, ...(more ? [more] : [])],
    );
  },
};
const LEAST_LEFT_MG_L = 1;

export const flushRefills: Calculation = {
  name: "flush",
  title: "How often to drain and fill, and how much runs through a heater",
  inputs: [
    input("start", "Chlorine in it", "concentration", 50, 0.1, 1000),
    input("limit", "At most", "concentration", 4, 0.1, 100),
    input("source", "In the water that is filled in", "concentration", 0, 0, 4),
    input("heel", "What stays when it is drained", "fraction", 0.05, 0.001, 0.9),
    input("heater", "Heater to be rinsed by running it", "volume", 0, 0, 2),
  ],
  source:
    "Drained and filled C·rⁿ; run through while it mixes C·e^(−V/V_heater); every textbook of mixing.",
  thumb: "Two fillings and no smell: noses tire within minutes, a strip does not.",
  work: ({ start = 0, limit = 0, source = 0, heel = 0, heater = 0 }) => {
    if (limit <= source)
      return refused(
        "The water that is filled in has as much as the limit: it cannot be rinsed below its source.",
      );
    const over = Math.max(0, start - source);
    const need = Math.log((limit - source) / Math.max(over, 1e-12)) / Math.log(heel);
    const refills = figure(
      "Times to drain and fill",
      over <= limit - source ? 0 : Math.ceil(need - 1e-9),
      "number",
      "fillings",
    );
    const left = figure("Then it has", source + over * heel ** refills.value, "concentration");
    const through = figure(
      "Through the heater instead of draining it",
      over <= limit - source ? 0 : heater * Math.log(over / (limit - source)),
      "volume",
    );
    return answered(
      refills,
      [
        line(refills, "ln((limit − s)/(c − s)) / ln(r), up", {
          limit,
          s: source,
          c: start,
          r: heel,
        }),
        line(left, "s + (c − s) · rⁿ", { n: refills.value }),
        line(through, "V_h · ln((c − s)/(limit − s))", { V_h: heater }),
      ],
      [left, through],
    );
  },
};

export const heaterFill: Calculation = {
  name: "heater-fill",
  title: "How long a heater takes to fill, and then to heat up",
  inputs: [
    input("volume", "Heater", "volume", 23 * litres, 1e-4, 2),
    input("flow", "A tap on this pump gives", "flow", 7e-3 / 60, 1e-6, 1e-3),
    input("cold", "Water comes in at", "temperature", 10, 0, 60),
    input("hot", "Heated to", "temperature", 49, 1, 80),
    input("power", "Burner or element", "power", 1440, 10, 100_000),
  ],
  source: "Volume by flow; E = ρ·c·V·ΔT with water's 4.19 MJ/m3K.",
  caution:
    "Full is proved by a hot tap that runs 30 seconds without air, not by the time alone. A dry element burns out in seconds.",
  work: ({ volume = 0, flow = 1, cold = 0, hot = 0, power = 1 }) => {
    if (hot <= cold) return refused("It must be heated to more than it comes in at.");
    const fill = figure("Fills in", volume / flow, "time");
    const heat = figure("Then heats up in", (4.19e6 * volume * (hot - cold)) / power, "time");
    return answered(
      fill,
      [
        line(fill, "V / q", { V: volume, q: flow }),
        line(heat, "4.19e6 · V · ΔT / P", { V: volume, ΔT: hot - cold, P: power }),
      ],
      [heat],
    );
  },
};

// Renewed when no more than a quarter of its section is left (E38; common practice, no source).
const RENEW_AT = 0.25;

export const anodeRenewal: Calculation = {
  name: "anode",
  title: "When a heater's rod is to be renewed",
  inputs: [
    input("new", "Diameter when new", "length", 0.0213, 0.005, 0.05),
    input("now", "Thinnest place now", "length", 0.016, 0.0005, 0.05),
    input("served", "Has served", "time", 365 * DAY_S, 30 * DAY_S, 20 * 365 * DAY_S),
    input("next", "Looked at again in", "time", 365 * DAY_S, DAY_S, 5 * 365 * DAY_S),
  ],
  source:
    "Share of the section left (d/d0)², used up evenly; renewed at a quarter (common practice, no source).",
  thumb: "When the core wire shows, half a season is left.",
  work: ({ new: whole = 1, now = 0, served = 1, next = 0 }) => {
    if (now > whole) return refused("It cannot be thicker than when it was new.");
    const left = figure("Of its section is left", (now / whole) ** 2, "fraction");
    const rate = (1 - left.value) / served;
    const then = figure(
      "Will be left at the next look",
      Math.max(0, left.value - rate * next),
      "fraction",
    );
    const until = figure(
      "Lasts, from now",
      rate > 0 ? Math.max(0, (left.value - RENEW_AT) / rate) : 20 * 365 * DAY_S,
      "time",
    );
    return answered(
      left,
      [
        line(left, "(d/d0)²", { d: now, d0: whole }),
        line(then, "a − (1 − a)/t · T", { a: left.value, t: served / DAY_S, T: next / DAY_S }),
        line(until, "(a − 0.25) / rate", { a: left.value }),
      ],
      [then, until],
    );
  },
};
