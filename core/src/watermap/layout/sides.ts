import type { Part, Run, WaterMap } from "../document.ts";
import type { OpeningUse } from "../kind.ts";
import { paramsOf } from "../document.ts";
import { PART_KINDS } from "../kinds/index.ts";

/** What the layout rules need to know of a map: neighbours, and what each part is to the water. */
export interface Graph {
  readonly map: WaterMap;
  readonly parts: ReadonlyMap<string, Part>;
  /** Neighbours by runs that are not waste. */
  readonly near: ReadonlyMap<string, readonly Hop[]>;
  readonly isWaste: (id: string) => boolean;
  readonly isSource: (id: string) => boolean;
  readonly isConsumer: (id: string) => boolean;
  readonly isOutlet: (id: string) => boolean;
  readonly isHeater: (id: string) => boolean;
  readonly isTank: (id: string) => boolean;
  readonly isDrain: (id: string) => boolean;
}

export interface Hop {
  readonly run: Run;
  readonly to: string;
  /** Port on this side and on the other. */
  readonly port: string;
  readonly farPort: string;
}

const usesOf = (part: Part): Set<OpeningUse> =>
  new Set((PART_KINDS.get(part.kind)?.anatomy(paramsOf(part)).openings ?? []).map((o) => o.use));

export const buildGraph = (map: WaterMap): Graph => {
  const parts = new Map([...map.parts].sort((a, b) => (a.id < b.id ? -1 : 1)).map((p) => [p.id, p]));
  const near = new Map<string, Hop[]>([...parts.keys()].map((id) => [id, []]));
  for (const run of [...map.runs].sort((a, b) => (a.id < b.id ? -1 : 1))) {
    if (run.service === "waste") continue;
    near.get(run.from.part)?.push({ run, to: run.to.part, port: run.from.port, farPort: run.to.port });
    near.get(run.to.part)?.push({ run, to: run.from.part, port: run.to.port, farPort: run.from.port });
  }
  const uses = new Map([...parts].map(([id, part]) => [id, usesOf(part)]));
  const vessel = (id: string): string | undefined => PART_KINDS.get(parts.get(id)?.kind ?? "")?.role.vessel;
  const has = (id: string, use: OpeningUse): boolean => uses.get(id)?.has(use) ?? false;
  const isOutlet = (id: string): boolean => has(id, "outlet");
  const isHeater = (id: string): boolean => vessel(id) === "heater";
  return {
    map,
    parts,
    near,
    isOutlet,
    isHeater,
    isTank: (id) => vessel(id) === "fresh",
    isDrain: (id) => has(id, "low-point"),
    isWaste: (id) => vessel(id) === "waste" || (near.get(id) ?? []).length === 0,
    isSource: (id) => vessel(id) === "fresh" || has(id, "supply") || has(id, "fill") || has(id, "pickup"),
    isConsumer: (id) => isOutlet(id) || isHeater(id),
  };
};

/** Parts joined to a start when some are taken away. */
export const joined = (graph: Graph, start: string, without: ReadonlySet<string>): Set<string> => {
  const seen = new Set([start]);
  const todo = [start];
  for (let at = todo.pop(); at !== undefined; at = todo.pop())
    for (const hop of graph.near.get(at) ?? [])
      if (!seen.has(hop.to) && !without.has(hop.to)) {
        seen.add(hop.to);
        todo.push(hop.to);
      }
  return seen;
};

/** Shortest way between two parts, by number of parts; passes nothing that is shut out. */
export const wayBetween = (
  graph: Graph,
  from: string,
  wanted: (id: string) => boolean,
  shutOut: (id: string) => boolean = () => false,
): string[] => {
  const cameFrom = new Map<string, string | undefined>([[from, undefined]]);
  const todo = [from];
  for (let at = todo.shift(); at !== undefined; at = todo.shift()) {
    if (wanted(at)) {
      const way: string[] = [];
      for (let step: string | undefined = at; step !== undefined; step = cameFrom.get(step)) way.unshift(step);
      return way;
    }
    for (const hop of graph.near.get(at) ?? [])
      if (!cameFrom.has(hop.to) && !shutOut(hop.to)) {
        cameFrom.set(hop.to, at);
        todo.push(hop.to);
      }
  }
  return [];
};

/**
 * The part at which the source side ends: of the parts that everything drawn must pass, the farthest from the sources
 * that still leaves every outlet and heater on its far side.
 */
export const findNeck = (graph: Graph): string | undefined => {
  const sources = [...graph.parts.keys()].filter(graph.isSource);
  const start = sources.find(graph.isTank) ?? sources[0];
  if (start === undefined) return undefined;
  const way = wayBetween(graph, start, graph.isConsumer);
  const separates = (id: string): boolean => {
    const without = new Set([id]);
    return sources.every((s) => s === id || ![...joined(graph, s, without)].some(graph.isConsumer));
  };
  return way.slice(1, -1).findLast(separates) ?? way.slice(1, -1).find((id) => !graph.isConsumer(id));
};
