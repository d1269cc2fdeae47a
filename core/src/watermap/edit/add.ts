import type { Part, PipeRun, WaterMap } from "../document.ts";
import { PART_KINDS } from "../kinds/index.ts";
import { type End, newRun, openPorts, partOf, portSpecs, pipeRunOf, runsAt } from "./ends.ts";
import { freshId, freshName } from "./names.ts";

/** Edits are functions from a sound map to a sound map; what cannot be done leaves the map as it was and says why. */
export type Edited =
  | { readonly ok: true; readonly map: WaterMap; readonly part?: string }
  | { readonly ok: false; readonly problem: string };

const no = (problem: string): Edited => ({ ok: false, problem });

type PartMore = Partial<Omit<Part, "id" | "kind">>;

const newPart = (map: WaterMap, kind: string, more: PartMore): Part => ({
  id: freshId(map, more.name ?? PART_KINDS.get(kind)?.label ?? kind),
  kind,
  name: freshName(map, kind),
  heightM: 0.2,
  params: {},
  assumed: true,
  ...more,
});

/** Puts a part on the map that joins nothing yet. */
export const addLoose = (map: WaterMap, kind: string, more: PartMore = {}): Edited => {
  if (!PART_KINDS.has(kind)) return no(`There is no part kind "${kind}".`);
  const part = newPart(map, kind, more);
  return { ok: true, map: { ...map, parts: [...map.parts, part] }, part: part.id };
};

/** The two ports by which pipe passes through a part, or none where it ends there. */
const throughPorts = (kind: string): readonly [string, string] | undefined => {
  const found = PART_KINDS.get(kind);
  if (!found) return undefined;
  const { group, role } = found;
  if (group === "outlets" || group === "ways in" || role.vessel || role.cushion) return undefined;
  const names = portSpecs({ id: "x", kind, name: "x", heightM: 0, params: {} }).map((p) => p.name);
  const pick = (a: string, b: string): readonly [string, string] | undefined =>
    names.includes(a) && names.includes(b) ? [a, b] : undefined;
  return (
    pick("in", "out") ??
    pick("in", "out1") ??
    pick("common", "a") ??
    pick("a", "b") ??
    pick("cold", "hot") ??
    pick("cold", "mixed") ??
    pick("supply", "house")
  );
};

/** The port by which a part takes water of a service. */
const portFor = (map: WaterMap, part: Part, service: PipeRun["service"]): string | undefined => {
  const free = openPorts(map, part).map((p) => p.name);
  const wanted =
    service === "hot"
      ? ["hot", "in", "a"]
      : service === "waste"
        ? ["in", "waste", "a"]
        : service === "fill"
          ? ["fill", "in", "out"]
          : ["cold", "water", "in", "out", "a", "common", "tank", "outlet"];
  return (
    wanted.find((port) => free.includes(port)) ?? free.find((port) => port !== "waste") ?? free[0]
  );
};

const heightOn = (map: WaterMap, run: PipeRun): number => {
  const [from, to] = [partOf(map, run.from.part), partOf(map, run.to.part)];
  return Number((((from?.heightM ?? 0) + (to?.heightM ?? 0)) / 2).toFixed(3));
};

/** Cuts a run in two at a part: the first piece keeps the run's identity, the lengths share what there was. */
const cut = (
  map: WaterMap,
  run: PipeRun,
  part: Part,
  ports: readonly [string, string],
  share: number,
): WaterMap => {
  const at = Math.min(0.9, Math.max(0.1, share));
  const { sag, ...plain } = run;
  const least = (m: number): number => Math.max(0.01, Number(m.toFixed(3)));
  const first: PipeRun = {
    ...plain,
    to: { part: part.id, port: ports[0] },
    lengthM: least(run.lengthM * at),
    ...(sag && at >= 0.5 ? { sag } : {}),
  };
  const withPart = { ...map, parts: [...map.parts, part] };
  const second: PipeRun = {
    ...plain,
    id: freshId(withPart, `${run.id}-b`),
    from: { part: part.id, port: ports[1] },
    lengthM: least(run.lengthM * (1 - at)),
    ...(sag && at < 0.5 ? { sag } : {}),
  };
  return { ...withPart, runs: map.runs.map((r) => (r.id === run.id ? first : r)).concat(second) };
};

/**
 * Drops a part on a pipe. What pipe passes through is spliced in; what pipe ends at hangs from a new tee.
 * @param share how far along the run, 0 to 1 from its "from" end
 */
export const addOnPipeRun = (
  map: WaterMap,
  kind: string,
  runId: string,
  share = 0.5,
  more: PartMore = {},
): Edited => {
  const run = pipeRunOf(map, runId);
  if (!run) return no(`There is no pipe "${runId}".`);
  if (!PART_KINDS.has(kind)) return no(`There is no part kind "${kind}".`);
  const heightM = heightOn(map, run);
  const place = partOf(map, run.to.part)?.place ?? partOf(map, run.from.part)?.place;
  const here = { heightM, ...(place ? { place } : {}) };
  const through = throughPorts(kind);
  if (through) {
    const part = newPart(map, kind, { ...here, ...more });
    return { ok: true, map: cut(map, run, part, through, share), part: part.id };
  }
  const tee = newPart(map, "tee", { ...here, name: freshName(map, "tee") });
  const teed = cut(map, run, tee, ["a", "b"], share);
  const rise = PART_KINDS.get(kind)?.group === "outlets" ? 0.6 : 0;
  const part = newPart(teed, kind, { ...here, heightM: heightM + rise, ...more });
  const withPart = { ...teed, parts: [...teed.parts, part] };
  const port = portFor(withPart, part, run.service);
  if (!port) return no(`A ${PART_KINDS.get(kind)?.label.toLowerCase()} has no port for a pipe.`);
  const branch = newRun(
    withPart,
    freshId(withPart, `r-${tee.id}-${part.id}`),
    { part: tee.id, port: "c" },
    { part: part.id, port },
    { service: run.service, pipe: run.pipe },
  );
  return { ok: true, map: { ...withPart, runs: [...withPart.runs, branch] }, part: part.id };
};

/** A part that joined nothing lay where it was let go; once it has a pipe, the drawing's rules find its place. */
const settled = (map: WaterMap, ids: readonly string[]): WaterMap["parts"] =>
  map.parts.map((part) => {
    if (!part.nudge || !ids.includes(part.id) || runsAt(map, part.id).length > 0) return part;
    const { nudge: _nudge, ...rest } = part;
    return rest;
  });

/** Pipes two ports together. */
export const connect = (map: WaterMap, from: End, to: End, more: Partial<PipeRun> = {}): Edited => {
  for (const end of [from, to]) {
    const part = partOf(map, end.part);
    if (!part) return no(`There is no part "${end.part}".`);
    if (!portSpecs(part).some((p) => p.name === end.port))
      return no(`${part.name} has no port "${end.port}".`);
    if (!openPorts(map, part).some((p) => p.name === end.port))
      return no(`${part.name} already has a pipe on that port.`);
  }
  if (from.part === to.part) return no("A pipe must lead to another part.");
  const run = newRun(
    map,
    freshId(map, `r-${from.part}-${from.port}-${to.part}-${to.port}`),
    from,
    to,
    more,
  );
  return {
    ok: true,
    map: { ...map, parts: settled(map, [from.part, to.part]), runs: [...map.runs, run] },
  };
};

/** Pipes a port into the middle of a run, through a new tee. */
export const connectToPipeRun = (map: WaterMap, from: End, runId: string, share = 0.5): Edited => {
  const run = pipeRunOf(map, runId);
  const part = partOf(map, from.part);
  if (!run || !part) return no("There is nothing to join there.");
  if (run.from.part === from.part || run.to.part === from.part)
    return no("That pipe already leads to this part.");
  if (!openPorts(map, part).some((p) => p.name === from.port))
    return no(`${part.name} already has a pipe on that port.`);
  const teed = addOnPipeRun(map, "tee", runId, share);
  if (!teed.ok || !teed.part) return teed;
  return connect(teed.map, { part: teed.part, port: "c" }, from, {
    service: run.service,
    pipe: run.pipe,
  });
};

/** Adds a part on an open port, with a pipe between. */
export const addOnPort = (map: WaterMap, kind: string, end: End, more: PartMore = {}): Edited => {
  const holder = partOf(map, end.part);
  if (!holder) return no(`There is no part "${end.part}".`);
  const added = addLoose(map, kind, {
    heightM: holder.heightM,
    ...(holder.place ? { place: holder.place } : {}),
    ...more,
  });
  if (!added.ok || !added.part) return added;
  const part = partOf(added.map, added.part);
  const service = newRun(added.map, "x", end, end).service;
  const port = part && portFor(added.map, part, service);
  if (!port) return no("That part has no port for a pipe.");
  const joined = connect(added.map, end, { part: added.part, port });
  return joined.ok ? { ...joined, part: added.part } : joined;
};
