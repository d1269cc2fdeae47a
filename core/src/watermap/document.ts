import { z } from "zod";
import { type CellId, cellId, controlKey, readAsId, type PartId, type PipeRunId } from "./ids.ts";
import type { PartKind } from "./kind.ts";
import { PART_KINDS } from "./kinds/index.ts";
import { THREADS } from "./mating.ts";
import { migrate } from "./migrate.ts";
import { paramSchema } from "./param.ts";
import { PIPE_SYSTEMS } from "./pipes.ts";

/** The water map document. Heights are metres above any fixed level of the unit, e.g. its floor. */

/** The newest document version; older ones are brought up by numbered migrations. */
export const MAP_VERSION = 3;

/** The lineups that every map knows. */
export const MODES = [
  "use on tank",
  "use on supply",
  "fill tank",
  "drain",
  "blow",
  "draw antifreeze",
  "sanitize",
  "stored",
] as const;
export type Mode = (typeof MODES)[number];

const id = z
  .string()
  .min(1)
  .max(60)
  .regex(/^[a-z0-9][a-z0-9-]*$/u, "small letters, digits and hyphens only");

const partId = readAsId<PartId>(id);
const pipeRunId = readAsId<PipeRunId>(id);

const endSchema = z.strictObject({ part: partId, port: z.string().min(1).max(20) });

export const partSchema = z.strictObject({
  id: partId,
  kind: z.string().min(1).max(40),
  name: z.string().min(1).max(60),
  /** The label that hangs on it, e.g. V5. */
  tag: z.string().max(8).optional(),
  place: z.string().max(60).optional(),
  access: z.string().max(120).optional(),
  heightM: z.number().min(-10).max(20),
  params: z.record(z.string(), z.union([z.number(), z.string(), z.boolean()])).default({}),
  /** What a port takes where that is known: a pipe system or a thread, by port. */
  ends: z.record(z.string(), z.string().max(30)).optional(),
  /** Its figures were not looked at: typical ones stand in their place. */
  assumed: z.literal(true).optional(),
  /** Not known yet: whether it is fitted, or what its positions join. Blocks every verdict that depends on it. */
  unknown: z
    .strictObject({ of: z.enum(["fitted", "role"]), ask: z.string().max(200).optional() })
    .optional(),
  /** Where a technician nudged it on the drawing, grid units from its automatic place. */
  nudge: z
    .strictObject({ x: z.number().min(-400).max(400), y: z.number().min(-400).max(400) })
    .optional(),
});

export const RUN_SERVICES = ["cold", "hot", "suction", "fill", "waste", "raw"] as const;

const pipeRunSchema = z.strictObject({
  id: pipeRunId,
  name: z.string().max(60).optional(),
  from: endSchema,
  to: endSchema,
  pipe: z.string().min(1).max(30),
  lengthM: z.number().min(0.01).max(200),
  service: z.enum(RUN_SERVICES),
  /** A dip below both ends, and how much pipe lies in it. */
  sag: z
    .strictObject({ depthM: z.number().min(0.01).max(5), lengthM: z.number().min(0.02).max(100) })
    .optional(),
  heated: z.boolean().default(false),
  insulated: z.boolean().default(false),
  /** A heated hose, or a pipe with heat cable: the coldest air, °C, that it is rated to keep from freezing in, while it has power. */
  ratedToC: z.number().min(-60).max(-1).optional(),
  /** Length and size are typical, not looked at. */
  assumed: z.literal(true).optional(),
});

const liquidSchema = z.strictObject({ waterM3: z.number().min(0), glycolM3: z.number().min(0) });

export const waterMapSchema = z.strictObject({
  format: z.literal("upper-shed/water-map"),
  version: z.literal(MAP_VERSION),
  id,
  name: z.string().min(1).max(80),
  /** What it is: canal cruiser, slide-in truck camper, ... */
  craft: z.string().min(1).max(60),
  note: z.string().max(500).optional(),
  /** Places in the order of a walk round the unit. */
  places: z.array(z.string().max(60)).max(60).default([]),
  parts: z.array(partSchema).min(1).max(400),
  runs: z.array(pipeRunSchema).max(600),
  /** Positions that differ from each kind's position for use, by control: "v7" or "galley:cold". */
  lineup: z.record(z.string(), z.string()).default({}),
  /** Starting contents that differ from a unit in use, by cell: "run id" or "part id:cell". */
  contents: z.record(z.string(), liquidSchema).default({}),
  /** Corrections to the lineups that the graph proposes, by mode and control. */
  modes: z.partialRecord(z.enum(MODES), z.record(z.string(), z.string())).default({}),
});

export type WaterMap = z.infer<typeof waterMapSchema>;
export type Part = z.infer<typeof partSchema>;
export type PipeRun = z.infer<typeof pipeRunSchema>;

interface MapProblem {
  /** Path of the field, e.g. parts[3].kind. */
  readonly where: string;
  readonly problem: string;
}

export type MapResult = { ok: true; map: WaterMap } | { ok: false; problems: MapProblem[] };

const pathText = (path: readonly PropertyKey[]): string =>
  path.reduce<string>(
    (text, key) =>
      typeof key === "number"
        ? `${text}[${key}]`
        : text === ""
          ? String(key)
          : `${text}.${String(key)}`,
    "",
  );

const duplicates = (ids: readonly string[]): string[] => {
  const seen = new Set<string>();
  return ids.filter((id) => seen.has(id) || !seen.add(id));
};

const checkEnds = (part: Part, i: number, ports: readonly string[]): MapProblem[] =>
  Object.entries(part.ends ?? {}).flatMap(([port, end]) => [
    ...(ports.includes(port)
      ? []
      : [{ where: `parts[${i}].ends.${port}`, problem: `${part.name} has no port "${port}".` }]),
    ...(PIPE_SYSTEMS.has(end) || THREADS.has(end)
      ? []
      : [{ where: `parts[${i}].ends.${port}`, problem: `no pipe or thread is called "${end}".` }]),
  ]);

const checkParts = (map: WaterMap): MapProblem[] =>
  map.parts.flatMap((part, i) => {
    const kind = PART_KINDS.get(part.kind);
    if (!kind)
      return [{ where: `parts[${i}].kind`, problem: `no part kind is called "${part.kind}".` }];
    const figures = Object.entries(part.params).flatMap(([name, value]) => {
      const spec = Object.hasOwn(kind.params, name) ? kind.params[name] : undefined;
      if (!spec)
        return [
          {
            where: `parts[${i}].params.${name}`,
            problem: `a ${kind.label.toLowerCase()} has no parameter "${name}".`,
          },
        ];
      const parsed = paramSchema(spec).safeParse(value);
      return parsed.success
        ? []
        : [
            {
              where: `parts[${i}].params.${name}`,
              problem: `${spec.label}: ${parsed.error.issues[0]?.message ?? "not allowed"}.`,
            },
          ];
    });
    return figures.length ? figures : checkEnds(part, i, portsOf(part));
  });

const anatomyOf = (part: Part) => PART_KINDS.get(part.kind)?.anatomy(paramsOf(part));

/** The ids of a part's cells. */
export const cellsOfPart = (part: Part): CellId[] =>
  anatomyOf(part)?.cells.map((cell) => cellId(part.id, cell.name)) ?? [];

/** The names of a part's ports. */
export const portsOf = (part: Part): string[] => anatomyOf(part)?.ports.map((p) => p.name) ?? [];

/** The controls that a part has: those of its kind that are fitted. */
export const controlsOfPart = (part: Part): PartKind["controls"] => {
  const kind = PART_KINDS.get(part.kind);
  if (!kind) return [];
  const { fitted } = kind;
  return fitted
    ? kind.controls.filter((control) => fitted(paramsOf(part), control.name))
    : kind.controls;
};

const checkRuns = (map: WaterMap): MapProblem[] => {
  const taken = new Map<string, string>();
  const parts = new Map(map.parts.map((part) => [part.id, part]));
  const ports = new Map(map.parts.map((part) => [part.id, new Set(portsOf(part))]));
  return map.runs.flatMap((run, i) => {
    const found: MapProblem[] = PIPE_SYSTEMS.has(run.pipe)
      ? []
      : [{ where: `runs[${i}].pipe`, problem: `no pipe is called "${run.pipe}".` }];
    for (const end of ["from", "to"] as const) {
      const { part: partId, port } = run[end];
      const where = `runs[${i}].${end}`;
      const part = parts.get(partId);
      if (!part) found.push({ where, problem: `there is no part "${partId}".` });
      else if (!ports.get(partId)?.has(port))
        found.push({ where, problem: `${part.name} has no port "${port}".` });
      const key = `${partId}.${port}`;
      const other = taken.get(key);
      if (other)
        found.push({
          where,
          problem: `port "${port}" of "${partId}" already holds run "${other}".`,
        });
      taken.set(key, run.id);
    }
    return found;
  });
};

type Controls = ReadonlyMap<string, PartKind["controls"][number]>;

const checkLineup = (
  controls: Controls,
  lineup: Readonly<Record<string, string>>,
  at: string,
): MapProblem[] =>
  Object.entries(lineup).flatMap(([key, position]) => {
    const spec = controls.get(key);
    if (!spec) return [{ where: `${at}.${key}`, problem: "there is no such control." }];
    return spec.positions.some((p) => p.name === position)
      ? []
      : [
          {
            where: `${at}.${key}`,
            problem: `"${position}" is not a position (${spec.positions.map((p) => p.name).join(", ")}).`,
          },
        ];
  });

const checkContents = (map: WaterMap): MapProblem[] => {
  const cells = new Set([...map.runs.map((run) => run.id), ...map.parts.flatMap(cellsOfPart)]);
  return Object.keys(map.contents).flatMap((key) =>
    cells.has(key)
      ? []
      : [
          {
            where: `contents.${key}`,
            problem: "there is no such cell of a part, and no such run.",
          },
        ],
  );
};

const checkLineups = (map: WaterMap): MapProblem[] => {
  const controls: Controls = new Map(
    map.parts.flatMap((part) =>
      controlsOfPart(part).map((spec) => [controlKey(part.id, spec.name), spec] as const),
    ),
  );
  return [
    ...checkLineup(controls, map.lineup, "lineup"),
    ...Object.entries(map.modes).flatMap(([mode, lineup]) =>
      checkLineup(controls, lineup, `modes.${mode}`),
    ),
    ...checkContents(map),
  ];
};

/** A part's parameters with the kind's standard values filled in. */
export const paramsOf = (part: Part): Record<string, number | string | boolean> => {
  const kind = PART_KINDS.get(part.kind);
  const standard = Object.fromEntries(
    Object.entries(kind?.params ?? {}).map(([name, spec]) => [name, spec.standard]),
  );
  return { ...standard, ...part.params };
};

/** A part that holds in one place may be named alone in the starting contents; it is read as its cell. */
const withCells = (map: WaterMap): WaterMap => {
  const only = (key: string): string => {
    const part = map.parts.find((p) => p.id === key);
    const [cell, ...more] = part ? cellsOfPart(part) : [];
    return cell !== undefined && more.length === 0 ? cell : key;
  };
  return {
    ...map,
    contents: Object.fromEntries(
      Object.entries(map.contents).map(([key, held]) => [only(key), held]),
    ),
  };
};

/**
 * Reads a water map document from untrusted data.
 * @returns the map, or every problem with the field it stands in; unknown fields are problems, never dropped
 */
export const readWaterMap = (data: unknown): MapResult => {
  const parsed = waterMapSchema.safeParse(migrate(data));
  if (!parsed.success)
    return {
      ok: false,
      problems: parsed.error.issues.map((issue) => ({
        where: pathText(issue.path) || "document",
        problem: issue.message,
      })),
    };
  const map = withCells(parsed.data);
  const twice = duplicates([...map.parts.map((p) => p.id), ...map.runs.map((r) => r.id)]).map(
    (name) => ({
      where: "parts and runs",
      problem: `the id "${name}" is used twice.`,
    }),
  );
  const parts = checkParts(map);
  const problems = [
    ...twice,
    ...parts,
    ...(parts.length ? [] : [...checkRuns(map), ...checkLineups(map)]),
  ];
  return problems.length ? { ok: false, problems } : { ok: true, map };
};
