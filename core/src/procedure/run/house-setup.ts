import { RULE_STANDARDS, type RuleValue, type RuleValues } from "../../rules/index.ts";
import { AIR_LIMITS, HOUSE_LIMITS, HOUSE_SETTINGS } from "../house-settings.ts";
import { type Job, WATER_SETTINGS, type WaterSettings } from "../job.ts";
import { METHOD_BY_RULE, type Method, ruleOfMethod, usesAir } from "../method.ts";
import type { RulesUsed, RunSetup } from "./events.ts";

/** From the house's rules to the setup of a run, and back to where a setup departs from them. */

export interface RulesInForce {
  /** 0: as they were shipped. */
  readonly revision: number;
  readonly values: RuleValues;
}

/** What a plan goes by; they are kept with it and printed. */
const PLAN_KEYS = [
  "winter.medium",
  "winter.vent",
  "frost.margin",
  "frost.basis",
  "winter.heater.antifreeze",
  "winter.heater.recoveredMin",
  "heater.openAt",
  "antifreeze.entry",
  "antifreeze.proof",
  "antifreeze.reserve",
  "antifreeze.least",
  "antifreeze.ruleOfThumb",
  "trap.dose",
  "waste.winter",
  "countersign.runs",
] as const;

/** What a plan with air goes by besides. */
const AIR_KEYS = ["air.pressure", "air.ceiling", "air.rounds", "winter.heater.air"] as const;

type WinterLow = RulesUsed["winterLow"];

/** What a spring and a sanitizing go by. */
const WATER_KEYS = [
  "spring.sanitize",
  "spring.taste",
  "spring.silent",
  "sanitize.target",
  "sanitize.soak",
  "sanitize.latest",
  "sanitize.holds",
  "sanitize.heater",
  "flush.limit",
  "flush.endpoint",
  "countersign.runs",
] as const;

type Bottle = WaterSettings["chlorine"]["bottle"];

/** What a spring or a sanitizing goes by, by the house's rules. */
const waterBy = (
  { values }: RulesInForce,
  bottle: Bottle = WATER_SETTINGS.chlorine.bottle,
): WaterSettings => {
  const of = (key: string): RuleValue => values[key] ?? RULE_STANDARDS[key] ?? "";
  return {
    tasteAtMost: Number(of("spring.taste")),
    silentS: Number(of("spring.silent")),
    sanitizeNext: of("spring.sanitize") === "always",
    chlorine: {
      targetMgL: Number(of("sanitize.target")),
      soakS: Number(of("sanitize.soak")),
      latestS: Number(of("sanitize.latest")),
      holdsShare: Number(of("sanitize.holds")),
      limitMgL: Number(of("flush.limit")),
      heater: of("sanitize.heater") as WaterSettings["chlorine"]["heater"],
      endpoint: of("flush.endpoint") as WaterSettings["chlorine"]["endpoint"],
      bottle,
      sourceMgL: 0,
    },
  };
};

/** The setup of a job by the house's rules: of a spring or a sanitizing that of water besides, and its rules alone are printed. */
export const jobSetupBy = (
  rules: RulesInForce,
  winterLow: WinterLow,
  job: Job,
  of: {
    readonly product?: RunSetup["product"];
    readonly method?: Method;
    readonly bottle?: Bottle;
  } = {},
): RunSetup => {
  const setup = setupBy(rules, winterLow, of.product, of.method);
  if (job === "winterize" || !setup.rules) return setup;
  const value = (key: string): RuleValue => rules.values[key] ?? RULE_STANDARDS[key] ?? "";
  return {
    ...setup,
    job,
    water: waterBy(rules, of.bottle),
    rules: {
      ...setup.rules,
      values: Object.fromEntries(WATER_KEYS.map((key) => [key, value(key)])),
    },
  };
};

/** A setup by the house's rules, with no departure from them. */
export const setupBy = (
  { revision, values }: RulesInForce,
  winterLow: WinterLow,
  product: RunSetup["product"] = { ...HOUSE_SETTINGS.product },
  wanted?: Method,
  compressorM3?: number,
): RunSetup => {
  const of = (key: string): RuleValue => values[key] ?? RULE_STANDARDS[key] ?? "";
  const method = wanted ?? METHOD_BY_RULE[String(of("winter.medium"))] ?? "antifreeze";
  return {
    method,
    winterLowC: winterLow.celsius,
    marginC: Number(of("frost.margin")),
    basis: of("frost.basis") as RunSetup["basis"],
    product,
    trapDoseM3: Number(of("trap.dose")),
    house: {
      openAtC: Number(of("heater.openAt")),
      recoveredMin: Number(of("winter.heater.recoveredMin")),
      strengthEverywhere: of("antifreeze.proof") === "strength-everywhere",
      reserve: Number(of("antifreeze.reserve")),
      leastStrength: Number(of("antifreeze.least")),
      wasteGates: of("waste.winter") === "open" ? "open" : "shut-dosed",
      air: {
        pa: Number(of("air.pressure")),
        ceilingPa: Number(of("air.ceiling")),
        rounds: Number(of("air.rounds")),
        heater: of("winter.heater.air") === "receiver" ? "receiver" : "bypassed",
        ...(compressorM3 === undefined ? {} : { compressorM3 }),
      },
    },
    rules: {
      revision,
      values: Object.fromEntries(
        [...PLAN_KEYS, ...(usesAir(method) ? AIR_KEYS : [])].map((key) => [key, of(key)]),
      ),
      winterLow,
      departures: [],
    },
  };
};

const usedOfWater = (job: Job, water: WaterSettings): Readonly<Record<string, RuleValue>> => {
  const { chlorine } = water;
  return {
    "spring.taste": water.tasteAtMost,
    "spring.silent": water.silentS,
    ...(job === "sanitize"
      ? {
          "sanitize.target": chlorine.targetMgL,
          "sanitize.soak": chlorine.soakS,
          "sanitize.latest": chlorine.latestS,
          "sanitize.holds": chlorine.holdsShare,
          "sanitize.heater": chlorine.heater,
          "flush.limit": chlorine.limitMgL,
          "flush.endpoint": chlorine.endpoint,
        }
      : {}),
  };
};

/** What a setup uses of each thing that the house decides, by what it is called in a departure. */
const usedBy = (setup: RunSetup): Readonly<Record<string, RuleValue>> => {
  const { job = "winterize", water } = setup;
  if (job !== "winterize") return water ? usedOfWater(job, water) : {};
  const house = setup.house ?? HOUSE_LIMITS;
  const air = house.air ?? AIR_LIMITS;
  return {
    winterLow: setup.winterLowC,
    "winter.medium": ruleOfMethod(setup.method),
    "frost.margin": setup.marginC,
    "frost.basis": setup.basis,
    "trap.dose": setup.trapDoseM3,
    "heater.openAt": house.openAtC,
    "winter.heater.recoveredMin": house.recoveredMin,
    "antifreeze.proof": house.strengthEverywhere ? "strength-everywhere" : "read where it can be",
    "antifreeze.reserve": house.reserve,
    "antifreeze.least": house.leastStrength ?? 0,
    ...(usesAir(setup.method)
      ? {
          "air.pressure": air.pa,
          "air.ceiling": air.ceilingPa,
          "air.rounds": air.rounds,
          "winter.heater.air": air.heater ?? "bypassed",
        }
      : {}),
  };
};

export interface Departure {
  /** A rule's key, or "winterLow". */
  readonly key: string;
  readonly house: RuleValue;
  readonly used: RuleValue;
}

/** Where a setup departs from the house's rules. */
export const departuresFrom = (
  setup: RunSetup,
  rules: RulesInForce,
  winterLow: WinterLow,
): Departure[] => {
  const { job = "winterize" } = setup;
  const house: Readonly<Record<string, RuleValue>> = {
    ...usedBy(jobSetupBy(rules, winterLow, job, { product: setup.product, method: setup.method })),
    "winter.medium": rules.values["winter.medium"] ?? RULE_STANDARDS["winter.medium"] ?? "",
  };
  return Object.entries(usedBy(setup)).flatMap(([key, used]) => {
    const wanted = house[key];
    if (wanted === undefined || wanted === used) return [];
    // What passed through a screen in other units is the same to nine digits.
    if (
      typeof wanted === "number" &&
      typeof used === "number" &&
      Math.abs(wanted - used) <= 1e-9 * Math.max(1, Math.abs(wanted))
    )
      return [];
    return [{ key, house: wanted, used }];
  });
};

/** Departures of a setup that is kept, as it says itself: what the house's rules said on its day, and what was used. */
export const departuresKept = (
  setup: RunSetup,
): (Departure & RulesUsed["departures"][number])[] => {
  const { rules } = setup;
  if (!rules) return [];
  const differ = departuresFrom(setup, rules, rules.winterLow);
  return rules.departures.flatMap((told) => {
    const found = differ.find((d) => d.key === told.key);
    return found ? [{ ...found, ...told }] : [];
  });
};
