import { wayTo } from "../watermap/graph.ts";
import type { Network } from "../watermap/network.ts";
import { type LiveOpening, passableLinks, type Situation } from "../watermap/situation.ts";
import { type CellContents, type Contents, holding, liquidIn } from "./contents.ts";
import { type Mixture, plus, take, volumeOf } from "./mixture.ts";

/** Liquid that has left the unit, or the pipes, and where it went. */
export interface Spill {
  /** Opening or cell it left by. */
  readonly from: string;
  readonly to: "ground" | "overboard";
  readonly liquid: Mixture;
}

/** The way that waste takes from a cell: through traps to the first vessel or overboard fitting. */
export const wasteWay = (situation: Situation, start: number): readonly number[] => {
  const { network } = situation;
  const passable = passableLinks(situation);
  const isEnd = (cell: number): boolean =>
    network.cells[cell]?.form === "vessel" || (cell !== start && isOverboard(network, cell));
  return wayTo(network, start, (link) => passable[link] === true, isEnd)?.cells ?? [start];
};

const isOverboard = (network: Network, cell: number): boolean =>
  network.openings.some((o) => o.cell === cell && o.use === "overboard");

/** The waste tank or sump that what an outlet lets go ends in, by cell; none where it runs overboard, or to the ground. */
export const wasteTankBelow = (
  situation: Situation,
  outlet: { readonly fallsTo?: number },
): number | undefined => {
  if (outlet.fallsTo === undefined) return undefined;
  const last = wasteWay(situation, outlet.fallsTo).at(-1);
  const { form, kind } = situation.network.cells[last ?? -1] ?? {};
  return form === "vessel" && kind?.role.vessel === "waste" ? last : undefined;
};

/**
 * Runs liquid down the waste side from a cell. Traps mix and overflow; a vessel keeps it until full.
 * @param way from the cell on, where it is known already
 */
export const runDown = (
  situation: Situation,
  contents: Contents,
  start: number,
  liquid: Mixture,
  way: readonly number[] = wasteWay(situation, start),
): { contents: Contents; left: Spill[] } => {
  const { network } = situation;
  const after: CellContents[] = [...contents];
  let moving = liquid;
  for (const index of way) {
    const cell = network.cells[index];
    if (!cell) continue;
    // A dip in a waste pipe keeps what it holds like a trap.
    const keeps =
      cell.form === "waste-pipe"
        ? cell.sagM3
        : cell.form === "trap" || cell.form === "vessel"
          ? cell.capacityM3
          : 0;
    if (keeps > 0) {
      const mixed = plus(liquidIn(after[index]), moving);
      const over = Math.max(0, volumeOf(mixed) - keeps);
      const { taken, left } = take(mixed, over);
      after[index] = holding(volumeOf(left) > 0 ? [left] : [], "worked out");
      moving = taken;
    }
  }
  const last = way.at(-1) ?? start;
  const to = isOverboard(network, last) ? "overboard" : "ground";
  return {
    contents: after,
    left: volumeOf(moving) > 0 ? [{ from: network.cells[last]?.id ?? "", to, liquid: moving }] : [],
  };
};

/** What left at openings falls to their wastes, or to the ground. */
export const fall = (
  situation: Situation,
  contents: Contents,
  leaving: readonly { at: LiveOpening; liquid: Mixture }[],
): { contents: Contents; left: Spill[] } => {
  let now = contents;
  const left: Spill[] = [];
  for (const { at, liquid } of leaving) {
    if (volumeOf(liquid) <= 0) continue;
    if (at.fallsTo === undefined) {
      left.push({ from: at.id, to: at.use === "overboard" ? "overboard" : "ground", liquid });
      continue;
    }
    const run = runDown(situation, now, at.fallsTo, liquid);
    now = run.contents;
    left.push(...run.left.map((s) => ({ ...s, from: at.id })));
  }
  return { contents: now, left };
};

/**
 * Pours into a trap or bowl from above.
 * @param cell index of the trap's cell
 * @param way from the cell on, where it is known already
 */
export const pour = (
  situation: Situation,
  contents: Contents,
  cell: number,
  liquid: Mixture,
  way?: readonly number[],
): { contents: Contents; left: Spill[] } =>
  volumeOf(liquid) > 0 ? runDown(situation, contents, cell, liquid, way) : { contents, left: [] };
