import { chlorineOf, liquidIn, situationOf } from "../../contents/index.ts";
import { bleachFor, chlorineBy, QUARTER_CUP_RULE } from "../../fluid/index.ts";
import { heatersOf, kindOfPart, paramsOf, roleOf } from "../../watermap/index.ts";
import { findFillLineup, forcedReach } from "../fill-lineup.ts";
import { keptOfChlorine } from "../physical.ts";
import type { Plan, WaterFigures } from "../plan.ts";
import type { Ask } from "../step.ts";
import {
  addStep,
  confirm,
  controlsOf,
  has,
  heldIn,
  houseOf,
  isLeftUndone,
  pct,
  t,
  turn,
  v,
} from "../winterize/context.ts";
import { coolFact, heaterCells, offFact } from "../winterize/secure.ts";
import { planDescale, planHandClean } from "./by-hand.ts";
import { planClose } from "./close.ts";
import { gPerLOf } from "./dose.ts";
import { bestRun, isDue, nameOfSide, outletsOf, type Pass, planPass } from "./flush.ts";
import { asPlan } from "./plan.ts";
import { planCartridges, planInUse, planPumpOn } from "./prove.ts";
import { waterContext, type WaterContext, type WaterRequest } from "./request.ts";
import { inTanks, type Run, type Source, sourcesOf } from "./source.ts";
import { flushPass, planFlush } from "./spring.ts";
import {
  doseRows,
  emptyTanks,
  fillRows,
  FULL_SHARE,
  planFill,
  tankMgL,
  turnedBack,
} from "./tank.ts";

/** Chlorine for the whole wet volume, to every outlet, standing long enough, proved by strips, and out again. */

// Rinsed on to so much of the limit: a strip is read in steps (our own).
const RINSED_SHARE = 0.6;
const MIX_SHARE = 0.3;
const MOST_LEFT_SHARE = 0.5;
// An outlet that gets this share of what is wanted has it: a strip shows no less (our own).
const HAS_SHARE = 0.98;
const IS_DOSED = 0.93;
const MOST_REFILLS = 6;
/** A start strip of this share of what is wanted will do: strips are read in steps (our own). */
export const STRONG_ENOUGH = 0.9;

const mgL = (value: number): string => `${value < 10 ? value.toFixed(1) : Math.round(value)} mg/L`;

/** Whether a heater is dosed too: as the house has it; as its maker allows where it is known what it is made of. */
const isDosed = (context: WaterContext, partId: string): boolean => {
  const { heater } = context.request.water.chlorine;
  if (heater !== "by-maker") return heater === "in";
  const part = context.network.map.parts.find((p) => p.id === partId);
  const { metal } = part ? paramsOf(part) : {};
  return metal === undefined || metal === "steel" || metal === "stainless steel";
};

interface Wet {
  readonly tanksM3: number;
  readonly linesM3: number;
  readonly heatersM3: number;
}

/** What a source wets. */
const wetOf = (context: WaterContext, source: Source): Wet => {
  const { network, physical } = context;
  const met = forcedReach(situationOf(network, physical), source.start);
  let [linesM3, heatersM3] = [0, 0];
  for (const i of met) {
    const cell = network.cells[i];
    if (!cell || cell.side !== "fresh" || source.tanks.includes(i)) continue;
    if (cell.form !== "vessel") linesM3 += cell.form === "trap" ? 0 : cell.capacityM3;
    else if (cell.part && roleOf(cell.part).vessel === "heater") heatersM3 += cell.capacityM3;
  }
  return { tanksM3: inTanks(context, source).fullM3 * FULL_SHARE, linesM3, heatersM3 };
};

/**
 * What the tanks must hold so that the outlet that gets least has what is wanted. Pipes are pushed full of it and take nothing from it; a full
 * heater thins it, so the tank has the heater's share too.
 */
const tankTarget = (target: number, wet: Wet): number =>
  wet.heatersM3 > 0 ? (target * (wet.tanksM3 + wet.linesM3 + wet.heatersM3)) / wet.tanksM3 : target;

const roundsOf = (context: WaterContext): number =>
  context.physical.facts.filter((f) => f.startsWith("stood:")).length;

/** Whether the dose that stood last was still there at the end; where nobody read it, that it was is not denied. */
const hasHeld = (context: WaterContext): boolean => {
  const { strips = [], water } = context.request;
  const { startMgL, endMgL } = strips[roundsOf(context) - 1] ?? {};
  if (endMgL === undefined || startMgL === undefined) return true;
  return endMgL >= water.chlorine.holdsShare * startMgL;
};

/** Heaters that are to stay out of it are taken out of the loop, where there is a way round them. */
const planOut = (context: WaterContext): void => {
  const out = new Set(
    heatersOf(context.network)
      .filter(({ part }) => !isDosed(context, part.id))
      .map(({ part }) => part.id),
  );
  if (out.size === 0) return;
  const valves = [...controlsOf(context, "valve"), ...controlsOf(context, "selector")];
  const source = sourcesOf(context)[0];
  if (!source) return;
  // Of the valves those that what is pressed can come to, were they all open: not what stands before a pump.
  const opened = Object.fromEntries(
    valves.flatMap((c) =>
      c.spec.positions.some((p) => p.name === "open") ? [[c.key, "open"] as const] : [],
    ),
  );
  const met = forcedReach(
    situationOf(context.network, {
      lineup: { ...context.physical.lineup, ...opened },
      apart: context.physical.apart,
    }),
    source.start,
  );
  const pressed = valves.filter((c) =>
    context.network.cells.some((cell, k) => cell.ownerId === c.part.id && met.has(k)),
  );
  const found = findFillLineup(
    context.network,
    context.physical,
    source.start,
    pressed,
    false,
    out,
  );
  // Where there is no way round it, it is dosed after all: the hot side is not left out for its sake.
  const reachedBy = (lineup: Readonly<Record<string, string>>): number => {
    const met = forcedReach(
      situationOf(context.network, { lineup, apart: context.physical.apart }),
      source.start,
    );
    return context.network.openings.filter((o) => o.use === "outlet" && met.has(o.cell)).length;
  };
  const lineupOut = { ...context.physical.lineup, ...found.turns };
  if (reachedBy(lineupOut) < reachedBy(context.physical.lineup)) return;
  const rows = valves.flatMap((c) =>
    turn(context, c, found.turns[c.key] ?? context.physical.lineup[c.key] ?? c.spec.inUse),
  );
  if (rows.length === 0) return;
  addStep(context, {
    id: "dose:heater-out",
    stage: "dose",
    title: "Take the heater out of the loop",
    actions: rows,
    why: "It is not dosed: its maker does not allow it, or nobody has looked what it is made of. It stays as it was, and feeds the hot side next day.",
    expect: "Handles as shown.",
    minutes: 2 + rows.length,
  });
};

/** Heat off before chlorine: it eats hot metal, and gasses out. */
const planHeatOff = (context: WaterContext): void => {
  for (const heater of heaterCells(context)) {
    if (context.blocked.has(heater.id) || has(context, offFact(heater.id))) continue;
    const isWet = heldIn(context, heater.cell) > 0;
    const openAt = houseOf(context).openAtC;
    addStep(context, {
      id: `dose:${heater.id}:off`,
      stage: "dose",
      title: `Heat off at the ${heater.name.toLowerCase()}, and cool`,
      actions: [
        confirm(offFact(heater.id), "Breaker, gas and switch off, tag on"),
        ...(isWet ? [confirm(coolFact(heater.id), `Water at a hot tap ${t(openAt)} or less`)] : []),
      ],
      why: "Chlorine in hot water eats the vessel and is gone within the hour.",
      cautions: ["Gas and mains belong to licensed people: switch off only, open nothing."],
      expect: "Off, and nobody can turn it on unseen.",
      asks: isWet
        ? [
            {
              key: `temperature:${heater.id}`,
              kind: "temperature",
              label: "Temperature at a hot tap",
              required: true,
              atMost: openAt,
            },
          ]
        : [],
      parts: [heater.id],
      minutes: 3,
    });
  }
};

const planCarbonOut = (context: WaterContext): void => {
  const parts = context.network.map.parts.filter(
    (p) => kindOfPart(p).role.takesChlorine?.(paramsOf(p)) === true && !context.blocked.has(p.id),
  );
  for (const part of parts) {
    if (has(context, `carbon-out:${part.id}`)) continue;
    const bowl = context.network.controls.find(
      (c) => c.part.id === part.id && c.spec.role === "bowl",
    );
    const pumps = sourcesOf(context).flatMap((s) => (s.pump ? turn(context, s.pump, "off") : []));
    addStep(context, {
      id: `dose:${part.id}:carbon`,
      stage: "dose",
      title: `Carbon out of the ${part.name.toLowerCase()}`,
      actions: [
        ...pumps,
        ...turn(context, bowl, "open"),
        confirm(`carbon-out:${part.id}`, "Cartridge out, housing refitted empty"),
        ...turnedBack(turn(context, bowl, "open")),
        ...turnedBack(pumps),
      ],
      why: "Carbon takes the chlorine out: nothing would come behind it.",
      cautions: ["Pressure off before the housing is opened."],
      expect: "Housing empty, hand tight.",
      parts: [part.id],
      minutes: 4,
    });
  }
};

const CHLORINE_CAUTIONS = [
  "Plain unscented bleach only: no thickener, no scent. Gloves and eyes.",
  "Never with an acid, descaler, vinegar, ammonia or toilet chemicals: the gas kills. A descaler used today is rinsed out and proved first.",
];

/** @param first steps that must be signed before any bleach is aboard */
const planDose = (context: WaterContext, first: readonly string[]): void => {
  const { chlorine } = context.request.water;
  const gPerL = gPerLOf(chlorine.bottle) * (context.request.bottleGives ?? 1);
  for (const source of sourcesOf(context)) {
    if (!source.pump) continue;
    const wet = wetOf(context, source);
    const target = tankTarget(chlorine.targetMgL, wet);
    const held = tankMgL(context, source);
    const { heldM3, fullM3 } = inTanks(context, source);
    if (held >= IS_DOSED * target) continue;
    if (heldM3 > MOST_LEFT_SHARE * fullM3 && held < 0.2 * target)
      emptyTanks(context, source, {
        id: `dose:empty:${source.key}`,
        stage: "dose",
        why: "A dose is mixed into a part-filled tank and filled up; poured into a full one it stays where it falls.",
      });
    planFill(context, source, MIX_SHARE, {
      id: `dose:part:${source.key}`,
      stage: "dose",
      title: "Part-fill",
      why: "Water first, bleach into it.",
    });
    const rows = doseRows(context, source, target, gPerL, FULL_SHARE);
    const bottleM3 = rows.reduce((s, r) => s + (r.type === "dose" ? r.bottleM3 : 0), 0);
    addStep(context, {
      id: `dose:bleach:${source.key}`,
      stage: "dose",
      title: `Bleach into the ${source.tanks.map((t) => context.network.cells[t]?.part?.name.toLowerCase() ?? "tank").join(" and ")}`,
      actions: [
        confirm("no-acid", "No descaler, vinegar or other product used on this unit today"),
        ...rows,
        confirm(
          "mixed",
          "Mixed into a bucket of water first, poured in at the filler, the bucket rinsed after it",
        ),
      ],
      why: `For ${mgL(target)} in the full tank: ${wet.heatersM3 > 0 ? `${v(wet.tanksM3)} in it, ${v(wet.linesM3)} in the lines and ${v(wet.heatersM3)} in the heater, which thins it to ${mgL(chlorine.targetMgL)}` : `what comes to every outlet is ${mgL(chlorine.targetMgL)}`}. The bottle gives ${gPerL.toFixed(0)} g/L.`,
      cautions: CHLORINE_CAUTIONS,
      needs: [...first],
      expect: `${v(bottleM3)} of ${chlorine.bottle.name.toLowerCase()} in all; the smell of it at the filler.`,
      parts: source.tanks.flatMap((t) => context.network.cells[t]?.part?.id ?? []),
      minutes: 6,
    });
    const after = fillRows(context, source, FULL_SHARE);
    if (after.length > 0)
      planFill(context, source, FULL_SHARE, {
        id: `dose:full:${source.key}`,
        stage: "dose",
        why: "The filling mixes it, and wets the tank to its top.",
        needs: [`dose:bleach:${source.key}`],
      });
  }
};

const spreadPass = (context: WaterContext): Pass => {
  const { chlorine } = context.request.water;
  const target = chlorine.targetMgL;
  const [pumped] = sourcesOf(context).filter((s) => s.pump);
  return {
    id: "spread",
    stage: "spread",
    wants: { chlorineAtLeast: target * HAS_SHARE },
    title: (name) => `${name}: run until it smells of chlorine`,
    row: "Smells of chlorine, or a strip shows it",
    why: "An outlet that was passed over keeps what grows in its line.",
    expect: (m3) => `About ${v(m3)}.`,
    chlorineMgL: target * 1.02,
    ...(pumped ? { tankMgL: tankTarget(target, wetOf(context, pumped)) } : {}),
    cautions: ["It bleaches cloth; air the place."],
  };
};

/** The outlet that holds least now, by what the engine carried there. */
const weakest = (context: WaterContext): { run: Run; mgL: number } | undefined => {
  const sources = sourcesOf(context);
  return outletsOf(context)
    .flatMap((c) => {
      const run = bestRun(context, sources, c);
      if (!run || kindOfPart(c.part).role.programme === true) return [];
      const own =
        context.network.cellIndex.get(`${c.part.id}:${c.spec.name}`) ??
        context.network.openings.find((o) => o.id === run.watch)?.cell ??
        -1;
      return [{ run, mgL: chlorineOf(liquidIn(context.physical.contents[own])) }];
    })
    .toSorted((a, b) => a.mgL - b.mgL || b.run.wayM3 - a.run.wayM3)[0];
};

const strip = (
  context: WaterContext,
  key: string,
  label: string,
  run: Run,
  more: Partial<Ask> = {},
): Ask => {
  const cell = context.network.openings.find((o) => o.id === run.watch)?.cell;
  const id = context.network.cells[cell ?? -1]?.id;
  return {
    key,
    kind: "chlorine",
    label: `${label}, at ${nameOfSide(run.control).toLowerCase()}`,
    required: true,
    ...(id === undefined ? {} : { cell: id }),
    ...more,
  };
};

const planStand = (context: WaterContext): void => {
  const { chlorine } = context.request.water;
  const round = roundsOf(context) + 1;
  const far = weakest(context);
  if (!far) return;
  const suffix = round > 1 ? `:${round}` : "";
  const read = context.request.strips?.[round - 1]?.startMgL;
  if (read === undefined || read < STRONG_ENOUGH * chlorine.targetMgL)
    addStep(context, {
      id: `stand:strip${suffix}`,
      stage: "stand",
      title: "Read a strip where least has come",
      actions: [
        confirm(`strip:${round}`, "Read at the time that the strip's own sheet says, in daylight"),
      ],
      why: "What a bottle gives is known only here: old bleach may have lost half.",
      expect: `About ${mgL(far.mgL)}.`,
      asks: [
        strip(context, `chlorine-start:${round}`, "Free chlorine at the start", far.run, {
          expected: far.mgL,
        }),
      ],
      minutes: 3,
    });
  addStep(context, {
    id: `stand:clock${suffix}`,
    stage: "stand",
    title: "Let it stand",
    actions: [
      confirm(`signs:${round}`, "A sign at every tap: do not use"),
      {
        type: "stand",
        seconds: chlorine.soakS,
        latestS: Math.max(chlorine.latestS, chlorine.soakS),
        label: "Stands in every line",
      },
      confirm(`stood:${round}`, "Clock begun: the last outlet has it"),
    ],
    why: "The time counts from the last outlet, not from the tank. Other work goes on meanwhile.",
    cautions: ["Not for days: metals, seals and the rod suffer. The heater stays off."],
    expect: "Nobody draws from it.",
    needs: [`stand:strip${suffix}`],
    minutes: 2,
  });
  const kept = keptOfChlorine(chlorine.soakS);
  addStep(context, {
    id: `stand:end${suffix}`,
    stage: "stand",
    title: "Read it again where least had come",
    actions: [
      confirm(
        `end-read:${round}`,
        "A cup run off first: what stands in the tap itself tells little",
      ),
    ],
    why: `What counts is what is left at the end: less than ${pct(chlorine.holdsShare)} of the start, and it did not hold.`,
    expect: `About ${mgL(far.mgL * kept)} by a half-life of a day, which is our estimate.`,
    asks: [
      strip(context, `chlorine-end:${round}`, "Free chlorine at the end", far.run, {
        expected: far.mgL * kept,
      }),
    ],
    needs: [`stand:clock${suffix}`],
    after: {
      step: `stand:clock${suffix}`,
      seconds: chlorine.soakS,
      words: "It has not stood long enough yet",
    },
    minutes: 3,
  });
};

const planRinse = (context: WaterContext): { refills: number } => {
  const { chlorine } = context.request.water;
  const limit = Math.max(chlorine.limitMgL, chlorine.sourceMgL);
  let refills = 0;
  // Nothing goes out before it has stood and been read.
  const needs = context.steps.filter((s) => s.id.startsWith("stand:end")).map((s) => s.id);
  for (const source of sourcesOf(context)) {
    if (!source.pump) continue;
    for (let n = 0; n < MOST_REFILLS && tankMgL(context, source) > 0.6 * limit; n++) {
      emptyTanks(context, source, {
        id: `rinse:empty:${source.key}`,
        stage: "rinse",
        needs,
        why: "Drained and filled again it is thinned at once; filled up over it, never.",
        cautions: [
          "Where it goes: this place's way for chlorinated water, neutralised or thinned first; never overboard, on the ground by a well, or into a toilet tank with its chemicals.",
        ],
      });
      planFill(context, source, FULL_SHARE, {
        id: `rinse:fill:${source.key}`,
        stage: "rinse",
        needs,
        why: "Clean water for the lines and the heater.",
      });
      refills++;
    }
  }
  const far = weakest(context)?.run.control.key;
  const strips = chlorine.endpoint === "strip";
  const before = context.steps.length;
  const hot = outletsOf(context)
    .filter((c) => c.spec.name === "hot")
    .at(-1)?.key;
  planPass(context, {
    id: "rinse",
    stage: "rinse",
    needs,
    wants: { chlorineAtMost: RINSED_SHARE * limit },
    title: (name) => `${name}: run until the chlorine is gone`,
    row: strips ? "No smell left" : "No smell and no colour",
    why: "Pipes, then the heater, which mixes: it takes several of its own volumes.",
    expect: (m3) => `About ${v(m3)}; ${mgL(limit)} or less.`,
    asks: (run, place) =>
      strips &&
      (place.isFirst || place.isLast || run.control.key === far || run.control.key === hot)
        ? [
            strip(context, `chlorine:${run.control.key}`, "Free chlorine left", run, {
              atMost: limit,
              expected: RINSED_SHARE * limit,
            }),
          ]
        : [],
    cautions: ["The nose tires within minutes: ask somebody who comes in."],
  });
  refills += context.steps.slice(before).filter((s) => s.id.startsWith("rinse:fill:")).length;
  return { refills };
};

const planHeatAgain = (context: WaterContext): void => {
  for (const heater of heaterCells(context)) {
    if (context.blocked.has(heater.id) || has(context, `heat:${heater.id}`)) continue;
    const vessel = context.network.cells[heater.cell]?.form === "vessel";
    const needs = context.steps.filter((s) => s.stage === "rinse").map((s) => s.id);
    addStep(context, {
      id: `prove:${heater.id}:heat`,
      stage: "prove",
      title: `Heat may go on at the ${heater.name.toLowerCase()}`,
      actions: [
        ...(vessel
          ? [confirm(`still-full:${heater.id}`, "A hot tap ran 30 seconds with no air in it")]
          : []),
        confirm(`heat:${heater.id}`, "Rinsed to the limit; bypass in use; tag off"),
      ],
      why: "Chlorine that is heated eats metal and gasses out: it goes first.",
      expect: "No smell of chlorine when it is warm.",
      needs,
      parts: [heater.id],
      minutes: 2,
    });
  }
};

const linesOf = (
  context: WaterContext,
  bleachM3: number,
  far: number | undefined,
): WaterFigures["lines"] => {
  const { chlorine } = context.request.water;
  const { bottle, targetMgL } = chlorine;
  const gives = gPerLOf(bottle);
  const source = sourcesOf(context).find((s) => s.pump);
  const wet = source && wetOf(context, source);
  if (!wet) return [];
  const all = wet.tanksM3 + wet.linesM3 + wet.heatersM3;
  const thumb = QUARTER_CUP_RULE * wet.tanksM3;
  const target = tankTarget(targetMgL, wet);
  return [
    { label: "Wanted at the outlet that gets least", how: mgL(targetMgL) },
    {
      label: "Tank, lines, heater",
      how: `${v(wet.tanksM3)} + ${v(wet.linesM3)} + ${v(wet.heatersM3)} = ${v(all)}`,
    },
    { label: "In the tank therefore", how: mgL(target) },
    {
      label: "The bottle",
      how: `${(bottle.strength * 100).toFixed(2)} % on the label${bottle.days === undefined ? ", age not written down" : `, open ${Math.round(bottle.days)} days`}: ${gives.toFixed(1)} g/L`,
    },
    {
      label: "Bleach",
      how: `${mgL(target)} × ${v(wet.tanksM3)} ÷ ${gives.toFixed(1)} g/L = ${v(bleachFor(wet.tanksM3, target, gives))}`,
    },
    ...(bleachM3 > 0 && far !== undefined
      ? [{ label: "Comes to the outlet that gets least", how: mgL(far) }]
      : []),
    {
      label: "The trade's quarter cup for each 15 gal of the tank",
      how: `${v(thumb)}: ${mgL(chlorineBy(thumb, gives, wet.tanksM3))} in the tank and ${mgL(chlorineBy(thumb, gives, all))} over all that is wet, with this bottle`,
    },
  ];
};

const warningsOf = (context: WaterContext): string[] => {
  const { bottle } = context.request.water.chlorine;
  const { network } = context;
  const anodes = network.map.parts.filter((p) => paramsOf(p)["anode"] === true);
  return [
    ...(bottle.days === undefined
      ? ["Nobody wrote down when the bottle was opened: the strip at the start decides."]
      : bottle.days > 180
        ? [
            `The bottle has been open for ${Math.round(bottle.days / 30)} months: by its age it has ${pct(gPerLOf(bottle) / gPerLOf({ ...bottle, days: 0 }))} left, give or take much. A new one is better; the strip at the start decides.`,
          ]
        : []),
    "A tank of aluminium is sanitized by its maker's method, not by this sheet: look before you begin.",
    ...(anodes.length > 0
      ? ["The rod in the heater sees chlorine: no longer than the latest hour."]
      : []),
  ];
};

/** The sanitizing of a unit as it stands. */
export const planSanitize = (request: WaterRequest): Plan => {
  const context = waterContext(request);
  planHeatOff(context);
  planClose(context);
  const out = { ...flushPass(context), wants: { glycolAtMost: request.water.tasteAtMost } };
  if (isDue(context, out)) planFlush(context);
  const rounds = roundsOf(context);
  let refills = 0;
  let far: number | undefined;
  if (rounds === 0 || !hasHeld(context)) {
    planPumpOn(context);
    planCarbonOut(context);
    planHandClean(context);
    const first = planDescale(context);
    planOut(context);
    // An acid that nobody proved gone: no bleach comes aboard, whatever else is done.
    const mayDose = !first.some((id) => isLeftUndone(context, id) || context.closed.has(id));
    if (mayDose) {
      planDose(context, first);
      planPass(context, spreadPass(context));
      far = weakest(context)?.mgL;
      planStand(context);
    }
  }
  const bleachM3 = context.steps.reduce(
    (s, step) => s + step.actions.reduce((t, a) => t + (a.type === "dose" ? a.bottleM3 : 0), 0),
    0,
  );
  const lines = linesOf(context, bleachM3, far);
  if (context.physical.facts.some((f) => f.startsWith("stood:")))
    ({ refills } = planRinse(context));
  planCartridges(context);
  planInUse(context);
  planHeatAgain(context);
  return asPlan(context, request, { refills, lines, warnings: warningsOf(context) });
};
