import { chlorineOf, liquidIn } from "../../contents/index.ts";
import { kindOfPart } from "../../watermap/index.ts";
import { keptOfChlorine } from "../act.ts";
import type { Ask } from "../step.ts";
import { addStep, confirm, pct } from "../winterize/context.ts";
import { bestRun, nameOfSide, outletsOf } from "./flush.ts";
import { type WaterContext } from "./request.ts";
import { type Run, sourcesOf } from "./source.ts";
import { mgL } from "./wet.ts";

/** Strips where least has come, and the time that it stands. */

/** A start strip of this share of what is wanted will do: strips are read in steps (our own). */
export const STRONG_ENOUGH = 0.9;

export const roundsOf = (context: WaterContext): number =>
  context.physical.facts.filter((f) => f.startsWith("stood:")).length;

/** Whether the dose that stood last was still there at the end; where nobody read it, that it was is not denied. */
export const hasHeld = (context: WaterContext): boolean => {
  const { strips = [], water } = context.request;
  const { startMgL, endMgL } = strips[roundsOf(context) - 1] ?? {};
  if (endMgL === undefined || startMgL === undefined) return true;
  return endMgL >= water.chlorine.holdsShare * startMgL;
};

/** The outlet that holds least now, by what the engine carried there. */
export const weakest = (context: WaterContext): { run: Run; mgL: number } | undefined => {
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

export const strip = (
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

export const planStand = (context: WaterContext): void => {
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
