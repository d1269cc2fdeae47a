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
      /** What it holds, of every workshop on the server. */
      workshops: z.number().int(),
      units: z.number().int(),
      runs: z.number().int(),
      people: z.number().int(),
      /** Made before an upgrade. */
      beforeUpgrade: z.boolean(),
    }),
  ),
  /** Why the last could not be made. */
  problem: z.string().nullable(),
});

export const restoredSchema = z.object({
  /** Of which moment what is there now is. */
  at: z.iso.datetime(),
  /** Under which name the database of before stays. */
  before: z.string(),
});

export type Restored = z.infer<typeof restoredSchema>;
export type Keeping = z.infer<typeof keepingSchema>;
