import { uniformFloat64 } from "pure-rand/distribution/uniformFloat64";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import {
  amountM3,
  type Filled,
  type Held,
  type HoldReading,
  type Instruments,
  pressureAt,
} from "./held.ts";

/** A stand-in for a pressure logger: a seeded trace with a leak of chosen size. It is always marked as simulated. */

export interface SimulatedHold {
  readonly seed: number;
  readonly held: Held;
  readonly instruments: Instruments;
  readonly seconds: number;
  readonly everyS: number;
  readonly startPa: number;
  /** At the pressure of the start, m3/s: free air, or water. */
  readonly leakM3S: number;
  readonly startC: number;
  /** Of the room, from start to end, K. */
  readonly driftK: number;
  /** Of the room, up and down about that, K. */
  readonly swingK: number;
  /** How long what is shut in takes to follow the room, s. */
  readonly lagS: number;
  readonly barometerPa: number;
  readonly barometerDriftPa: number;
  /** What the wall takes by stretching on, m3, and how fast. */
  readonly creepM3: number;
  readonly creepS: number;
  /** How much warmer than the room it was pumped in, K; it cools with the same lag. */
  readonly pumpedK: number;
  readonly readsTemperature: boolean;
  readonly readsBarometer: boolean;
}

const STEPS_A_READING = 4;

const rounded = (value: number, step: number): number => Math.round(value / step) * step;

/** The readings in order of time, the first at once. */
export const simulatedHold = (of: SimulatedHold): HoldReading[] => {
  const stream = xoroshiro128plus(of.seed);
  // Box and Muller.
  const normal = (): number =>
    Math.sqrt(-2 * Math.log(1 - uniformFloat64(stream))) *
    Math.cos(2 * Math.PI * uniformFloat64(stream));
  const phase = uniformFloat64(stream) * 2 * Math.PI;
  const roomAt = (t: number): number =>
    of.startC +
    (of.driftK * t) / of.seconds +
    of.swingK * (Math.sin((2 * Math.PI * t) / of.seconds + phase) - Math.sin(phase));
  const { gauge, thermometerStepK, barometerStepPa } = of.instruments;
  let inside = of.startC + of.pumpedK;
  const first: Filled = {
    atS: 0,
    pressurePa: of.startPa,
    temperatureC: inside,
    barometerPa: of.barometerPa,
  };
  let amount = amountM3(of.held, first, first);
  let pressure = of.startPa;
  const readings: HoldReading[] = [];
  const step = of.everyS / STEPS_A_READING;
  const count = Math.floor(of.seconds / of.everyS);
  for (let i = 0; i <= count * STEPS_A_READING; i++) {
    const t = i * step;
    const barometerPa = of.barometerPa + (of.barometerDriftPa * t) / of.seconds;
    if (i > 0) {
      amount -= of.leakM3S * Math.max(0, pressure / of.startPa) * step;
      inside += ((roomAt(t) - inside) * step) / Math.max(of.lagS, step);
    }
    const crept = of.creepM3 * (1 - Math.exp(-t / of.creepS));
    pressure = pressureAt(
      of.held,
      amount - crept,
      { atS: t, temperatureC: inside, barometerPa },
      first,
      pressure,
    );
    if (i % STEPS_A_READING !== 0) continue;
    readings.push({
      atS: t,
      pressurePa: Math.max(0, rounded(pressure + gauge.noisePa * normal(), gauge.stepPa)),
      ...(of.readsTemperature ? { temperatureC: rounded(roomAt(t), thermometerStepK) } : {}),
      ...(of.readsBarometer ? { barometerPa: rounded(barometerPa, barometerStepPa) } : {}),
    });
  }
  return readings;
};
