import type { Calculation, ReckonResult } from "./calculation.ts";
import { fromBrix, glycolMix, heatCable, nightSurvival } from "./cold.ts";
import {
  anodeRenewal,
  chlorineDose,
  contactTime,
  flushRefills,
  heaterFill,
} from "./disinfection.ts";
import { heaterEnergy } from "./heater.ts";
import { holdCorrection, holdTime, leakRate, pumpRerun, storedEnergy } from "./holds.ts";
import {
  accumulatorDraw,
  hatchForce,
  pipeLossCalculation,
  receiverTime,
  tapFlow,
} from "./pressure.ts";
import { pipeVolume, tankDrain, tankFill, waterWeight } from "./water.ts";

export { courseOf } from "./course.ts";
export type { Calculation, Figure, ReckonInput, ReckonResult } from "./calculation.ts";

/** Every calculation that stands alone. */
export const CALCULATIONS: readonly Calculation[] = [
  waterWeight,
  pipeVolume,
  tankDrain,
  tankFill,
  pipeLossCalculation,
  tapFlow,
  accumulatorDraw,
  glycolMix,
  fromBrix,
  receiverTime,
  nightSurvival,
  heatCable,
  holdCorrection,
  leakRate,
  holdTime,
  storedEnergy,
  pumpRerun,
  hatchForce,
  heaterEnergy,
  heaterFill,
  anodeRenewal,
  chlorineDose,
  contactTime,
  flushRefills,
];

/**
 * Works a calculation out.
 * @param given SI figures by input; what is left out has its standard value
 * @returns the answer with its working, or what is wrong with the input, by its label
 */
export const reckon = (
  calculation: Calculation,
  given: Readonly<Record<string, number>>,
): ReckonResult => {
  const unknown = Object.keys(given).find(
    (name) => !calculation.inputs.some((i) => i.name === name),
  );
  if (unknown !== undefined) return { ok: false, problem: `"${unknown}" is not asked for.` };
  const values: Record<string, number> = {};
  for (const { name, label, standard, low, high } of calculation.inputs) {
    const value = given[name] ?? standard;
    if (!(value >= low && value <= high))
      return { ok: false, problem: `${label}: lies outside what can be reckoned with.` };
    values[name] = value;
  }
  return calculation.work(values);
};

export { readInputs, showFigure, standardText } from "./show.ts";
