import {
  type End,
  kindOfPart,
  type Network,
  openPorts,
  type Part,
  paramsOf,
  partOf,
  portsOf,
  type PipeRun,
  reachInOrder,
  runsAt,
  type WaterMap,
  withChecks,
} from "../watermap/index.ts";

/** Walking along pipes of the drawing, part by part. */

export const farEnd = (run: PipeRun, partId: string): End =>
  run.from.part === partId ? run.to : run.from;
export const nearEnd = (run: PipeRun, partId: string): End =>
  run.from.part === partId ? run.from : run.to;

export const usesOf = (part: Part): Set<string> =>
  new Set(
    kindOfPart(part)
      .anatomy(paramsOf(part))
      .openings.map((o) => o.use),
  );
export const wetRuns = (map: WaterMap, partId: string): PipeRun[] =>
  runsAt(map, partId).filter((r) => r.service !== "waste");

export interface Stretch {
  /** Parts met on the way, without the one it began at. */
  readonly parts: readonly Part[];
  readonly runs: readonly PipeRun[];
}

/** From a port along the pipe, through parts that pipe passes, up to and with the first branch or end. */
export const stretchFrom = (
  map: WaterMap,
  start: End,
  along: (map: WaterMap, partId: string) => PipeRun[] = wetRuns,
): Stretch => {
  const parts: Part[] = [];
  const runs: PipeRun[] = [];
  const seen = new Set([start.part]);
  let run = runsAt(map, start.part).find((r) => nearEnd(r, start.part).port === start.port);
  let at = start.part;
  while (run) {
    runs.push(run);
    const next = farEnd(run, at).part;
    const part = partOf(map, next);
    if (!part || seen.has(next)) break;
    seen.add(next);
    parts.push(part);
    const onward: PipeRun[] = along(map, next).filter((r) => r !== run);
    if (onward.length !== 1 || kindOfPart(part).role.vessel) break;
    run = onward[0];
    at = next;
  }
  return { parts, runs };
};

/** Ports that must have a pipe and have none. */
export const missingPorts = (map: WaterMap, part: Part): string[] =>
  openPorts(map, part)
    .filter((port) => !port.optional)
    .map((port) => port.name);

export const isJoined = (map: WaterMap, part: Part): boolean =>
  runsAt(map, part.id).length > 0 || portsOf(part).length === 0;

/** Cells reached from a start when every control may be turned: checks hold, pumps pass. */
export const couldReach = (network: Network, starts: Iterable<number>): Set<number> =>
  new Set(
    reachInOrder(
      network,
      starts,
      withChecks(
        network,
        network.links.map((l) => l.gates.every((g) => g.in.length > 0)),
      ),
    ),
  );
