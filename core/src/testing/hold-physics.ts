import { uniformFloat64 } from "pure-rand/distribution/uniformFloat64";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { waterDensityKgM3 } from "../fluid/index.ts";
import type { Held, HoldReading, SimulatedHold } from "../hold/index.ts";

/**
 * Holds by another way than the product's own: gas counted in moles (p V = n R T), water in kilograms by its density, and the pressure found
 * where all of it just fills what holds it. Nothing of the judge's arithmetic is used, so that it is judged by something it has not written.
 */

// CODATA 2018, J/(mol K).
const R = 8.314_462_618;
const T0 = 273.15;
const ATMOSPHERE = 101_325;
// Bulk modulus of water near 15 °C, Pa (textbook, from memory).
const BULK = 2.15e9;
// Linear growth of cross-linked polyethylene and of copper, 1/K (textbook, from memory).
const LINEAR = { plastic: 1.4e-4, metal: 1.7e-5 } as const;

interface Weather {
  readonly kelvin: number;
  readonly barometerPa: number;
  readonly creptM3: number;
}

const density = (kelvin: number): number => {
  const read = waterDensityKgM3(kelvin - T0);
  if (!read.ok) throw new Error("no water that is so cold or so hot");
  return read.value;
};

/** Where a rising function crosses nought. */
const root = (f: (x: number) => number, low: number, high: number): number => {
  let [a, b] = [low, high];
  for (let i = 0; i < 50; i++) {
    const mid = (a + b) / 2;
    if (f(mid) > 0) b = mid;
    else a = mid;
  }
  return (a + b) / 2;
};

interface Shut {
  /** Gauge pressure with what is in it now. */
  readonly pressure: (now: Weather) => number;
  /** Lets out so much at the pressure of the start: free air, or water, m3. */
  readonly loses: (m3: number) => void;
}

const shutAir = (volumeM3: number, startPa: number, at: Weather): Shut => {
  let moles = ((startPa + at.barometerPa) * volumeM3) / (R * at.kelvin);
  return {
    pressure: ({ kelvin, barometerPa }) => (moles * R * kelvin) / volumeM3 - barometerPa,
    // Free air: a cubic metre of it at 101,325 Pa and the warmth of the start.
    loses: (m3) => {
      moles -= (ATMOSPHERE * m3) / (R * at.kelvin);
    },
  };
};

const shutWater = (
  held: Extract<Held, { medium: "water" }>,
  startPa: number,
  at: Weather,
): Shut => {
  const { volumeM3, wall, wallM3PerPa, trappedM3, cushions } = held;
  const bubble = (((trappedM3.low + trappedM3.high) / 2) * at.barometerPa) / (R * at.kelvin);
  const gases = cushions.map((c) => ({
    ...c,
    moles: ((c.chargePa + at.barometerPa) * c.volumeM3) / (R * at.kelvin),
  }));
  /** What there is room for at a pressure. */
  const room = (pa: number, { kelvin, creptM3 }: Weather): number =>
    volumeM3 * (1 + LINEAR[wall] * (kelvin - at.kelvin)) ** 3 + wallM3PerPa * pa + creptM3;
  /** What is not water in it, less what the accumulators have taken in. */
  const others = (pa: number, { kelvin, barometerPa }: Weather): number => {
    const absolute = Math.max(pa, -0.9 * barometerPa) + barometerPa;
    const taken = gases.map(
      (g) => g.volumeM3 - Math.min(g.volumeM3, (g.moles * R * kelvin) / absolute),
    );
    return (bubble * R * kelvin) / absolute - taken.reduce((a, b) => a + b, 0);
  };
  const heavier = (pa: number, kelvin: number): number => density(kelvin) * (1 + pa / BULK);
  let kg = (room(startPa, at) - others(startPa, at)) * heavier(startPa, at.kelvin);
  return {
    pressure: (now) =>
      root((pa) => room(pa, now) - others(pa, now) - kg / heavier(pa, now.kelvin), -5e4, 2e6),
    loses: (m3) => {
      kg -= m3 * density(at.kelvin);
    },
  };
};

const SUB_STEPS = 5;

/** The readings of a hold, the first at once; the same seed the same trace, by another draw than the stand-in's. */
export const physicalHold = (of: SimulatedHold): HoldReading[] => {
  const stream = xoroshiro128plus(of.seed + 90_001);
  const normal = (): number =>
    Array.from({ length: 12 }, () => uniformFloat64(stream)).reduce((a, b) => a + b, -6);
  const swing = uniformFloat64(stream) * 6.28;
  const roomAt = (t: number): number =>
    of.startC +
    of.driftK * (t / of.seconds) +
    of.swingK * (Math.sin(6.283_185 * (t / of.seconds) + swing) - Math.sin(swing));
  const round = (value: number, step: number): number => Math.round(value / step) * step;
  let inside = of.startC + of.pumpedK;
  const weather = (t: number): Weather => ({
    kelvin: inside + T0,
    barometerPa: of.barometerPa + of.barometerDriftPa * (t / of.seconds),
    creptM3: of.creepM3 * (1 - Math.exp(-t / of.creepS)),
  });
  const shut =
    of.held.medium === "air"
      ? shutAir(of.held.volumeM3, of.startPa, weather(0))
      : shutWater(of.held, of.startPa, weather(0));
  const readings: HoldReading[] = [];
  const step = of.everyS / SUB_STEPS;
  for (let i = 0; i <= Math.floor(of.seconds / of.everyS) * SUB_STEPS; i++) {
    const t = i * step;
    const now = weather(t);
    const pa = shut.pressure(now);
    if (i % SUB_STEPS === 0)
      readings.push({
        atS: t,
        pressurePa: Math.max(
          0,
          round(pa + of.instruments.gauge.noisePa * normal(), of.instruments.gauge.stepPa),
        ),
        ...(of.readsTemperature
          ? { temperatureC: round(roomAt(t), of.instruments.thermometerStepK) }
          : {}),
        ...(of.readsBarometer
          ? { barometerPa: round(now.barometerPa, of.instruments.barometerStepPa) }
          : {}),
      });
    shut.loses(of.leakM3S * Math.max(0, pa / of.startPa) * step);
    // What is shut in follows the room exactly as Newton says, not by a straight step.
    inside = roomAt(t) + (inside - roomAt(t)) * Math.exp(-step / of.lagS);
  }
  return readings;
};
