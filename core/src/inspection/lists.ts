import { z } from "zod";

/**
 * Lists that core, contract, database and screens share, each stated once. What is kept is an id; what is read is its label, which may be
 * worded otherwise at any time without a record losing its meaning.
 */

/** From what hurts people or the hull to what is only worth knowing. */
export const SEVERITIES = ["unsafe", "will-fail", "wears", "note"] as const;
export type FindingSeverity = (typeof SEVERITIES)[number];
export const SEVERITY_LABELS: Readonly<Record<FindingSeverity, string>> = {
  unsafe: "unsafe",
  "will-fail": "will fail",
  wears: "wears",
  note: "note",
};

export const ANSWERS = ["do-it", "later", "no"] as const;
export type OwnerAnswer = (typeof ANSWERS)[number];
export const ANSWER_LABELS: Readonly<Record<OwnerAnswer, string>> = {
  "do-it": "do it",
  later: "later",
  no: "no",
};
/** The same answers as they are told to whoever gave them. */
export const ANSWERS_TOLD: Readonly<Record<OwnerAnswer, string>> = {
  "do-it": "to be done",
  later: "later",
  no: "declined",
};

export const FINDING_STATES = ["open", "mended", "accepted"] as const;
export type FindingStateId = (typeof FINDING_STATES)[number];

/** What was found at a point of a walk-round, with one tap. */
export const LOOK_MARKS = ["good", "watch", "bad", "not-reached", "not-fitted"] as const;
export type LookMark = (typeof LOOK_MARKS)[number];
export const LOOK_MARK_LABELS: Readonly<Record<LookMark, string>> = {
  good: "good",
  watch: "watch",
  bad: "bad",
  "not-reached": "not reached",
  "not-fitted": "not fitted",
};

export const SPRING_MARKS = ["pass", "fail", "not-looked-at"] as const;
export type SpringMark = (typeof SPRING_MARKS)[number];
export const SPRING_MARK_LABELS: Readonly<Record<SpringMark, string>> = {
  pass: "pass",
  fail: "fail",
  "not-looked-at": "not looked at",
};

export const VISIT_STATES = ["booked", "arrived", "in-work", "waiting", "ready", "gone"] as const;
export type VisitStateId = (typeof VISIT_STATES)[number];
export const VISIT_STATE_LABELS: Readonly<Record<VisitStateId, string>> = {
  booked: "booked",
  arrived: "here, not begun",
  "in-work": "in work",
  waiting: "waiting",
  ready: "ready to hand over",
  gone: "gone",
};
/** States in which the unit stands here. */
export const HERE_STATES = [
  "arrived",
  "in-work",
  "waiting",
  "ready",
] as const satisfies readonly VisitStateId[];

/** What a visit waits for. */
export const WAITS = ["soaking", "holding", "draining", "parts", "the-owner"] as const;
export type VisitWait = (typeof WAITS)[number];
export const WAIT_LABELS: Readonly<Record<VisitWait, string>> = {
  soaking: "soaking",
  holding: "holding",
  draining: "draining",
  parts: "parts",
  "the-owner": "the owner",
};

/** How everything stood when a unit came, or stands as it goes. */
export const SNAPSHOT_KINDS = ["as-found", "as-left"] as const;
export type SnapshotKind = (typeof SNAPSHOT_KINDS)[number];
export const SNAPSHOT_KIND_LABELS: Readonly<Record<SnapshotKind, string>> = {
  "as-found": "as found",
  "as-left": "as left",
};

export const PICTURE_ABOUT = ["look", "finding", "snapshot", "run", "part", "unit"] as const;
export const ROLES = ["owner", "lead", "technician", "apprentice", "desk"] as const;
export const READING_DIMENSIONS = [
  "length",
  "volume",
  "pressure",
  "temperature",
  "fraction",
  "concentration",
  "flow",
  "volts",
  "minutes",
] as const;
/** How a report reached its owner. */
export const HANDED_OVER = ["print", "pdf", "link", "gone"] as const;
export const UNIT_STATES = ["in-use", "as-left", "in-work"] as const;
export type UnitStateId = (typeof UNIT_STATES)[number];
export const MERGED = ["customer", "unit"] as const;

/** One of a list; the ids of earlier versions, which had spaces, are taken as what they meant. */
export const oneOfList = <const T extends readonly [string, ...string[]]>(
  values: T,
): z.ZodType<T[number], T[number]> =>
  z.codec(
    z
      .string()
      .max(40)
      .meta({ enum: [...values] }),
    z.enum(values),
    {
      decode: (said) => said.replaceAll(" ", "-") as T[number],
      encode: (id) => id,
    },
  );
