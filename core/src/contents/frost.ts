import { BURST_TABLE_BOTTOM, burstPointC, freezingPointC } from "../fluid/index.ts";
import { type Cell, cellName, type Network, roleOf } from "../watermap/network.ts";
import { type CellContents, type Contents, liquidIn, type Source } from "./contents.ts";
import { strengthOf, volumeOf } from "./mixture.ts";

/** Which temperature of a mixture counts: each part's own (default), or one for all. */
export type FrostBasis = "by-part" | "burst" | "no-ice";
type CellState = "empty" | "room for ice" | "water" | "antifreeze";

interface CellVerdict {
  readonly cell: number;
  readonly state: CellState;
  /** Lowest air temperature without expected harm, °C; null where there is no limit. */
  readonly holdsToC: number | null;
  /** Strength by volume of the weakest liquid in it, where it is full of liquid. */
  readonly strength: number;
  readonly basis: "burst" | "no-ice" | null;
  readonly source: Source;
  readonly why: string;
}

export interface OwnerVerdict {
  readonly id: string;
  readonly name: string;
  readonly state: CellState;
  readonly holdsToC: number | null;
  readonly evidence: string;
  readonly source: Source;
  readonly strength: number;
  readonly part: boolean;
  /** Of several that are hurt at one temperature, the one with the highest rank is named first: vessels, then fragile parts, then the rest. */
  readonly rank: number;
}

export interface FrostVerdict {
  /** Warmest limit of all parts; null when nothing aboard has a limit. */
  readonly holdsToC: number | null;
  readonly weakest: OwnerVerdict | null;
  readonly owners: readonly OwnerVerdict[];
  readonly cells: readonly CellVerdict[];
}

/** A verdict without the cells that it was made from: what is shown and kept. */
export type Verdict = Omit<FrostVerdict, "cells">;

/** What does not hold a temperature: warmest limit first, and of equals what is looked for first. */
export const unprotectedAt = (
  verdict: Pick<FrostVerdict, "owners">,
  winterLowC: number,
): OwnerVerdict[] =>
  verdict.owners
    .filter((o) => o.holdsToC !== null && o.holdsToC > winterLowC + TOLERANCE_K)
    .sort(
      (a, b) => (b.holdsToC ?? 0) - (a.holdsToC ?? 0) || b.rank - a.rank || (a.id < b.id ? -1 : 1),
    );

// Rounding in a table's interpolation is no frost.
const TOLERANCE_K = 1e-9;

/** A strength read with an instrument, by cell. It replaces the computed one. */
export type Measured = ReadonlyMap<number, number>;

// Water grows by 9.07 % on freezing (IAPWS R10-06): liquid up to 1/1.1 of the volume leaves it room, with a little in hand.
const ROOM_FOR_ICE_SHARE = 1 / 1.1;
// A plug shorter than this share of its run, or this volume, yields along the pipe when it freezes (our own estimate).
const SMALL_PLUG_SHARE = 0.05;
const TRACE_STRENGTH = 1e-4;

const percent = (share: number): string => `${Math.round(share * 100)} %`;
// Evidence is set in the reader's units where it is shown.
const degrees = (c: number): string => `{c:${Number(c.toFixed(1))}}`;

const weakestPlug = (cell: Cell, held: CellContents): number => {
  const notable = held.plugs.filter((plug) => volumeOf(plug) >= SMALL_PLUG_SHARE * cell.capacityM3);
  return notable.length ? Math.min(...notable.map(strengthOf)) : strengthOf(liquidIn(held));
};

const isBurst = (basis: "burst" | "no-ice", strength: number): boolean =>
  basis === "burst" && strength >= BURST_TABLE_BOTTOM;

/** What a mixture withstands on a basis. Above the tables' strongest mixture the answer is the tables' coldest, never colder. */
const limitOf = (strength: number, basis: "burst" | "no-ice"): number => {
  if (strength < TRACE_STRENGTH) return 0;
  const inTable = Math.min(strength, 0.6);
  const found = isBurst(basis, strength) ? burstPointC(inTable) : freezingPointC(inTable);
  return found.ok ? found.value : 0;
};

/**
 * How full the fullest place of a cell is: what stays in a run stands in its dip first, and a dip that stands full splits there, whatever
 * share of the run it is (common practice, no source).
 */
export const fullness = (cell: Cell, volumeM3: number): number => {
  if (cell.capacityM3 <= 0) return 0;
  return Math.max(
    volumeM3 / cell.capacityM3,
    cell.sagM3 > 0 ? Math.min(1, volumeM3 / cell.sagM3) : 0,
  );
};

const judgeCell = (
  network: Network,
  index: number,
  held: CellContents,
  policy: FrostBasis,
  measured: Measured,
  powered: boolean,
): CellVerdict => {
  const cell = network.cells[index] as Cell;
  const volume = volumeOf(liquidIn(held));
  const share = fullness(cell, volume);
  const free = (state: CellState, why: string): CellVerdict => ({
    cell: index,
    state,
    holdsToC: null,
    strength: strengthOf(liquidIn(held)),
    basis: null,
    source: held.source,
    why,
  });
  if (cell.kind?.role.ashore) return free("empty", "stands ashore and belongs to the site");
  if (cell.form === "waste-pipe" && cell.sagM3 <= 0)
    return free("empty", "falls to its tank, keeps a film");
  if (volume <= 1e-9) return free("empty", "empty");
  const reading = measured.get(index);
  const allowed = cell.allowedRemainder ?? (cell.form === "trap" ? undefined : ROOM_FOR_ICE_SHARE);
  if (
    allowed !== undefined &&
    share <= allowed &&
    (cell.allowedRemainder === undefined ? share <= ROOM_FOR_ICE_SHARE : true)
  )
    return free("room for ice", `${percent(share)} full, ${percent(allowed)} does no harm`);
  const strength = reading ?? weakestPlug(cell, held);
  const basis = policy === "by-part" ? cell.frostBasis : policy;
  const ownC = limitOf(strength, basis);
  const ratedToC = powered ? cell.run?.ratedToC : undefined;
  const isKept = ratedToC !== undefined && ratedToC < ownC;
  const holdsToC = isKept ? ratedToC : ownC;
  const how =
    reading === undefined ? (held.source === "assumed" ? "assumed" : "worked out") : "read";
  const why = isKept
    ? `its own heat keeps it down to ${degrees(holdsToC)}, as rated, while it has power`
    : strength < TRACE_STRENGTH
      ? share > ROOM_FOR_ICE_SHARE
        ? `${cell.sagM3 > 0 && volume <= ROOM_FOR_ICE_SHARE * cell.capacityM3 ? "its dip is " : ""}full of water (${held.source})`
        : `${percent(share)} water left in it, more than ${percent(allowed ?? ROOM_FOR_ICE_SHARE)} harms it`
      : `${how} at ${percent(strength)}; ${isBurst(basis, strength) ? "bursts" : "first ice"} below ${degrees(holdsToC)}`;
  return {
    cell: index,
    state: strength < TRACE_STRENGTH ? "water" : "antifreeze",
    holdsToC,
    strength,
    basis,
    source: reading === undefined ? held.source : "measured",
    why,
  };
};

const rank = (network: Network, v: CellVerdict): number => {
  const cell = network.cells[v.cell] as Cell;
  const joint = cell.part && roleOf(cell.part).joint;
  return (
    (v.holdsToC ?? -1000) +
    (cell.allowedRemainder === undefined ? 0 : 1e-3) +
    (cell.part && !joint ? 5e-4 : 0)
  );
};

const isTank = (cell: Cell | undefined): boolean => cell?.form === "vessel";

/**
 * The frost verdict of a unit.
 * @param policy which temperature of a mixture counts; "by-part" takes the burst point for pipe that can yield and the first ice for
 *   pump heads, cartridges and bowls (common practice, no source)
 * @param measured strengths read at cells; they replace the computed ones and the evidence says so
 * @param powered the unit is in use: heated hose and heat cable count for what they are rated; laid up, nobody keeps them on
 */
export const frostVerdict = (
  network: Network,
  contents: Contents,
  policy: FrostBasis = "by-part",
  measured: Measured = new Map(),
  { powered = false }: { readonly powered?: boolean } = {},
): FrostVerdict => {
  const cells = network.cells.map((_, i) =>
    judgeCell(network, i, contents[i] as CellContents, policy, measured, powered),
  );
  const byOwner = new Map<string, CellVerdict[]>();
  cells.forEach((v, i) => {
    const owner = network.cells[i]?.ownerId ?? "";
    byOwner.set(owner, [...(byOwner.get(owner) ?? []), v]);
  });
  const owners = [...byOwner].map<OwnerVerdict>(([id, all]) => {
    const worst = all.reduce((a, b) => (rank(network, b) > rank(network, a) ? b : a));
    return {
      id,
      name: cellName(network, worst.cell),
      state: worst.state,
      holdsToC: worst.holdsToC,
      evidence: worst.why,
      source: worst.source,
      strength: worst.strength,
      part: network.cells[worst.cell]?.part !== undefined,
      // Where several are as bad, a vessel full of water is named before a small body.
      rank:
        rank(network, worst) +
        (isTank(network.cells[worst.cell]) && worst.holdsToC !== null ? 2e-3 : 0),
    };
  });
  const limited = owners.filter((o) => o.holdsToC !== null);
  const weakest = limited.length ? limited.reduce((a, b) => (b.rank > a.rank ? b : a)) : null;
  return {
    holdsToC: weakest?.holdsToC ?? null,
    weakest,
    owners: owners.sort((a, b) => (a.id < b.id ? -1 : 1)),
    cells,
  };
};
