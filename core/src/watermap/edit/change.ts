import {
  cellsOfPart,
  controlsOfPart,
  type Part,
  portsOf,
  type PipeRun,
  type WaterMap,
} from "../document.ts";
import { controlKey } from "../ids.ts";
import { PART_KINDS } from "../kinds/index.ts";
import type { Edited } from "./add.ts";
import { partOf, pipeRunOf, runsAt } from "./ends.ts";
import { freshId } from "./names.ts";

/** Takes out of lineups, modes and contents whatever names a part, control or run that is no longer there. */
export const tidied = (map: WaterMap): WaterMap => {
  const controls = new Map(
    map.parts.flatMap((p) => controlsOfPart(p).map((c) => [controlKey(p.id, c.name), c] as const)),
  );
  const cells = new Set([...map.runs.map((run) => run.id), ...map.parts.flatMap(cellsOfPart)]);
  const kept = (lineup: Readonly<Record<string, string>>): Record<string, string> =>
    Object.fromEntries(
      Object.entries(lineup).filter(([key, position]) =>
        controls.get(key)?.positions.some((p) => p.name === position),
      ),
    );
  return {
    ...map,
    lineup: kept(map.lineup),
    contents: Object.fromEntries(Object.entries(map.contents).filter(([key]) => cells.has(key))),
    modes: Object.fromEntries(
      Object.entries(map.modes).map(([mode, lineup]) => [mode, kept(lineup ?? {})]),
    ),
  };
};

/** Joins the two pipes at a part into one, which keeps the first one's identity. */
const heal = (map: WaterMap, part: Part): WaterMap => {
  const [first, second] = runsAt(map, part.id);
  if (!first || !second) return map;
  const far = (run: PipeRun): PipeRun["from"] => (run.from.part === part.id ? run.to : run.from);
  const endsAtPart = first.to.part === part.id;
  const joined: PipeRun = {
    ...first,
    from: endsAtPart ? first.from : far(second),
    to: endsAtPart ? far(second) : first.to,
    lengthM: Math.min(200, Number((first.lengthM + second.lengthM).toFixed(3))),
    ...((first.sag ?? second.sag) ? { sag: first.sag ?? second.sag } : {}),
  };
  return {
    ...map,
    parts: map.parts.filter((p) => p.id !== part.id),
    runs: map.runs.filter((r) => r.id !== second.id).map((r) => (r.id === first.id ? joined : r)),
  };
};

/** Tees left with two pipes are no tees any more. */
const dissolveTees = (map: WaterMap, ids: readonly string[]): WaterMap =>
  ids.reduce((now, id) => {
    const part = partOf(now, id);
    const runs = part ? runsAt(now, id) : [];
    if (
      !part ||
      !PART_KINDS.get(part.kind)?.role.branch ||
      new Set(runs.flatMap((r) => [r.from.part, r.to.part])).size !== 3
    )
      return now;
    return runs.length === 2 ? heal(now, part) : now;
  }, map);

const neighbours = (map: WaterMap, id: string): string[] => [
  ...new Set(runsAt(map, id).map((r) => (r.from.part === id ? r.to.part : r.from.part))),
];

/** Takes a part away. Where pipe passed through it, the pipe is healed; where pipe ended at it, the pipe and its tee go too. */
export const removePart = (map: WaterMap, id: string): Edited => {
  const part = partOf(map, id);
  if (!part) return { ok: false, problem: `There is no part "${id}".` };
  if (map.parts.length === 1) return { ok: false, problem: "A map keeps at least one part." };
  const { role, group } = PART_KINDS.get(part.kind) ?? {};
  const passes = runsAt(map, id).length === 2 && neighbours(map, id).length === 2;
  if (passes && !role?.vessel && group !== "outlets") {
    return { ok: true, map: tidied(heal(map, part)) };
  }
  const near = neighbours(map, id);
  const without = {
    ...map,
    parts: map.parts.filter((p) => p.id !== id),
    runs: map.runs.filter((r) => r.from.part !== id && r.to.part !== id),
  };
  return { ok: true, map: tidied(dissolveTees(without, near)) };
};

/** Takes a pipe away. Tees that it leaves with two pipes dissolve. */
export const removePipeRun = (map: WaterMap, id: string): Edited => {
  const run = pipeRunOf(map, id);
  if (!run) return { ok: false, problem: `There is no pipe "${id}".` };
  const without = { ...map, runs: map.runs.filter((r) => r.id !== id) };
  return { ok: true, map: tidied(dissolveTees(without, [run.from.part, run.to.part])) };
};

/** A second one like it, beside it, joined to nothing; tag and place on the drawing are not taken over. */
export const duplicate = (map: WaterMap, id: string): Edited => {
  const part = partOf(map, id);
  if (!part) return { ok: false, problem: `There is no part "${id}".` };
  const { tag: _tag, nudge: _nudge, unknown: _unknown, ...rest } = part;
  const copy: Part = { ...rest, id: freshId(map, part.name), name: nameAfter(map, part.name) };
  return { ok: true, map: { ...map, parts: [...map.parts, copy] }, part: copy.id };
};

const nameAfter = (map: WaterMap, name: string): string => {
  const base = name.replace(/ \d+$/u, "");
  const taken = new Set(map.parts.map((p) => p.name));
  for (let n = 2; ; n++) if (!taken.has(`${base} ${n}`)) return `${base} ${n}`.slice(0, 60);
};

/** A change of a part. Absent means "as it is"; null takes the field away. */
export interface PartChange {
  readonly name?: string;
  readonly kind?: string;
  readonly tag?: string | null;
  readonly place?: string | null;
  readonly access?: string | null;
  readonly heightM?: number;
  readonly params?: Readonly<Record<string, number | string | boolean>>;
  readonly ends?: Readonly<Record<string, string>> | null;
  readonly unknown?: Part["unknown"] | null;
  readonly assumed?: true | null;
  readonly nudge?: Part["nudge"] | null;
}

const applied = <T extends object>(record: T, change: object): T => {
  const next: Record<string, unknown> = { ...(record as Record<string, unknown>) };
  for (const [name, value] of Object.entries(change)) {
    if (value === null) delete next[name];
    else if (value !== undefined) next[name] = value;
  }
  return next as T;
};

// What a technician has looked at is no longer assumed.
const LOOKED_AT = ["heightM", "params", "kind", "ends"] as const;

/** Changes a part. Parameters are merged; with another kind, those that it does not have are dropped, and pipes on lost ports go. */
export const changePart = (map: WaterMap, id: string, change: PartChange): Edited => {
  const part = partOf(map, id);
  if (!part) return { ok: false, problem: `There is no part "${id}".` };
  const kind = PART_KINDS.get(change.kind ?? part.kind);
  if (!kind) return { ok: false, problem: `There is no part kind "${change.kind}".` };
  const params = Object.fromEntries(
    Object.entries({ ...part.params, ...change.params }).filter(([name]) =>
      Object.hasOwn(kind.params, name),
    ),
  );
  const seen =
    LOOKED_AT.some((field) => change[field] !== undefined) && change.assumed === undefined;
  const changed = applied(part, { ...change, params, ...(seen ? { assumed: null } : {}) });
  const ports = new Set(portsOf(changed));
  const keeps = (end: PipeRun["from"]): boolean => end.part !== id || ports.has(end.port);
  const next = {
    ...map,
    parts: map.parts.map((p) => (p.id === id ? changed : p)),
    runs: map.runs.filter((r) => keeps(r.from) && keeps(r.to)),
    places:
      change.place && !map.places.includes(change.place)
        ? [...map.places, change.place].slice(0, 60)
        : map.places,
  };
  return { ok: true, map: tidied(next) };
};

export interface PipeRunChange {
  readonly name?: string | null;
  readonly pipe?: string;
  readonly lengthM?: number;
  readonly service?: PipeRun["service"];
  readonly sag?: PipeRun["sag"] | null;
  readonly heated?: boolean;
  readonly insulated?: boolean;
  readonly ratedToC?: number | null;
  readonly assumed?: true | null;
}

/** Changes a pipe; a typed length or size is no longer assumed. */
export const changePipeRun = (map: WaterMap, id: string, change: PipeRunChange): Edited => {
  const run = pipeRunOf(map, id);
  if (!run) return { ok: false, problem: `There is no pipe "${id}".` };
  const seen =
    (change.lengthM !== undefined || change.pipe !== undefined) && change.assumed === undefined;
  const changed = applied(run, { ...change, ...(seen ? { assumed: null } : {}) });
  return { ok: true, map: { ...map, runs: map.runs.map((r) => (r.id === id ? changed : r)) } };
};
