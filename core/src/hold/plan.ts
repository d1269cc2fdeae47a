import { storedEnergyJ, waterEnergyJ } from "../fluid/index.ts";
import { PA_PER_M, PSI_PA } from "../quantity/index.ts";
import { type Turn, turnsBetween } from "../survey/turns.ts";
import {
  type Lineup,
  type Network,
  num,
  type Part,
  paramsOf,
  roleOf,
  weakestOf,
} from "../watermap/index.ts";
import { isVented, pressedCells, pressedParts, pressureSources, shutForTest } from "./bound.ts";
import { type Held, type HoldReading, instrumentsSchema } from "./held.ts";
import { jointsIn } from "./joints.ts";
import { holdPolicy, judgeHold } from "./judge.ts";
import { testSections } from "./find.ts";
import { waterHeld } from "./wall.ts";

/** A pressure test worked out from the map: what is pressed, what is shut, how far, how long, and what makes it safe. */

export const TEST_WAYS = ["supply", "pump", "hand-pump", "air", "brim", "low-air", "head"] as const;
export type TestWay = (typeof TEST_WAYS)[number];

export const WAY_LABELS: Readonly<Record<TestWay, string>> = {
  supply: "supply water through a regulator",
  pump: "the unit's own pump",
  "hand-pump": "a hand pump and water",
  air: "regulated air",
  brim: "water to the brim",
  "low-air": "low air",
  head: "water standing in it",
};

export type TestTarget =
  | { readonly is: "pressure-side"; readonly source: string }
  | { readonly is: "section"; readonly source: string; readonly section: string }
  | { readonly is: "tank"; readonly part: string }
  | { readonly is: "waste"; readonly part: string };

export interface TestHouse {
  /** Pipes under water are taken to this, Pa. */
  readonly waterPa: number;
  /** Pipes under air, and never above the ceiling, Pa. */
  readonly airPa: number;
  readonly airCeilingPa: number;
  /** A tank under air, where its maker allows it, Pa. */
  readonly tankPa: number;
  readonly minHoldS: number;
  readonly smallest: { readonly air: number; readonly water: number };
}

/** 60 psi of water, 40 psi of air, 1.5 psi on a tank (common practice, no source); a quarter of an hour for pipe (IPC 312.5, from memory). */
export const TEST_HOUSE: TestHouse = {
  waterPa: 60 * PSI_PA,
  airPa: 40 * PSI_PA,
  airCeilingPa: 50 * PSI_PA,
  tankPa: 1.5 * PSI_PA,
  minHoldS: 900,
  smallest: { air: holdPolicy("air").smallestM3S, water: holdPolicy("water").smallestM3S },
};

export interface TestRequest {
  readonly network: Network;
  readonly target: TestTarget;
  readonly by: TestWay;
  readonly gauge: { readonly name: string; readonly stepPa: number; readonly rangePa?: number };
  readonly house?: TestHouse;
  /** As the unit stands; in use where nobody said. */
  readonly from?: Lineup;
  /** What the tank's maker allows, or its owner signed for, Pa. */
  readonly tankLimitPa?: number;
  /** Largest flat panel or hatch, m2; from the tank's own size where nobody measured. */
  readonly panelM2?: number;
  /** Nobody knows this system yet: it is pressed low first. */
  readonly isUnknown?: boolean;
}

interface TestStep {
  readonly id: string;
  readonly title: string;
  readonly rows: readonly string[];
  readonly why: string;
  readonly cautions: readonly string[];
}

export interface TestPlan {
  readonly title: string;
  readonly by: TestWay;
  /** Why it is not done; everything else is then as far as it came. */
  readonly refused?: string;
  readonly lineup: Lineup;
  readonly turns: readonly Turn[];
  readonly gaugeCell: number;
  /** Cells, and parts and pipes, that are under test. */
  readonly cells: readonly number[];
  readonly owners: readonly string[];
  readonly sections: number;
  readonly joints: number;
  /** What this test says nothing of. */
  readonly leftOut: readonly string[];
  readonly held: Held;
  readonly pressurePa: number;
  readonly weakest: { readonly name: string; readonly pa: number };
  readonly firstPa?: number;
  readonly holdS: number;
  readonly everyS: number;
  readonly readings: number;
  readonly smallestM3S: number;
  readonly airJ: number;
  readonly waterJ: number;
  readonly panelN?: number;
  /** Said before the test where the gauge cannot show the leak that matters. */
  readonly tooCoarse?: string;
  readonly steps: readonly TestStep[];
}

const TIMES_TOO_COARSE = 4;
const LONGEST_WANTED_S = 7200;
const TANK_HOLD_S = 1800;
const FIRST_PA = 10 * PSI_PA;
const SHARE_OF_WEAKEST = 0.9;
const HALF = 0.5;

const isAir = (by: TestWay): boolean => by === "air" || by === "low-air";

const partBy = (network: Network, id: string): Part | undefined =>
  network.map.parts.find((p) => p.id === id);

interface Bound {
  readonly lineup: Lineup;
  readonly source: number;
  readonly cells: ReadonlySet<number>;
  readonly title: string;
  readonly problem?: string;
}

/** A valve or selector whose turning keeps the pressure off a tank that stands open. */
const keptOffTanks = (network: Network, lineup: Lineup, source: number): Lineup => {
  const tanks = (of: Lineup): number =>
    [...pressedCells(network, of, source)].filter((c) => isVented(network, c)).length;
  if (tanks(lineup) === 0) return lineup;
  for (const control of network.controls) {
    if (control.spec.role !== "valve" && control.spec.role !== "selector") continue;
    for (const { name } of control.spec.positions) {
      const turned = { ...lineup, [control.key]: name };
      if (tanks(turned) === 0) return turned;
    }
  }
  return lineup;
};

const boundOfPipes = (
  request: TestRequest,
  target: Extract<TestTarget, { source: string }>,
): Bound => {
  const { network } = request;
  const found = pressureSources(network).find((s) => s.id === target.source);
  const shut = shutForTest(network, request.from);
  if (!found)
    return {
      lineup: shut,
      source: 0,
      cells: new Set(),
      title: "Pressure side",
      problem: "There is no such place to let pressure in on this map.",
    };
  const lineup = keptOffTanks(network, shut, found.cell);
  const all = pressedCells(network, lineup, found.cell);
  const tank = [...all].find((c) => isVented(network, c));
  const title = `Pressure side, from the ${found.name.toLowerCase()}`;
  if (tank !== undefined)
    return {
      lineup,
      source: found.cell,
      cells: all,
      title,
      problem: `The ${network.cells[tank]?.part?.name.toLowerCase() ?? "tank"} stands open on this way and no single valve shuts it off: it would be pressed, or let everything out.`,
    };
  if (target.is === "pressure-side") return { lineup, source: found.cell, cells: all, title };
  const section = testSections(network, all).find((s) => s.id === target.section);
  if (!section)
    return {
      lineup,
      source: found.cell,
      cells: all,
      title,
      problem: "There is no such section under this source.",
    };
  const bounds = network.controls.filter(
    (c) =>
      c.spec.role === "valve" &&
      network.links.some(
        (l) =>
          l.gates.some((g) => g.key === c.key) &&
          section.cells.includes(l.a) !== section.cells.includes(l.b),
      ),
  );
  return {
    lineup: { ...lineup, ...Object.fromEntries(bounds.map((c) => [c.key, "shut"])) },
    source: found.cell,
    cells: new Set(section.cells),
    title: `Section of the ${partBy(network, section.owners[0] ?? "")?.name.toLowerCase() ?? "pressure side"}, ${section.joints} joints`,
  };
};

const boundOf = (request: TestRequest): Bound => {
  const { network, target } = request;
  if (target.is === "pressure-side" || target.is === "section")
    return boundOfPipes(request, target);
  const part = partBy(network, target.part);
  const cell = network.cells.findIndex((c) => c.ownerId === target.part && c.form === "vessel");
  const lineup = shutForTest(network, request.from);
  return cell < 0 || !part
    ? {
        lineup,
        source: 0,
        cells: new Set(),
        title: "Tank",
        problem: "There is no such tank on this map.",
      }
    : { lineup, source: cell, cells: new Set([cell]), title: part.name };
};

const wayFits = ({ target, by }: TestRequest): string | undefined => {
  const tank = target.is === "tank" || target.is === "waste";
  if (tank && !["brim", "low-air", "head"].includes(by))
    return "A tank stands open: it is filled to the brim, or pressed with low air where its maker allows it.";
  if (!tank && ["brim", "low-air", "head"].includes(by))
    return "Pipes are pressed with water or with regulated air; the brim is for tanks.";
  return undefined;
};

interface Limits {
  readonly pa: number;
  readonly weakest: { readonly name: string; readonly pa: number };
  readonly refused?: string;
}

const limitsFor = (request: TestRequest, bound: Bound, house: TestHouse): Limits => {
  const { network, by } = request;
  const runs = new Set<string>(
    [...bound.cells].flatMap((c) => {
      const run = network.cells[c]?.run;
      return run ? [run.id] : [];
    }),
  );
  const pipes = weakestOf(network, (id) => runs.has(id));
  const rated = pressedParts(network, bound.cells).flatMap((p) => {
    const bar = Number(paramsOf(p)["ratedBar"] ?? 0);
    return bar > 0 ? [{ name: p.name, pa: bar * 1e5 }] : [];
  });
  const weakest = [pipes, ...rated].reduce((a, b) => (b.pa < a.pa ? b : a));
  if (by === "low-air" || by === "brim" || by === "head") {
    const limit = request.tankLimitPa;
    const part = partBy(network, "part" in request.target ? request.target.part : "");
    const depthM = part ? num(paramsOf(part), "depthM") : 0;
    if (by !== "low-air")
      return {
        pa: depthM * PA_PER_M,
        weakest: { name: part?.name ?? "tank", pa: depthM * PA_PER_M },
      };
    return limit === undefined
      ? {
          pa: 0,
          weakest: { name: part?.name ?? "tank", pa: 0 },
          refused:
            "Air on a tank only with its maker's limit, or a figure that its owner has signed: none is known. Fill it to the brim instead.",
        }
      : {
          pa: Math.min(limit, house.tankPa),
          weakest: { name: `${part?.name ?? "tank"}, its limit`, pa: limit },
        };
  }
  if (!Number.isFinite(weakest.pa))
    return {
      pa: 0,
      weakest: { name: weakest.name, pa: 0 },
      refused:
        "Nothing here has a rating that is known: not pressed before its pipe has been named.",
    };
  if (by === "air")
    return { pa: Math.min(house.airPa, house.airCeilingPa, weakest.pa * HALF), weakest };
  if (by === "pump") {
    const pump = "source" in request.target ? partBy(network, request.target.source) : undefined;
    const cutOut = pump && roleOf(pump).pump ? Number(paramsOf(pump)["cutOutPa"] ?? 0) : 0;
    return cutOut > 0
      ? { pa: cutOut, weakest }
      : { pa: 0, weakest, refused: "A test with the unit's own pump begins at the pump." };
  }
  const regulator = network.map.parts.find(
    (p) =>
      roleOf(p).guard === "regulator" &&
      [...bound.cells].some((c) => network.cells[c]?.ownerId === p.id),
  );
  const set = regulator ? num(paramsOf(regulator), "setPa") : Number.POSITIVE_INFINITY;
  return {
    pa: Math.min(
      house.waterPa,
      weakest.pa * SHARE_OF_WEAKEST,
      by === "supply" ? set : Number.POSITIVE_INFINITY,
    ),
    weakest,
  };
};

const volumeOf = (network: Network, cells: ReadonlySet<number>): number =>
  [...cells].reduce((sum, c) => sum + (network.cells[c]?.capacityM3 ?? 0), 0);

/** A gauge that ends below what is pressed shows nothing, and may burst. */
const gaugeEnds = ({ by, gauge }: TestRequest, pa: number): string | undefined =>
  by !== "brim" && by !== "head" && gauge.rangePa !== undefined && gauge.rangePa < pa
    ? `${gauge.name} ends at {g:${gauge.rangePa}}, below the {g:${Math.round(pa)}} that is pressed: take another.`
    : undefined;

const ROUND_PA = 500;
const READINGS = 13;
// A quarter of an hour, and each time half as long again, to a night.
const LONGER = 1.5;
const LONGEST_HOLD_S = 16 * 3600;

/** The smallest leak that a calm hold of so long would show, m3/s: the judge is asked itself, with readings that do not move. */
const wouldShow = (held: Held, stepPa: number, pressurePa: number, seconds: number): number => {
  const readings: HoldReading[] = Array.from({ length: READINGS }, (_, i) => ({
    atS: (i * seconds) / (READINGS - 1),
    pressurePa,
    temperatureC: 20,
    barometerPa: 101_325,
  }));
  return judgeHold(held, instrumentsSchema.parse({ gauge: { stepPa } }), readings, {
    ...holdPolicy(held.medium),
    leastS: 0,
  }).smallestDetectable;
};

/** How long it must be held to show the leak that matters with this gauge; to the next minute. */
const longEnough = (
  held: Held,
  stepPa: number,
  pressurePa: number,
  smallestM3S: number,
  leastS: number,
): number => {
  let seconds = leastS;
  while (seconds < LONGEST_HOLD_S && wouldShow(held, stepPa, pressurePa, seconds) > smallestM3S)
    seconds *= LONGER;
  return Math.ceil(Math.min(seconds, LONGEST_HOLD_S) / 60) * 60;
};

/** The coarsest step with which two hours would show it, Pa. */
const stepFor = (held: Held, stepPa: number, pressurePa: number, smallestM3S: number): number => {
  const shown = wouldShow(held, stepPa, pressurePa, LONGEST_WANTED_S);
  return shown > 0 ? (stepPa * smallestM3S) / shown : stepPa;
};

/** Plans a test from the map. Same request, same plan. */
export const planTest = (request: TestRequest): TestPlan => {
  const house = request.house ?? TEST_HOUSE;
  const { network, by, gauge } = request;
  const bound = boundOf(request);
  const limits = limitsFor(request, bound, house);
  const refused =
    wayFits(request) ?? bound.problem ?? limits.refused ?? gaugeEnds(request, limits.pa);
  const volumeM3 = Math.max(volumeOf(network, bound.cells), 1e-5);
  const held: Held = isAir(by)
    ? { medium: "air", volumeM3 }
    : waterHeld(network, bound.cells, volumeM3, request.isUnknown !== true);
  const pressurePa =
    refused === undefined ? Math.max(ROUND_PA, Math.floor(limits.pa / ROUND_PA) * ROUND_PA) : 0;
  const smallestM3S = house.smallest[held.medium];
  const isLevel = by === "brim" || by === "head";
  const least = by === "low-air" || isLevel ? TANK_HOLD_S : house.minHoldS;
  const isHeld = !isLevel && refused === undefined;
  const holdS = isHeld
    ? longEnough(held, gauge.stepPa, pressurePa, smallestM3S, least)
    : TANK_HOLD_S;
  const stepWanted = isHeld ? stepFor(held, gauge.stepPa, pressurePa, smallestM3S) : gauge.stepPa;
  const target = "part" in request.target ? partBy(network, request.target.part) : undefined;
  const panelM2 =
    request.panelM2 ??
    (target
      ? num(paramsOf(target), "volumeL") / 1000 / num(paramsOf(target), "depthM")
      : undefined);
  const turns = turnsBetween(network, request.from ?? {}, bound.lineup);
  const pressed = new Set<string>([...bound.cells].flatMap((c) => network.cells[c]?.ownerId ?? []));
  const plan: Omit<TestPlan, "steps"> = {
    title: `${bound.title}: ${WAY_LABELS[by]}`,
    by,
    ...(refused === undefined ? {} : { refused }),
    lineup: bound.lineup,
    turns,
    gaugeCell: bound.source,
    cells: [...bound.cells].toSorted((a, b) => a - b),
    owners: [...pressed].toSorted(),
    sections: testSections(network, bound.cells).length,
    joints: jointsIn(network, bound.cells).length,
    leftOut: leftOutOf(network, bound.cells, request.target),
    held,
    pressurePa,
    weakest: limits.weakest,
    ...(request.isUnknown && pressurePa > FIRST_PA ? { firstPa: FIRST_PA } : {}),
    holdS,
    everyS: Math.max(60, Math.round(holdS / 12 / 60) * 60),
    readings: READINGS,
    smallestM3S,
    airJ: storedEnergyJ(volumeM3, pressurePa),
    waterJ: waterEnergyJ(volumeM3, pressurePa),
    ...(isAir(by) && panelM2 !== undefined ? { panelN: panelM2 * pressurePa } : {}),
    ...(!isLevel && gauge.stepPa > TIMES_TOO_COARSE * stepWanted
      ? {
          tooCoarse: `${gauge.name} shows steps of {g:${gauge.stepPa}}. For the leak that matters within two hours a step of {g:${Number(stepWanted.toPrecision(2))}} is wanted: this one is ${Math.round(gauge.stepPa / stepWanted)} times too coarse.`,
        }
      : {}),
  };
  return { ...plan, steps: refused === undefined ? stepsOf(request, plan) : [] };
};

/** Parts that carry drinking water and are not under this test. */
const leftOutOf = (network: Network, cells: ReadonlySet<number>, target: TestTarget): string[] => {
  if (target.is === "waste" || target.is === "tank") return [];
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

const kj = (joules: number): string =>
  joules >= 100
    ? `${(joules / 1000).toFixed(1)} kJ`
    : joules >= 1
      ? `${joules.toFixed(0)} J`
      : `${joules.toFixed(2)} J`;

const stepsOf = (request: TestRequest, plan: Omit<TestPlan, "steps">): TestStep[] => {
  const { by, turns, pressurePa, weakest, firstPa, held } = plan;
  const air = isAir(by);
  const isLevel = by === "brim" || by === "head";
  const steps: TestStep[] = [];
  const step = (
    id: string,
    title: string,
    rows: readonly string[],
    why: string,
    cautions: readonly string[] = [],
  ): void => {
    steps.push({ id, title, rows, why, cautions });
  };
  step(
    "secure",
    "Make it ready",
    [
      "Heaters off at the breaker and the cock, and cool",
      ...turns.map((t) => `${t.tag ? `${t.tag} ` : ""}${t.name}: ${t.toLabel}`),
    ],
    plan.leftOut.length > 0
      ? `This test says nothing of: ${plan.leftOut.slice(0, 8).join(", ").toLowerCase()}${plan.leftOut.length > 8 ? ` and ${plan.leftOut.length - 8} more` : ""}.`
      : "Everything that would let it out is shut.",
  );
  if (isLevel) {
    step(
      "fill",
      by === "brim" ? "Fill to the brim and mark it" : "Fill to the mark with the gates shut",
      [
        "Filled slowly, vent seen to breathe",
        "Level marked with tape, the time beside it",
        "Every seam and fitting looked at, dry",
      ],
      `It loads the bottom by its depth, {g:${Math.round(pressurePa)}}, and the lid not at all.`,
    );
    step(
      "relook",
      "Look again",
      [
        "After half an hour: level at the mark, seams dry",
        "Next morning: level at the mark, seams dry",
      ],
      "A weep of a drop every few seconds shows in half an hour only as a damp seam: too short is no proof.",
    );
    return steps;
  }
  if (air)
    step(
      "air-safe",
      "What makes air safe",
      [
        by === "air"
          ? "Makers of pipe and fittings, and the local code, allow air here: read, not remembered"
          : `Relief in the rig that opens at {g:${Math.round(pressurePa)}}, tried`,
        "Source limited: regulator and a hand pump or a small bottle, never the compressor by itself",
        "Eye protection; nobody before a plug, a hatch or a joint; others told",
      ],
      `Water comes first: the same volume of water at this pressure stores ${kj(plan.waterJ)}, air ${kj(plan.airJ)}. Air only where water would freeze or do harm.`,
      [
        ...(plan.panelN === undefined
          ? []
          : [
              `On the largest panel it presses with {n:${Math.round(plan.panelN)}}: lids lift, flat sides bulge.`,
            ]),
        "The gauge reads zero before a plug or a hatch is undone.",
      ],
    );
  step(
    "rig",
    "Rig on, gauge read",
    [
      "Shut valve, then gauge, then what is tested",
      `Gauge: ${request.gauge.name}, at its zero with nothing on it`,
      "Thermometer on the pipe or tank that is tested, out of the sun; barometer at hand",
    ],
    plan.tooCoarse ?? "The gauge stays on the side that is tested.",
  );
  if (firstPa !== undefined)
    step(
      "first",
      `First pressure: {g:${Math.round(firstPa)}} only`,
      [
        "Somebody inside, a hand on the valve outside",
        "Every joint that can be seen looked at and listened to",
      ],
      "Nobody has pressed this system yet.",
    );
  step(
    "press",
    `Press to {g:${Math.round(pressurePa)}}`,
    [
      held.medium === "water"
        ? "Air bled at every outlet, the highest last; all shut again"
        : "Raised slowly, in three goes",
      `Gauge at {g:${Math.round(pressurePa)}}, not above`,
      "Source shut and taken off, or its valve seen to hold",
    ],
    `${weakest.name} bears {pa:${Math.round(weakest.pa)}}; pressed to no more than ${air ? "half of that" : "nine tenths of that"}, and the house's figure.`,
  );
  step(
    "hold",
    `Hold {s:${plan.holdS}}, a reading every {s:${plan.everyS}}`,
    ["First reading when the pressure has stood for a minute"],
    `The leak that matters, {m3:${Number((plan.smallestM3S * 86_400).toPrecision(3))}} a day, would show by then on this gauge.`,
  );
  step(
    "down",
    "Let down",
    ["Let out at the rig, slowly", "Gauge reads zero; only then anything is undone"],
    air ? "Whatever is undone under air flies." : "Water stands on its own pressure no longer.",
  );
  return steps;
};
