import { z } from "zod";
import { simActions } from "./act.ts";

const litres = z.number().min(0).max(20);

/** What a unit holds at first. */
export const startContents = z.union([
  z.enum(["in use", "empty", "water everywhere"]),
  z.strictObject({ antifreeze: z.number().min(0).max(1) }),
  z.strictObject({
    held: z
      .record(z.string().max(200), z.strictObject({ waterM3: litres, glycolM3: litres }))
      .refine((h) => Object.keys(h).length <= 3000, "too many parts and pipes"),
  }),
]);

/** A sequence tried on a map: what the unit held and how it stood at first, and what was done. Plain data, to be kept and tried again. */
export const triedSequence = z.strictObject({
  /** Revision of the map it was tried on. */
  mapRevision: z.number().int().min(1),
  start: startContents,
  /** Positions by control, upon a unit in use. */
  lineup: z
    .record(z.string().max(120), z.string().max(60))
    .refine((l) => Object.keys(l).length <= 500, "too many positions"),
  actions: simActions.min(1, "nothing was tried"),
});

export type TriedSequence = z.output<typeof triedSequence>;
