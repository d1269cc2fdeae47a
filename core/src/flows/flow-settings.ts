import { PA_PER_M } from "../quantity/index.ts";
import type { LiveOpening } from "../watermap/index.ts";

export interface FlowSettings {
  /** Pressure of a connected supply against a shut tap, Pa. */
  readonly supplyPa: number;
  /** What that supply gives into an open bucket, m3/s; Infinity: it holds its pressure, whatever is drawn. */
  readonly supplyMostM3PerS: number;
  /** Of all liquid aboard, °C, 0 to 20. */
  readonly temperatureC: number;
  /** How far an opening is open, by its control or its id, 0 to 1; fully where it is not said. */
  readonly openings?: Readonly<Record<string, number>>;
  /** Ways in, by opening, that hang in the air instead of in a jug. */
  readonly inAir?: ReadonlySet<string>;
  /** Pipes that hold no liquid let air pass; else every pipe counts as full. */
  readonly dry?: boolean;
  /** Accumulators stand at the pressure of the air behind their bladder. */
  readonly cushions?: boolean;
  /** Pressure of each inlet that has a hose on it, by opening, Pa; another that is open is a hole. Where it is not said, every open inlet has its supply. */
  readonly hosesPa?: Readonly<Record<string, number>>;
}

/** 40 psi and 20 L/min, cold water: a site tap behind a common regulator (common practice, no source). */
export const COMMON_FLOW_SETTINGS: FlowSettings = {
  supplyPa: 276_000,
  supplyMostM3PerS: 20e-3 / 60,
  temperatureC: 15,
};

/** Whether a supply presses at an opening. */
export const presses = (o: LiveOpening, settings: Pick<FlowSettings, "hosesPa">): boolean =>
  (o.use === "supply" || o.use === "flush") &&
  (settings.hosesPa === undefined ||
    o.opening?.pressed === true ||
    settings.hosesPa[o.id] !== undefined);

// A stopped pump's valves, opened by less than this, let a head of water through: one metre.
export const HOLDS_HEAD_PA = PA_PER_M;
