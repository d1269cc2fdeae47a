import { totalAboard, startingContents, volumeOf } from "../contents/index.ts";
import {
  comparedBy,
  type Method,
  METHOD_NAMES,
  type MethodCompared,
  planWinterize,
  standardRequest,
  startPhysical,
  type WinterizeRequest,
} from "../procedure/index.ts";
import { type Problem, surveyMap } from "../survey/index.ts";
import {
  buildNetwork,
  cellAt,
  cellName,
  controlsOfPart,
  type Part,
  paramsOf,
  roleOf,
  type WaterMap,
} from "../watermap/index.ts";
import { cushionOf, type Expansion, expansions } from "./expansion.ts";
import {
  type Days,
  daysOf,
  type Habits,
  isAfloat,
  type Limit,
  type LimitLoad,
  limitLoads,
  type TankLoad,
  tankLoads,
} from "./loads.ts";
import { type HotWait, hotWaits, type OutletFlow, outletFlows } from "./outlets.ts";
import { type ThroughHull, throughHulls } from "./through-hull.ts";
import { type Fall, fallsOf, withoutTrap } from "./waste-fall.ts";

/** What is to be said of a system, built or not: by the planners, the engine and the survey of the map, nothing by a second model. */

export interface AuditSettings {
  /** What a winterizing is planned with: the workshop's product, low, margin and rules. */
  readonly winter: Partial<
    Pick<WinterizeRequest, "winterLowC" | "marginC" | "product" | "basis" | "house">
  >;
  readonly habits: Habits;
  readonly limits: readonly Limit[];
}

export interface Buried {
  readonly part: string;
  readonly name: string;
  readonly access: string;
}

export interface Audit {
  readonly aboardM3: number;
  readonly methods: readonly MethodCompared[];
  readonly problems: readonly Problem[];
  readonly deadLegs: { readonly count: number; readonly volumeM3: number };
  /** Pieces that valves part from the rest. */
  readonly sections: number;
  /** Parts whose water nothing takes out. */
  readonly nothingClears: readonly { readonly id: string; readonly name: string }[];
  readonly outlets: readonly OutletFlow[];
  readonly hot: readonly HotWait[];
  /** What the accumulators aboard give between cut-out and cut-in, m3. */
  readonly cushionM3: number;
  readonly expansions: readonly Expansion[];
  /** Valves, drains, hatches, bowls and plugs that stand behind what is fixed. */
  readonly buried: readonly Buried[];
  /** Those of which nobody wrote down how they are come at. */
  readonly accessUnknown: number;
  readonly afloat: boolean;
  /** Holes through the hull, with what stands behind each. */
  readonly hull: readonly ThroughHull[];
  readonly loads: readonly TankLoad[];
  readonly limits: readonly LimitLoad[];
  readonly days: Days;
  readonly falls: readonly Fall[];
  /** Fixtures that drain past no trap. */
  readonly withoutTrap: readonly string[];
}

// "behind a fixed wall", "boxed in", "under a fixed floor".
const BURIED =
  /\bfixed (wall|panel|floor|furniture|bulkhead|seat|bed)\b|\b(walled|boxed|built) in\b/iu;

/** What must be come at when the furniture stands: whatever a hand turns, pulls or opens. */
const mustBeReached = (part: Part): boolean =>
  Number(paramsOf(part)["hatches"] ?? 0) > 0 ||
  roleOf(part).guard === "strainer" ||
  controlsOfPart(part).some((c) =>
    ["valve", "selector", "drain", "plug", "relief", "bowl", "cap"].includes(c.role),
  );

export const buriedParts = ({ parts }: Pick<WaterMap, "parts">): Buried[] =>
  parts.flatMap((p) =>
    mustBeReached(p) && BURIED.test(p.access ?? "")
      ? [{ part: p.id, name: p.name, access: p.access ?? "" }]
      : [],
  );

/** What one method comes to on a map: the slow part of an audit, one at a time. */
const auditMethod = (
  map: WaterMap,
  winter: AuditSettings["winter"],
  method: Method,
): MethodCompared => {
  const network = buildNetwork(map);
  const request = { ...standardRequest(network, startPhysical(network)), ...winter, method };
  return comparedBy(network, planWinterize(request));
};

/**
 * Audits a map. The same map gives the same answer.
 * @param methods how its winterizings come out, where somebody has worked them out already; else every method is planned
 */
export const auditMap = (
  map: WaterMap,
  settings: AuditSettings,
  methods: readonly MethodCompared[] = METHOD_NAMES.map((m) =>
    auditMethod(map, settings.winter, m),
  ),
): Audit => {
  const network = buildNetwork(map);
  const survey = surveyMap(map, network);
  const loads = tankLoads(network);
  return {
    aboardM3: volumeOf(totalAboard(startingContents(network))),
    methods,
    problems: survey.problems,
    deadLegs: {
      count: survey.deadLegs.length,
      volumeM3: survey.deadLegs.reduce((sum, l) => sum + l.volumeM3, 0),
    },
    sections: survey.sections.length,
    nothingClears: [...survey.clearing].flatMap(([id, how]) =>
      how === "nothing clears it" ? [{ id, name: cellName(network, cellAt(network, id)) }] : [],
    ),
    outlets: outletFlows(network),
    hot: hotWaits(network),
    cushionM3: cushionOf(network),
    expansions: expansions(network),
    buried: buriedParts(map),
    accessUnknown: map.parts.filter((p) => mustBeReached(p) && !p.access).length,
    afloat: isAfloat(network),
    hull: throughHulls(network),
    loads,
    limits: limitLoads(loads, settings.limits),
    days: daysOf(network, settings.habits),
    falls: fallsOf(network),
    withoutTrap: withoutTrap(network),
  };
};
