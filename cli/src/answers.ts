import {
  COMMON_NIGHT,
  type FrostBasis,
  frostVerdict,
  nightWatch,
  startingContents,
} from "@uppershed/core/contents";
import {
  comparedBy,
  METHOD_NAMES,
  perhapsWinterized,
  planSanitize,
  planSpring,
  planWinterize,
  proposedOf,
  standardRequest,
  startPhysical,
  type WaterSettings,
  type WinterizeRequest,
} from "@uppershed/core/procedure";
import { parseQuantity, type UnitSystem } from "@uppershed/core/quantity";
import { cellAt, cellTold, buildNetwork, type WaterMap } from "@uppershed/core/watermap";

/** The answers of the command line. Their field names stay as they are: scripts lean on them. */

export type PlanSettings = Pick<
  WinterizeRequest,
  "winterLowC" | "marginC" | "product" | "basis" | "method"
>;

/** A plan as JSON. Volumes in m3, temperatures in °C, whatever the units of its texts. */
export const planAnswer = (map: WaterMap, settings: PlanSettings): object => {
  const network = buildNetwork(map);
  const plan = planWinterize({ ...standardRequest(network, startPhysical(network)), ...settings });
  return {
    map: map.id,
    method: plan.method,
    winterLowC: settings.winterLowC,
    steps: plan.steps,
    antifreeze: plan.antifreeze,
    targetStrength: plan.targetStrength,
    holdsToC: plan.holdsToC,
    weakestPart: plan.weakest?.id ?? null,
    weakest: plan.weakest,
    meetsMargin: plan.meetsMargin,
    unprotected: plan.unprotected,
    carry: plan.carry,
    minutes: plan.minutes,
    cannotTell: plan.cannotTell,
    entry: plan.entry,
  };
};

/** What a spring or a sanitizing is planned after. */
export const AFTER = [...METHOD_NAMES, "unknown"] as const;

/**
 * The plan of a spring from how a winterizing leaves this map, or of a unit that nobody wrote down; of a sanitizing with the unit in use.
 * Volumes in m3, chlorine in mg/L, whatever the units of its texts.
 */
export const waterPlanAnswer = (
  map: WaterMap,
  job: "spring" | "sanitize",
  after: (typeof AFTER)[number],
  water: WaterSettings,
): object => {
  const network = buildNetwork(map);
  const start = startPhysical(network);
  const request = standardRequest(network, start);
  const left =
    job === "sanitize"
      ? start
      : after === "unknown"
        ? { ...start, contents: perhapsWinterized(network) }
        : { ...planWinterize({ ...request, method: after }).after, facts: [], drawnM3: 0 };
  const asked = { ...request, start: left, water };
  const plan = job === "spring" ? planSpring(asked) : planSanitize(asked);
  return {
    map: map.id,
    job,
    ...(job === "spring" ? { after } : {}),
    steps: plan.steps,
    water: plan.water,
    carry: plan.carry,
    minutes: plan.minutes,
  };
};

/** Every method on a map side by side, and the one that is proposed where a house would take the first. */
export const methodsAnswer = (map: WaterMap, settings: PlanSettings): object => {
  const network = buildNetwork(map);
  const request = { ...standardRequest(network, startPhysical(network)), ...settings };
  const methods = METHOD_NAMES.map((method) =>
    comparedBy(network, planWinterize({ ...request, method })),
  );
  return {
    map: map.id,
    winterLowC: settings.winterLowC,
    proposed: proposedOf(methods, "drain-antifreeze") ?? null,
    methods,
  };
};

/** The frost verdict of a map's starting contents as JSON; for a night, how long everything wet lasts in it, the soonest first. */
export const verdictAnswer = (map: WaterMap, basis: FrostBasis, nightC?: number): object => {
  const network = buildNetwork(map);
  const contents = startingContents(network);
  const verdict = frostVerdict(network, contents, basis, undefined, { powered: true });
  const night =
    nightC === undefined
      ? undefined
      : nightWatch(network, contents, { ...COMMON_NIGHT, airC: nightC });
  return {
    map: map.id,
    holdsToC: verdict.holdsToC,
    weakestPart: verdict.weakest?.id ?? null,
    weakest: verdict.weakest,
    parts: verdict.owners.map(({ id, name, state, holdsToC, evidence, source, strength }) => ({
      id,
      name,
      state,
      holdsToC,
      evidence,
      source,
      strength,
    })),
    ...(night
      ? {
          night: night.map(({ id, name, firstIceS, throughS }) => ({
            id: cellTold(network, cellAt(network, id)),
            name,
            firstIceS,
            throughS,
          })),
        }
      : {}),
  };
};

type Values = Partial<Record<"winter-low" | "margin" | "product" | "jug", string>>;

/** Reads the settings of a plan from the command line's words. */
export const winterLow = (
  values: Values,
  units: UnitSystem,
): { ok: true; settings: Omit<PlanSettings, "basis"> } | { ok: false; problem: string } => {
  const low = parseQuantity(values["winter-low"] ?? "-18 C", "temperature", units);
  if (!low.ok) return { ok: false, problem: `--winter-low: ${low.problem}` };
  if (low.quantity.si > 0 || low.quantity.si < -50)
    return {
      ok: false,
      problem: `--winter-low: ${values["winter-low"]} is not between −50 and 0 °C`,
    };
  const margin = Number(values.margin ?? "5");
  if (!(margin >= 0 && margin <= 20))
    return { ok: false, problem: `--margin: "${values.margin}" is not between 0 and 20 K` };
  const strength = parseQuantity(values.product ?? "50 %", "fraction", units);
  if (!strength.ok) return { ok: false, problem: `--product: ${strength.problem}` };
  if (strength.quantity.si < 0.05 || strength.quantity.si > 0.6)
    return {
      ok: false,
      problem: `--product: ${values.product} is not between 5 and 60 %, where the tables end`,
    };
  const jug = parseQuantity(values.jug ?? "5 L", "volume", units);
  if (!jug.ok) return { ok: false, problem: `--jug: ${jug.problem}` };
  if (jug.quantity.si < 0.0005)
    return { ok: false, problem: `--jug: ${values.jug} is too small for a jug` };
  const percent = Math.round(strength.quantity.si * 100);
  return {
    ok: true,
    settings: {
      winterLowC: low.quantity.si,
      marginC: margin,
      product: {
        name: `propylene glycol antifreeze, ${percent} %`,
        strength: strength.quantity.si,
        jugM3: jug.quantity.si,
      },
    },
  };
};
