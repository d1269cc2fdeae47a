import { kindOfPart, type Network } from "../watermap/index.ts";
import { type Method, METHOD_BY_RULE, methodLabel, usesAir, usesProduct } from "./method.ts";
import { turnsOf } from "./run/turns.ts";
import { totalAboard, volumeOf } from "../contents/index.ts";
import type { Plan } from "./plan.ts";

/** Methods side by side for one unit and place: what each holds to, what it leaves wet, what it takes, and what it owes in spring. */

interface StillWet {
  readonly id: string;
  readonly name: string;
  readonly holdsToC: number;
  readonly why: string;
}

export interface MethodCompared {
  readonly method: Method;
  readonly label: string;
  readonly holdsToC: number | null;
  readonly weakest: string | null;
  /** Everything holds the winter low, and nothing rests on what is not known. */
  readonly protects: boolean;
  /** Why it cannot protect this unit, in a sentence; nothing where it does. */
  readonly cannot: string | null;
  readonly wet: readonly StillWet[];
  /** How many parts cannot be told. */
  readonly cannotTell: number;
  readonly antifreeze: {
    readonly medianM3: number;
    readonly p90M3: number;
    readonly jugs: number;
  };
  readonly minutes: number;
  readonly steps: number;
  readonly tools: readonly string[];
  /** What spring will owe. */
  readonly spring: readonly string[];
  /** Why it comes to nothing else than another method does here; nothing where it is a way of its own. */
  readonly sameAs: string | null;
}

const listed = (names: readonly string[], most = 4): string => {
  const all = [...new Set(names)];
  const shown = all.slice(0, most).join(", ");
  return all.length > most ? `${shown} and ${all.length - most} more` : shown;
};

/** Why a method leaves parts wet, by what the method is. */
const reasonOf = (network: Network, plan: Plan): string => {
  const { unprotected, method } = plan;
  const of = (id: string) => network.map.parts.find((p) => p.id === id);
  const pump = unprotected.some((u) => {
    const part = of(u.id);
    return part !== undefined && kindOfPart(part).role.pump === true;
  });
  if (method === "air")
    return pump
      ? "air from the inlet stops at the pump's own check, and a pump that has run dry still holds water in its head"
      : "only the way from the inlet to an open outlet is swept";
  if (method === "dry")
    return "a pump, a check, a closed line and whatever hangs below its ports keep water that gravity does not take";
  return "no stream that this method makes passes there";
};

const springOf = (network: Network, plan: Plan): string[] => {
  const { after } = plan;
  const aboard = totalAboard(after.contents);
  const glycolM3 = aboard.glycolM3;
  const turned = turnsOf(network, after.lineup).length;
  const plugs = network.openings.filter(
    (o) => o.use === "plug" && o.gate !== undefined && after.lineup[o.gate.key] === "open",
  ).length;
  const emptied = network.cells.some(
    (c, i) =>
      c.form === "vessel" &&
      c.kind?.role.energies !== undefined &&
      volumeOf(totalAboard([after.contents[i] ?? { plugs: [], source: "assumed" }])) <
        0.3 * c.capacityM3,
  );
  const bowls = plan.steps.filter((s) => s.id.endsWith(":bowl")).length;
  return [
    ...(glycolM3 > 1e-5
      ? [
          `antifreeze to flush out: {m3:${Number(volumeOf(aboard).toPrecision(3))}} of liquid aboard`,
        ]
      : ["no antifreeze to flush from the lines"]),
    ...(turned > 0 ? [`${turned} ${turned === 1 ? "handle" : "handles"} to turn back`] : []),
    ...(plugs > 0 ? [`${plugs} ${plugs === 1 ? "plug" : "plugs"} to refit`] : []),
    ...(emptied ? ["the heater to fill and prove full before it is heated"] : []),
    ...(bowls > 0
      ? [`${bowls} ${bowls === 1 ? "bowl" : "bowls"} to look at, cartridges to fit`]
      : []),
    ...(after.apart.length > 0 ? [`${after.apart.length} undone ends to make good`] : []),
  ];
};

/** What a method's plan comes to. */
export const comparedBy = (network: Network, plan: Plan): MethodCompared => {
  const wet = plan.unprotected.map(({ id, name, holdsToC, why }) => ({ id, name, holdsToC, why }));
  const parts = wet.filter((w) => network.map.parts.some((p) => p.id === w.id));
  const named = parts.length > 0 ? parts : wet;
  return {
    method: plan.method,
    label: methodLabel(plan.method),
    holdsToC: plan.holdsToC,
    weakest: plan.weakest?.name ?? null,
    protects: wet.length === 0 && plan.cannotTell.length === 0,
    cannot:
      wet.length === 0
        ? null
        : `Does not protect this unit: ${listed(named.map((w) => w.name.toLowerCase()))} ${named.length === 1 ? "stays" : "stay"} wet; ${reasonOf(network, plan)}.`,
    wet,
    cannotTell: plan.cannotTell.length,
    antifreeze: {
      medianM3: plan.antifreeze.medianM3,
      p90M3: plan.antifreeze.p90M3,
      jugs: plan.antifreeze.jugs,
    },
    minutes: plan.minutes,
    steps: plan.steps.length,
    tools: plan.carry.filter((line) => !line.includes(" jugs of ")),
    spring: springOf(network, plan),
    sameAs:
      plan.method === "suction" && !plan.steps.some((s) => s.id.endsWith(":suck"))
        ? `The same as ${methodLabel("antifreeze").toLowerCase()} here: no vessel aboard is without a drain, there is nothing to suck out.`
        : null,
  };
};

export interface Proposal {
  readonly method: Method;
  readonly reason: string;
}

const isWhole = (m: MethodCompared): boolean => m.wet.length === 0 && m.sameAs === null;

/**
 * Which method is proposed: the house's own where it protects the unit; else, of those that do, the one that takes least time; where none does,
 * the one that leaves least wet.
 */
export const proposedOf = (
  all: readonly MethodCompared[],
  houseRule: string,
): Proposal | undefined => {
  const house = METHOD_BY_RULE[houseRule];
  const own = all.find((m) => m.method === house);
  // A house that sucks out first does so where there is something to suck; elsewhere its plan is the plain one.
  if (own && own.wet.length === 0)
    return { method: own.method, reason: "the house's own method, and it protects this unit" };
  const whole = all.filter(isWhole).toSorted((a, b) => a.minutes - b.minutes);
  const [best] = whole;
  const not = own ? `; ${own.label.toLowerCase()}, the house's own, does not` : "";
  if (best)
    return {
      method: best.method,
      reason:
        whole.length === 1
          ? `the only one that protects this unit${not}`
          : `of those that protect this unit it takes least time${not}`,
    };
  const least = all
    .filter((m) => m.sameAs === null && (usesProduct(m.method) || usesAir(m.method)))
    .toSorted((a, b) => a.wet.length - b.wet.length || a.minutes - b.minutes)[0];
  return least
    ? { method: least.method, reason: "none protects all of it; this one leaves least wet" }
    : undefined;
};
