import { type Contents, type Mixture, NOTHING, plus } from "../contents/index.ts";
import type { Lineup } from "../watermap/index.ts";

/** A moment to be shown: what everything holds and what runs where. */
export interface SimFrame {
  readonly atS: number;
  readonly contents: Contents;
  readonly lineup: Lineup;
  /** m3/s by run, positive from its `from` end; only where something flows. */
  readonly runM3PerS: Readonly<Record<string, number>>;
  /** m3/s by opening, positive outward. */
  readonly openingM3PerS: Readonly<Record<string, number>>;
}

/** What moved where at a moment, or why something stayed. */
export interface TraceLine {
  readonly atS: number;
  /** Cell or opening. */
  readonly at: string;
  readonly what: string;
  readonly m3: number;
}

/** Kept while an action is done: what came, what went, what was noticed. */
export interface Tally {
  came: Mixture;
  gone: Mixture;
  /** By opening, before it fell anywhere. */
  readonly out: Map<string, Mixture>;
  /** Air and liquid that reached a pump's head, by cell, and the openings the air came in by. */
  readonly pumps: Map<number, { airM3: number; liquidM3: number; readonly by: Set<string> }>;
  /** Ran over or was pushed out of a tank, by cell, m3. */
  readonly spilt: Map<number, number>;
  /** Heaters that were on with too little in them. */
  readonly dryHeated: Set<string>;
  /** Cells through which something flowed. */
  readonly flowed: Set<number>;
  readonly frames: SimFrame[];
  readonly trace: TraceLine[];
  readonly problems: string[];
  /** Why the air let in is more than usual. */
  airHigh?: string;
  lastRuns: Record<string, number>;
  lastOpenings: Record<string, number>;
}

export const newTally = (): Tally => ({
  came: NOTHING,
  gone: NOTHING,
  out: new Map(),
  pumps: new Map(),
  spilt: new Map(),
  dryHeated: new Set(),
  flowed: new Set(),
  frames: [],
  trace: [],
  problems: [],
  lastRuns: {},
  lastOpenings: {},
});

export const addTo = (where: Map<string, Mixture>, key: string, liquid: Mixture): void => {
  where.set(key, plus(where.get(key) ?? NOTHING, liquid));
};
