import type { Part, PipeRun, WaterMap } from "../document.ts";
import type { OpeningUse } from "../kind.ts";
import { paramsOf } from "../document.ts";
import { PART_KINDS } from "../kinds/index.ts";

/** What the layout rules need to know of a map: neighbours, and what each part is to the water. */
export interface Graph {
  readonly map: WaterMap;
  readonly parts: ReadonlyMap<string, Part>;
  /** Neighbours by runs of the drinking side: neither waste nor raw. */
  readonly near: ReadonlyMap<string, readonly Hop[]>;
  /** Neighbours by every run that is not waste. */
  readonly wet: ReadonlyMap<string, readonly Hop[]>;
  readonly isWaste: (id: string) => boolean;
  readonly isSource: (id: string) => boolean;
  readonly isConsumer: (id: string) => boolean;
  readonly isOutlet: (id: string) => boolean;
  readonly isHeater: (id: string) => boolean;
  readonly isTank: (id: string) => boolean;
  readonly isDrain: (id: string) => boolean;
  /** Takes raw water, or rinses a tank: a way in that is no source of drinking water. */
  readonly isIntake: (id: string) => boolean;
}

export interface Hop {
  readonly run: PipeRun;
  readonly to: string;
  /** Port on this side and on the other. */
  readonly port: string;
  readonly farPort: string;
}

const usesOf = (part: Part): Set<OpeningUse> =>
  new Set((PART_KINDS.get(part.kind)?.anatomy(paramsOf(part)).openings ?? []).map((o) => o.use));

export const buildGraph = (map: WaterMap): Graph => {
  const parts = new Map(
    [...map.parts].sort((a, b) => (a.id < b.id ? -1 : 1)).map((p) => [p.id, p]),
  );
  const near = new Map<string, Hop[]>([...parts.keys()].map((id) => [id, []]));
  const wet = new Map<string, Hop[]>([...parts.keys()].map((id) => [id, []]));
  for (const run of [...map.runs].sort((a, b) => (a.id < b.id ? -1 : 1))) {
    if (run.service === "waste") continue;
    for (const map of run.service === "raw" ? [wet] : [wet, near]) {
      map
        .get(run.from.part)
        ?.push({ run, to: run.to.part, port: run.from.port, farPort: run.to.port });
      map
        .get(run.to.part)
        ?.push({ run, to: run.from.part, port: run.to.port, farPort: run.from.port });
    }
  }
  const uses = new Map([...parts].map(([id, part]) => [id, usesOf(part)]));
  const vessel = (id: string): string | undefined =>
    PART_KINDS.get(parts.get(id)?.kind ?? "")?.role.vessel;
  const has = (id: string, use: OpeningUse): boolean => uses.get(id)?.has(use) ?? false;
  const isOutlet = (id: string): boolean => has(id, "outlet");
  const isHeater = (id: string): boolean =>
    PART_KINDS.get(parts.get(id)?.kind ?? "")?.group === "heat";
  return {
    map,
    parts,
    near,
    wet,
    isOutlet,
    isHeater,
    isTank: (id) => vessel(id) === "fresh",
    isDrain: (id) => has(id, "low-point") && !isHeater(id),
    isIntake: (id) => has(id, "raw") || has(id, "flush"),
    isWaste: (id) => vessel(id) === "waste" || (wet.get(id) ?? []).length === 0,
    isSource: (id) =>
      vessel(id) === "fresh" || has(id, "supply") || has(id, "fill") || has(id, "pickup"),
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
      for (let step: string | undefined = at; step !== undefined; step = cameFrom.get(step))
        way.unshift(step);
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

/** What is drawn leaves a tank by its outlet: not by its filler, nor over the link to another tank. */
const drawn = (hop: Hop): boolean =>
  hop.run.service !== "fill" && !hop.port.startsWith("link") && !hop.farPort.startsWith("link");

/** Whether water can pass a part from one port to another with its controls in some position: a panel joins a tank to the pump, never to the house. */
const passes = (part: Part, from: string, to: string): boolean => {
  const anatomy = PART_KINDS.get(part.kind)?.anatomy(paramsOf(part));
  const cellAt = (port: string): string | undefined =>
    anatomy?.ports.find((p) => p.name === port)?.cell;
  const [start, goal] = [cellAt(from), cellAt(to)];
  if (!anatomy || start === undefined || goal === undefined) return false;
  const walk = (
    cell: string,
    seen: readonly string[],
    positions: Readonly<Record<string, readonly string[]>>,
  ): boolean => {
    if (cell === goal) return true;
    return anatomy.links.some((link) => {
      const next = link.from === cell ? link.to : link.to === cell ? link.from : undefined;
      if (next === undefined || seen.includes(next)) return false;
      const { gate } = link;
      if (!gate) return walk(next, [...seen, next], positions);
      // Two ways that need one handle in two places at once are no way.
      const still = gate.in.filter((p) => positions[gate.control]?.includes(p) ?? true);
      return (
        still.length > 0 && walk(next, [...seen, next], { ...positions, [gate.control]: still })
      );
    });
  };
  return walk(start, [start], {});
};

interface Drawn {
  readonly id: string;
  readonly entry: string | undefined;
  readonly before: Drawn | undefined;
}

const wayOf = (last: Drawn | undefined): string[] => {
  const way: string[] = [];
  for (let step = last; step; step = step.before) way.push(step.id);
  return way.toReversed();
};

/** Ports of a part between which water can pass, asked for once. */
const passed = new WeakMap<Part, Map<string, boolean>>();
const letsBy = (part: Part, from: string, to: string): boolean => {
  const known = passed.get(part) ?? new Map<string, boolean>();
  passed.set(part, known);
  const key = `${from} ${to}`;
  const found = known.get(key) ?? passes(part, from, to);
  known.set(key, found);
  return found;
};

/** What is met by whoever goes with the water from a part, nearest first, past what lets it pass; a part with several ports more than once. */
function* drawnFrom(graph: Graph, from: string): Generator<Drawn, void, undefined> {
  const seen = new Set([from]);
  const todo: Drawn[] = [{ id: from, entry: undefined, before: undefined }];
  for (const at of todo) {
    yield at;
    const part = graph.parts.get(at.id);
    for (const hop of graph.near.get(at.id) ?? []) {
      const key = `${hop.to}.${hop.farPort}`;
      if (
        seen.has(key) ||
        !drawn(hop) ||
        (at.entry !== undefined && part && !letsBy(part, at.entry, hop.port))
      )
        continue;
      seen.add(key);
      todo.push({ id: hop.to, entry: hop.farPort, before: at });
    }
  }
}

/** The way by which water is drawn from a part to the first one wanted, past what lets it pass. */
export const drawnWay = (graph: Graph, from: string, wanted: (id: string) => boolean): string[] => {
  for (const at of drawnFrom(graph, from)) if (wanted(at.id)) return wayOf(at);
  return [];
};

/** The ways by which water is drawn from a part to every other. */
const drawnWays = (graph: Graph, from: string): ((id: string) => string[]) => {
  const met = new Map<string, Drawn>();
  for (const at of drawnFrom(graph, from)) if (!met.has(at.id)) met.set(at.id, at);
  return (id) => wayOf(met.get(id));
};

/** The source from which the pump line is drawn: of the tanks, the one with the shortest way to something that uses water. */
export const mainSource = (graph: Graph): string | undefined => {
  const sources = [...graph.parts.keys()].filter(graph.isSource);
  const way = (id: string): number => {
    const { length } = drawnWay(graph, id, graph.isConsumer);
    return length === 0 ? Number.POSITIVE_INFINITY : length;
  };
  const tanks = sources.filter((id) => graph.isTank(id) && Number.isFinite(way(id)));
  return (tanks.length > 0 ? tanks : sources.filter((id) => Number.isFinite(way(id)))).toSorted(
    (a, b) => way(a) - way(b) || (a < b ? -1 : 1),
  )[0];
};

/**
 * How many of some parts no source reaches any more without a part, by that part: those that hang on it alone. A depth-first search from all
 * sources (Hopcroft and Tarjan, Communications of the ACM 16, 1973), with its own stack.
 */
const behindEach = (
  graph: Graph,
  sources: readonly string[],
  counted: ReadonlySet<string>,
): Map<string, number> => {
  interface Visit {
    readonly id: string;
    readonly depth: number;
    readonly by: Visit | undefined;
    readonly next: Iterator<string>;
    low: number;
    count: number;
  }
  const behind = new Map<string, number>();
  const depth = new Map<string, number>();
  const isSource = new Set(sources);
  const open: Visit[] = [];
  const visit = (id: string, by: Visit | undefined): void => {
    const deep = (by?.depth ?? 0) + 1;
    depth.set(id, deep);
    const near = (graph.near.get(id) ?? []).map((hop) => hop.to);
    open.push({
      id,
      depth: deep,
      by,
      next: near.values(),
      // A source is joined to all sources outside, at depth nothing.
      low: isSource.has(id) ? 0 : deep,
      count: counted.has(id) ? 1 : 0,
    });
  };
  for (const source of sources) {
    if (depth.has(source)) continue;
    visit(source, undefined);
    for (let top = open.at(-1); top; top = open.at(-1)) {
      const next = top.next.next();
      if (!next.done) {
        const met = depth.get(next.value);
        if (met === undefined) visit(next.value, top);
        else if (next.value !== top.by?.id) top.low = Math.min(top.low, met);
        continue;
      }
      open.pop();
      const { by } = top;
      if (!by) continue;
      by.low = Math.min(by.low, top.low);
      by.count += top.count;
      if (top.low >= by.depth) behind.set(by.id, (behind.get(by.id) ?? 0) + top.count);
    }
  }
  return behind;
};

// A neck must stand before at least so much of what uses water; what is left beside it gets a strip of its own.
const MOST_OF = 0.6;

/**
 * The part at which the source side ends: of the parts that everything drawn must pass, the farthest from the sources
 * that still leaves every outlet and heater on its far side. Where no part stands before all of them, before most.
 */
export const findNeck = (graph: Graph): string | undefined => {
  const sources = [...graph.parts.keys()].filter(graph.isSource);
  const start = mainSource(graph);
  if (start === undefined) return undefined;
  const reachable = joined(graph, start, new Set());
  const consumers = [...graph.parts.keys()].filter(
    (id) => graph.isConsumer(id) && reachable.has(id),
  );
  const ways = drawnWays(graph, start);
  const way = [...new Set(consumers.flatMap((c) => ways(c).slice(1, -1)))].filter(
    (id) => !graph.isConsumer(id),
  );
  const behind = behindEach(graph, sources, new Set(consumers));
  const scored = way.map((id) => ({ id, behind: behind.get(id) ?? 0 }));
  const most = Math.max(0, ...scored.map((s) => s.behind));
  if (most === 0 || most < consumers.length * MOST_OF) return undefined;
  // Of several on one line, the farthest from the source; lines are as long as the way to them.
  const depth = (id: string): number => ways(id).length;
  return scored
    .filter((s) => s.behind === most)
    .toSorted((a, b) => depth(b.id) - depth(a.id) || (a.id < b.id ? -1 : 1))[0]?.id;
};
