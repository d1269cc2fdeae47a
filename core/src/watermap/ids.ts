import type { z } from "zod";

/**
 * Ids bear in their type what they are of: a plain text is taken for one where it comes from outside, an id of another kind is not. They are
 * made by the functions here and compared; nobody takes one apart.
 */

declare const of: unique symbol;

export type IdOf<Kind extends string> = string & { readonly [of]?: Kind };

/** What a schema of texts reads, as an id of its kind; the text is the same. */
export const readAsId = <Id extends string>(
  schema: z.ZodType<string, string>,
): z.ZodType<Id, string> => schema as unknown as z.ZodType<Id, string>;

export type PartId = IdOf<"part">;
/** Of a run of pipe from one part to another. */
export type PipeRunId = IdOf<"pipe run">;
/** A part's cell, or a run of pipe. */
export type CellId = IdOf<"cell">;
/** Under which a lineup keeps a position. */
export type ControlKey = IdOf<"control">;
export type OpeningId = IdOf<"opening">;

/** The id of a part's cell, however many it has. */
export const cellId = (partId: PartId, cell: string): CellId => `${partId}:${cell}`;

/** The cell that a run of pipe is. */
export const pipeCellId = (runId: PipeRunId): CellId => runId as string;

/** The lineup key of a control. */
export const controlKey = (partId: PartId, control: string): ControlKey =>
  control === "main" ? (partId as string) : `${partId}:${control}`;

export const openingId = (partId: PartId, opening: string): OpeningId => `${partId}:${opening}`;
