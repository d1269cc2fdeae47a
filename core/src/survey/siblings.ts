import { type Part, readWaterMap, type PipeRun, tidied, type WaterMap } from "../watermap/index.ts";
import { type Difference, compareMaps } from "./compare.ts";

/** Sister units: one map copied to another unit, and later changes brought over without losing what differs. */

/** A sister's first map: the template's parts under the sister's own name; nothing else differs yet. */
export const copyForSibling = (
  template: WaterMap,
  head: Pick<WaterMap, "id" | "name"> & Partial<Pick<WaterMap, "craft">>,
): WaterMap => ({
  ...template,
  ...head,
});

/** What a sister has that the template has not, and the other way round; names of the units themselves do not count. */
export const siblingDifferences = (template: WaterMap, sister: WaterMap): Difference[] =>
  compareMaps({ ...template, id: sister.id, name: sister.name, craft: sister.craft }, sister);

interface Clash {
  readonly what: "part" | "run";
  readonly id: string;
  readonly name: string;
  readonly why: string;
}

export type BroughtOver =
  | { readonly ok: true; readonly map: WaterMap; readonly clashes: readonly Clash[] }
  | { readonly ok: false; readonly problems: readonly string[] };

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** One list of records merged three ways: what only the template changed is taken, what the sister changed stays. */
const merged = <T extends Part | PipeRun>(
  what: "part" | "run",
  base: readonly T[],
  template: readonly T[],
  sister: readonly T[],
  name: (x: T) => string,
) => {
  const find = (list: readonly T[], id: string): T | undefined => list.find((x) => x.id === id);
  const ids = [...new Set([...sister, ...template].map((x) => x.id))];
  const clashes: Clash[] = [];
  const kept = ids.flatMap((id) => {
    const [b, t, s] = [find(base, id), find(template, id), find(sister, id)];
    if (same(t, b) || same(t, s)) return s ? [s] : [];
    if (same(s, b)) return t ? [t] : [];
    clashes.push({
      what,
      id,
      name: name((s ?? t ?? b) as T),
      why:
        s === undefined
          ? "taken out here, changed there"
          : t === undefined
            ? "changed here, taken out there"
            : "changed on both",
    });
    return s ? [s] : [];
  });
  return { kept, clashes };
};

/**
 * Brings the template's changes since a base to the sister.
 * @param base the template's map as it was when it was last brought over
 * @returns the sister's new map, and where both had changed the same thing (the sister's own stays)
 */
export const bringOver = (base: WaterMap, template: WaterMap, sister: WaterMap): BroughtOver => {
  const parts = merged("part", base.parts, template.parts, sister.parts, (p) => p.name);
  const runs = merged("run", base.runs, template.runs, sister.runs, (r) => r.name ?? r.id);
  const ids = new Set(parts.kept.map((p) => p.id));
  const joined = runs.kept.filter((r) => ids.has(r.from.part) && ids.has(r.to.part));
  // A pipe of the template and one of the sister on the same port: the sister's stays.
  const taken = new Set<string>();
  const own = new Set(sister.runs.map((r) => r.id));
  const clear: PipeRun[] = [];
  const clashes: Clash[] = [...parts.clashes, ...runs.clashes];
  for (const run of [...joined].toSorted((a, b) => Number(own.has(b.id)) - Number(own.has(a.id)))) {
    const keys = [run.from, run.to].map((e) => `${e.part}.${e.port}`);
    if (keys.some((k) => taken.has(k))) {
      clashes.push({
        what: "run",
        id: run.id,
        name: run.name ?? run.id,
        why: "its port is taken here",
      });
      continue;
    }
    keys.forEach((k) => taken.add(k));
    clear.push(run);
  }
  const lineup = same(sister.lineup, base.lineup)
    ? template.lineup
    : { ...template.lineup, ...sister.lineup };
  const map = tidied({
    ...sister,
    places: [...new Set([...sister.places, ...template.places])],
    parts: parts.kept,
    runs: clear,
    lineup,
  });
  const read = readWaterMap(map);
  return read.ok
    ? { ok: true, map: read.map, clashes }
    : { ok: false, problems: read.problems.map((p) => `${p.where}: ${p.problem}`) };
};
