import { PSI_PA } from "../quantity/index.ts";
import type { Turn } from "../survey/turns.ts";
import type { Lineup, Network } from "../watermap/index.ts";
import type { Held } from "./held.ts";
import { holdPolicy } from "./judge.ts";

/** What is asked of a pressure test, and what a plan of one is made of: plain data, so that it can be kept. */

export const TEST_WAYS = ["supply", "pump", "hand-pump", "air", "brim", "low-air", "head"] as const;
export type TestWay = (typeof TEST_WAYS)[number];

export const WAY_LABELS: Readonly<Record<TestWay, string>> = {
  supply: "supply water through a regulator",
  pump: "the unit's own pump",
  "hand-pump": "a hand pump and water",
  air: "regulated air",
  brim: "water to the brim",
  "low-air": "low air",
  head: "water standing in it",
};

export type TestTarget =
  | { readonly is: "pressure-side"; readonly source: string }
  | { readonly is: "section"; readonly source: string; readonly section: string }
  /** One joint, with as little else as the valves allow: a new one, or one that was mended. */
  | { readonly is: "joint"; readonly source: string; readonly joint: string }
  /** Joints before the pump, and of the waste, are under the water of their tank. */
  | { readonly is: "tank"; readonly part: string; readonly joint?: string | undefined }
  | { readonly is: "hatches"; readonly part: string }
  | { readonly is: "waste"; readonly part: string; readonly joint?: string | undefined };

export interface TestHouse {
  /** Pipes under water are taken to this, Pa. */
  readonly waterPa: number;
  /** Pipes under air, and never above the ceiling, Pa. */
  readonly airPa: number;
  readonly airCeilingPa: number;
  /** A tank under air, where its maker allows it, Pa. */
  readonly tankPa: number;
  readonly minHoldS: number;
  readonly smallest: { readonly air: number; readonly water: number };
}

/** 60 psi of water, 40 psi of air, 1.5 psi on a tank (common practice, no source); a quarter of an hour for pipe (IPC 312.5, from memory). */
export const TEST_HOUSE: TestHouse = {
  waterPa: 60 * PSI_PA,
  airPa: 40 * PSI_PA,
  airCeilingPa: 50 * PSI_PA,
  tankPa: 1.5 * PSI_PA,
  minHoldS: 900,
  smallest: { air: holdPolicy("air").smallestM3S, water: holdPolicy("water").smallestM3S },
};

export interface TestRequest {
  readonly network: Network;
  readonly target: TestTarget;
  readonly by: TestWay;
  readonly gauge: { readonly name: string; readonly stepPa: number; readonly rangePa?: number };
  readonly house?: TestHouse;
  /** As the unit stands; in use where nobody said. */
  readonly from?: Lineup;
  /** What the tank's maker allows, or its owner signed for, Pa. */
  readonly tankLimitPa?: number;
  /** Largest flat panel or hatch, m2; from the tank's own size where nobody measured. */
  readonly panelM2?: number;
  /** Nobody knows this system yet: it is pressed low first. */
  readonly isUnknown?: boolean;
  /** Panels and walls that may not be closed before it has passed. */
  readonly holdPoints?: readonly string[];
}

export interface TestStep {
  readonly id: string;
  readonly title: string;
  readonly rows: readonly string[];
  readonly why: string;
  readonly cautions: readonly string[];
}

export interface TestPlan {
  readonly title: string;
  readonly by: TestWay;
  /** What was asked for, so that it can be asked for again; plans of before have none. */
  readonly target?: TestTarget | undefined;
  /** Why it is not done; everything else is then as far as it came. */
  readonly refused?: string;
  readonly lineup: Lineup;
  readonly turns: readonly Turn[];
  readonly gaugeCell: number;
  /** Cells, and parts and pipes, that are under test. */
  readonly cells: readonly number[];
  readonly owners: readonly string[];
  readonly sections: number;
  readonly joints: number;
  /** What this test says nothing of. */
  readonly leftOut: readonly string[];
  readonly held: Held;
  readonly pressurePa: number;
  readonly weakest: { readonly name: string; readonly pa: number };
  readonly firstPa?: number;
  readonly holdS: number;
  readonly everyS: number;
  readonly readings: number;
  readonly smallestM3S: number;
  readonly airJ: number;
  readonly waterJ: number;
  readonly panelN?: number;
  /** Said before the test where the gauge cannot show the leak that matters. */
  readonly tooCoarse?: string;
  readonly steps: readonly TestStep[];
}

export const isAir = (by: TestWay): boolean => by === "air" || by === "low-air";
/** A fill is looked at: nothing is read off a gauge. */
export const isLevel = (by: TestWay): boolean => by === "brim" || by === "head";

/** The step that is signed before any air goes in. */
export const AIR_SAFE = "air-safe";
