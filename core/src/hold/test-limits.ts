import { PA_PER_M } from "../quantity/index.ts";
import { num, paramsOf, roleOf, weakestOf } from "../watermap/index.ts";
import { pressedParts } from "./bound.ts";
import { type Bound, hatchesOf, headOnLidM, partBy, ratedPa } from "./test-bound.ts";
import { isLevel, type TestHouse, type TestRequest, type TestWay } from "./test-plan.ts";

/** How far a test may be pressed: what bears least, the house's figure, the tank's own limit. */

export interface Limits {
  readonly pa: number;
  readonly weakest: { readonly name: string; readonly pa: number };
  readonly refused?: string;
}

const SHARE_OF_WEAKEST = 0.9;
const HALF = 0.5;
/** Pressures are set in such steps; less than one is not pressed, Pa. */
export const ROUND_PA = 500;

/** A tank is pressed by what stands in it, or by as much air as its limit allows. */
const limitsOfTank = (request: TestRequest, house: TestHouse): Limits => {
  const { network, by, target, tankLimitPa } = request;
  const part = partBy(network, "part" in target ? target.part : "");
  const name = part?.name ?? "tank";
  if (target.is === "hatches" && hatchesOf(part) === 0)
    return { pa: 0, weakest: { name, pa: 0 }, refused: "There is no hatch on this tank's map." };
  if (target.is === "hatches" && isLevel(by)) {
    const pa = part ? headOnLidM(network, part) * PA_PER_M : 0;
    return pa > 0
      ? { pa, weakest: { name: `${name}, its lid`, pa } }
      : {
          pa,
          weakest: { name, pa },
          refused:
            "Its filler ends no higher than its lid, so that a fill to the brim leaves the hatches unloaded: low air within its maker's limit shows them.",
        };
  }
  if (isLevel(by)) {
    const pa = part ? num(paramsOf(part), "depthM") * PA_PER_M : 0;
    return { pa, weakest: { name, pa } };
  }
  return tankLimitPa === undefined
    ? {
        pa: 0,
        weakest: { name, pa: 0 },
        refused: `Air on a tank only with its maker's limit, or a figure that its owner has signed: none is known. ${
          target.is === "hatches" && part && headOnLidM(network, part) <= 0
            ? "No filler stands over this lid, so water loads it neither: ask its maker."
            : "Fill it to the brim instead."
        }`,
      }
    : {
        pa: Math.min(tankLimitPa, house.tankPa),
        weakest: { name: `${name}, its limit`, pa: tankLimitPa },
      };
};

/** What bears least of what is pressed: a pipe by its rating, a vessel by its label. */
const weakestIn = ({ network }: TestRequest, { cells }: Bound): Limits["weakest"] => {
  const runs = new Set<string>([...cells].flatMap((c) => network.cells[c]?.run?.id ?? []));
  const rated = pressedParts(network, cells).flatMap((p) => {
    const pa = ratedPa(p);
    return pa === undefined ? [] : [{ name: p.name, pa }];
  });
  return [weakestOf(network, (id) => runs.has(id)), ...rated].reduce((a, b) =>
    b.pa < a.pa ? b : a,
  );
};

const limitsOfPump = (request: TestRequest, weakest: Limits["weakest"]): Limits => {
  const { network, target } = request;
  const pump = "source" in target ? partBy(network, target.source) : undefined;
  const cutOut = pump && roleOf(pump).pump ? Number(paramsOf(pump)["cutOutPa"] ?? 0) : 0;
  if (cutOut <= 0)
    return {
      pa: 0,
      weakest,
      refused:
        "A test with the unit's own pump begins at a pump that stops by itself at a pressure of its own.",
    };
  return cutOut > weakest.pa * SHARE_OF_WEAKEST
    ? {
        pa: 0,
        weakest,
        refused: `The pump stops only at {pa:${cutOut}}, and the ${weakest.name} bears {pa:${Math.round(weakest.pa)}}: look at the map, and do not run it against shut taps.`,
      }
    : { pa: cutOut, weakest };
};

export const limitsFor = (request: TestRequest, bound: Bound, house: TestHouse): Limits => {
  const { network, by } = request;
  if (by === "low-air" || isLevel(by)) return limitsOfTank(request, house);
  const weakest = weakestIn(request, bound);
  if (!Number.isFinite(weakest.pa))
    return {
      pa: 0,
      weakest: { name: weakest.name, pa: 0 },
      refused:
        "Nothing here has a rating that is known: not pressed before its pipe has been named.",
    };
  if (by === "air")
    return { pa: Math.min(house.airPa, house.airCeilingPa, weakest.pa * HALF), weakest };
  if (by === "pump") return limitsOfPump(request, weakest);
  const set = network.map.parts
    .filter(
      (p) =>
        by === "supply" &&
        roleOf(p).guard === "regulator" &&
        [...bound.cells].some((c) => network.cells[c]?.ownerId === p.id),
    )
    .map((p) => num(paramsOf(p), "setPa"));
  return { pa: Math.min(house.waterPa, weakest.pa * SHARE_OF_WEAKEST, ...set), weakest };
};

const IS_OF_TANK: ReadonlySet<TestWay> = new Set(["brim", "low-air", "head"]);

/** Why a test is not done so far as its way, its gauge and its figures go. */
export const refusedBy = (request: TestRequest, limits: Limits): string | undefined => {
  const { target, by, gauge } = request;
  const tank = "part" in target;
  if (tank && !IS_OF_TANK.has(by))
    return "A tank stands open: it is filled to the brim, or pressed with low air where its maker allows it.";
  if (!tank && IS_OF_TANK.has(by))
    return "Pipes are pressed with water or with regulated air; the brim is for tanks.";
  if (limits.refused !== undefined) return limits.refused;
  if (limits.pa < ROUND_PA)
    return `What bears least, the ${limits.weakest.name.toLowerCase()}, allows {g:${Math.round(limits.pa)}}: too little to be set or read.`;
  // A gauge that ends below what is pressed shows nothing, and may burst.
  return !isLevel(by) && gauge.rangePa !== undefined && gauge.rangePa < limits.pa
    ? `${gauge.name} ends at {g:${gauge.rangePa}}, below the {g:${Math.round(limits.pa)}} that is pressed: take another.`
    : undefined;
};
