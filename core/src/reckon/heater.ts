import { waterDensityKgM3 } from "../fluid/index.ts";
import { answered, type Calculation, figure, input, line, refused } from "./calculation.ts";

// Heat of water, J/kgK: one Btu a pound and degree Fahrenheit, as the trade reckons; within 0.3 % from 5 to 80 °C.
const WATER_HEAT = 4186.8;

export const heaterEnergy: Calculation = {
  name: "heater",
  title: "Energy, time and expansion of a water heater",
  inputs: [
    input("volume", "Heater", "volume", 0.0227, 1e-4, 2),
    input("cold", "Water comes in at", "temperature", 10, 0, 60),
    input("hot", "Heated to", "temperature", 49, 1, 80),
    input("power", "Burner or element", "power", 1440, 10, 100_000),
    input("efficiency", "Of which the water gets", "fraction", 1, 0.1, 1),
  ],
  source: "E = ρ·c·V·ΔT; c of one Btu a pound and °F. Density: IAPWS-95.",
  thumb: "Btu = 8.33 · US gallons · °F.",
  caution:
    "Never heat before water runs from an open hot tap: a dry element burns out in seconds. Water of 60 °C scalds in about five seconds.",
  work: ({ volume = 0, cold = 0, hot = 0, power = 1, efficiency = 1 }) => {
    if (hot <= cold) return refused("It must be heated to more than it comes in at.");
    const [before, after] = [waterDensityKgM3(cold), waterDensityKgM3(hot)];
    if (!before.ok) return refused(before.problem);
    if (!after.ok) return refused(after.problem);
    const energy = figure("Energy", before.value * WATER_HEAT * volume * (hot - cold), "energy");
    const time = figure("Time", energy.value / (power * efficiency), "time");
    const growth = figure("Grows by", volume * (before.value / after.value - 1), "volume");
    return answered(
      energy,
      [
        line(energy, "ρ · c · V · ΔT", {
          ρ: before.value,
          c: WATER_HEAT,
          V: volume,
          ΔT: hot - cold,
        }),
        line(time, "E / (P · η)", { E: energy.value, P: power, η: efficiency }),
        line(growth, "V · (ρ_cold/ρ_hot − 1)", {
          V: volume,
          ρ_cold: before.value,
          ρ_hot: after.value,
        }),
      ],
      [time, growth],
    );
  },
};
