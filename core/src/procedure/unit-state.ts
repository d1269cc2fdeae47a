import {
  type CellContents,
  type FrostBasis,
  frostVerdict,
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
  type PipeRun,
  roleOf,
} from "../watermap/index.ts";
import type { Doubt } from "./doubt.ts";
import type { Job } from "./job.ts";
import type { RunBegins, UnitSaid } from "./run/index.ts";
import type { Since, UnitEntry } from "./unit-entry.ts";
import { headsOf, nameOf, sameBody, sinceInWords } from "./unit-since.ts";

/** How a unit stands: what its last record left, and what has happened to it since. */

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
