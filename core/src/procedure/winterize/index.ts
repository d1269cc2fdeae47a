import {
  type FrostBasis,
  type FrostVerdict,
  frostVerdict,
  type OwnerVerdict,
  unprotectedAt,
} from "../../contents/index.ts";
import { strengthForBurst, strengthForFreezing } from "../../fluid/index.ts";
import type { Network } from "../../watermap/index.ts";
import type { Physical } from "../physical.ts";
import type { Plan } from "../plan.ts";
import { doubtsOf } from "../doubt.ts";
import { estimateAntifreeze } from "./antifreeze.ts";
import { planAir } from "./air.ts";
import { planSuck } from "./suck.ts";
import { type Method, usesAir, usesProduct, usesSuction } from "../method.ts";
import { planBypass } from "./bypass.ts";
import { HOUSE_SETTINGS } from "../house-settings.ts";
import { type Context, houseOf, isNoGood, newContext, type WinterizeRequest } from "./context.ts";
import { carryList } from "./carry.ts";
import { planButtonUp, planMakeGood } from "./button-up.ts";
import { planDrain } from "./drain.ts";
import { type Entry, findEntries } from "./entry.ts";
import { planFill } from "./fill.ts";
import { planHandPush } from "./hand-push.ts";
import { asPractice } from "./practice.ts";
import { planSecure } from "./secure.ts";
import { planTraps } from "./traps.ts";

export const standardRequest = (network: Network, start: Physical): WinterizeRequest => ({
  network,
  start,
  cannot: [],
  ...HOUSE_SETTINGS,
});

/** The strength that holds a temperature on a basis; nothing if no mixture in the tables does. */
const strengthFor = (temperatureC: number, basis: FrostBasis): number | undefined => {
  const found =
    basis === "burst" ? strengthForBurst(temperatureC) : strengthForFreezing(temperatureC);
  return found.ok ? found.value : undefined;
};

// Never ask for more than this share of the product's own strength: the last of the water never leaves.
const REACHABLE_SHARE = 0.95;
const OVER_NEEDED = 0.02;

/** Strength to run each outlet to: what the winter low needs and a little, within what the product can give. */
export const targetStrengthFor = (
  request: Pick<WinterizeRequest, "winterLowC" | "marginC" | "basis" | "product" | "house">,
): number => {
  const needed = strengthFor(Math.min(0, request.winterLowC - request.marginC), request.basis) ?? 1;
  const reachable = request.product.strength * REACHABLE_SHARE;
  return Math.min(
    reachable,
    Math.max(
      needed + OVER_NEEDED,
      request.product.strength * 0.85,
      request.house?.leastStrength ?? 0,
    ),
  );
};

interface Laid {
  readonly context: Context;
  readonly entry: Entry | undefined;
  readonly verdict: FrostVerdict;
}

/** What comes before any product is drawn: the same whatever the order of the outlets. */
const prepared = (request: WinterizeRequest, method: Method): Context => {
  const context = newContext(request);
  planSecure(context);
  planDrain(context);
  if (usesSuction(method)) planSuck(context);
  if (usesAir(method)) planAir(context);
  return context;
};

/** All that is done, on a context of its own. */
const laidOn = (
  before: Context,
  method: Method,
  strength: number,
  { nearestFirst, handFirst }: Order,
  goodBelowM3 = Number.POSITIVE_INFINITY,
): Laid | undefined => {
  const context: Context = {
    ...before,
    request: { ...before.request, nearestFirst },
    steps: [...before.steps],
    swept: new Set(before.swept),
    closed: new Map(before.closed),
    keptOut: new Set(before.keptOut),
    goodBelowM3,
  };
  const entries = usesProduct(method) ? findEntries(context) : [];
  entries.forEach((entry, i) => {
    planBypass(context, entry);
    if (i === 0 && handFirst) planHandPush(context, strength, 1);
    planFill(context, entry, strength, i === 0 ? "" : `:${i + 1}`);
    // The next pump draws by its own way in: this one's is made good first.
    if (i < entries.length - 1) planMakeGood(context, entry, i);
  });
  if (usesProduct(method)) planHandPush(context, strength);
  planTraps(context, strength);
  if (isNoGood(context)) return undefined;
  planButtonUp(context, entries.at(-1), entries.length - 1);
  const { physical } = context;
  const verdict = frostVerdict(
    before.network,
    physical.contents,
    before.request.basis,
    physical.measured,
  );
  return { context, entry: entries[0], verdict };
};

const SAME_M3 = 1e-5;
// More is pumped by hand for no less than this (our own).
const WORTH_PUMPING_M3 = 1e-4;

interface Order {
  readonly nearestFirst: boolean;
  /** What only a hand pump reaches is filled before the pump draws. */
  readonly handFirst: boolean;
}

/**
 * Another order where it leaves less wet, or as much and draws less; the first where they come to the same.
 * @param worthM3 so much less must the other draw
 */
const lesser = (
  request: WinterizeRequest,
  first: Laid,
  other: (goodBelowM3: number) => Laid | undefined,
  worthM3 = SAME_M3,
): Laid => {
  const wet = ({ verdict }: Laid): number => unprotectedAt(verdict, request.winterLowC).length;
  const goodBelowM3 = first.context.physical.drawnM3 - worthM3;
  // Where nothing is left wet, only one that draws less can be better: it is laid out no further than it does.
  const second = other(wet(first) === 0 ? goodBelowM3 : Number.POSITIVE_INFINITY);
  if (!second) return first;
  const isBetter =
    wet(second) < wet(first) ||
    (wet(second) === wet(first) && second.context.physical.drawnM3 < goodBelowM3);
  return isBetter ? second : first;
};

/**
 * The order that leaves least wet and draws least, each done on the map: the outlets farthest or nearest first, and what only a hand pump
 * reaches after the pump or before it. None is best on every unit.
 */
const laidOut = (request: WinterizeRequest, method: Method, strength: number): Laid => {
  const before = prepared(request, method);
  const whole = (order: Order): Laid => laidOn(before, method, strength, order) as Laid;
  if (!usesProduct(method)) return whole({ nearestFirst: false, handFirst: false });
  // Asked for by one order it is that order alone, to show what it costs.
  if (request.nearestFirst !== undefined)
    return whole({ nearestFirst: request.nearestFirst, handFirst: false });
  const first = lesser(request, whole({ nearestFirst: false, handFirst: false }), (goodBelowM3) =>
    laidOn(before, method, strength, { nearestFirst: true, handFirst: false }, goodBelowM3),
  );
  const { context } = first;
  // Begun is begun: once something has been drawn, what comes next is not put behind another order.
  if (request.start.drawnM3 > 0 || !context.steps.some((s) => s.id.endsWith(":hand"))) return first;
  const nearestFirst = context.request.nearestFirst === true;
  return lesser(
    request,
    first,
    (goodBelowM3) =>
      laidOn(before, method, strength, { nearestFirst, handFirst: true }, goodBelowM3),
    WORTH_PUMPING_M3,
  );
};

/**
 * Plans a winterizing by one of the methods from the map alone, and proves it by doing it on the map.
 * The plan starts from the unit as it stands: what is already done asks for no step. Same request, same plan.
 */
export const planWinterize = (request: WinterizeRequest): Plan => {
  const strength = targetStrengthFor(request);
  const method = request.method ?? "antifreeze";
  const { context, entry, verdict } = laidOut(request, method, strength);
  const limited = verdict.owners.filter((o) => o.holdsToC !== null);
  const unprotected = unprotectedAt(verdict, request.winterLowC).map((o) => ({
    id: o.id,
    name: o.name,
    holdsToC: o.holdsToC ?? 0,
    why: whyNot(context, o),
  }));
  const cannotTell = doubtsOf(
    request.network,
    request.start,
    context.steps.flatMap((s) => s.actions),
    verdict,
    {
      basis: request.basis,
      productStrength: request.product.strength,
      measured: context.physical.measured,
      winterLowC: request.winterLowC,
    },
  );
  const antifreeze = estimateAntifreeze(
    request.network,
    context.steps,
    context.swept,
    request.product.jugM3,
    houseOf(context).reserve,
  );
  return {
    method,
    steps: context.steps.map((s) => asPractice(s, method)),
    antifreeze,
    targetStrength: strength,
    holdsToC: verdict.holdsToC,
    weakest: verdict.weakest,
    unprotected,
    meetsMargin:
      cannotTell.length === 0 &&
      limited.every(
        (o) =>
          (o.holdsToC ?? Number.NEGATIVE_INFINITY) <= request.winterLowC - request.marginC + 1e-9,
      ),
    cannotTell,
    verdict,
    minutes: Math.round(context.steps.reduce((sum, s) => sum + s.minutes, 0)),
    carry: carryList(context.network, context.steps, antifreeze, request.product.name),
    entry: usesProduct(method)
      ? (entry?.label ?? "none: nothing on this map lets antifreeze in")
      : "none: this method draws no antifreeze",
    after: context.physical,
  };
};

const whyNot = (context: Context, owner: OwnerVerdict): string => {
  const { cannot } = context.request;
  // Its own answer, or that of a step without which nothing on it may be opened.
  const closed = [...context.closed].find(([, parts]) => parts.includes(owner.id));
  const said =
    cannot.find((c) => c.parts.includes(owner.id)) ??
    (closed && cannot.findLast((c) => context.request.undone?.includes(c.stepId)));
  return said ? `${owner.evidence}; not done: ${said.reason}` : owner.evidence;
};

export { ANTIFREEZE_TRIALS } from "./antifreeze.ts";
export { type WinterizeRequest } from "./context.ts";
