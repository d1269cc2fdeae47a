import { type CellContents, liquidIn, strengthOf, volumeOf } from "../contents/index.ts";
import {
  glycolDensityKgM3,
  glycolViscosityPaS,
  massFractionFromStrength,
  type Property,
  waterDensityKgM3,
  waterViscosityPaS,
} from "../fluid/index.ts";
import type { Liquid } from "../hydraulics/index.ts";
import { ATMOSPHERE_PA } from "../quantity/index.ts";
import type { Cell } from "../watermap/index.ts";
import type { FlowSettings } from "./flow-settings.ts";

/** What stands in a cell, and how it presses. */

const valueOf = (property: Property, otherwise: number): number =>
  property.ok ? property.value : otherwise;

// Fuller than this a pipe counts as one of water; emptier, air gets along over what lies in it (our own).
const DRY_SHARE = 0.3;

/** Pressure that the air behind a bladder has when so much water has come in; Boyle, at one temperature. */
export const cushionPa = (volumeM3: number, prechargePa: number, waterM3: number): number =>
  ((prechargePa + ATMOSPHERE_PA) * volumeM3) / Math.max(volumeM3 - waterM3, volumeM3 * 1e-3) -
  ATMOSPHERE_PA;

/** How high a tank stands, m; what lies below the lip of its outlets presses nothing. */
export const levelIn = (tank: Cell, liquidM3: number): number => {
  const share = liquidM3 / Math.max(tank.capacityM3, 1e-9);
  return share <= tank.drainRemainder * NEARLY ? 0 : (tank.topM - tank.bottomM) * share;
};

const NEARLY = 1.001;

/** Whether a pipe or a body holds so little that air passes it. */
export const isDry = (
  cell: Cell,
  held: CellContents | undefined,
  { dry }: Pick<FlowSettings, "dry">,
): boolean =>
  dry === true &&
  cell.form !== "vessel" &&
  cell.capacityM3 > 0 &&
  volumeOf(liquidIn(held)) < DRY_SHARE * cell.capacityM3;

const MOST_LIQUIDS = 2000;
const liquids = new Map<number, Liquid>();
let liquidsAtC = Number.NaN;

export const liquidOf = (held: CellContents | undefined, temperatureC: number): Liquid => {
  const strength = Math.min(strengthOf(liquidIn(held)), 0.6);
  // Most of a unit holds one of two liquids.
  if (liquidsAtC !== temperatureC || liquids.size > MOST_LIQUIDS) {
    liquids.clear();
    liquidsAtC = temperatureC;
  }
  const known = liquids.get(strength) ?? liquidAt(strength, temperatureC);
  liquids.set(strength, known);
  return known;
};

const liquidAt = (strength: number, temperatureC: number): Liquid => {
  if (strength === 0)
    return {
      densityKgM3: valueOf(waterDensityKgM3(temperatureC), 1000),
      viscosityPaS: valueOf(waterViscosityPaS(temperatureC), 1e-3),
    };
  const mass = valueOf(massFractionFromStrength(strength), 0.6);
  return {
    densityKgM3: valueOf(glycolDensityKgM3(mass), 1040),
    viscosityPaS: valueOf(glycolViscosityPaS(mass, Math.min(20, Math.max(0, temperatureC))), 9e-3),
  };
};
