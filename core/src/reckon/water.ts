import { GRAVITY, INCH_M } from "../quantity/index.ts";
import { waterDensityKgM3 } from "../fluid/index.ts";
import { answered, type Calculation, figure, input, line, refused } from "./calculation.ts";

const litres = 1e-3;
const inch = INCH_M;

export const waterWeight: Calculation = {
  name: "water-weight",
  title: "Weight of water, and how far it heels or loads to one side",
  inputs: [
    input("volume", "Volume", "volume", 200 * litres, 0, 5),
    input("temperature", "Temperature", "temperature", 15, 0, 80),
    input("arm", "Distance from the middle", "length", 0, 0, 20),
    input("displacement", "Weight of boat with all aboard", "mass", 5000, 100, 200_000),
    input("gm", "Metacentric height", "length", 0.9, 0.05, 5),
  ],
  source:
    "Density of water: IAPWS-95. Small heel: tan φ = W·d/(Δ·GM), a formula of naval architecture in every textbook.",
  thumb: "A US gallon weighs 8.34 lb, a litre one kilogram.",
  work: ({ volume = 0, temperature = 0, arm = 0, displacement = 1, gm = 1 }) => {
    const density = waterDensityKgM3(temperature);
    if (!density.ok) return refused(density.problem);
    const mass = figure("Weight", volume * density.value, "mass");
    const heel = figure(
      "Heel of a boat",
      (Math.atan((mass.value * arm) / (displacement * gm)) * 180) / Math.PI,
      "number",
      "°",
    );
    return answered(
      mass,
      [
        line(mass, "ρ · V", { ρ: density.value, V: volume }),
        line(heel, "atan(W · d / (Δ · GM))", { W: mass.value, d: arm, Δ: displacement, GM: gm }),
      ],
      [heel],
    );
  },
};

export const pipeVolume: Calculation = {
  name: "pipe-volume",
  title: "What a pipe or hose holds",
  inputs: [
    input("bore", "Bore", "length", 0.475 * inch, 0.002, 0.2),
    input("length", "Length", "length", 10, 0, 500),
  ],
  source:
    "Area of a circle times length. The bore is not the size in the pipe's name: see the table of pipes.",
  thumb: "Half-inch tube holds not quite a US gallon in 100 ft.",
  work: ({ bore = 0, length = 0 }) => {
    const volume = figure("Volume", (Math.PI / 4) * bore ** 2 * length, "volume");
    return answered(volume, [line(volume, "π/4 · d² · L", { d: bore, L: length })]);
  },
};

export const tankDrain: Calculation = {
  name: "tank-drain",
  title: "How long a tank takes to drain",
  inputs: [
    input("length", "Tank, length", "length", 1.2, 0.05, 10),
    input("width", "Tank, width", "length", 0.6, 0.05, 10),
    input("depth", "Water over the hole", "length", 0.2, 0.005, 5),
    input("left", "Water over the hole at the end", "length", 0, 0, 5),
    input("hole", "Bore of the drain", "length", 0.0127, 0.002, 0.2),
    input("coefficient", "Discharge coefficient", "number", 0.6, 0.2, 1, ""),
    input("drop", "Drain pipe full and falling below the hole by", "length", 0, 0, 3),
    input("vent", "Bore of the vent", "length", 0.016, 0, 0.2),
  ],
  source:
    "Torricelli: t = 2A/(C·a·√(2g)) · (√(h₁+d) − √(h₂+d)), d: drop of a pipe that stays full, of the drain's own bore. C: sharp hole 0.60 to 0.62, short tube 0.8; with valve and hose 0.4 to 0.6, common practice, no source.",
  thumb:
    "The last inch takes a third of the time. Without a vent open it gurgles and takes many times as long.",
  work: ({
    length = 0,
    width = 0,
    depth = 0,
    left = 0,
    hole = 0,
    coefficient = 0,
    drop = 0,
    vent = 0,
  }) => {
    if (vent <= 0)
      return refused(
        "With the vent blocked no air can follow: the tank gurgles, or stops draining with most of its water in it. Open the vent, or the filler.",
      );
    if (left > depth)
      return refused("At the end there cannot be more water over the hole than at the beginning.");
    const area = length * width;
    const bore = (Math.PI / 4) * hole ** 2;
    const first = figure(
      "Flow at first",
      coefficient * bore * Math.sqrt(2 * GRAVITY * (depth + drop)),
      "flow",
    );
    const time = figure(
      "Time",
      ((2 * area) / (coefficient * bore * Math.sqrt(2 * GRAVITY))) *
        (Math.sqrt(depth + drop) - Math.sqrt(left + drop)),
      "time",
    );
    return answered(
      time,
      [
        line(first, "C · a · √(2 · g · (h₁ + d))", {
          C: coefficient,
          a: bore,
          g: GRAVITY,
          "h₁": depth,
          d: drop,
        }),
        line(time, "2 · A / (C · a · √(2 · g)) · (√(h₁ + d) − √(h₂ + d))", {
          A: area,
          C: coefficient,
          a: bore,
          g: GRAVITY,
          "h₁": depth,
          "h₂": left,
          d: drop,
        }),
      ],
      [first],
    );
  },
};

export const tankFill: Calculation = {
  name: "tank-fill",
  title: "How long a tank takes to fill, and the air that must leave",
  inputs: [
    input("volume", "Volume", "volume", 200 * litres, 0.001, 20),
    input("flow", "Flow", "flow", 10e-3 / 60, 1e-6, 0.01),
  ],
  source: "Volume over flow. As much air leaves by the vent as water comes.",
  caution:
    "A tank filled faster than its vent breathes is pressed: it can bulge or burst long before it is full.",
  work: ({ volume = 0, flow = 1 }) => {
    const time = figure("Time", volume / flow, "time");
    return answered(
      time,
      [line(time, "V / Q", { V: volume, Q: flow })],
      [figure("Air out of the vent", flow, "flow")],
    );
  },
};
