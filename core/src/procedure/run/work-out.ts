import { frostVerdict, liquidIn, product, volumeOf } from "../../contents/index.ts";
import { inUseLineup, type Lineup } from "../../watermap/index.ts";
import { actOnce } from "../act.ts";
import { doubtsOf } from "../doubt.ts";
import { HOUSE_LIMITS } from "../house-settings.ts";
import { jobOf, WATER_SETTINGS } from "../job.ts";
import { type Physical, withRecovered } from "../physical.ts";
import { STRONG_ENOUGH } from "../spring/index.ts";
import { type Action, type Ask, CAUGHT_AGAIN, type Step } from "../step.ts";
import { ENGINE_VERSION } from "../version.ts";
import { waterInLines } from "../wet.ts";
import { atOdds, strongestPossible } from "./at-odds.ts";
import { startRun } from "./begin-run.ts";
import { latest } from "./entry-checks.ts";
import type { RunEventBody } from "./events.ts";
import { looseEnds } from "./loose-ends.ts";
import { productIn } from "./product-in.ts";
import { type Said, saidSince, type UnitSaid } from "./said.ts";
import type { RunState } from "./state.ts";
import { turnsOf } from "./turns.ts";

/** What the engine of today says of the unit when an entry is made. Kept with the entry, and never asked again. */

/** All chlorine aboard by a share of what was reckoned. */
const withChlorine = (physical: Physical, share: number): Physical => ({
  ...physical,
  contents: physical.contents.map((held) =>
    held.plugs.some((p) => p.chlorineMg)
      ? {
          plugs: held.plugs.map((p) =>
            p.chlorineMg ? { ...p, chlorineMg: p.chlorineMg * share } : p,
          ),
          source: held.source,
        }
      : held,
  ),
});

/** Lets what was read replace what was worked out. */
const withReading = (state: RunState, now: Physical, ask: Ask, si: number): Physical => {
  const { network, physical: before } = state;
  const index = network.cellIndex.get(ask.cell ?? "");
  if (index === undefined) return now;
  // A strip beats what was reckoned: of all that is aboard, for it came from one bottle.
  if (ask.kind === "chlorine")
    return ask.expected === undefined || ask.expected <= 0
      ? now
      : withChlorine(now, si / ask.expected);
  if (ask.kind === "strength")
    return {
      ...now,
      measured: new Map([...now.measured, [index, Math.min(si, strongestPossible(state))]]),
    };
  if (ask.kind === "recovered")
    return withRecovered(
      network,
      now,
      ask.cell ?? "",
      volumeOf(liquidIn(before.contents[index])),
      si,
    );
  return now;
};

/** The unit after a step's actions and readings. */
const afterStep = (state: RunState, step: Step): Physical => {
  let physical = state.physical;
  for (const action of step.actions) {
    const effect = actOnce(state.network, physical, action, productIn(state.setup));
    physical = effect.physical;
    const swept = effect.push?.swept ?? [];
    if (effect.push && effect.push.drawnM3 > 0 && swept.some((c) => physical.measured.has(c)))
      physical = {
        ...physical,
        measured: new Map([...physical.measured].filter(([c]) => !swept.includes(c))),
      };
  }
  for (const ask of step.asks) {
    const read = latest(state, step.id, ask.key);
    if (read) physical = withReading(state, physical, ask, read.si);
  }
  return physical;
};

/** The cells whose reading is too weak for the winter low, thinned in the model to what was read, so that the planner runs them again. */
const thinned = (state: RunState, physical: Physical, step: Step): Physical | undefined => {
  // Of these, that what was read is weak is what is wanted.
  if (jobOf(state.setup) !== "winterize") return undefined;
  const limit = state.setup.winterLowC;
  const verdict = frostVerdict(
    state.network,
    physical.contents,
    state.setup.basis,
    physical.measured,
  );
  const weak = step.asks.flatMap((ask) => {
    const index = state.network.cellIndex.get(ask.cell ?? "");
    const read = latest(state, step.id, ask.key);
    const holds = index === undefined ? null : verdict.cells[index]?.holdsToC;
    return ask.kind === "strength" &&
      index !== undefined &&
      read &&
      holds !== null &&
      holds !== undefined &&
      holds > limit
      ? [{ index, strength: read.si }]
      : [];
  });
  if (weak.length === 0) return undefined;
  const contents = physical.contents.map((cell, i) => {
    const found = weak.find((w) => w.index === i);
    return found
      ? { plugs: [product(volumeOf(liquidIn(cell)), found.strength)], source: "measured" as const }
      : cell;
  });
  return { ...physical, contents };
};

/** Whether a strip calls for another plan: too weak at the start, or gone at the end. */
const doseFails = (state: RunState, ask: Ask, si: number): boolean => {
  const { chlorine } = state.setup.water ?? WATER_SETTINGS;
  if (ask.key.startsWith("chlorine-start:")) return si < STRONG_ENOUGH * chlorine.targetMgL;
  const [, round] = /^chlorine-end:(\d+)$/u.exec(ask.key) ?? [];
  const start = state.readings.findLast((r) => r.ask === `chlorine-start:${round}`)?.si;
  return round !== undefined && start !== undefined && si < chlorine.holdsShare * start;
};

/** Whether so little was caught at a vessel's drain that what follows must be thought over, or so much more that it must be again. */
const otherThanThought = (state: RunState, step: Step): boolean =>
  step.asks.some((ask) => {
    const strip = ask.kind === "chlorine" ? latest(state, step.id, ask.key) : undefined;
    if (strip) return doseFails(state, ask, strip.si);
    const read = ask.kind === "recovered" ? latest(state, step.id, ask.key) : undefined;
    const index = state.network.cellIndex.get(ask.cell ?? "");
    if (read === undefined || index === undefined || ask.expected === undefined) return false;
    return ask.key.startsWith(CAUGHT_AGAIN)
      ? read.si > 0
      : read.si < (state.setup.house ?? HOUSE_LIMITS).recoveredMin * ask.expected;
  });

/** What a unit's state comes to in words, with all the steps that led there. */
const wordsOf = (
  state: RunState,
  physical: Physical,
  actions: readonly Action[],
  foundLineup: Lineup,
): UnitSaid => {
  const { network, setup } = state;
  const { cells: _cells, ...verdict } = frostVerdict(
    network,
    physical.contents,
    setup.basis,
    physical.measured,
  );
  const start = startRun(network, setup, state.begins).physical;
  const doubts = doubtsOf(
    network,
    { ...start, lineup: { ...start.lineup, ...foundLineup } },
    actions,
    verdict,
    {
      basis: setup.basis,
      productStrength: setup.product.strength,
      measured: physical.measured,
      winterLowC: setup.winterLowC,
    },
  );
  const id = (cell: number): string => network.cells[cell]?.id ?? "";
  return {
    engine: ENGINE_VERSION,
    contents: new Map(physical.contents.map((held, i) => [id(i), held])),
    lineup: physical.lineup,
    apart: physical.apart,
    facts: physical.facts,
    measured: new Map([...physical.measured].map(([cell, strength]) => [id(cell), strength])),
    drawnM3: physical.drawnM3,
    gone: physical.gone,
    came: physical.came,
    verdict,
    doubts,
    lines: waterInLines(network, physical),
    odds: atOdds(state, physical),
  };
};

const actionsSoFar = (state: RunState): Action[] => state.done.flatMap((d) => d.step.actions);

const corrected = (
  state: RunState,
  body: Extract<RunEventBody, { type: "corrected" }>,
): Physical | undefined => {
  const old = state.readings.find((r) => r.event === body.event);
  const index = state.network.cellIndex.get(old?.cell ?? "");
  if (!old || index === undefined || !state.done.some((d) => d.step.id === old.stepId))
    return undefined;
  const { physical } = state;
  // A reading that a later one at the same place, or more antifreeze, has overtaken says nothing of how the unit stands now.
  const stands = state.readings.findLast((r) => r.ask === old.ask) === old;
  if (stands && old.kind === "strength" && physical.measured.has(index))
    return {
      ...physical,
      measured: new Map([
        ...physical.measured,
        [index, Math.min(body.si, strongestPossible(state))],
      ]),
    };
  if (old.kind !== "recovered") return undefined;
  return withRecovered(
    state.network,
    physical,
    old.cell ?? "",
    volumeOf(liquidIn(physical.contents[index])) + old.si,
    body.si,
  );
};

/**
 * What is to be kept with an entry: what the unit holds after it, how cold it holds, and why; nothing where it changes nothing.
 * The entry must be one that the fold takes.
 */
export const workOut = (state: RunState, body: RunEventBody): Said | undefined => {
  switch (body.type) {
    case "as-found": {
      const lineup = { ...inUseLineup(state.network), ...state.begins?.lineup, ...body.lineup };
      const physical = { ...startRun(state.network, state.setup, state.begins).physical, lineup };
      const said = saidSince(undefined, wordsOf(state, physical, [], lineup));
      return { ...said, turns: turnsOf(state.network, lineup) };
    }
    case "step-signed": {
      const [step] = state.todo;
      if (!step) return undefined;
      const after = afterStep(state, step);
      const weaker = thinned(state, after, step);
      const words = wordsOf(
        state,
        weaker ?? after,
        [...actionsSoFar(state), ...step.actions],
        state.asFound?.lineup ?? {},
      );
      return {
        ...saidSince(state.unit, words),
        ...(weaker || otherThanThought(state, step) ? { planAgain: true as const } : {}),
      };
    }
    case "corrected": {
      const readings = state.readings.map((r) =>
        r.event === body.event ? { ...r, si: body.si } : r,
      );
      const then = { ...state, readings };
      const physical = corrected(state, body);
      if (physical)
        return saidSince(
          state.unit,
          wordsOf(then, physical, actionsSoFar(state), state.asFound?.lineup ?? {}),
        );
      const odds = atOdds(then);
      return state.unit && JSON.stringify(odds) !== JSON.stringify(state.unit.odds)
        ? saidSince(state.unit, { ...state.unit, odds })
        : undefined;
    }
    case "as-left": {
      const physical = { ...state.physical, lineup: { ...state.physical.lineup, ...body.lineup } };
      const said = saidSince(
        state.unit,
        wordsOf(state, physical, actionsSoFar(state), state.asFound?.lineup ?? {}),
      );
      return {
        ...said,
        turns: turnsOf(state.network, physical.lineup),
        ends: looseEnds(state.network, physical, physical.lineup).map((e) => ({ ...e })),
      };
    }
    default:
      return undefined;
  }
};
