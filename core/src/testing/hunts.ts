import {
  type Hunt,
  narrowed,
  nextSplit,
  pressedCells,
  pressureSources,
  shutForTest,
  testSections,
} from "../hold/index.ts";
import type { Control, Network } from "../watermap/index.ts";

/** A leak put at every joint in turn, found by halving, beside trying one valve after another. */

const MOST_HOLDS = 30;

export interface HuntFigures {
  readonly sections: number;
  readonly joints: number;
  /** Most holds that any joint took. */
  readonly worst: number;
  /** By shutting one valve after another, in the order of the map. */
  readonly worstInOrder: number;
  /** What halving allows: ceil(log2 n) + 1. */
  readonly bound: number;
  /** Sections that no valve parts from others. */
  readonly unparted: number;
}

/** What the gauge would do: it falls where the leak's section stays with it. Reckoned from the graph alone, without the splitter's own answer. */
const gaugeFalls = (hunt: Hunt, shut: readonly Control[], leak: number): boolean => {
  const lineup = { ...hunt.lineup, ...Object.fromEntries(shut.map((c) => [c.key, "shut"])) };
  return pressedCells(hunt.network, lineup, hunt.gauge).has(leak);
};

const byHalving = (hunt: Hunt, leak: number): { holds: number; left: number } => {
  let suspects: ReadonlySet<string> = new Set(hunt.sections.map((s) => s.id));
  let holds = 0;
  while (suspects.size > 1 && holds < MOST_HOLDS) {
    const split = nextSplit(hunt, suspects);
    if (!split) break;
    holds++;
    suspects = narrowed(split, gaugeFalls(hunt, split.shut, leak));
  }
  return { holds, left: suspects.size };
};

const inOrder = (hunt: Hunt, leak: number): number => {
  const valves = hunt.network.controls.filter(
    (c) => c.spec.role === "valve" && c.spec.positions.some((p) => p.name === "shut"),
  );
  let suspects = hunt.sections;
  let holds = 0;
  for (const valve of valves) {
    if (suspects.length < 2) break;
    const lineup = { ...hunt.lineup, [valve.key]: "shut" };
    const near = pressedCells(hunt.network, lineup, hunt.gauge);
    const isNear = (s: (typeof suspects)[number]): boolean => s.cells.some((c) => near.has(c));
    const inside = suspects.filter(isNear);
    const outside = suspects.filter((s) => !isNear(s));
    if (inside.length === 0 || outside.length === 0) continue;
    holds++;
    suspects = gaugeFalls(hunt, [valve], leak) ? inside : outside;
  }
  return holds;
};

/** Every section of a map with a leak in it, from its first source of pressure. */
export const huntsOn = (network: Network): HuntFigures | undefined => {
  const [source] = pressureSources(network);
  if (!source) return undefined;
  const lineup = shutForTest(network);
  const sections = testSections(network, pressedCells(network, lineup, source.cell));
  const hunt: Hunt = { network, lineup, gauge: source.cell, sections };
  const found = sections.map((s) => {
    const leak = s.cells[0] as number;
    return { ...byHalving(hunt, leak), order: inOrder(hunt, leak) };
  });
  return {
    sections: sections.length,
    joints: sections.reduce((sum, s) => sum + s.joints, 0),
    worst: Math.max(0, ...found.map((f) => f.holds)),
    worstInOrder: Math.max(0, ...found.map((f) => f.order)),
    bound: Math.ceil(Math.log2(Math.max(1, sections.length))) + 1,
    unparted: found.filter((f) => f.left > 1).length,
  };
};
