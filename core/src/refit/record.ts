import { z } from "zod";
import { ANSWERS } from "../inspection/lists.ts";
import { waterMapSchema } from "../watermap/index.ts";
import { habitsSchema, limitSchema } from "./loads.ts";

/**
 * A refit on the record: a map that is not in force yet, and everything that was said and done about it. What is known is the fold of its
 * entries, which are only ever added.
 */

const words = (most: number) => z.string().trim().max(most);
const id = z.string().min(1).max(200);
const ids = z.array(id).min(1, "name what it is about").max(600).readonly();

/** How far a pipe, a joint or a part has come, in the order in which it comes there. */
export const WORK_STATES = ["planned", "cut", "installed", "tested", "closed"] as const;
export type WorkState = (typeof WORK_STATES)[number];

export const TAKEN_OUT = ["keep", "scrap", "stock"] as const;

const revision = z.number().int().min(1).max(1_000_000);

export const refitBodySchema = z.discriminatedUnion("type", [
  z.strictObject({
    type: z.literal("made"),
    name: words(80).min(1, "give it a name"),
    from: z.enum(["map", "finding", "family", "sister"]),
    /** The finding that it is to mend. */
    findingId: z.optional(z.uuid()),
    document: waterMapSchema,
    /** Revision of the unit's map that it was drawn from. */
    basedOn: revision,
  }),
  z.strictObject({
    type: z.literal("drawn"),
    document: waterMapSchema,
    basedOn: revision,
    why: words(200).default(""),
  }),
  z.strictObject({ type: z.literal("named"), name: words(80).min(1, "give it a name") }),
  z.strictObject({
    type: z.literal("reckoned-with"),
    habits: z.optional(habitsSchema),
    limits: z.optional(z.array(limitSchema).max(10).readonly()),
    /** What it is offered for, in the workshop's own money. */
    cost: z.optional(z.number().min(0).max(1e7)),
    /** What an hour of work costs, in the same. */
    hour: z.optional(z.number().min(0).max(1e5)),
  }),
  /** Pipes, joints and parts of it that have come so far. */
  z.strictObject({
    type: z.literal("work"),
    of: ids,
    state: z.enum(WORK_STATES),
    /** The pressure test that proves it. */
    testId: z.optional(z.uuid()),
  }),
  /** A panel, wall or floor that may not be closed before what lies behind it has been tested. */
  z.strictObject({
    type: z.literal("hold-point"),
    what: words(120).min(1, "say what stays open"),
    at: ids,
  }),
  /** Bedded, sealed or glued: it waits until it is cured, as its maker says at the temperature it lies in. */
  z.strictObject({
    type: z.literal("bedded"),
    of: ids,
    product: words(120).min(1, "say with what"),
    hours: z.number().min(0.1).max(5000),
    temperatureC: z.number().min(-30).max(60),
  }),
  z.strictObject({ type: z.literal("taken-out"), of: id, goes: z.enum(TAKEN_OUT) }),
  /** Put to the owner with a visit's report: both maps and the words as they were then; answered by the same link. */
  z.strictObject({
    type: z.literal("offered"),
    visitId: z.uuid(),
    lines: z.array(words(400)).max(40).readonly(),
    cost: z.optional(z.number().min(0).max(1e7)),
    today: waterMapSchema,
    proposed: waterMapSchema,
  }),
  /** What the owner says to it; who, as they wrote it. */
  z.strictObject({
    type: z.literal("answered"),
    offer: z.uuid(),
    answer: z.enum(ANSWERS),
    who: words(120).min(1, "say who answers"),
  }),
  /** Pieces that are in: they stand in the unit's own map from this revision on. */
  z.strictObject({
    type: z.literal("adopted"),
    pieces: ids,
    /** Parts and pipes that are in with them. */
    of: z.array(id).max(1000).readonly().default([]),
    revision,
  }),
  /** A row of the commissioning sheet: seen to be so or not; of an outlet, what ran, m3/s. */
  z.strictObject({
    type: z.literal("proved"),
    row: id,
    ok: z.boolean(),
    flowM3S: z.optional(z.number().min(0).max(0.1)),
    forecastM3S: z.optional(z.number().min(0).max(0.1)),
  }),
  z.strictObject({
    type: z.literal("withdrawn"),
    why: words(300).min(1, "say why it is not done"),
  }),
  z.strictObject({ type: z.literal("note"), text: words(1000).min(1, "say what was noticed") }),
]);
export type RefitBody = z.output<typeof refitBodySchema>;

export interface RefitEntry {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  readonly body: RefitBody;
}

type Of<T extends RefitBody["type"]> = Extract<RefitBody, { type: T }>;

/** What was put to the owner, as it was, and what they said. */
export interface Offer extends Omit<Of<"offered">, "type"> {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  readonly answer?: {
    readonly at: string;
    readonly who: string;
    readonly answer: Of<"answered">["answer"];
  };
}

export interface Refit {
  readonly name: string;
  readonly from: Of<"made">["from"];
  readonly findingId?: string | undefined;
  readonly document: Of<"made">["document"];
  readonly basedOn: number;
  readonly madeAt: string;
  readonly madeBy: string;
  readonly habits?: Of<"reckoned-with">["habits"];
  readonly limits?: Of<"reckoned-with">["limits"];
  readonly cost?: number | undefined;
  readonly hour?: number | undefined;
  /** By pipe, joint or part; what is not named is planned. */
  readonly work: Readonly<
    Record<
      string,
      {
        readonly state: WorkState;
        readonly at: string;
        readonly by: string;
        readonly testId?: string | undefined;
      }
    >
  >;
  /** What still cures, or has cured: until when, ISO. */
  readonly bedded: readonly {
    readonly of: readonly string[];
    readonly product: string;
    readonly at: string;
    readonly by: string;
    readonly until: string;
    readonly temperatureC: number;
  }[];
  readonly holdPoints: readonly { readonly what: string; readonly at: readonly string[] }[];
  readonly takenOut: Readonly<Record<string, (typeof TAKEN_OUT)[number]>>;
  readonly offers: readonly Offer[];
  readonly adopted: readonly {
    readonly at: string;
    readonly by: string;
    readonly pieces: readonly string[];
    readonly of: readonly string[];
    readonly revision: number;
  }[];
  /** Rows of the commissioning sheet, as they were last seen. */
  readonly proved: Readonly<
    Record<
      string,
      {
        readonly at: string;
        readonly by: string;
        readonly ok: boolean;
        readonly flowM3S?: number | undefined;
        readonly forecastM3S?: number | undefined;
      }
    >
  >;
  readonly notes: readonly { readonly at: string; readonly by: string; readonly text: string }[];
  readonly withdrawn?: { readonly at: string; readonly by: string; readonly why: string };
}

export type RefitResult =
  | { readonly ok: true; readonly refit: Refit }
  | { readonly ok: false; readonly problem: string };

const no = (problem: string): RefitResult => ({ ok: false, problem });

const stateOf = (refit: Pick<Refit, "work">, of: string): WorkState =>
  (Object.hasOwn(refit.work, of) ? refit.work[of]?.state : undefined) ?? "planned";

const rank = (state: WorkState): number => WORK_STATES.indexOf(state);

/** Hold points that keep something open: a part of what lies behind has not been tested. */
export const heldOpen = (refit: Pick<Refit, "holdPoints" | "work">): Refit["holdPoints"] =>
  refit.holdPoints.filter((h) => h.at.some((x) => rank(stateOf(refit, x)) < rank("tested")));

/** Why a step of the work cannot be written down; nothing where it can. */
const workProblem = (before: Refit, body: Of<"work">, at: string): string | undefined => {
  const cures =
    body.state === "tested" || body.state === "closed"
      ? before.bedded.find((b) => b.until > at && b.of.some((x) => body.of.includes(x)))
      : undefined;
  if (cures)
    return `${cures.product} still cures: not before ${cures.until.slice(0, 16).replace("T", " ")} UTC.`;
  if (body.state === "tested" && body.testId === undefined)
    return "Name the pressure test that proves it.";
  if (body.state !== "closed") return undefined;
  const untested = body.of.find((x) => rank(stateOf(before, x)) < rank("tested"));
  if (untested !== undefined) return "Nothing is closed in before it has been tested.";
  const held = heldOpen(before).find((h) => h.at.some((x) => body.of.includes(x)));
  return held && `${held.what} stays open: not all that lies behind it has been tested.`;
};

/** What a refit comes to with one more entry, or why that entry cannot be. */
export const addToRefit = (before: Refit | undefined, entry: RefitEntry): RefitResult => {
  const { body, at, by } = entry;
  if (!before)
    return body.type === "made"
      ? {
          ok: true,
          refit: {
            name: body.name,
            from: body.from,
            ...(body.findingId === undefined ? {} : { findingId: body.findingId }),
            document: body.document,
            basedOn: body.basedOn,
            madeAt: at,
            madeBy: by,
            work: {},
            bedded: [],
            holdPoints: [],
            takenOut: {},
            offers: [],
            adopted: [],
            proved: {},
            notes: [],
          },
        }
      : no("No refit has been made yet that this could be of.");
  const said = (change: Partial<Refit>): RefitResult => ({
    ok: true,
    refit: { ...before, ...change },
  });
  if (body.type === "note") return said({ notes: [...before.notes, { at, by, text: body.text }] });
  if (before.withdrawn) return no("It has been withdrawn. A new one takes what is new.");
  switch (body.type) {
    case "made":
      return no("It has been made already.");
    case "drawn":
      return said({ document: body.document, basedOn: body.basedOn });
    case "named":
      return said({ name: body.name });
    case "reckoned-with": {
      const { type: _type, ...figures } = body;
      return said(figures);
    }
    case "work": {
      const problem = workProblem(before, body, at);
      if (problem !== undefined) return no(problem);
      const now = {
        state: body.state,
        at,
        by,
        ...(body.testId === undefined ? {} : { testId: body.testId }),
      };
      return said({
        work: { ...before.work, ...Object.fromEntries(body.of.map((x) => [x, now])) },
      });
    }
    case "hold-point":
      return said({
        holdPoints: [
          ...before.holdPoints.filter((h) => h.what !== body.what),
          { what: body.what, at: body.at },
        ],
      });
    case "bedded": {
      const until = new Date(Date.parse(at) + body.hours * 3_600_000).toISOString();
      const { of, product, temperatureC } = body;
      return said({
        bedded: [...before.bedded, { of, product, temperatureC, at, by, until }],
      });
    }
    case "taken-out":
      return said({ takenOut: { ...before.takenOut, [body.of]: body.goes } });
    case "offered": {
      const { type: _type, ...offer } = body;
      return said({ offers: [...before.offers, { ...offer, id: entry.id, at, by }] });
    }
    case "answered": {
      if (!before.offers.some((o) => o.id === body.offer))
        return no("There is no such offer to answer.");
      const answer = { at, who: body.who, answer: body.answer };
      return said({
        offers: before.offers.map((o) => (o.id === body.offer ? { ...o, answer } : o)),
      });
    }
    case "adopted":
      return said({
        adopted: [
          ...before.adopted,
          { at, by, pieces: body.pieces, of: body.of, revision: body.revision },
        ],
      });
    case "proved": {
      const { type: _type, row, ...seen } = body;
      return said({ proved: { ...before.proved, [row]: { ...seen, at, by } } });
    }
    case "withdrawn":
      return before.adopted.length > 0
        ? no("Some of it is in the unit already: what is not wanted is drawn out of it instead.")
        : said({ withdrawn: { at, by, why: body.why } });
  }
};

/** What its entries come to; one that cannot be is left out and named. */
export const refitNow = (
  entries: readonly RefitEntry[],
): {
  readonly refit: Refit | undefined;
  readonly astray: readonly {
    readonly id: string;
    readonly type: string;
    readonly problem: string;
  }[];
} => {
  let refit: Refit | undefined;
  const astray: { id: string; type: string; problem: string }[] = [];
  for (const entry of entries) {
    const next = addToRefit(refit, entry);
    if (next.ok) refit = next.refit;
    else astray.push({ id: entry.id, type: entry.body.type, problem: next.problem });
  }
  return { refit, astray };
};

/** How far the work on a set of pipes and parts has come. */
export interface Progress {
  readonly state: WorkState;
  /** That have come so far or further. */
  readonly count: number;
  readonly of: number;
}

export const progressOf = (refit: Pick<Refit, "work">, all: readonly string[]): Progress[] =>
  WORK_STATES.filter((s) => s !== "planned").map((state) => ({
    state,
    count: all.filter((x) => rank(stateOf(refit, x)) >= rank(state)).length,
    of: all.length,
  }));

export { stateOf as workStateOf };
