import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { betweenOpenEnds } from "../contents/between.ts";
import {
  BACK,
  cheapest,
  type Graph,
  lowestWays,
  ONWARD,
  pruneDeadEnds,
  reach,
  withChecks,
} from "./graph.ts";

/** Any small network: parallel links and loose pieces among it. */
const graphs = fc
  .integer({ min: 2, max: 9 })
  .chain((cells) =>
    fc
      .array(
        fc.record({
          a: fc.integer({ min: 0, max: cells - 1 }),
          b: fc.integer({ min: 0, max: cells - 1 }),
          oneWay: fc.boolean(),
          isOpen: fc.boolean(),
          heightM: fc.integer({ min: 0, max: 5 }),
        }),
        { maxLength: 16 },
      )
      .map((all) => ({ cells, links: all.filter((l) => l.a !== l.b) })),
  )
  .map(({ cells, links }) => ({
    links,
    graph: {
      cells: { length: cells },
      links,
      linksOf: Array.from({ length: cells }, (_, c) =>
        links.flatMap((l, i) => (l.a === c || l.b === c ? [i] : [])),
      ),
    } satisfies Graph,
  }));

/** Every way without a circle from a cell to another, as rows of links: slow, and plain to see. */
const waysBetween = (
  { links }: Pick<Graph, "links">,
  from: number,
  to: number,
  may: (link: number, at: number) => boolean,
  been: readonly number[] = [from],
): number[][] =>
  from === to
    ? [[]]
    : links.flatMap((l, i) => {
        const next = l.a === from ? l.b : l.b === from ? l.a : undefined;
        if (next === undefined || been.includes(next) || !may(i, from)) return [];
        return waysBetween({ links }, next, to, may, [...been, next]).map((way) => [i, ...way]);
      });

describe("searches along flat rows", () => {
  it("reach what a way of open links leads to, checks only their own way", () => {
    fc.assert(
      fc.property(graphs, ({ graph, links }) => {
        const passable = links.map((l) => l.isOpen);
        const may = withChecks(graph, passable);
        const marks = reach(graph, [0], may);
        for (let cell = 0; cell < graph.cells.length; cell++)
          expect(marks[cell] === 1).toBe(
            waysBetween(
              graph,
              0,
              cell,
              (i, at) => passable[i] === true && (links[i]?.oneWay !== true || links[i]?.a === at),
            ).length > 0,
          );
      }),
    );
  });

  it("find the way whose highest place is lowest, with the flow and against it, as the search for any cost does", () => {
    fc.assert(
      fc.property(graphs, fc.boolean(), ({ graph, links }, isOutward) => {
        const heightM = Float64Array.from(links, (l) => l.heightM);
        const mayGo = Uint8Array.from(links, (l) =>
          l.isOpen ? (l.oneWay ? ONWARD : ONWARD + BACK) : 0,
        );
        const flowsTo = (i: number, from: number, to: number): boolean =>
          links[i]?.isOpen === true && (!links[i].oneWay || links[i].b === (isOutward ? to : from));
        const found = lowestWays(graph, [{ cell: 0, heightM: 1 }], heightM, mayGo, isOutward);
        const slow = cheapest(graph, [[0, 1]], (sofar, i, from, to) =>
          flowsTo(i, from, to) ? Math.max(sofar, links[i]?.heightM ?? 0) : undefined,
        );
        expect([...found.cost]).toEqual([...slow.cost]);
        for (let cell = 1; cell < graph.cells.length; cell++) {
          const ways = waysBetween(graph, 0, cell, (i, at) => {
            const to = links[i]?.a === at ? links[i].b : (links[i]?.a ?? -1);
            return flowsTo(i, at, to);
          });
          const highest = ways.map((way) => Math.max(1, ...way.map((i) => heightM[i] as number)));
          expect(found.cost[cell]).toBe(Math.min(Number.POSITIVE_INFINITY, ...highest));
        }
      }),
    );
  });

  it("keep a cell between open ends just where a way leads from one through it to another", () => {
    fc.assert(
      fc.property(
        graphs,
        fc.array(fc.nat({ max: 8 }), { minLength: 1, maxLength: 4 }),
        ({ graph, links }, drawn) => {
          const air = graph.cells.length;
          const ends = drawn.map((cell) => cell % air);
          const found = betweenOpenEnds(graph, (i) => links[i]?.isOpen === true, ends);
          // With the air as one more cell: a circle through it, of two ends or more.
          const all = [
            ...links.map((l) => ({ ...l, oneWay: false })),
            ...ends.map((cell) => ({ a: air, b: cell, oneWay: false, isOpen: true, heightM: 0 })),
          ];
          for (let cell = 0; cell < air; cell++) {
            const out = waysBetween({ links: all }, cell, air, (i) => all[i]?.isOpen === true);
            const isBetween = out.some((way) =>
              out.some((other) => {
                const cellsOf = (w: readonly number[]): Set<number> =>
                  new Set(w.flatMap((i) => [all[i]?.a ?? -1, all[i]?.b ?? -1]));
                const mine = cellsOf(way);
                return (
                  way.at(-1) !== other.at(-1) &&
                  way.every((i) => !other.includes(i)) &&
                  [...cellsOf(other)].every((c) => c === cell || c === air || !mine.has(c))
                );
              }),
            );
            expect(found[cell] === 1, `cell ${cell}`).toBe(isBetween);
          }
        },
      ),
    );
  });

  it("take off dead ends, one after another, and nothing else", () => {
    fc.assert(
      fc.property(graphs, ({ graph, links }) => {
        const dead = Uint8Array.from(links, (l) => (l.isOpen ? 0 : 1));
        const before = [...dead];
        pruneDeadEnds(graph, dead, (cell) => cell === 0);
        links.forEach((l, i) => {
          if (before[i] === 1) return expect(dead[i]).toBe(1);
          const beside = (cell: number): number =>
            links.filter((o, k) => k !== i && dead[k] === 0 && (o.a === cell || o.b === cell))
              .length;
          // What stays goes on at both of its ends.
          if (dead[i] === 0)
            for (const cell of [l.a, l.b]) expect(cell === 0 || beside(cell) > 0).toBe(true);
        });
        // And whatever lies on a circle stays.
        links.forEach((l, i) => {
          const round = waysBetween(graph, l.a, l.b, (k) => k !== i && before[k] === 0);
          if (before[i] === 0 && round.length > 0) expect(dead[i]).toBe(0);
        });
      }),
    );
  });
});
