import { storedEnergyJ, waterEnergyJ } from "../fluid/index.ts";
import { PSI_PA } from "../quantity/index.ts";
import { turnsBetween } from "../survey/turns.ts";
import { inUseLineup, type Network, num, paramsOf } from "../watermap/index.ts";
import { testSections } from "./find.ts";
import type { Held } from "./held.ts";
import { longEnough, READINGS, stepFor } from "./hold-time.ts";
import { jointsIn } from "./joints.ts";
import { boundOf, partBy } from "./test-bound.ts";
import { limitsFor, refusedBy, ROUND_PA } from "./test-limits.ts";
import {
  isAir,
  isLevel,
  TEST_HOUSE,
  type TestPlan,
  type TestRequest,
  type TestTarget,
  WAY_LABELS,
} from "./test-plan.ts";
import { stepsOf } from "./test-steps.ts";
import { waterHeld } from "./wall.ts";

/** A pressure test worked out from the map: what is pressed, what is shut, how far, how long, and what makes it safe. */

const TIMES_TOO_COARSE = 4;
const TANK_HOLD_S = 1800;
const FIRST_PA = 10 * PSI_PA;

/** The largest flat panel of a tank: as it was measured, or its lid by its volume and depth, m2. */
const panelOf = ({ network, target, panelM2 }: TestRequest): number | undefined => {
  const tank = "part" in target ? partBy(network, target.part) : undefined;
  if (panelM2 !== undefined || !tank) return panelM2;
  return num(paramsOf(tank), "volumeL") / 1000 / num(paramsOf(tank), "depthM");
};

/** Plans a test from the map. Same request, same plan. */
export const planTest = (request: TestRequest): TestPlan => {
  const house = request.house ?? TEST_HOUSE;
  const { network, by, gauge } = request;
  const bound = boundOf(request);
  const limits = limitsFor(request, bound, house);
  const refused = bound.problem ?? refusedBy(request, limits);
  const isDone = refused === undefined;
  const pressurePa = isDone ? Math.floor(limits.pa / ROUND_PA) * ROUND_PA : 0;
  const volumeM3 = Math.max(
    1e-5,
    [...bound.cells].reduce((sum, c) => sum + (network.cells[c]?.capacityM3 ?? 0), 0),
  );
  const held: Held = isAir(by)
    ? { medium: "air", volumeM3 }
    : waterHeld(network, bound.cells, volumeM3, request.isUnknown !== true);
  const smallestM3S = house.smallest[held.medium];
  const isGauged = isDone && !isLevel(by);
  const least = by === "low-air" ? TANK_HOLD_S : house.minHoldS;
  const holdS = isGauged
    ? longEnough(held, gauge.stepPa, pressurePa, smallestM3S, least)
    : TANK_HOLD_S;
  const stepWanted = isGauged ? stepFor(held, gauge.stepPa, pressurePa, smallestM3S) : gauge.stepPa;
  const panelM2 = isAir(by) ? panelOf(request) : undefined;
  const plan: Omit<TestPlan, "steps"> = {
    title: `${bound.title}: ${WAY_LABELS[by]}`,
    by,
    target: request.target,
    ...(isDone ? {} : { refused }),
    lineup: bound.lineup,
    turns: turnsBetween(network, request.from ?? inUseLineup(network), bound.lineup),
    gaugeCell: bound.source,
    cells: [...bound.cells].toSorted((a, b) => a - b),
    owners: [
      ...new Set([...bound.cells].flatMap((c) => network.cells[c]?.ownerId ?? [])),
    ].toSorted(),
    sections: testSections(network, bound.cells).length,
    joints: jointsIn(network, bound.cells).length,
    leftOut: leftOutOf(network, bound.cells, request.target),
    held,
    pressurePa,
    weakest: limits.weakest,
    ...(request.isUnknown && pressurePa > FIRST_PA ? { firstPa: FIRST_PA } : {}),
    holdS,
    everyS: Math.max(60, Math.round(holdS / (READINGS - 1) / 60) * 60),
    readings: READINGS,
    smallestM3S,
    airJ: storedEnergyJ(volumeM3, pressurePa),
    waterJ: waterEnergyJ(volumeM3, pressurePa),
    ...(panelM2 === undefined ? {} : { panelN: panelM2 * pressurePa }),
    ...(gauge.stepPa > TIMES_TOO_COARSE * stepWanted
      ? {
          tooCoarse: `${gauge.name} shows steps of {g:${gauge.stepPa}}. For the leak that matters within two hours a step of {g:${Number(stepWanted.toPrecision(2))}} is wanted: this one is ${Math.round(gauge.stepPa / stepWanted)} times too coarse.`,
        }
      : {}),
  };
  return { ...plan, steps: isDone ? stepsOf(request, plan) : [] };
};

/** Parts that carry drinking water and are not under this test. */
const leftOutOf = (network: Network, cells: ReadonlySet<number>, target: TestTarget): string[] => {
  if ("part" in target) return [];
  const inTest = new Set([...cells].map((c) => network.cells[c]?.ownerId));
  return [
    ...new Set(
      network.cells.flatMap((c) =>
        c.side === "fresh" && c.part && c.capacityM3 > 0 && !inTest.has(c.ownerId)
          ? [c.part.name]
          : [],
      ),
    ),
  ];
};
