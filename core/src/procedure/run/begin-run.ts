import { type Contents, liquidIn, strengthOf } from "../../contents/index.ts";
import type { Network } from "../../watermap/index.ts";
import { type Physical, pouredFact, startPhysical } from "../physical.ts";
import { perhapsWinterized } from "../spring/index.ts";
import type { RunBegins, RunSetup } from "./events.ts";
import { contentsSaid } from "./said.ts";
import type { RunState } from "./state.ts";

/** A run as it begins. */

/** The unit as it was known to stand when the run began. */
const startOf = (
  network: Network,
  begins: RunBegins | undefined,
  job: RunSetup["job"],
): Physical => {
  const plain = startPhysical(network, begins?.lineup);
  // Of a unit that comes out of a winter nobody wrote down, nothing is taken for water.
  const start =
    job === "spring" && !begins?.contents
      ? { ...plain, contents: perhapsWinterized(network) }
      : plain;
  if (!begins) return start;
  const held = begins.contents && new Map(Object.entries(begins.contents));
  return {
    ...start,
    apart: begins.apart,
    contents: held ? contentsSaid(network, held) : start.contents,
    facts: held ? pouredBefore(network, contentsSaid(network, held)) : start.facts,
    measured: new Map(
      Object.entries(begins.measured).flatMap(([cell, strength]) => {
        const index = network.cellIndex.get(cell);
        return index === undefined || !held ? [] : [[index, strength] as const];
      }),
    ),
  };
};

// A trap that was left at this strength had its dose (our own).
const POURED_FROM = 0.2;

/** Traps that were left with antifreeze in them are not poured into again for want of the word. */
const pouredBefore = (network: Network, contents: Contents): string[] =>
  network.cells.flatMap((cell, i) =>
    cell.form === "trap" && strengthOf(liquidIn(contents[i])) >= POURED_FROM
      ? [pouredFact(cell.id)]
      : [],
  );

/** A run before anything has happened, waiting for the lineup as found. */
export const startRun = (network: Network, setup: RunSetup, begins?: RunBegins): RunState => ({
  network,
  setup,
  begins,
  phase: "as-found",
  physical: startOf(network, begins, setup.job),
  unit: undefined,
  plan: undefined,
  firstPlan: undefined,
  planner: undefined,
  todo: [],
  done: [],
  cannot: [],
  planAfter: undefined,
  ticked: [],
  readings: [],
  notes: [],
  clocks: [],
  events: [],
});
