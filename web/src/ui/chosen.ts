import { z } from "zod";

/** What is ticked of a list: a form gives one alone for a list of one. */
export const chosenSchema = z.preprocess(
  (given) => (Array.isArray(given) ? given : typeof given === "string" && given ? [given] : []),
  z.array(z.string()),
);

/** Minutes typed, or nothing. */
export const minutesSchema = (problem: string, most: number) =>
  z
    .string()
    .trim()
    .refine((t) => t === "" || (Number(t) >= 0 && Number(t) < most), problem)
    .transform((t) => (t === "" ? undefined : Number(t)));
