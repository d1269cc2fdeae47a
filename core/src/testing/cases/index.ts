import d1_leg_behind_check from "./d1-leg-behind-check.json" with { type: "json" };
import d3_p02_bypass_none from "./d3-p02-bypass-none.json" with { type: "json" };
import d3_p02_bypass_unknown from "./d3-p02-bypass-unknown.json" with { type: "json" };
import d4_jug_at_pump_inlet from "./d4-jug-at-pump-inlet.json" with { type: "json" };
import d4_with_coupling from "./d4-with-coupling.json" with { type: "json" };
import d6_on_demand from "./d6-on-demand.json" with { type: "json" };
import d7_fill_branch from "./d7-fill-branch.json" with { type: "json" };
import d8_drained_through_unknown from "./d8-drained-through-unknown.json" with { type: "json" };
import d9_waste_tee from "./d9-waste-tee.json" with { type: "json" };
import d18_raw_pump_first from "./d18-raw-pump-first.json" with { type: "json" };
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
  "d1-leg-behind-check": d1_leg_behind_check,
  "d3-p02-bypass-none": d3_p02_bypass_none,
  "d3-p02-bypass-unknown": d3_p02_bypass_unknown,
  "d4-jug-at-pump-inlet": d4_jug_at_pump_inlet,
  "d4-with-coupling": d4_with_coupling,
  "d6-on-demand": d6_on_demand,
  "d7-fill-branch": d7_fill_branch,
  "d8-drained-through-unknown": d8_drained_through_unknown,
  "d9-waste-tee": d9_waste_tee,
  "d18-raw-pump-first": d18_raw_pump_first,
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

export const CASE_NAMES = Object.keys(CASES);

export const caseMap = (name: string): WaterMap => {
  const read = readWaterMap(CASES[name]);
  if (!read.ok) throw new Error(`${name} is not a sound map`);
  return read.map;
};
