import { z } from "zod";
import { METHOD_NAMES } from "../method.ts";
import { type Step, stepSchema } from "../step.ts";
import type { Plan } from "../plan.ts";
import { doubtSchema, ownerSaidSchema } from "./said.ts";

/** A plan as a run keeps it: its steps whole, and what it promised. What the engine would need to go on is not of the plan. */

const words = z.string().max(2000);
const m3 = z.number().min(0).max(100);

export const keptPlanSchema = z.strictObject({
  method: z.enum(METHOD_NAMES),
  steps: z.array(stepSchema).max(1500).readonly(),
  antifreeze: z.strictObject({
    medianM3: m3,
    p90M3: m3,
    workedM3: m3,
    lines: z
      .array(z.strictObject({ label: words, volumeM3: m3, how: words }))
      .max(50)
      .readonly(),
    jugs: z.number().int().min(0).max(100_000),
    ruleOfThumb: z.strictObject({ volumeM3: m3, text: words }),
  }),
  targetStrength: z.number().min(0).max(1),
  holdsToC: z.number().nullable(),
  weakest: z.nullable(ownerSaidSchema),
  unprotected: z
    .array(
      z.strictObject({ id: z.string().max(200), name: words, holdsToC: z.number(), why: words }),
    )
    .max(2000)
    .readonly(),
  meetsMargin: z.boolean(),
  cannotTell: z.array(doubtSchema).max(2000).readonly(),
  minutes: z.number().min(0).max(1e6),
  carry: z.array(words).max(100).readonly(),
  entry: words,
  /** Of a spring or a sanitizing: what water it takes, and the working of its dose. */
  water: z.optional(
    z.strictObject({
      filledM3: m3,
      bleachM3: m3,
      chlorineMg: z.number().min(0).max(1e9),
      refills: z.number().int().min(0).max(100),
      lines: z
        .array(z.strictObject({ label: words, how: words }))
        .max(50)
        .readonly(),
      warnings: z.array(words).max(50).readonly(),
    }),
  ),
});

export type KeptPlan = Readonly<z.infer<typeof keptPlanSchema>>;

/** What a run keeps of a plan, with the steps as they are to be done. */
export const keptPlan = (plan: Plan, steps: readonly Step[]): KeptPlan => {
  const { verdict: _verdict, after: _after, steps: _steps, ...rest } = plan;
  return { ...rest, steps };
};
