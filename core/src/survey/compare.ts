import {
  type Part,
  PIPE_SYSTEMS,
  type PipeRun,
  type WaterMap,
  PART_KINDS,
} from "../watermap/index.ts";

/** What differs between two maps of one unit; parts and runs are the same where their ids are. */
export interface Difference {
  readonly what: "part" | "run" | "lineup" | "modes" | "unit";
  readonly change: "added" | "removed" | "changed";
  readonly id: string;
  readonly name: string;
  /** What changed, in words: "length {m:1.2} → {m:1.5}". Empty for added and removed. */
  readonly details: readonly string[];
}

const LABELS: Record<string, string> = {
  heightM: "height",
  lengthM: "length",
  pipe: "pipe",
  kind: "kind",
  name: "name",
  tag: "tag",
  place: "place",
  access: "access",
  service: "carries",
  nudge: "place on the drawing",
  unknown: "what is not known",
  assumed: "assumed",
  ends: "takes",
  from: "from",
  to: "to",
  sag: "dip",
  heated: "inside heated space",
  insulated: "insulated",
};

type Names = ReadonlyMap<string, string>;
const NOBODY: Names = new Map();

const say = (field: string, value: unknown, names: Names): string => {
  if (value === undefined || value === null || value === "") return "none";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number")
    return field === "heightM" || field === "lengthM" ? `{m:${value}}` : String(value);
  if (typeof value === "string") {
    if (field === "pipe") return PIPE_SYSTEMS.get(value)?.label ?? value;
    return field === "kind" ? (PART_KINDS.get(value)?.label ?? value) : value;
  }
  if (field === "from" || field === "to") {
    const end = value as PipeRun["from"];
    return `${names.get(end.part) ?? end.part}, ${end.port}`;
  }
  return field === "nudge" ? "moved" : JSON.stringify(value);
};

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

const fieldChanges = (before: object, after: object, was: Names, is: Names): string[] => {
  const [a, b] = [before as Record<string, unknown>, after as Record<string, unknown>];
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].toSorted().flatMap((field) => {
    if (field === "id" || same(a[field], b[field])) return [];
    if (field === "params") {
      const [x, y] = [
        (a[field] ?? {}) as Record<string, unknown>,
        (b[field] ?? {}) as Record<string, unknown>,
      ];
      const kind = PART_KINDS.get(String(b["kind"]));
      return [...new Set([...Object.keys(x), ...Object.keys(y)])].flatMap((name) => {
        const spec = kind?.params[name];
        const value = (v: unknown): string =>
          `${say(name, v ?? spec?.standard, NOBODY)}${spec?.unit ? ` ${spec.unit}` : ""}`;
        return same(x[name], y[name])
          ? []
          : [`${spec?.label.toLowerCase() ?? name} ${value(x[name])} → ${value(y[name])}`];
      });
    }
    return [`${LABELS[field] ?? field} ${say(field, a[field], was)} → ${say(field, b[field], is)}`];
  });
};

const runName = (map: WaterMap, run: PipeRun): string => {
  const name = (id: string): string => map.parts.find((p) => p.id === id)?.name ?? id;
  return run.name ?? `pipe from ${name(run.from.part)} to ${name(run.to.part)}`;
};

const namesOf = ({ parts }: WaterMap): Names => new Map(parts.map((p) => [p.id, p.name]));

const byId = <T extends { id: string }>(list: readonly T[]): Map<string, T> =>
  new Map(list.map((x) => [x.id, x]));

const records = <T extends Part | PipeRun>(
  what: "part" | "run",
  before: readonly T[],
  after: readonly T[],
  nameBefore: (x: T) => string,
  nameAfter: (x: T) => string,
  was: Names = NOBODY,
  is: Names = NOBODY,
): Difference[] => {
  const [a, b] = [byId(before), byId(after)];
  return [
    ...before.flatMap<Difference>((x) =>
      b.has(x.id) ? [] : [{ what, change: "removed", id: x.id, name: nameBefore(x), details: [] }],
    ),
    ...after.flatMap<Difference>((x) => {
      const old = a.get(x.id);
      if (!old) return [{ what, change: "added", id: x.id, name: nameAfter(x), details: [] }];
      const details = fieldChanges(old, x, was, is);
      return details.length
        ? [{ what, change: "changed", id: x.id, name: nameAfter(x), details }]
        : [];
    }),
  ];
};

const lineupChanges = (
  before: Readonly<Record<string, string>>,
  after: Readonly<Record<string, string>>,
): string[] =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .toSorted()
    .flatMap((key) =>
      before[key] === after[key]
        ? []
        : [`${key}: ${before[key] ?? "as usual"} → ${after[key] ?? "as usual"}`],
    );

/** What differs from one map to another, parts first. The same maps give an empty list. */
export const compareMaps = (before: WaterMap, after: WaterMap): Difference[] => {
  const head = (["name", "craft", "note", "places"] as const).flatMap((field) =>
    same(before[field], after[field])
      ? []
      : [`${field} ${say(field, before[field], NOBODY)} → ${say(field, after[field], NOBODY)}`],
  );
  const lineup = lineupChanges(before.lineup, after.lineup);
  const modes = [...new Set([...Object.keys(before.modes), ...Object.keys(after.modes)])]
    .toSorted()
    .flatMap((mode) =>
      lineupChanges(
        before.modes[mode as keyof typeof before.modes] ?? {},
        after.modes[mode as keyof typeof after.modes] ?? {},
      ).map((d) => `${mode}: ${d}`),
    );
  const contents = same(before.contents, after.contents) ? [] : ["starting contents differ"];
  const unit = (what: Difference["what"], name: string, details: readonly string[]): Difference[] =>
    details.length ? [{ what, change: "changed", id: what, name, details }] : [];
  return [
    ...records(
      "part",
      before.parts,
      after.parts,
      (p) => p.name,
      (p) => p.name,
    ),
    ...records(
      "run",
      before.runs,
      after.runs,
      (r) => runName(before, r),
      (r) => runName(after, r),
      namesOf(before),
      namesOf(after),
    ),
    ...unit("lineup", "How it stands in use", lineup),
    ...unit("modes", "Lineups of modes", modes),
    ...unit("unit", "The unit", [...head, ...contents]),
  ];
};
