import { chlorineOf, liquidIn, volumeOf } from "../../contents/index.ts";
import { type Cell, heatersOf, type Part, reachInOrder, roleOf } from "../../watermap/index.ts";
import { v } from "../winterize/context.ts";
import type { WaterContext } from "./request.ts";

/** Where a dose that was brought to every outlet has not come: legs that nothing runs through. */

// Wet from here on, and no longer dosed below this share of what was wanted (our own).
const WET_M3 = 2e-5;
const DOSED_SHARE = 0.5;
const MOST_NAMED = 6;

interface Piece {
  readonly names: readonly string[];
  readonly m3: number;
}

/** Each piece of the drinking side in which water stands without the dose, by the parts it lies between. */
const piecesOf = (context: WaterContext): Piece[] => {
  const { network, physical, request } = context;
  const wanted = request.water.chlorine.targetMgL * DOSED_SHARE;
  const isHeater = new Set(heatersOf(network).map((h) => h.cell));
  const ashore = new Set(
    network.map.parts.filter((p) => roleOf(p).ashore === true).map((p) => p.id),
  );
  const isAshore = ({ part, run }: Cell): boolean =>
    [part?.id, run?.from.part, run?.to.part].some((id) => id !== undefined && ashore.has(id));
  const isMissed = network.cells.map((cell, i) => {
    const held = liquidIn(physical.contents[i]);
    return (
      cell.side === "fresh" &&
      !isHeater.has(i) &&
      volumeOf(held) > WET_M3 &&
      chlorineOf(held) < wanted &&
      !isAshore(cell)
    );
  });
  // Through what holds nothing a piece goes on; a joint belongs to the ways that are dosed.
  const goesOn = (i: number): boolean => {
    const { part, capacityM3 = 0 } = network.cells[i] ?? {};
    return isMissed[i] === true || (part !== undefined && capacityM3 <= 0 && !roleOf(part).joint);
  };
  const seen = new Set<number>();
  return network.cells.flatMap((_, start) => {
    if (!isMissed[start] || seen.has(start)) return [];
    const piece = reachInOrder(network, [start], (_link, _from, to) => goesOn(to));
    for (const i of piece) seen.add(i);
    const inside = new Set(piece);
    const beside = reachInOrder(network, piece, (_link, from) => inside.has(from));
    const parts = beside.flatMap((i) => network.cells[i]?.part ?? []);
    return [
      {
        names: [...new Set(parts.filter((p) => !isPlain(p)).map((p) => p.name))],
        m3: piece.reduce((sum, c) => sum + volumeOf(liquidIn(physical.contents[c])), 0),
      },
    ];
  });
};

/** Pieces at the same part are told as one. */
const merged = (pieces: readonly Piece[]): Piece[] => {
  const all: Piece[] = [];
  for (const piece of pieces) {
    const same = all.filter((a) => a.names.some((n) => piece.names.includes(n)));
    const whole = [...same, piece];
    for (const one of same) all.splice(all.indexOf(one), 1);
    all.push({
      names: [...new Set(whole.flatMap((w) => w.names))],
      m3: whole.reduce((sum, w) => sum + w.m3, 0),
    });
  }
  return all.toSorted((a, b) => b.m3 - a.m3);
};

/** Joints and vessels do not say which line is meant. */
const isPlain = (part: Part): boolean =>
  roleOf(part).joint === true || roleOf(part).vessel !== undefined;

export const missedWarnings = (context: WaterContext): string[] => {
  const pieces = merged(piecesOf(context).filter((p) => p.names.length > 0));
  if (pieces.length === 0) return [];
  const named = pieces
    .slice(0, MOST_NAMED)
    .map((p) => `${p.names.slice(0, 3).join(", ").toLowerCase()} (${v(p.m3)})`);
  const more = pieces.length - named.length;
  return [
    `Nothing runs through the lines at ${named.join("; ")}${more > 0 ? `; and ${more} more` : ""}: the dose does not come to them. Turned over, or let out, for a moment while an outlet brings chlorine, they have it too.`,
  ];
};
