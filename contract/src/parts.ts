import { CONDITIONS, partLifeChangeSchema, partLifeSchema } from "@uppershed/core/formats";
import { z } from "zod";
import { unitId } from "./ids.ts";

/** One line of the parts register: a part of a unit, or a piece of it that wears by itself. */
export const registeredPartSchema = z.object({
  unitId,
  unitName: z.string(),
  partId: z.string(),
  /** "" for the part itself; "anode", "cartridge" for a piece of it. */
  item: z.string(),
  kind: z.string(),
  name: z.string(),
  tag: z.string(),
  place: z.string(),
  /** Whether the newest map still has it. */
  onMap: z.boolean(),
  life: partLifeSchema,
  /** By when it has served its expected life, as far as that is known. */
  dueOn: z.iso.date().nullable(),
});

export const partSearchSchema = z.strictObject({
  /** Words that must all occur: name, kind, what it is made of, place, unit. */
  text: z.string().trim().max(100).optional(),
  unit: unitId.optional(),
  kind: z.string().max(40).optional(),
  condition: z.enum(CONDITIONS).optional(),
  /** Fitted at least so many months ago. */
  fittedMonthsAgo: z.coerce.number().int().min(0).max(1200).optional(),
  /** Expected life over by this day. */
  dueBy: z.iso.date().optional(),
  /** Parts that no map has any more too. */
  gone: z.enum(["yes", "no"]).default("no"),
});

export const partListSchema = z.object({
  parts: z.array(registeredPartSchema),
  /** More were found than are sent. */
  more: z.boolean(),
});

export const changeLifeSchema = partLifeChangeSchema;

export type RegisteredPart = z.infer<typeof registeredPartSchema>;
export type PartSearch = z.input<typeof partSearchSchema>;
export type ChangeLife = z.input<typeof changeLifeSchema>;
