import { z } from "zod";

/** Every reply that is not a success has this form: a code for programs, a message for people, fields where there are any. */
export const problemSchema = z.object({
  error: z.object({
    code: z.string(),
    message: z.string(),
    fields: z.array(z.object({ where: z.string(), problem: z.string() })).optional(),
  }),
});

export type ApiProblem = z.infer<typeof problemSchema>;
