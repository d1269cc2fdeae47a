import type { Lineup, Network } from "../watermap/network.ts";
import type { ApartEnd, Situation } from "../watermap/situation.ts";
import type { Contents } from "./contents.ts";
import { type Mixture, plus, sum, take, volumeOf } from "./mixture.ts";
import { settleOverflow } from "./push.ts";
import { pour, type Spill, wasteWay } from "./waste.ts";

/** A unit as it stands: what a plan, a run and a trial all begin with and come to, and what may be done to it by hand. */
export interface Standing {
  readonly lineup: Lineup;
  readonly apart: readonly ApartEnd[];
  readonly contents: Contents;
  /** All liquid that has come in and gone out since the start. */
  readonly came: Mixture;
  readonly gone: Mixture;
}

export const situationOf = (
  network: Network,
  { lineup, apart }: Pick<Standing, "lineup" | "apart">,
): Situation => ({
  network,
  lineup,
  apart,
});

const isSame =
  (end: Pick<ApartEnd, "run" | "end">) =>
  (other: ApartEnd): boolean =>
    other.run === end.run && other.end === end.end;

/** With a control turned. */
export const turned = <S extends Standing>(standing: S, control: string, position: string): S => ({
  ...standing,
  lineup: { ...standing.lineup, [control]: position },
});

/** With a pipe undone at one end; with a jug its hose goes on the part's side. */
export const undone = <S extends Standing>(standing: S, { run, end, jug }: ApartEnd): S => ({
  ...standing,
  apart: [...standing.apart.filter((e) => !isSame({ run, end })(e)), { run, end, jug }],
});

/** With an undone end made good again. */
export const remade = <S extends Standing>(standing: S, end: Pick<ApartEnd, "run" | "end">): S => ({
  ...standing,
  apart: standing.apart.filter((e) => !isSame(end)(e)),
});

// Poured slowly, a dose pushes out what it displaces instead of only mixing with it; ten parts come close to that.
const POUR_PARTS = 10;

/** With liquid poured slowly into a trap, a bowl or a drain, and what ran off for it. */
export const pouredInto = <S extends Standing>(
  network: Network,
  standing: S,
  cell: number,
  liquid: Mixture,
): { readonly standing: S; readonly left: readonly Spill[] } => {
  const situation = situationOf(network, standing);
  const way = wasteWay(situation, cell);
  const { taken: part } = take(liquid, volumeOf(liquid) / POUR_PARTS);
  let { contents } = standing;
  const left: Spill[] = [];
  for (let i = 0; i < POUR_PARTS; i++) {
    const poured = pour(situation, contents, cell, part, way);
    ({ contents } = poured);
    left.push(...poured.left);
  }
  const over = settleOverflow(situation, contents);
  left.push(...over.left);
  const gone = sum(left.map((s) => s.liquid));
  return {
    standing: {
      ...standing,
      contents: over.contents,
      came: plus(standing.came, liquid),
      gone: plus(standing.gone, gone),
    },
    left,
  };
};
