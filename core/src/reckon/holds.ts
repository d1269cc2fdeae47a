import { asTntKg, storedEnergyJ, waterEnergyJ } from "../fluid/index.ts";
import { ATMOSPHERE_PA } from "../quantity/index.ts";
import { answered, type Calculation, figure, input, line, refused } from "./calculation.ts";
import { givenBetween } from "./pressure.ts";

/** Pressure tests worked out at a desk. */

const KELVIN = 273.15;
const TWO_STEPS = 2;

export const holdCorrection: Calculation = {
  name: "hold-correction",
  title: "What a gauge should read later, if nothing leaked",
  inputs: [
    input("pressure", "Gauge at the start", "pressure", 10_342, 0, 1_500_000),
    input("temperature", "Temperature at the start", "temperature", 21.1, -30, 60),
    input("barometer", "Barometer at the start", "pressure", ATMOSPHERE_PA, 50_000, 110_000),
    input("pressure2", "Gauge now", "pressure", 9_300, 0, 1_500_000),
    input("temperature2", "Temperature now", "temperature", 18.3, -30, 60),
    input("barometer2", "Barometer now", "pressure", ATMOSPHERE_PA, 50_000, 110_000),
  ],
  source: "Gas law on absolute pressure, rigid vessel, dry air: p₂ = (p₁ + B₁) · T₂ / T₁ − B₂.",
  thumb:
    "Multiplying the gauge's own figure by T₂ / T₁ leaves the pressure of the air around out: at tank pressures it hides nine tenths of the change.",
  work: (given) => {
    const { pressure: p1 = 0, temperature: t1 = 0, barometer: b1 = 0 } = given;
    const { pressure2: p2 = 0, temperature2: t2 = 0, barometer2: b2 = 0 } = given;
    const tight = figure(
      "Gauge if nothing leaked",
      ((p1 + b1) * (t2 + KELVIN)) / (t1 + KELVIN) - b2,
      "pressure",
    );
    const short = figure("Below that it stands by", tight.value - p2, "pressure");
    return answered(
      tight,
      [
        line(tight, "(p₁ + B₁) · T₂ / T₁ − B₂", {
          "p₁": p1,
          "B₁": b1,
          "T₁": t1 + KELVIN,
          "T₂": t2 + KELVIN,
          "B₂": b2,
        }),
        line(short, "p_tight − p₂", { p_tight: tight.value, "p₂": p2 }),
      ],
      [short],
    );
  },
};

export const leakRate: Calculation = {
  name: "leak-rate",
  title: "How fast air leaks, from a fall of pressure",
  inputs: [
    input("volume", "Air that is shut in", "volume", 6e-3, 1e-5, 20),
    input(
      "fall",
      "Fall, corrected for temperature and barometer",
      "pressure",
      13_790,
      0,
      1_500_000,
    ),
    input("time", "Over", "time", 900, 1, 1e7),
    input(
      "air",
      "Pressure that the leak is counted at",
      "pressure",
      ATMOSPHERE_PA,
      50_000,
      110_000,
    ),
  ],
  source: "Boyle's law at one temperature: Q = V · Δp / (p_air · t).",
  work: ({ volume = 0, fall = 0, time = 1, air = 1 }) => {
    const rate = figure("Free air", (volume * fall) / (air * time), "flow");
    const day = figure("In a day", rate.value * 86_400, "volume");
    return answered(
      rate,
      [line(rate, "V · Δp / (p_air · t)", { V: volume, Δp: fall, p_air: air, t: time })],
      [day],
    );
  },
};

export const holdTime: Calculation = {
  name: "hold-time",
  title: "How long a hold must last to show a leak",
  inputs: [
    input("volume", "Air that is shut in", "volume", 0.3, 1e-5, 20),
    input("step", "Smallest step of the gauge", "pressure", 345, 0.1, 1e6),
    input("leak", "Leak that matters, free air", "flow", 1e-3 / 3600, 1e-10, 1e-3),
    input("air", "Pressure of the air outside", "pressure", ATMOSPHERE_PA, 50_000, 110_000),
  ],
  source: "The leak must move the gauge by two of its steps: t = V · 2 δ / (p_air · Q).",
  thumb: "At least three readings; a quarter of an hour at the least for pipe.",
  work: ({ volume = 0, step = 0, leak = 1, air = 1 }) => {
    const time = figure("Hold at least", (volume * TWO_STEPS * step) / (air * leak), "time");
    return answered(time, [
      line(time, "V · 2 δ / (p_air · Q)", { V: volume, δ: step, p_air: air, Q: leak }),
    ]);
  },
};

export const storedEnergy: Calculation = {
  name: "stored-energy",
  title: "What air under test stores, beside water",
  inputs: [
    input("volume", "Volume under test", "volume", 0.0379, 1e-5, 20),
    input("pressure", "Pressure", "pressure", 345_000, 0, 1_500_000),
  ],
  source:
    "ASME PCC-2 article 501 (from memory): p · V / (γ − 1) · (1 − (p₀/p)^((γ−1)/γ)), absolute, γ = 1.4. Water: p² V / 2 K, K = 2.2 GPa.",
  caution:
    "This is why water comes first. With air: eye protection, nobody before a plug, and the gauge at zero before anything is undone.",
  work: ({ volume = 0, pressure = 0 }) => {
    if (pressure <= 0) return refused("Without pressure nothing is stored.");
    const air = figure("Air", storedEnergyJ(volume, pressure), "energy");
    const water = figure("Water of the same volume", waterEnergyJ(volume, pressure), "energy");
    const tnt = figure("As TNT", asTntKg(air.value) * 1000, "number", "g");
    return answered(
      air,
      [
        line(air, "p · V / (γ − 1) · (1 − (p₀/p)^((γ−1)/γ))", {
          p: pressure + ATMOSPHERE_PA,
          V: volume,
          "p₀": ATMOSPHERE_PA,
          γ: 1.4,
        }),
        line(water, "p² · V / 2 K", { p: pressure, V: volume, K: 2.2e9 }),
      ],
      [water, tnt],
    );
  },
};

export const pumpRerun: Calculation = {
  name: "pump-rerun",
  title: "How fast it leaks, from how often the pump starts by itself",
  inputs: [
    input("volume", "Accumulator, or what gives in the lines", "volume", 1e-3, 1e-6, 0.2),
    input("precharge", "Its precharge", "pressure", 140_000, 0, 1_000_000),
    input("cutIn", "Cut-in", "pressure", 170_000, 1_000, 1_000_000),
    input("cutOut", "Cut-out", "pressure", 276_000, 1_000, 1_500_000),
    input("interval", "From one start to the next, every tap shut", "time", 1800, 1, 1e6),
    input("air", "Pressure of the air outside", "pressure", ATMOSPHERE_PA, 50_000, 110_000),
  ],
  source:
    "Boyle's law for what the accumulator gives between cut-out and cut-in, over the time between two starts.",
  thumb:
    "Shut the valve behind the pump: if it is silent then, the leak is in the house; if it still starts, its own check passes water back to the tank.",
  work: (asked) => {
    const given = givenBetween(asked, "Water given between two starts");
    if (typeof given === "string") return refused(given);
    const { interval = 1 } = asked;
    const rate = figure("Leak", given.value / interval, "flow");
    const day = figure("In a day", rate.value * 86_400, "volume");
    return answered(
      day,
      [given, line(day, "ΔV / t · 86,400 s", { ΔV: given.value, t: interval })],
      [given, rate],
    );
  },
};
