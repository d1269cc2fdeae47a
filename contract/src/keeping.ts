import { z } from "zod";

/** What is kept safe beside the database. */
export const keepingSchema = z.object({
  /** Where backups lie on the server; null where none are made. */
  folder: z.string().nullable(),
  /** The newest first; each was restored once and found the same. */
  backups: z.array(
    z.object({
      name: z.string(),
      at: z.iso.datetime(),
      bytes: z.number(),
      /** How many units it holds. */
      units: z.number().int(),
    }),
  ),
  /** Why the last could not be made. */
  problem: z.string().nullable(),
});

export type Keeping = z.infer<typeof keepingSchema>;
