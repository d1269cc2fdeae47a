import type { WaterMap } from "../document.ts";
import { layApart } from "./apart.ts";
import {
  boxAt,
  type Box,
  placePorts,
  type Point,
  type PortPlace,
  shapeOf,
  symbolOf,
} from "./geometry.ts";
import { type Label, placeLabels } from "./labels.ts";
import { placeParts } from "./place.ts";
import { layPipes } from "./route.ts";
import { buildGraph, drawnWay, findNeck } from "./sides.ts";
export type { Point, Side } from "./geometry.ts";

export interface LaidPart {
  readonly id: string;
  readonly symbol: string;
  readonly at: Point;
  readonly halfW: number;
  readonly halfH: number;
  readonly ports: Readonly<Record<string, PortPlace>>;
}

export interface LaidRun {
  readonly id: string;
  readonly points: readonly Point[];
  /** Places where it is bridged over another pipe. */
  readonly bridges: readonly Point[];
  /** Water in use runs from the run's "from" end to its "to" end. */
  readonly forward: boolean;
}

/** A drawing of a map in grid units, y down. */
export interface MapLayout {
  readonly parts: readonly LaidPart[];
  readonly runs: readonly LaidRun[];
  readonly labels: readonly Label[];
  readonly bounds: Box;
}

/** Whether water in use runs from the run's "from" end to its "to" end: from every source to the neck, and onward from there. */
const flowDirections = (map: WaterMap): ((run: WaterMap["runs"][number]) => boolean) => {
  const graph = buildGraph(map);
  const sources = [...graph.parts.keys()].filter(graph.isSource);
  const neck = findNeck(graph) ?? sources[0];
  const towards = new Map<string, string>();
  const depth = new Map<string, number>();
  if (neck !== undefined) {
    for (const source of sources)
      drawnWay(graph, source, (id) => id === neck).forEach(
        (id, i, way) => i > 0 && towards.set(way[i - 1] ?? "", id),
      );
    const todo = [neck];
    depth.set(neck, 0);
    for (let at = todo.shift(); at !== undefined; at = todo.shift())
      for (const hop of graph.isOutlet(at) ? [] : (graph.near.get(at) ?? []))
        // Water ends at an outlet: its hot side is not fed by its cold.
        if (!depth.has(hop.to)) {
          depth.set(hop.to, (depth.get(at) ?? 0) + 1);
          todo.push(hop.to);
        }
  }
  return ({ from, to, service }) => {
    if (service === "waste" || towards.get(from.part) === to.part) return true;
    if (towards.get(to.part) === from.part || graph.isOutlet(from.part)) return false;
    if (graph.isOutlet(to.part)) return true;
    return (depth.get(from.part) ?? 0) <= (depth.get(to.part) ?? 0);
  };
};

/** Stretches of pipes that run up and down, from left to right. */
interface Upright {
  readonly run: string;
  readonly x: number;
  readonly top: number;
  readonly bottom: number;
}

const uprightsOf = (ways: ReadonlyMap<string, readonly Point[]>): Upright[] =>
  [...ways]
    .flatMap(([run, points]) =>
      points.flatMap((a, i) => {
        const b = points[i + 1];
        return b?.x === a.x
          ? [{ run, x: a.x, top: Math.min(a.y, b.y), bottom: Math.max(a.y, b.y) }]
          : [];
      }),
    )
    .toSorted((a, b) => a.x - b.x);

/** The first of a sorted list that lies beyond. */
const firstBeyond = (uprights: readonly Upright[], x: number): number => {
  let [low, high] = [0, uprights.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((uprights[middle]?.x ?? 0) > x) high = middle;
    else low = middle + 1;
  }
  return low;
};

/** Where a pipe crosses others: on the one that runs across. */
const bridgesOf = (run: string, points: readonly Point[], uprights: readonly Upright[]): Point[] =>
  points.flatMap((p, i) => {
    const q = points[i + 1];
    if (!q || p.y !== q.y) return [];
    const [left, right] = [Math.min(p.x, q.x), Math.max(p.x, q.x)];
    const bridges: Point[] = [];
    for (let k = firstBeyond(uprights, left); k < uprights.length; k++) {
      const u = uprights[k] as Upright;
      if (u.x >= right) break;
      if (u.run !== run && u.top < p.y && u.bottom > p.y) bridges.push({ x: u.x, y: p.y });
    }
    return bridges;
  });

// What stands beside another pipe keeps so far from every part.
const CLEAR = 0.2;

const labelText = (name: string, tag: string | undefined): string => tag ?? name;

/** Symbols whose name stands inside them. */
const NAMED_INSIDE = new Set(["tank", "heater", "tap", "shower", "toilet", "appliance", "panel"]);

/** Draws a map: the same map gives the same drawing. */
export const layOut = (map: WaterMap): MapLayout => {
  const placed = placeParts(map);
  const parts = [...map.parts]
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .flatMap<LaidPart & { tag: string | undefined; name: string }>((part) => {
      const where = placed.get(part.id);
      if (!where) return [];
      const shape = shapeOf(part);
      const ports = placePorts(part, where.sides);
      return [
        {
          id: part.id,
          symbol: symbolOf(part),
          at: where.at,
          halfW: shape.halfW,
          halfH: shape.halfH,
          ports,
          tag: part.tag,
          name: part.name,
        },
      ];
    });
  const byId = new Map(parts.map((p) => [p.id, p]));
  const portAt = (partId: string, port: string): { at: Point; place: PortPlace } | undefined => {
    const part = byId.get(partId);
    const place = part?.ports[port];
    return part && place
      ? { at: { x: part.at.x + place.dx, y: part.at.y + place.dy }, place }
      : undefined;
  };
  const boxes = parts.map((p) => boxAt(p.at, p));
  const errands = map.runs.flatMap((run) => {
    const [from, to] = [portAt(run.from.part, run.from.port), portAt(run.to.part, run.to.port)];
    if (!from || !to) return [];
    return [
      {
        id: run.id,
        from: from.at,
        to: to.at,
        ...(from.place.side ? { fromSide: from.place.side } : {}),
        ...(to.place.side ? { toSide: to.place.side } : {}),
      },
    ];
  });
  const ways = layApart(layPipes(errands, boxes), (along, { at, from, to }) =>
    boxes.every((b) => {
      const [low, high, left, right] =
        along === "x" ? [b.top, b.bottom, b.left, b.right] : [b.left, b.right, b.top, b.bottom];
      return at <= low - CLEAR || at >= high + CLEAR || to <= left || from >= right;
    }),
  );
  const forward = flowDirections(map);
  const uprights = uprightsOf(ways);
  const runs = [...map.runs]
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .map<LaidRun>((run) => {
      const points = ways.get(run.id) ?? [];
      return {
        id: run.id,
        points,
        bridges: bridgesOf(run.id, points, uprights),
        forward: forward(run),
      };
    });
  const wishes = parts.flatMap((p, i) =>
    p.symbol === "tee" || NAMED_INSIDE.has(p.symbol)
      ? []
      : [{ id: p.id, text: labelText(p.name, p.tag), of: boxes[i] as Box }],
  );
  // Tags first: they are short and the hand looks for them.
  wishes.sort((a, b) => a.text.length - b.text.length || (a.id < b.id ? -1 : 1));
  const labels = placeLabels(
    wishes,
    boxes,
    runs.map((r) => r.points),
  );
  const all = [
    ...boxes,
    ...labels.map((l) => l.box),
    ...runs.flatMap((r) => r.points.map((p) => ({ left: p.x, right: p.x, top: p.y, bottom: p.y }))),
  ];
  return {
    parts: parts.map(({ tag: _tag, name: _name, ...part }) => part),
    runs,
    labels,
    bounds: {
      left: Math.min(...all.map((b) => b.left)),
      right: Math.max(...all.map((b) => b.right)),
      top: Math.min(...all.map((b) => b.top)),
      bottom: Math.max(...all.map((b) => b.bottom)),
    },
  };
};
