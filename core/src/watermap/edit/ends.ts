import { type Part, paramsOf, type PipeRun, type WaterMap } from "../document.ts";
import type { PortSpec } from "../kind.ts";
import { PART_KINDS } from "../kinds/index.ts";
import { PIPE_SYSTEMS } from "../pipes.ts";

export type End = PipeRun["from"];

export const partOf = (map: WaterMap, id: string): Part | undefined =>
  map.parts.find((p) => p.id === id);
export const pipeRunOf = (map: WaterMap, id: string): PipeRun | undefined =>
  map.runs.find((r) => r.id === id);
export const runsAt = (map: WaterMap, partId: string): PipeRun[] =>
  map.runs.filter((r) => r.from.part === partId || r.to.part === partId);
export const runAtPort = (map: WaterMap, end: End): PipeRun | undefined =>
  map.runs.find(
    (r) =>
      (r.from.part === end.part && r.from.port === end.port) ||
      (r.to.part === end.part && r.to.port === end.port),
  );

export const portSpecs = (part: Part): readonly PortSpec[] =>
  PART_KINDS.get(part.kind)?.anatomy(paramsOf(part)).ports ?? [];

/** Ports without a pipe. */
export const openPorts = (map: WaterMap, part: Part): PortSpec[] =>
  portSpecs(part).filter((port) => !runAtPort(map, { part: part.id, port: port.name }));

const BY_PORT: Readonly<Record<string, PipeRun["service"]>> = {
  fill: "fill",
  overflow: "fill",
  waste: "waste",
  hot: "hot",
  cold: "cold",
  water: "cold",
  outlet: "suction",
  outlet2: "suction",
  link: "suction",
  link2: "suction",
  drain: "suction",
  jug: "suction",
};

/** What a port says of the pipe that belongs on it, where it says anything: a tank's outlet a suction line, a mixer's hot side hot. */
const serviceOfPort = (part: Part, port: string): PipeRun["service"] | undefined => {
  const kind = PART_KINDS.get(part.kind);
  if (!kind) return undefined;
  const uses = new Set(kind.anatomy(paramsOf(part)).openings.map((o) => o.use));
  if (uses.has("raw") || uses.has("flush")) return "raw";
  if (uses.has("fill")) return "fill";
  if (kind.role.vessel === "waste" || kind.group === "waste") return "waste";
  if (kind.role.pump) return port === "in" ? "suction" : "cold";
  if (uses.has("pickup")) return "suction";
  return Object.hasOwn(BY_PORT, port) ? BY_PORT[port] : undefined;
};

/** The service of a new pipe between two ends: what the ports say, else what the neighbours carry, else cold. */
const serviceBetween = (map: WaterMap, ends: readonly End[]): PipeRun["service"] => {
  const said = ends.flatMap((end) => {
    const part = partOf(map, end.part);
    return (part && serviceOfPort(part, end.port)) ?? [];
  });
  const strong = said.find((s) => s === "waste" || s === "raw" || s === "fill") ?? said[0];
  const around = ends
    .flatMap((end) => runsAt(map, end.part).map((r) => r.service))
    .filter((s) => s !== "waste");
  return strong ?? around[0] ?? "cold";
};

const STANDARD_PIPE: Record<PipeRun["service"], string> = {
  cold: "pex-1/2",
  hot: "pex-1/2",
  suction: "hose-13",
  fill: "hose-38",
  waste: "waste-40",
  raw: "hose-19",
};
const STANDARD_LENGTH_M: Record<PipeRun["service"], number> = {
  cold: 1,
  hot: 1,
  suction: 0.3,
  fill: 1,
  waste: 0.6,
  raw: 1,
};

/** The pipe most used on this map for a service, or the usual one. */
const usualPipe = (map: WaterMap, service: PipeRun["service"]): string => {
  const count = new Map<string, number>();
  for (const run of map.runs)
    if (run.service === service) count.set(run.pipe, (count.get(run.pipe) ?? 0) + 1);
  const [found] = [...count].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
  return found?.[0] ?? STANDARD_PIPE[service];
};

export const newRun = (
  map: WaterMap,
  id: string,
  from: End,
  to: End,
  more: Partial<PipeRun> = {},
): PipeRun => {
  const service = more.service ?? serviceBetween(map, [from, to]);
  const pipe = more.pipe ?? usualPipe(map, service);
  return {
    id,
    from,
    to,
    service,
    pipe: PIPE_SYSTEMS.has(pipe) ? pipe : STANDARD_PIPE[service],
    lengthM: STANDARD_LENGTH_M[service],
    heated: false,
    insulated: false,
    assumed: true,
    ...more,
  };
};
