import {
  type CellContents,
  frostVerdict,
  type FrostBasis,
  type Measured,
  startingContents,
  type Verdict,
  water,
} from "../contents/index.ts";
import {
  inUseLineup,
  type Lineup,
  type Network,
  type Part,
  roleOf,
  type PipeRun,
} from "../watermap/index.ts";
import type { Doubt } from "./doubt.ts";
import type { Job } from "./job.ts";
import type { RunBegins, UnitSaid } from "./run/index.ts";

/** How a unit stands: what its last record left, and what has happened to it since. */

export const UNIT_ENTRY_KINDS = ["run-closed", "in-use", "left", "map-revised", "opened"] as const;

/** Something that happened to a unit, in the order in which the server learnt of it. */
export type UnitEntry =
  | { readonly kind: "run-closed"; readonly at: string; readonly runId: string }
  /** Filled again and used: what a record said holds no longer. */
  | { readonly kind: "in-use"; readonly at: string }
  /** Left so at the end of a visit; says how the valves stand, not what the unit holds. */
  | {
      readonly kind: "left";
      readonly at: string;
      readonly lineup: Lineup;
      readonly visitId: string;
    }
  | {
      readonly kind: "map-revised";
      readonly at: string;
      readonly revision: number;
      readonly why: string;
    }
  /** A part was exchanged, or a joint undone: what it held is not known any more. */
  | {
      readonly kind: "opened";
      readonly at: string;
      readonly ids: readonly string[];
      readonly why: string;
    };

/** The record that a unit's state rests on, as it was signed. */
export interface LeftRecord {
  readonly runId: string;
  /** What it was for; winterizing where it does not say. */
  readonly job?: Job | undefined;
  readonly at: string;
  readonly basis: FrostBasis;
  readonly said: UnitSaid;
  /** Map that it was made on, taken apart. */
  readonly network: Network;
}

/** What came after a record and touches what it says. */
export interface Since {
  readonly at: string;
  readonly what: "map changed" | "opened" | "left otherwise";
  /** Names of the parts and pipes of which it is no longer known what they hold. */
  readonly names: readonly string[];
  readonly why: string;
}

export interface UnitStanding {
  readonly kind: "in-use" | "as-left";
  readonly at: string | null;
  readonly runId: string | null;
  /** Of a record: what it was for. */
  readonly job?: Job | undefined;
  readonly verdict: Verdict;
  readonly doubts: readonly Doubt[];
  /** Strengths read that still count, by cell. */
  readonly measured: ReadonlyMap<string, number>;
  readonly contents: readonly CellContents[];
  /** What is known of what its cells hold; of a unit in use nothing. */
  readonly contentsByCell: ReadonlyMap<string, CellContents>;
  readonly lineup: Lineup;
  /** When its valves were last written down as left, where that was after the last record or filling. */
  readonly leftAt: string | null;
  readonly apart: UnitSaid["apart"];
  readonly since: readonly Since[];
  /** Ids of parts and pipes of today's map of which nothing is known. */
  readonly notKnown: readonly string[];
}

/** A unit's state as it is kept beside it, for lists: the standing without its contents. */
export interface UnitStateKept {
  readonly kind: UnitStanding["kind"];
  readonly holdsToC: number | null;
  readonly weakestPart: string | null;
  /** Names of the parts on which it rests and which were not known when it was signed. */
  readonly cannotTell: readonly string[];
  readonly at: string | null;
  readonly runId: string | null;
  /** What came after, in words. */
  readonly since: readonly string[];
  /** What its last record was for, where it was no winterizing. */
  readonly job?: Job | undefined;
}

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

const sameBody = (before: Part | PipeRun | undefined, now: Part | PipeRun): boolean => {
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

const nameOf = (network: Network, id: string): string => {
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
const headsOf = (network: Network, ids: ReadonlySet<string>): Map<string, string> => {
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

/** A unit in use: full of water, everything as in use, or as its last visit left the valves. */
export const inUse = (
  network: Network,
  at: string | null,
  after: readonly UnitEntry[],
): UnitStanding => {
  const contents = startingContents(network);
  const left = after.findLast((e) => e.kind === "left");
  const verdict = frostVerdict(network, contents, "by-part", undefined, { powered: true });
  return {
    kind: "in-use",
    at,
    runId: null,
    verdict,
    doubts: [],
    measured: new Map(),
    contents,
    contentsByCell: new Map(),
    lineup: { ...inUseLineup(network), ...(left?.kind === "left" ? left.lineup : {}) },
    leftAt: left?.at ?? null,
    apart: [],
    since: [],
    notKnown: [],
  };
};

/**
 * How a unit stands after a record: on today's map, with everything that is new, changed or was opened since taken as full of water
 * and named as not known. Where nothing came after, it is what was signed, to the word.
 */
export const asLeft = (
  record: LeftRecord,
  today: Network,
  after: readonly UnitEntry[],
): UnitStanding => {
  const { said, network: then } = record;
  const bodies = (network: Network): Map<string, Part | PipeRun> =>
    new Map([...network.map.parts, ...network.map.runs].map((b) => [b.id, b]));
  const [before, now] = [bodies(then), bodies(today)];
  const changed = new Set(
    [...now].filter(([id, body]) => !sameBody(before.get(id), body)).map(([id]) => id),
  );
  const gone = [...before.keys()].filter((id) => !now.has(id));
  const opened = new Set(after.flatMap((e) => (e.kind === "opened" ? e.ids : [])));
  const notKnown = [...now.keys()].filter((id) => changed.has(id) || opened.has(id));
  const left = after.findLast((e) => e.kind === "left");
  const controls = new Set(today.controls.map((c) => c.key));
  const lineup = Object.fromEntries(
    Object.entries({
      ...inUseLineup(today),
      ...said.lineup,
      ...(left?.kind === "left" ? left.lineup : {}),
    }).filter(([key]) => controls.has(key)),
  );
  const unknown = new Set(notKnown);
  const heads = headsOf(today, unknown);
  const contents = today.cells.map<CellContents>((cell) => {
    const held = unknown.has(cell.ownerId) ? undefined : said.contents.get(cell.id);
    if (held) return held;
    const room =
      cell.form === "waste-pipe" ? cell.sagM3 : cell.inUseFraction === 0 ? 0 : cell.capacityM3;
    return { plugs: room > 0 ? [water(room)] : [], source: "assumed" };
  });
  const measured = new Map(
    [...said.measured].filter(([cell]) =>
      today.cells.some((c) => c.id === cell && !unknown.has(c.ownerId)),
    ),
  );
  const since = sinceOf(record, then, today, changed, gone, after);
  const same = notKnown.length === 0 && gone.length === 0;
  const byIndex: Measured = new Map(
    [...measured].map(([cell, strength]) => [today.cellIndex.get(cell) ?? -1, strength]),
  );
  const verdict = same
    ? said.verdict
    : withUnknown(frostVerdict(today, contents, record.basis, byIndex), unknown, record.at);
  const doubts: Doubt[] = [
    // What was not known then and has been found to be as drawn is in doubt no longer.
    ...said.doubts.filter(
      (d) => now.has(d.id) && (unknown.has(d.because) || inDoubt(today, d.because)),
    ),
    ...notKnown
      .filter((id) => !said.doubts.some((d) => d.id === id))
      .map((id) => ({
        id,
        name: nameOf(today, id),
        because: heads.get(id) ?? id,
        becauseName: nameOf(today, heads.get(id) ?? id),
        ask: `Changed since the record of ${record.at.slice(0, 10)}: drain it, or run antifreeze through it and read it.`,
      })),
  ];
  return {
    kind: "as-left",
    at: record.at,
    runId: record.runId,
    job: record.job,
    verdict,
    doubts,
    measured,
    contents,
    contentsByCell: new Map(
      today.cells.flatMap((cell, i) => (contents[i] ? [[cell.id, contents[i]] as const] : [])),
    ),
    lineup,
    leftAt: left?.at ?? record.at,
    apart: said.apart,
    since,
    notKnown,
  };
};

const inDoubt = (network: Network, id: string): boolean => {
  const part = network.map.parts.find((p) => p.id === id);
  return part !== undefined && (part.unknown !== undefined || roleOf(part).mystery === true);
};

const withUnknown = (verdict: Verdict, unknown: ReadonlySet<string>, at: string): Verdict => {
  const told = (o: Verdict["owners"][number]): Verdict["owners"][number] =>
    unknown.has(o.id) && o.holdsToC !== null
      ? { ...o, evidence: `not known to hold: changed since the record of ${at.slice(0, 10)}` }
      : o;
  return {
    holdsToC: verdict.holdsToC,
    weakest: verdict.weakest && told(verdict.weakest),
    owners: verdict.owners.map(told),
  };
};

const sinceOf = (
  record: LeftRecord,
  then: Network,
  today: Network,
  changed: ReadonlySet<string>,
  gone: readonly string[],
  after: readonly UnitEntry[],
): Since[] => {
  const revised = after.filter((e) => e.kind === "map-revised");
  const last = revised.at(-1);
  const turned = (lineup: Lineup): string[] =>
    today.controls
      .filter(
        (c) =>
          lineup[c.key] !== undefined &&
          record.said.lineup[c.key] !== undefined &&
          lineup[c.key] !== record.said.lineup[c.key],
      )
      .map((c) => `${c.part.tag ? `${c.part.tag} ` : ""}${c.part.name}`);
  return [
    ...(changed.size > 0 || gone.length > 0
      ? [
          {
            at: last?.at ?? record.at,
            what: "map changed" as const,
            names: [...new Set(headsOf(today, changed).values())].map((id) => nameOf(today, id)),
            why:
              last?.kind === "map-revised"
                ? last.why
                : `${gone.map((id) => nameOf(then, id)).join(", ")} taken out`,
          },
        ]
      : []),
    ...after.flatMap<Since>((e) => {
      if (e.kind === "opened")
        return [
          {
            at: e.at,
            what: "opened",
            names: e.ids
              .filter(
                (id) =>
                  today.map.parts.some((p) => p.id === id) ||
                  today.map.runs.some((r) => r.id === id),
              )
              .map((id) => nameOf(today, id)),
            why: e.why,
          },
        ];
      if (e.kind !== "left") return [];
      const names = turned(e.lineup);
      return names.length > 0
        ? [{ at: e.at, what: "left otherwise", names: [], why: names.join(", ") }]
        : [];
    }),
  ];
};

/** What is kept of a standing for lists. */
export const stateOf = (standing: UnitStanding): UnitStateKept => ({
  kind: standing.kind,
  holdsToC: standing.verdict.holdsToC,
  weakestPart: standing.verdict.weakest?.name ?? null,
  // What came after is told as such.
  cannotTell: [
    ...new Set(
      standing.doubts
        .filter((d) => !standing.notKnown.includes(d.because))
        .map((d) => d.becauseName),
    ),
  ],
  at: standing.at,
  runId: standing.runId,
  since: sinceInWords(standing.since),
  ...(standing.job === undefined || standing.job === "winterize" ? {} : { job: standing.job }),
});

/** What a run begun now begins from: what is known of the unit; nothing of a unit in use whose valves nobody has written down. */
export const beginsFrom = (standing: UnitStanding): RunBegins | null => {
  const lineup = { ...standing.lineup };
  if (standing.kind === "in-use" || standing.at === null) {
    const at = standing.leftAt;
    return at === null
      ? null
      : { from: "as-left", at, runId: null, lineup, apart: [], contents: null, measured: {} };
  }
  return {
    from: "record",
    at: standing.at,
    runId: standing.runId,
    lineup,
    apart: standing.apart.map((e) => ({ ...e })),
    contents: Object.fromEntries(
      [...standing.contentsByCell].map(([id, held]) => [
        id,
        { ...held, plugs: held.plugs.map((p) => ({ ...p })) },
      ]),
    ),
    measured: Object.fromEntries(standing.measured),
  };
};
