import { compareMaps, type Difference } from "../survey/index.ts";
import {
  type Part,
  type PipeRun,
  portsOf,
  readWaterMap,
  type WaterMap,
} from "../watermap/index.ts";

/**
 * A proposal taken apart into pieces that can be installed one without another: whatever must go in together, because a pipe needs the part at its
 * end and no port holds two pipes, is one piece. Any order of pieces ends the same.
 */

/** How the unit stands in use, lineups of its modes, what it is called: changed without any part of it being changed. */
const UNIT = "unit";

export interface Piece {
  /** The same as long as the piece is open, whatever others are adopted. */
  readonly id: string;
  /** "Check valve and 3 pipes" */
  readonly name: string;
  readonly differences: readonly Difference[];
  readonly parts: readonly string[];
  readonly runs: readonly string[];
}

type Found = ReadonlyMap<string, string>;

const byId = <T extends { readonly id: string }>(of: readonly T[]): ReadonlyMap<string, T> =>
  new Map(of.map((x) => [x.id, x]));

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Sets that grow together (union, find). */
class Together {
  readonly #above = new Map<string, string>();
  root(id: string): string {
    const up = this.#above.get(id);
    if (up === undefined || up === id) return id;
    const top = this.root(up);
    this.#above.set(id, top);
    return top;
  }
  join(a: string, b: string): void {
    const [x, y] = [this.root(a), this.root(b)];
    // The smaller name leads, so that a set is called the same however it came together.
    if (x !== y) this.#above.set(x < y ? y : x, x < y ? x : y);
  }
}

/** Whether a part's own change touches what pipes hang on: it comes, it goes, or its ports are others. */
const changesPorts = (was: Part | undefined, is: Part | undefined): boolean =>
  !was || !is || !same(portsOf(was).toSorted(), portsOf(is).toSorted());

/** For each changed part and run, the name of the piece that it belongs to. */
const pieceOf = (today: WaterMap, proposed: WaterMap): Found => {
  const [parts, partsThen] = [byId<Part>(today.parts), byId<Part>(proposed.parts)];
  const [runs, runsThen] = [byId<PipeRun>(today.runs), byId<PipeRun>(proposed.runs)];
  const changed = (a: ReadonlyMap<string, unknown>, b: ReadonlyMap<string, unknown>): string[] =>
    [...new Set([...a.keys(), ...b.keys()])].filter((id) => !same(a.get(id), b.get(id)));
  const ids = { parts: changed(parts, partsThen), runs: changed(runs, runsThen) };
  const hold = new Set(ids.parts.filter((id) => changesPorts(parts.get(id), partsThen.get(id))));
  const together = new Together();
  const atPort = new Map<string, string>();
  for (const id of ids.runs)
    for (const run of [runs.get(id), runsThen.get(id)])
      for (const end of run ? [run.from, run.to] : []) {
        if (hold.has(end.part)) together.join(id, end.part);
        const port = `${end.part}.${end.port}`;
        const other = atPort.get(port);
        if (other !== undefined) together.join(id, other);
        atPort.set(port, id);
      }
  // A name that was a part's and becomes a pipe's is one change.
  return new Map([...ids.parts, ...ids.runs].map((id) => [id, together.root(id)]));
};

const count = (n: number, one: string): string => `${n} ${one}${n === 1 ? "" : "s"}`;

const nameOf = (differences: readonly Difference[]): string => {
  const parts = differences.filter((d) => d.what === "part");
  const [first] = parts.toSorted(
    (a, b) =>
      Number(a.change === "removed") - Number(b.change === "removed") || (a.name < b.name ? -1 : 1),
  );
  const pipes = differences.length - parts.length;
  const [only] = differences;
  if (!first) return pipes === 1 && only ? only.name : count(pipes, "pipe");
  const more = parts.length - 1;
  return [
    first.name,
    ...(more > 0 ? [`${count(more, "part")} more`] : []),
    ...(pipes > 0 ? [count(pipes, "pipe")] : []),
  ].join(", ");
};

/** The pieces of a proposal, in the order of the list of differences. The same maps have none. */
export const piecesOf = (today: WaterMap, proposed: WaterMap): Piece[] => {
  const found = pieceOf(today, proposed);
  const groups = new Map<string, Difference[]>();
  for (const d of compareMaps(today, proposed)) {
    const key = d.what === "part" || d.what === "run" ? (found.get(d.id) ?? d.id) : UNIT;
    groups.set(key, [...(groups.get(key) ?? []), d]);
  }
  const left = new Set(pickedKeys(today, proposed, found));
  // What rests on a part of a piece goes with that piece.
  if (!left.has(UNIT)) groups.delete(UNIT);
  return [...groups].map(([id, differences]) => ({
    id,
    name: id === UNIT ? "How the unit stands, and what it is called" : nameOf(differences),
    differences,
    parts: differences.flatMap((d) => (d.what === "part" ? [d.id] : [])),
    runs: differences.flatMap((d) => (d.what === "run" ? [d.id] : [])),
  }));
};

/** The part or pipe that a key of a lineup or of starting contents belongs to. */
const ownerOf = (key: string): string => key.split(":")[0] ?? key;

type Keyed<T> = Readonly<Record<string, T>>;

/** One record merged: each key as its part's piece says, and as the unit's own piece where no piece has its part. */
const mergedKeys = <T>(
  was: Keyed<T>,
  is: Keyed<T>,
  takes: (owner: string) => boolean,
): Record<string, T> =>
  Object.fromEntries(
    [...new Set([...Object.keys(was), ...Object.keys(is)])].flatMap((key) => {
      const value = takes(ownerOf(key)) ? is[key] : was[key];
      return value === undefined ? [] : [[key, value] as const];
    }),
  );

/** The pieces to which differing lineups, contents, names and places belong. */
const pickedKeys = (today: WaterMap, proposed: WaterMap, found: Found): string[] => {
  const keyed = (was: Keyed<unknown>, is: Keyed<unknown>): string[] =>
    [...new Set([...Object.keys(was), ...Object.keys(is)])].flatMap((key) =>
      same(was[key], is[key]) ? [] : [found.get(ownerOf(key)) ?? UNIT],
    );
  const modes = new Set([...Object.keys(today.modes), ...Object.keys(proposed.modes)]);
  const of = (map: WaterMap, mode: string): Keyed<string> =>
    map.modes[mode as keyof WaterMap["modes"]] ?? {};
  return [
    ...keyed(today.lineup, proposed.lineup),
    ...keyed(today.contents, proposed.contents),
    ...[...modes].flatMap((mode) => keyed(of(today, mode), of(proposed, mode))),
    ...(["name", "craft", "note", "places"] as const).flatMap((field) =>
      same(today[field], proposed[field]) ? [] : [UNIT],
    ),
  ];
};

/** Today's list with what is taken of the proposed one: what stays keeps its place, what is new comes after it. */
const mergedList = <T extends { readonly id: string }>(
  was: readonly T[],
  is: readonly T[],
  takes: (id: string) => boolean,
): T[] => {
  const [before, after] = [byId(was), byId(is)];
  return [
    ...was.flatMap((x) => {
      if (!takes(x.id)) return [x];
      const next = after.get(x.id);
      return next ? [next] : [];
    }),
    ...is.filter((x) => takes(x.id) && !before.has(x.id)),
  ];
};

export type Adopted =
  | { readonly ok: true; readonly map: WaterMap }
  | { readonly ok: false; readonly problem: string };

/**
 * Today's map with some pieces of a proposal in it: all of them give the proposed map, none gives today's. Parts that stay keep their ids.
 * @returns the map; or why it is not sound, with nothing changed
 */
export const adopt = (today: WaterMap, proposed: WaterMap, pieces: readonly string[]): Adopted => {
  const found = pieceOf(today, proposed);
  const chosen = new Set(pieces);
  const known = new Set(piecesOf(today, proposed).map((p) => p.id));
  const stranger = pieces.find((id) => !known.has(id));
  if (stranger !== undefined)
    return { ok: false, problem: `There is no piece "${stranger}" that differs from today's map.` };
  if (known.size === chosen.size) return { ok: true, map: { ...proposed, id: today.id } };
  const isUnit = chosen.has(UNIT);
  const takes = (id: string): boolean => {
    const piece = found.get(id);
    return piece === undefined ? isUnit : chosen.has(piece);
  };
  const parts = mergedList<Part>(today.parts, proposed.parts, takes);
  const runs = mergedList<PipeRun>(today.runs, proposed.runs, takes);
  const head = isUnit ? proposed : today;
  const used = new Set(parts.flatMap((p) => p.place ?? []));
  const modes = Object.fromEntries(
    [...new Set([...Object.keys(today.modes), ...Object.keys(proposed.modes)])].flatMap((mode) => {
      const of = (map: WaterMap) => map.modes[mode as keyof WaterMap["modes"]];
      const merged = mergedKeys(of(today) ?? {}, of(proposed) ?? {}, takes);
      return Object.keys(merged).length > 0 || (isUnit ? of(proposed) : of(today))
        ? [[mode, merged]]
        : [];
    }),
  );
  const map: WaterMap = {
    ...today,
    name: head.name,
    craft: head.craft,
    ...(head.note === undefined ? {} : { note: head.note }),
    // Places of what was installed are walked to; those of what is still there are kept.
    places: [
      ...head.places,
      ...(isUnit ? today : proposed).places.filter((p) => used.has(p) && !head.places.includes(p)),
    ],
    parts,
    runs,
    lineup: mergedKeys(today.lineup, proposed.lineup, takes),
    contents: mergedKeys(today.contents, proposed.contents, takes),
    modes,
  };
  if (head.note === undefined) delete map.note;
  const read = readWaterMap(map);
  return read.ok
    ? { ok: true, map: read.map }
    : { ok: false, problem: read.problems.map((p) => `${p.where}: ${p.problem}`).join("; ") };
};
