import { ROLES } from "@uppershed/core/inspection";
import { z } from "zod";
import { personId, workshopId } from "./ids.ts";

const roleSchema = z.enum(ROLES);

export const signInSchema = z.strictObject({
  name: z.string().trim().min(1, "give your sign-in name").max(60),
  password: z.string().min(1, "give your password").max(200),
});

const workshopSchema = z.object({
  id: workshopId,
  name: z.string(),
  place: z.string(),
  units: z.enum(["us", "metric", "imperial"]),
  winterLowC: z.number(),
});

/** Header by which a page says whose it is, so that nothing is done in the name of somebody who signed in on the same device since. */
export const AS_HEADER = "x-shed-as";

export const meSchema = z.object({
  person: z.object({ id: personId, name: z.string(), role: roleSchema }),
  workshop: workshopSchema,
});

export type SignIn = z.infer<typeof signInSchema>;
export type Workshop = z.infer<typeof workshopSchema>;
export type Me = z.infer<typeof meSchema>;
