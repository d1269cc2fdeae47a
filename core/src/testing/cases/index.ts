import d12 from "./d12-waste-dip.json" with { type: "json" };
import d15 from "./d15-heater-no-energy.json" with { type: "json" };
import d16 from "./d16-low-point-found-open.json" with { type: "json" };
import d17 from "./d17-dip.json" with { type: "json" };
import d2 from "./d2-heater-hot-check.json" with { type: "json" };
import d2p08 from "./d2-p08-point-of-use.json" with { type: "json" };
import d2p16 from "./d2-p16-point-of-use.json" with { type: "json" };
import d5open from "./d5-inlet-open.json" with { type: "json" };
import d5check from "./d5-inlet-with-check.json" with { type: "json" };
import d5p01 from "./d5-p01.json" with { type: "json" };
import d5p09check from "./d5-p09-check.json" with { type: "json" };
import d5p09 from "./d5-p09.json" with { type: "json" };
import { readWaterMap, type WaterMap } from "../../watermap/index.ts";

/** Smallest maps on which the advice was wrong once, by name. */
const CASES: Readonly<Record<string, unknown>> = {
  "d12-waste-dip": d12,
  "d15-heater-no-energy": d15,
  "d16-low-point-found-open": d16,
  "d17-dip": d17,
  "d2-heater-hot-check": d2,
  "d2-p08-point-of-use": d2p08,
  "d2-p16-point-of-use": d2p16,
  "d5-inlet-open": d5open,
  "d5-inlet-with-check": d5check,
  "d5-p01": d5p01,
  "d5-p09-check": d5p09check,
  "d5-p09": d5p09,
};

export const caseMap = (name: string): WaterMap => {
  const read = readWaterMap(CASES[name]);
  if (!read.ok) throw new Error(`${name} is not a sound map`);
  return read.map;
};
