import { z } from "zod";
import { ANSWERS, type FINDING_STATES, oneOfList, type OwnerAnswer, SEVERITIES } from "./lists.ts";

/** A fault found on a unit. What is known of it is the fold of its entries; a correction is a new entry, none is ever changed. */

const words = (most: number) => z.string().trim().max(most);
const facts = {
  what: words(300).min(1, "say what was found"),
  severity: oneOfList(SEVERITIES),
  /** Part on the map; none where it is no one part. */
  partId: z.string().min(1).max(60).nullable(),
  place: words(80),
  cause: words(500),
  advice: words(500),
  partsNeeded: words(300),
  /** Hands-on time to mend it, minutes. */
  minutes: z.number().int().min(0).max(10_080).nullable(),
};

export const findingBodySchema = z.discriminatedUnion("type", [
  z.strictObject({
    type: z.literal("found"),
    what: facts.what,
    severity: facts.severity,
    partId: facts.partId.default(null),
    place: facts.place.default(""),
    cause: facts.cause.default(""),
    advice: facts.advice.default(""),
    partsNeeded: facts.partsNeeded.default(""),
    minutes: facts.minutes.default(null),
  }),
  z.strictObject({ type: z.literal("changed"), ...z.strictObject(facts).partial().shape }),
  z.strictObject({
    type: z.literal("answered"),
    answer: oneOfList(ANSWERS),
    /** Who said it, and how: "Wren Hollis, by phone". */
    who: words(120).min(1, "say who answered"),
  }),
  z.strictObject({
    type: z.literal("mended"),
    how: words(500).min(1, "say what was done"),
    proof: words(500).min(1, "say which test proved it"),
    /** Parts and pipes that were opened for it: what a record says they hold is not known any more. */
    undone: z.array(z.string().min(1).max(60)).max(60).default([]),
  }),
  z.strictObject({ type: z.literal("accepted"), why: words(500).min(1, "say why it stays so") }),
  z.strictObject({
    type: z.literal("reopened"),
    why: words(500).min(1, "say why it is open again"),
  }),
]);

export type FindingBody = z.output<typeof findingBodySchema>;

export interface FindingEntry {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  readonly body: FindingBody;
}

type Found = Extract<FindingBody, { type: "found" }>;

export interface Finding extends Omit<Found, "type"> {
  readonly state: (typeof FINDING_STATES)[number];
  readonly foundAt: string;
  readonly foundBy: string;
  readonly answer?: { readonly answer: OwnerAnswer; readonly who: string; readonly at: string };
  readonly mended?: {
    readonly how: string;
    readonly proof: string;
    readonly at: string;
    readonly by: string;
  };
  readonly accepted?: { readonly why: string; readonly at: string };
}

export type FindingResult =
  | { readonly ok: true; readonly finding: Finding }
  | { readonly ok: false; readonly problem: string };

const no = (problem: string): FindingResult => ({ ok: false, problem });

/** What a finding comes to with one more entry, or why that entry cannot be. */
export const addToFinding = (before: Finding | undefined, entry: FindingEntry): FindingResult => {
  const { body, at, by } = entry;
  if (!before) {
    if (body.type !== "found") return no("Nothing has been found yet that this could be about.");
    const { type: _type, ...found } = body;
    return { ok: true, finding: { ...found, state: "open", foundAt: at, foundBy: by } };
  }
  switch (body.type) {
    case "found":
      return no("It has been written down already.");
    case "changed": {
      const { type: _type, ...change } = body;
      const said = Object.fromEntries(
        Object.entries(change).filter(([, value]) => value !== undefined),
      );
      return { ok: true, finding: { ...before, ...said } };
    }
    case "answered":
      return {
        ok: true,
        finding: { ...before, answer: { answer: body.answer, who: body.who, at } },
      };
    case "mended":
      if (before.state === "mended") return no("It is mended already. Open it again first.");
      return {
        ok: true,
        finding: {
          ...before,
          state: "mended",
          mended: { how: body.how, proof: body.proof, at, by },
        },
      };
    case "accepted":
      if (before.state === "mended") return no("It is mended; there is nothing to accept.");
      if (before.severity === "unsafe" && before.answer?.answer !== "no")
        return no("What is unsafe is not accepted before the owner has been told and has said no.");
      return {
        ok: true,
        finding: { ...before, state: "accepted", accepted: { why: body.why, at } },
      };
    case "reopened": {
      if (before.state === "open") return no("It is open.");
      const { mended: _mended, accepted: _accepted, ...rest } = before;
      return { ok: true, finding: { ...rest, state: "open" } };
    }
  }
};

/** An entry that is kept and has no effect, with its reason. */
export interface FindingAstray {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  readonly type: string;
  readonly problem: string;
}

/** What a finding comes to; where an entry has no effect, nobody can take the finding without having its list in hand. */
export type FindingNow =
  | { readonly whole: true; readonly finding: Finding }
  | {
      readonly whole: false;
      readonly findingWithout: Finding | undefined;
      readonly astray: readonly FindingAstray[];
    };

/**
 * What a finding's entries come to. One that cannot be is left out and named; those that do not depend on it count.
 * @param unread entries that this version cannot read
 */
export const findingNow = (
  entries: readonly FindingEntry[],
  unread: readonly FindingAstray[] = [],
): FindingNow => {
  let now: Finding | undefined;
  const astray = [...unread];
  for (const entry of entries) {
    const next = addToFinding(now, entry);
    if (next.ok) now = next.finding;
    else
      astray.push({
        id: entry.id,
        at: entry.at,
        by: entry.by,
        type: entry.body.type,
        problem: next.problem,
      });
  }
  return now && astray.length === 0
    ? { whole: true, finding: now }
    : { whole: false, findingWithout: now, astray };
};

/**
 * Whether a finding stands on every later sheet of its unit: everything that is open, and what is unsafe until it is mended,
 * whatever the owner has said.
 */
export const staysOnSheets = (finding: Pick<Finding, "state" | "severity">): boolean =>
  finding.state === "open" || (finding.severity === "unsafe" && finding.state !== "mended");

/** Most urgent first, then the oldest. */
export const byUrgency = (
  a: Pick<Finding, "severity"> & { at: string },
  b: Pick<Finding, "severity"> & { at: string },
): number =>
  SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity) || (a.at < b.at ? -1 : 1);

/** An arrow or a ring on a picture; places as parts of its width and height, from the upper left. */
export const pictureMarkSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("ring"),
    x: z.number().min(0).max(1),
    y: z.number().min(0).max(1),
    r: z.number().min(0.01).max(0.7),
  }),
  z.strictObject({
    kind: z.literal("arrow"),
    /** Where its tail stands, and where it points. */
    x: z.number().min(0).max(1),
    y: z.number().min(0).max(1),
    toX: z.number().min(0).max(1),
    toY: z.number().min(0).max(1),
  }),
]);
export type PictureMark = z.infer<typeof pictureMarkSchema>;
