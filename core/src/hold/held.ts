import { z } from "zod";
import { ATMOSPHERE_PA } from "../quantity/index.ts";
import { WATER_BULK_PA, waterDensityKgM3 } from "../fluid/index.ts";

/** What is shut in for a pressure test, and how much of it a reading stands for. SI throughout; pressures above the air around unless said. */

export const KELVIN = 273.15;

const reading = z.strictObject({
  /** Seconds since the hold began. */
  atS: z.number().min(0).max(3.2e7),
  /** Above the air around, as the gauge shows, Pa. */
  pressurePa: z.number().min(0).max(5e6),
  /** Of the air or water that is shut in, or of what it stands in, °C. */
  temperatureC: z.optional(z.number().min(-40).max(90)),
  /** Pressure of the air around, absolute, Pa. */
  barometerPa: z.optional(z.number().min(50_000).max(110_000)),
});
export const holdReadingSchema = reading;
export type HoldReading = Readonly<z.infer<typeof reading>>;

const m3 = z.number().min(1e-5).max(20);

export const heldSchema = z.discriminatedUnion("medium", [
  z.strictObject({ medium: z.literal("air"), volumeM3: m3 }),
  z.strictObject({
    medium: z.literal("water"),
    volumeM3: m3,
    /** Pipe of plastic stretches, and goes on stretching for a while; metal hardly. */
    wall: z.enum(["plastic", "metal"]),
    /** How much of it stands in plastic that stretches on; all of it where nobody said. */
    plasticM3: z.optional(z.number().min(0).max(20)),
    /** What the pipe's wall gives per Pa, m3/Pa. */
    wallM3PerPa: z.number().min(0).max(1e-7),
    /** Air that was not bled out, at the pressure of the air around, m3. */
    trappedM3: z.strictObject({ low: z.number().min(0).max(5), high: z.number().min(0).max(5) }),
    /** Accumulators that are part of it. */
    cushions: z
      .array(
        z.strictObject({
          volumeM3: z.number().min(1e-5).max(1),
          chargePa: z.number().min(0).max(2e6),
        }),
      )
      .max(20)
      .readonly(),
  }),
]);
export type Held = Readonly<z.infer<typeof heldSchema>>;

/** No gauge is read in coarser steps, Pa. */
export const MOST_STEP_PA = 1e6;

export const instrumentsSchema = z.strictObject({
  gauge: z.strictObject({
    /** Smallest difference that can be read, Pa. */
    stepPa: z.number().min(0.1).max(MOST_STEP_PA),
    rangePa: z.optional(z.number().min(100).max(1e8)),
    /** Scatter from one reading to the next besides the step, Pa. */
    noisePa: z.number().min(0).max(1e5).default(0),
  }),
  thermometerStepK: z.number().min(0.001).max(10).default(0.5),
  barometerStepPa: z.number().min(0.1).max(5000).default(100),
});
export type Instruments = Readonly<z.output<typeof instrumentsSchema>>;

/** A reading with what was not read put in. */
export interface Filled {
  readonly atS: number;
  readonly pressurePa: number;
  readonly temperatureC: number;
  readonly barometerPa: number;
}

// Where nothing was read the room counts as this warm, and the air around as at sea level.
const ASSUMED_C = 20;
const ASSUMED_PA = ATMOSPHERE_PA;

// Linear 1.4e-4 /K of cross-linked polyethylene and 1.7e-5 /K of copper (textbook, from memory), three times that by volume.
const WALL_GROWTH = { plastic: 4.2e-4, metal: 5.1e-5 } as const;

/** What water grows by per K at a temperature, from the slope of its density (IAPWS-95 table), 1/K. */
const waterGrowth = (temperatureC: number): number => {
  const at = Math.min(79, Math.max(1, temperatureC));
  const [below, above] = [waterDensityKgM3(at - 1), waterDensityKgM3(at + 1)];
  return below.ok && above.ok ? (below.value - above.value) / (below.value + above.value) : 2e-4;
};

/** A trapped volume of air under pressure takes in water: what it has taken in, m3 (Boyle and Charles). */
const takenIn = (volumeM3: number, restPa: number, now: Filled, first: Filled): number => {
  const warmth = (now.temperatureC + KELVIN) / (first.temperatureC + KELVIN);
  return Math.max(
    0,
    volumeM3 * (1 - ((restPa + first.barometerPa) * warmth) / (now.pressurePa + now.barometerPa)),
  );
};

/** Trapped air and the stiffness of a wall are guesses: what they give at the least and at the most. */
export type Guess = "low" | "mid" | "high";
// Stiffness of plastic pipe as tables give it, and as it is (our own).
const WALL_SHARE = { low: 0.7, mid: 1, high: 1.4 } as const;

const trappedBy = (held: Extract<Held, { medium: "water" }>, guess: Guess): number => {
  const { low, high } = held.trappedM3;
  return guess === "low" ? low : guess === "high" ? high : (low + high) / 2;
};

/**
 * How much is shut in, m3: free air at 101,325 Pa and the first reading's temperature, from the gas law on absolute pressure
 * (n = p V / R T); or the water that was pressed in over what stands there without pressure, from what wall, water, trapped air and
 * accumulators give, less what the water has grown.
 */
export const amountM3 = (held: Held, now: Filled, first: Filled, guess: Guess = "mid"): number => {
  if (held.medium === "air")
    return (
      (held.volumeM3 * (now.pressurePa + now.barometerPa) * (first.temperatureC + KELVIN)) /
      ((now.temperatureC + KELVIN) * ATMOSPHERE_PA)
    );
  const { volumeM3, wall, wallM3PerPa, cushions } = held;
  const growth = waterGrowth(first.temperatureC) - WALL_GROWTH[wall];
  return (
    now.pressurePa * (wallM3PerPa * WALL_SHARE[guess] + volumeM3 / WATER_BULK_PA) +
    takenIn(trappedBy(held, guess), 0, now, first) +
    cushions.reduce((sum, c) => sum + takenIn(c.volumeM3, c.chargePa, now, first), 0) -
    volumeM3 * growth * (now.temperatureC - first.temperatureC)
  );
};

const NUDGE = { pressurePa: 50, temperatureC: 0.05, barometerPa: 50 } as const;

/** By how much the amount changes with one of the readings: m3/Pa, or m3/K. */
export const slopeBy = (
  held: Held,
  now: Filled,
  first: Filled,
  by: keyof typeof NUDGE,
  guess: Guess = "mid",
): number => {
  const step = NUDGE[by];
  const at = (sign: number): number =>
    amountM3(held, { ...now, [by]: now[by] + sign * step }, first, guess);
  return (at(1) - at(-1)) / (2 * step);
};

const ENOUGH_PA = 0.01;
const MOST_TRIES = 40;

/** The pressure at which an amount is held, Pa, not below nothing: by the secant from a guess near it. */
export const pressureAt = (
  held: Held,
  amount: number,
  at: Omit<Filled, "pressurePa">,
  first: Filled,
  guessPa: number,
): number => {
  const off = (pressurePa: number): number => amountM3(held, { ...at, pressurePa }, first) - amount;
  let [a, b] = [guessPa, guessPa + 100];
  let [atA, atB] = [off(a), off(b)];
  for (let i = 0; i < MOST_TRIES && Math.abs(b - a) > ENOUGH_PA && atB !== atA; i++) {
    const next = Math.max(0, b - (atB * (b - a)) / (atB - atA));
    [a, atA] = [b, atB];
    [b, atB] = [next, off(next)];
  }
  return b;
};

/** What the gauge would show at a moment if nothing had left since the first reading: for air (p₁ + B₁) · T / T₁ − B. */
export const tightPa = (held: Held, first: Filled, now: Filled): number =>
  pressureAt(held, amountM3(held, first, first), now, first, first.pressurePa);

/** The readings with what was not read put in: the last one known, or what is assumed. */
export const filled = (readings: readonly HoldReading[]): Filled[] => {
  const known = (key: "temperatureC" | "barometerPa", standard: number): number[] => {
    const first = readings.find((r) => r[key] !== undefined)?.[key] ?? standard;
    let last: number = first;
    return readings.map((r) => (last = r[key] ?? last));
  };
  const [temperatures, barometers] = [
    known("temperatureC", ASSUMED_C),
    known("barometerPa", ASSUMED_PA),
  ];
  return readings.map((r, i) => ({
    atS: r.atS,
    pressurePa: r.pressurePa,
    temperatureC: temperatures[i] as number,
    barometerPa: barometers[i] as number,
  }));
};

/** What the gauge would show at each reading if nothing had left, Pa. */
export const tightAt = (held: Held, readings: readonly HoldReading[]): number[] => {
  const all = filled(readings);
  const [first] = all;
  return first ? all.map((r) => tightPa(held, first, r)) : [];
};
