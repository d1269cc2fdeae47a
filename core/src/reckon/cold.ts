import { INCH_M } from "../quantity/index.ts";
import {
  brixFromStrength,
  burstPointC,
  FREEZING,
  freezingPointC,
  freezingTimes,
  ICE_DENSITY_KG_M3,
  outwardResistance,
  strengthFromBrix,
} from "../fluid/index.ts";
import { answered, type Calculation, figure, input, line, refused } from "./calculation.ts";

const inch = INCH_M;
export const glycolMix: Calculation = {
  name: "glycol-mix",
  title: "Mixing antifreeze to a strength",
  inputs: [
    input("product", "Strength of the product", "fraction", 0.6, 0.01, 1),
    input("strength", "Strength wanted", "fraction", 0.4, 0.01, 1),
    input("volume", "Volume wanted", "volume", 0.02, 0, 10),
  ],
  source:
    "Glycol is kept: V_product = V · S/P, by volume; the true mixture is up to 1 % smaller (CRC densities). Freezing point: ASHRAE; burst point: a maker's guide.",
  caution:
    "Only propylene glycol sold for drinking water. A product sold ready to use is not to be thinned unless its label says so.",
  work: ({ product = 1, strength = 0, volume = 0 }) => {
    if (strength > product)
      return refused("A product cannot be mixed with water to more than its own strength.");
    const needed = figure("Product", (volume * strength) / product, "volume");
    const water = figure("Water", volume - needed.value, "volume");
    const dilution = figure(
      "Water that the product bears, of its own volume",
      product / strength - 1,
      "fraction",
    );
    const [freezing, burst] = [
      freezingPointC(Math.min(strength, 0.6)),
      burstPointC(Math.min(strength, 0.6)),
    ];
    return answered(
      needed,
      [
        line(needed, "V · S / P", { V: volume, S: strength, P: product }),
        line(water, "V − V_product", { V: volume, V_product: needed.value }),
        line(dilution, "P / S − 1", { P: product, S: strength }),
      ],
      [
        water,
        dilution,
        ...(freezing.ok ? [figure("First ice at", freezing.value, "temperature")] : []),
        ...(burst.ok ? [figure("Bursts pipe at", burst.value, "temperature")] : []),
      ],
    );
  },
};

export const fromBrix: Calculation = {
  name: "brix",
  title: "Strength from a refractometer's Brix",
  inputs: [input("brix", "Reading", "number", 21.6, 0, 40, "°Bx")],
  source:
    "CRC Handbook and the ICUMSA sucrose scale, from memory; freezing point ASHRAE, burst point a maker's guide.",
  caution: "A hydrometer does not serve: the density of propylene glycol falls again above 70 %.",
  work: ({ brix = 0 }) => {
    const strength = strengthFromBrix(brix);
    if (!strength.ok) return refused(strength.problem);
    const found = figure("Strength by volume", strength.value, "fraction");
    const [freezing, burst, back] = [
      freezingPointC(strength.value),
      burstPointC(strength.value),
      brixFromStrength(strength.value),
    ];
    return answered(
      found,
      [
        line(found, "table of the refractive index, straight between its rows", {
          Bx: back.ok ? back.value : brix,
        }),
      ],
      [
        ...(freezing.ok ? [figure("First ice at", freezing.value, "temperature")] : []),
        ...(burst.ok ? [figure("Bursts pipe at", burst.value, "temperature")] : []),
      ],
    );
  },
};

const PIPE_INPUTS = [
  input("bore", "Bore", "length", 0.475 * inch, 0.002, 0.2),
  input("outside", "Outside diameter", "length", 0.625 * inch, 0.003, 0.25),
  input("wall", "Wall conducts", "number", 0.41, 0.05, 400, "W/mK"),
  input("foam", "Insulation, thickness", "length", 0, 0, 0.2),
  input("foamConducts", "Insulation conducts", "number", 0.036, 0.01, 1, "W/mK"),
] as const;

export const nightSurvival: Calculation = {
  name: "night",
  title: "How long a full pipe lasts in a cold night",
  inputs: [
    ...PIPE_INPUTS,
    input("film", "Air film outside", "number", 10, 1, 100, "W/m²K"),
    input("begin", "Water at first", "temperature", 10, 0, 60),
    input("air", "Air", "temperature", -6.667, -60, -0.1),
  ],
  source: `Plank's formula for a cylinder, from outside in: t = (ρ·λ/ΔT)·(d/4h + d²/16k), before it the cooling to 0 °C. Ice ${ICE_DENSITY_KG_M3} kg/m3, λ 333.55 kJ/kg, k 2.22 W/mK (IAPWS). Film 10 W/m²K in still air, 25 in wind (textbook, from memory).`,
  thumb: "Insulation without heat only puts the hour off.",
  caution:
    "A burst comes before the pipe is frozen through: take the time to the first ice where harm is to be shut out.",
  work: ({
    bore = 0,
    outside = 0,
    wall = 1,
    foam = 0,
    foamConducts = 1,
    film = 1,
    begin = 0,
    air = -1,
  }) => {
    if (outside <= bore) return refused("The outside diameter must be larger than the bore.");
    const shell = {
      boreM: bore,
      outsideM: outside,
      wallWmK: wall,
      foamM: foam,
      foamWmK: foamConducts,
      filmWm2K: film,
    };
    const resistance = outwardResistance(shell);
    const inward = 1 / (bore * resistance);
    const { firstIceS, freezingS } = freezingTimes(bore, resistance, begin, air);
    const cooling = figure("To the first ice", firstIceS, "time");
    const freezing = figure("From the first ice to frozen through", freezingS, "time");
    const all = figure("To frozen through", cooling.value + freezing.value, "time");
    return answered(
      cooling,
      [
        line(
          figure("Film, wall and insulation as one film on the bore", inward, "number", "W/m²K"),
          "1 / (d · Σ resistances)",
          {
            d: bore,
            Σ: resistance,
          },
        ),
        line(cooling, "ρ · c · (π/4 · d²) · Σ/π · ln((T₀ − T)/(0 − T))", {
          ρ: FREEZING.waterKgM3,
          c: FREEZING.waterJKgK,
          d: bore,
          Σ: resistance,
          "T₀": begin,
          T: air,
        }),
        line(freezing, "(ρ · λ / ΔT) · (d/4h + d²/16k)", {
          ρ: FREEZING.waterKgM3,
          λ: FREEZING.latentJKg,
          ΔT: -air,
          d: bore,
          h: inward,
          k: FREEZING.iceWmK,
        }),
      ],
      [freezing, all],
    );
  },
};

export const heatCable: Calculation = {
  name: "heat-cable",
  title: "Heat cable for a pipe, and its load",
  inputs: [
    ...PIPE_INPUTS.slice(1, 2),
    input("foam", "Insulation, thickness", "length", 0.5 * inch, 0.003, 0.2),
    input("foamConducts", "Insulation conducts", "number", 0.036, 0.01, 1, "W/mK"),
    input("hold", "Pipe held at", "temperature", 4.4, 1, 40),
    input("air", "Air", "temperature", -28.9, -60, 20),
    input("length", "Length", "length", 6, 0.1, 200),
    input("margin", "Margin", "fraction", 0.2, 0, 2),
    input("volts", "Supply", "number", 230, 10, 250, "V"),
  ],
  source:
    "Conduction through a cylinder: q = 2π·k·ΔT / ln(r₂/r₁); wall and air film left out, on the safe side.",
  caution:
    "Only cable made for pipes that carry drinking water, on a circuit with residual-current protection; never crossed over itself unless its maker allows that. Mains wiring is for a licensed electrician.",
  work: ({
    outside = 1,
    foam = 0,
    foamConducts = 1,
    hold = 0,
    air = 0,
    length = 0,
    margin = 0,
    volts = 1,
  }) => {
    if (air >= hold) return refused("The air must be colder than the pipe is to be held.");
    const each =
      (2 * Math.PI * foamConducts * (hold - air)) / Math.log((outside + 2 * foam) / outside);
    const perMetre = figure("Loss a metre", each, "number", "W/m");
    const power = figure("Cable needed", each * (1 + margin) * length, "power");
    const amps = figure("Current", power.value / volts, "number", "A");
    return answered(
      power,
      [
        line(perMetre, "2π · k · ΔT / ln(r₂/r₁)", {
          k: foamConducts,
          ΔT: hold - air,
          "r₂": outside / 2 + foam,
          "r₁": outside / 2,
        }),
        line(power, "q · (1 + margin) · L", { q: each, margin, L: length }),
        line(amps, "P / U", { P: power.value, U: volts }),
      ],
      [perMetre, amps],
    );
  },
};
