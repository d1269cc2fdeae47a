import type { Cell, Network } from "../watermap/network.ts";
import type { LiveOpening } from "../watermap/situation.ts";

/** A flow that stands still for a moment, cell by cell in the order in which liquid meets them. */

export interface Way {
  readonly share: number;
  readonly heightM: number;
  readonly atFrom: boolean;
  readonly link?: number | undefined;
  readonly opening?: LiveOpening | undefined;
}

const wayOf = (
  share: number,
  heightM: number,
  atFrom: boolean,
  link: number | undefined,
  opening: LiveOpening | undefined,
): Way => ({ share, heightM, atFrom, link, opening });

/** A cell with flow: by which ways liquid comes and goes. */
export interface Station {
  readonly index: number;
  readonly cell: Cell;
  readonly out: readonly Way[];
  /** Ways out into a cell that comes before this one, where a circle has been cut: what goes there is given first. */
  readonly ahead: readonly Way[];
  readonly in: readonly Way[];
  /** Forced in here from outside by no opening, in the unit of the shares. */
  readonly forced: number;
  /** The only way in and the only way out, where nothing else comes or goes. */
  readonly only: { readonly in: Way; readonly out: Way } | undefined;
}

/** Flow through a network at a moment, in shares of a whole or in m3/s. */
export interface Passage {
  /** By link, positive from a to b. */
  readonly link: ArrayLike<number>;
  /** By opening, positive outward. */
  readonly holes: readonly { readonly at: LiveOpening; readonly share: number }[];
  /** Forced in at a cell. */
  readonly forced: ReadonlyMap<number, number>;
}

/** Cells with flow, each after all that feed it; a circle (a pump feeding its own inlet) is cut where it is met. */
export const flowOrder = (
  network: Pick<Network, "cells" | "links">,
  { link, holes, forced }: Passage,
): number[] => {
  const next: number[][] = [];
  // By cell, how many that feed it are still to come; −1 where nothing flows or it has its place.
  const waiting = new Int32Array(network.cells.length).fill(-1);
  const touched: number[] = [];
  const touch = (cell: number, feeds: number): void => {
    if ((waiting[cell] as number) < 0) {
      waiting[cell] = 0;
      touched.push(cell);
    }
    waiting[cell] = (waiting[cell] as number) + feeds;
  };
  network.links.forEach((l, i) => {
    const q = link[i] as number;
    if (q === 0) return;
    const [from, to] = q > 0 ? [l.a, l.b] : [l.b, l.a];
    (next[from] ??= []).push(to);
    touch(from, 0);
    touch(to, 1);
  });
  for (const o of holes) if (o.share !== 0) touch(o.at.cell, 0);
  for (const cell of forced.keys()) touch(cell, 0);
  const order: number[] = [];
  let ready = touched.filter((cell) => waiting[cell] === 0);
  let first = 0;
  while (order.length < touched.length) {
    if (ready.length === 0) {
      while ((waiting[touched[first] as number] as number) < 0) first++;
      ready = [touched[first] as number];
    }
    const batch = ready;
    ready = [];
    for (const cell of batch) {
      waiting[cell] = -1;
      order.push(cell);
      for (const to of next[cell] ?? []) {
        const left = waiting[to] as number;
        if (left < 0) continue;
        waiting[to] = Math.max(0, left - 1);
        if (left === 1) ready.push(to);
      }
    }
    ready = ready.filter((cell) => (waiting[cell] as number) >= 0);
  }
  return order;
};

/**
 * For every cell with flow, in the order in which liquid meets them, by which ways it comes and goes.
 * @param order that of the passage, where it is known already
 */
export const stationsOf = (
  network: Pick<Network, "cells" | "links" | "linksOf">,
  passage: Passage,
  order: readonly number[] = flowOrder(network, passage),
): Station[] => {
  const place = new Int32Array(network.cells.length);
  order.forEach((cell, i) => (place[cell] = i));
  const holesAt = new Map<number, { readonly way: Way; readonly isOut: boolean }[]>();
  for (const { at, share } of passage.holes) {
    if (share === 0) continue;
    const way = wayOf(Math.abs(share), at.heightM, at.id.includes(":from:"), undefined, at);
    const hole = { way, isOut: share > 0 };
    const here = holesAt.get(at.cell);
    if (here) here.push(hole);
    else holesAt.set(at.cell, [hole]);
  }
  const made: Station[] = [];
  for (const index of order) {
    const cell = network.cells[index];
    if (!cell) continue;
    const [out, ahead, inward]: [Way[], Way[], Way[]] = [[], [], []];
    (network.linksOf[index] ?? []).forEach((l, end) => {
      const link = network.links[l];
      const q = passage.link[l] ?? 0;
      if (!link || q === 0) return;
      const outward = link.a === index ? q : -q;
      const atFrom = cell.lengthwise === true || (cell.form === "pipe" && end === 0);
      const way = wayOf(Math.abs(q), link.heightM, atFrom, l, undefined);
      const far = link.a === index ? link.b : link.a;
      if (outward < 0) inward.push(way);
      else if ((place[far] as number) < (place[index] as number)) ahead.push(way);
      else out.push(way);
    });
    for (const { way, isOut } of holesAt.get(index) ?? []) (isOut ? out : inward).push(way);
    const forced = passage.forced.get(index) ?? 0;
    const [first, last] = [inward[0], out[0]];
    const isOnly = inward.length === 1 && out.length === 1 && ahead.length === 0 && forced <= 0;
    made.push({
      index,
      cell,
      out,
      ahead,
      in: inward,
      forced,
      only: isOnly && first && last ? { in: first, out: last } : undefined,
    });
  }
  return made;
};
