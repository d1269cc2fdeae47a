import { bringOver } from "../survey/index.ts";
import type { Part, PipeRun, WaterMap } from "../watermap/index.ts";

/** A proposal brought up to the map of today: what was corrected or installed since it was drawn stays. */
export type Rebased =
  | { readonly ok: true; readonly map: WaterMap; readonly clashes: readonly string[] }
  | { readonly ok: false; readonly problem: string };

/**
 * @param base the unit's map that the proposal was drawn from
 * @param today the unit's map now
 */
export const rebase = (base: WaterMap, today: WaterMap, proposed: WaterMap): Rebased => {
  if (JSON.stringify(base) === JSON.stringify(today))
    return { ok: true, map: { ...proposed, id: today.id }, clashes: [] };
  const done = bringOver(base, today, { ...proposed, id: today.id });
  return done.ok
    ? {
        ok: true,
        map: done.map,
        clashes: done.clashes.map((c) => `${c.name}: ${c.why}; the proposal's own stays`),
      }
    : { ok: false, problem: done.problems.join("; ") };
};

const plain = (text: string): string => text.trim().toLowerCase();

/**
 * A family's or a sister's map as a proposal for this unit: what is plainly the same part (its kind and its name, or the only one of its kind on
 * both) keeps this unit's id, and with it its life and history; pipes between the same ports keep theirs. All else is new.
 */
export const withIdentities = (today: WaterMap, other: WaterMap): WaterMap => {
  const taken = new Set<string>();
  const ids = new Map<string, string>();
  const only = (map: WaterMap, kind: string): boolean =>
    map.parts.filter((p) => p.kind === kind).length === 1;
  const claim = (part: Part, same: (p: Part) => boolean): void => {
    const found = today.parts.find((p) => p.kind === part.kind && !taken.has(p.id) && same(p));
    if (!found || ids.has(part.id)) return;
    taken.add(found.id);
    ids.set(part.id, found.id);
  };
  for (const part of other.parts) claim(part, (p) => plain(p.name) === plain(part.name));
  for (const part of other.parts)
    if (only(today, part.kind) && only(other, part.kind)) claim(part, () => true);
  const all = new Set(
    [...today.parts, ...today.runs, ...other.parts, ...other.runs].map((x) => x.id as string),
  );
  const fresh = (id: string): string => {
    for (let n = 2; ; n++) {
      const next = `${id.slice(0, 55)}-${n}`;
      if (!all.has(next)) {
        all.add(next);
        return next;
      }
    }
  };
  const used = new Set([...today.parts, ...today.runs].map((x) => x.id as string));
  for (const part of other.parts)
    if (!ids.has(part.id)) ids.set(part.id, used.has(part.id) ? fresh(part.id) : part.id);
  const partId = (id: string): Part["id"] => ids.get(id) ?? id;
  const endsOf = (from: PipeRun["from"], to: PipeRun["to"]): string =>
    [from, to]
      .map((e) => `${e.part}.${e.port}`)
      .toSorted()
      .join(" ");
  const pipes = new Map(today.runs.map((r) => [endsOf(r.from, r.to), r.id]));
  const runIds = new Map<string, PipeRun["id"]>();
  const runs = other.runs.map((r) => {
    const from = { ...r.from, part: partId(r.from.part) };
    const to = { ...r.to, part: partId(r.to.part) };
    const id = pipes.get(endsOf(from, to)) ?? (used.has(r.id) ? fresh(r.id) : r.id);
    runIds.set(r.id, id);
    return { ...r, id, from, to };
  });
  const key = (k: string): string => {
    const [owner = k, ...rest] = k.split(":");
    return [runIds.get(owner) ?? partId(owner), ...rest].join(":");
  };
  const keyed = <T>(of: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(Object.entries(of).map(([k, v]) => [key(k), v]));
  return {
    ...other,
    id: today.id,
    name: today.name,
    craft: today.craft,
    parts: other.parts.map((p) => ({ ...p, id: partId(p.id) })),
    runs,
    lineup: keyed(other.lineup),
    contents: keyed(other.contents),
    modes: Object.fromEntries(
      Object.entries(other.modes).map(([mode, lineup]) => [mode, keyed(lineup ?? {})]),
    ),
  };
};
