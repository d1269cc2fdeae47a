import { type Network, type Part, type PipeRun, roleOf } from "../watermap/index.ts";
import type { Since, UnitEntry } from "./unit-entry.ts";

/** What has become otherwise on a unit since it was last looked at. */

/** The newest entry that says what the unit holds, and everything after it; entries come in the server's order. */
export const sinceLast = (
  entries: readonly UnitEntry[],
): { base: UnitEntry | undefined; after: readonly UnitEntry[] } => {
  const at = entries.findLastIndex((e) => e.kind === "run-closed" || e.kind === "in-use");
  return { base: entries[at], after: entries.slice(at + 1) };
};

/** Fields of a part or a run that say nothing of what it holds. */
const WORDS_ONLY: ReadonlySet<string> = new Set([
  "name",
  "tag",
  "place",
  "access",
  "nudge",
  "assumed",
  "unknown",
  "insulated",
  "heated",
]);

/** Found to be in doubt only since: what was said of it rested on its being as drawn. */
const newlyInDoubt = (before: Part | PipeRun, now: Part | PipeRun): boolean => {
  const of = (body: Part | PipeRun): string | undefined =>
    "unknown" in body ? body.unknown?.of : undefined;
  return of(now) !== undefined && of(now) !== of(before);
};

export const sameBody = (before: Part | PipeRun | undefined, now: Part | PipeRun): boolean => {
  if (!before || newlyInDoubt(before, now)) return false;
  const [a, b] = [before as Record<string, unknown>, now as Record<string, unknown>];
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].every(
    (field) => WORDS_ONLY.has(field) || JSON.stringify(a[field]) === JSON.stringify(b[field]),
  );
};

const sentence = (since: Since): string => {
  const names =
    since.names.slice(0, 3).join(", ") +
    (since.names.length > 3 ? ` and ${since.names.length - 3} more` : "");
  if (since.what === "left otherwise") return `left otherwise since: ${since.why}`;
  const what = since.what === "map changed" ? "map changed since" : "opened since";
  return names ? `${what}: ${names}, not known to hold` : `${what}: ${since.why}`;
};

/** What came after, as a part of the unit's one sentence. */
export const sinceInWords = (since: readonly Since[]): string[] => since.map(sentence);

export const nameOf = (network: Network, id: string): string => {
  const { map } = network;
  const part = map.parts.find((p) => p.id === id);
  if (part) return part.name;
  const run = map.runs.find((r) => r.id === id);
  const end = (partId: string | undefined): string =>
    map.parts.find((p) => p.id === partId)?.name ?? "";
  return run ? (run.name ?? `pipe from ${end(run.from.part)} to ${end(run.to.part)}`) : id;
};

/**
 * What of changed parts and pipes is worth a name: of those that hang together the parts that are no mere joints, else the pipes. Told by
 * the ids of those that it stands for.
 */
export const headsOf = (network: Network, ids: ReadonlySet<string>): Map<string, string> => {
  const { map } = network;
  const runs = map.runs.filter((r) => ids.has(r.id));
  const heads = new Map<string, string>();
  for (const start of ids) {
    if (heads.has(start)) continue;
    const together = new Set([start]);
    for (const id of together)
      for (const run of runs)
        for (const [one, other] of [
          [run.id, run.from.part],
          [run.id, run.to.part],
        ] as const) {
          if (id === one && ids.has(other)) together.add(other);
          if (id === other) together.add(one);
        }
    const parts = map.parts.filter((p) => together.has(p.id));
    const head =
      parts.find((p) => roleOf(p).joint !== true)?.id ??
      runs.find((r) => together.has(r.id))?.id ??
      start;
    for (const id of together)
      heads.set(id, parts.some((p) => p.id === id && roleOf(p).joint !== true) ? id : head);
  }
  return heads;
};
