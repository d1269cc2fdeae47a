import { z } from "zod";
import type { CellContents, Contents, OwnerVerdict, Verdict } from "../../contents/index.ts";
import type { ApartEnd, CellId, Lineup, Network } from "../../watermap/index.ts";
import type { Doubt } from "../doubt.ts";
import type { Physical } from "../physical.ts";
import type { WetLines } from "../wet.ts";

/**
 * What the engine said of the unit on the day an entry was made, kept with the entry. Nothing here is ever worked out again: a record
 * shows these words, whatever a later engine would say. Cells and controls are named, so that a later map of a kind can still be read.
 */

const m3 = z.number().min(0).max(1000);
const source = z.enum(["assumed", "worked out", "measured"]);
const heldSchema = z.strictObject({
  plugs: z
    .array(
      z.strictObject({
        waterM3: m3,
        glycolM3: m3,
        chlorineMg: z.number().optional(),
        warmthM3K: z.number().optional(),
        foreignM3: z.number().optional(),
      }),
    )
    .max(2000),
  source,
});

const mixtureSchema = z.strictObject({ waterM3: z.number(), glycolM3: z.number() });
const words = z.string().max(2000);
const named = z.string().max(200);

export const ownerSaidSchema = z.strictObject({
  id: named,
  name: words,
  state: z.enum(["empty", "room for ice", "water", "antifreeze"]),
  holdsToC: z.number().nullable(),
  evidence: words,
  source,
  strength: z.number(),
  part: z.boolean(),
  rank: z.number(),
});

export const doubtSchema = z.strictObject({
  id: named,
  name: words,
  because: named,
  becauseName: words,
  ask: words,
});

/** A control that stands otherwise than in use, in the words of the day. */
export const turnSaidSchema = z.strictObject({
  control: named,
  tag: named,
  name: words,
  now: words,
  inUse: words,
});
const endSaidSchema = z.strictObject({ id: named, text: words, mustTag: z.boolean() });

const lines = z.strictObject({
  suctionM3: m3,
  coldM3: m3,
  hotM3: m3,
  bodiesM3: m3,
  totalM3: m3,
  capacityM3: m3,
});

export const saidSchema = z.strictObject({
  /** Version of the engine that said it. */
  engine: z.string().min(1).max(20),
  /** What cells hold, by cell: of the first entry all, later those that changed. */
  contents: z.record(named, heldSchema),
  /** Positions by control: of the first entry all, later those that changed. */
  lineup: z.record(named, named),
  apart: z
    .array(z.strictObject({ run: named, end: z.enum(["from", "to"]), jug: z.boolean() }))
    .max(600),
  /** Facts that became known with it. */
  facts: z.array(z.string().max(300)).max(2000),
  /** Strengths read, by cell. */
  measured: z.record(named, z.number()),
  drawnM3: m3,
  gone: mixtureSchema,
  came: mixtureSchema,
  holdsToC: z.number().nullable(),
  /** Id of the weakest part or run. */
  weakest: z.nullable(named),
  /** How each part and run stands: of the first entry all, later those that changed. */
  owners: z.array(ownerSaidSchema).max(2000),
  doubts: z.array(doubtSchema).max(2000),
  lines,
  /** What was read so far and cannot all be true. */
  odds: z.array(words).max(1000).optional(),
  /** A reading was too weak for the winter low: what is left must be planned again. */
  planAgain: z.literal(true).optional(),
  /** How the valves were found or left, in words. */
  turns: z.array(turnSaidSchema).max(2000).optional(),
  ends: z.array(endSaidSchema).max(2000).optional(),
  /** What the device had said, where the server's engine said a warmer figure, which counts. */
  device: z
    .strictObject({ engine: z.string().max(20), holdsToC: z.number().nullable() })
    .optional(),
});

export type Said = z.infer<typeof saidSchema>;
export type TurnSaid = z.infer<typeof turnSaidSchema>;
export type EndSaid = z.infer<typeof endSaidSchema>;

/** All that has been said of the unit so far, put together. */
export interface UnitSaid {
  readonly engine: string;
  readonly contents: ReadonlyMap<CellId, CellContents>;
  readonly lineup: Lineup;
  readonly apart: readonly ApartEnd[];
  readonly facts: readonly string[];
  readonly measured: ReadonlyMap<CellId, number>;
  readonly drawnM3: number;
  readonly gone: Physical["gone"];
  readonly came: Physical["came"];
  readonly verdict: Verdict;
  readonly doubts: readonly Doubt[];
  readonly lines: WetLines;
  readonly odds: readonly string[];
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** What must be kept of a unit's state so that it can be put together from what was kept before. */
export const saidSince = (before: UnitSaid | undefined, now: UnitSaid): Said => {
  const known = new Map(before?.verdict.owners.map((o) => [o.id, o]));
  return {
    engine: now.engine,
    contents: Object.fromEntries(
      [...now.contents]
        .filter(([cell, held]) => !before || !same(before.contents.get(cell), held))
        .map(([cell, { plugs, source }]) => [
          cell,
          { plugs: plugs.map((p) => ({ ...p })), source },
        ]),
    ),
    lineup: Object.fromEntries(
      Object.entries(now.lineup).filter(([key, position]) => before?.lineup[key] !== position),
    ),
    apart: now.apart.map((e) => ({ ...e })),
    facts: now.facts.filter((fact) => !before?.facts.includes(fact)),
    measured: Object.fromEntries(now.measured),
    drawnM3: now.drawnM3,
    gone: { waterM3: now.gone.waterM3, glycolM3: now.gone.glycolM3 },
    came: { waterM3: now.came.waterM3, glycolM3: now.came.glycolM3 },
    holdsToC: now.verdict.holdsToC,
    weakest: now.verdict.weakest?.id ?? null,
    owners: now.verdict.owners.filter((o) => !same(known.get(o.id), o)).map((o) => ({ ...o })),
    doubts: now.doubts.map((d) => ({ ...d })),
    lines: { ...now.lines },
    ...(now.odds.length > 0 ? { odds: [...now.odds] } : {}),
  };
};

/** Puts what an entry says over what was said before. */
export const withSaid = (before: UnitSaid | undefined, said: Said): UnitSaid => {
  const changed = new Map<string, OwnerVerdict>(said.owners.map((o) => [o.id, o]));
  const owners = [
    ...(before?.verdict.owners ?? []).map((o) => changed.get(o.id) ?? o),
    ...said.owners.filter((o) => !before?.verdict.owners.some((b) => b.id === o.id)),
  ];
  return {
    engine: said.engine,
    contents: new Map([...(before?.contents ?? []), ...Object.entries(said.contents)]),
    lineup: { ...before?.lineup, ...said.lineup },
    apart: said.apart,
    facts: [...(before?.facts ?? []), ...said.facts],
    measured: new Map(Object.entries(said.measured)),
    drawnM3: said.drawnM3,
    gone: said.gone,
    came: said.came,
    verdict: {
      holdsToC: said.holdsToC,
      weakest: owners.find((o) => o.id === said.weakest) ?? null,
      owners,
    },
    doubts: said.doubts,
    lines: said.lines,
    odds: said.odds ?? [],
  };
};

/** What each cell of a network holds by what was said; of a cell that nothing was said of, full of water is assumed. */
export const contentsSaid = (network: Network, held: ReadonlyMap<CellId, CellContents>): Contents =>
  network.cells.map(
    (cell) =>
      held.get(cell.id) ?? {
        plugs:
          cell.capacityM3 > 0
            ? [{ waterM3: cell.capacityM3 * Math.max(cell.inUseFraction, 0), glycolM3: 0 }]
            : [],
        source: "assumed",
      },
  );

/** The unit as the engine takes it, by what was said of it. */
export const physicalSaid = (network: Network, said: UnitSaid): Physical => ({
  lineup: said.lineup,
  apart: said.apart,
  contents: contentsSaid(network, said.contents),
  facts: said.facts,
  drawnM3: said.drawnM3,
  gone: said.gone,
  came: said.came,
  measured: new Map(
    [...said.measured].flatMap(([cell, strength]) => {
      const index = network.cellIndex.get(cell);
      return index === undefined ? [] : [[index, strength] as const];
    }),
  ),
});
