import { triedSequence } from "@uppershed/core/simulation";
import { z } from "zod";
import { unitId } from "./ids.ts";

/** A note on a unit; it may carry a sequence that was tried on the map. */
export const newNoteSchema = z.strictObject({
  /** Made on the device: the same note sent twice is one. */
  id: z.uuid(),
  text: z.string().trim().min(1, "write what is worth keeping").max(2000),
  tried: triedSequence.nullable().default(null),
});

export const noteSchema = z.object({
  id: z.uuid(),
  unitId,
  at: z.iso.datetime(),
  by: z.string(),
  text: z.string(),
  tried: triedSequence.nullable(),
  /** A sequence is kept with it that this version cannot read, and why. */
  triedUnread: z.string().optional(),
});

export const noteListSchema = z.object({ notes: z.array(noteSchema) });

export type Note = z.infer<typeof noteSchema>;
export type NewNote = z.input<typeof newNoteSchema>;
