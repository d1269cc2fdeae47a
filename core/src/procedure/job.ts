import { z } from "zod";

/** What a run is for. */
export const JOBS = [
  { job: "winterize", label: "Winterize", work: "winterizing" },
  { job: "spring", label: "De-winterize", work: "de-winterizing" },
  { job: "sanitize", label: "Sanitize", work: "sanitizing" },
] as const;

export type Job = (typeof JOBS)[number]["job"];

export const JOB_NAMES = JOBS.map((j) => j.job);

export const jobLabel = (job: Job | undefined): string =>
  JOBS.find((j) => j.job === job)?.label ?? "Winterize";

/** What something is for that says so only where it is no winterizing. */
export const jobOf = ({ job = "winterize" }: { readonly job?: Job | undefined }): Job => job;

/** The work itself, within a sentence. */
export const jobWork = (job: Job | undefined): string =>
  JOBS.find((j) => j.job === job)?.work ?? "winterizing";

/** What a spring or a sanitizing goes by; kept with its run. */
export const waterSettingsSchema = z.strictObject({
  /** Antifreeze at an outlet, by volume, at which it is flushed out. */
  tasteAtMost: z.number().min(0.0005).max(0.05),
  /** How long the pump must stay silent with every tap shut, s. */
  silentS: z.number().min(60).max(7200),
  /** Sanitizing follows: carbon stays out until then. */
  sanitizeNext: z.boolean(),
  /** Tanks with a hatch are opened and cleaned by hand before they are dosed. */
  handClean: z.optional(z.boolean()),
  /** Heaters are rinsed and descaled before they are dosed. */
  descale: z.optional(z.boolean()),
  chlorine: z.strictObject({
    /** Free chlorine wanted at the outlet that gets least, mg/L. */
    targetMgL: z.number().min(1).max(300),
    /** How long it stands at least once the last outlet has it, and at most, s. */
    soakS: z.number().min(300).max(259_200),
    latestS: z.number().min(600).max(604_800),
    /** Share of what was read at the start that must be left at the end. */
    holdsShare: z.number().min(0).max(1),
    /** Free chlorine at which it is flushed out, mg/L. */
    limitMgL: z.number().min(0.1).max(10),
    heater: z.enum(["by-maker", "in", "out"]),
    endpoint: z.enum(["strip", "smell-and-colour"]),
    bottle: z.strictObject({
      name: z.string().trim().min(1).max(80),
      /** Sodium hypochlorite by weight, as the label says. */
      strength: z.number().min(0.005).max(0.15),
      /** Since it was opened; nothing where nobody wrote it down. */
      days: z.optional(z.number().min(0).max(5000)),
    }),
    /** Free chlorine of the water that is filled in, mg/L. */
    sourceMgL: z.number().min(0).max(4),
  }),
});

export type WaterSettings = Readonly<z.infer<typeof waterSettingsSchema>>;

/**
 * Where nobody has said otherwise. Taste: our own, about what a refractometer can tell from water. Silence: ten minutes (common practice, no
 * source). Held: AWWA C651 asks for 10 of 25 mg/L after a day (from memory). Household bleach of 5.25 %.
 */
export const WATER_SETTINGS: WaterSettings = {
  tasteAtMost: 0.0025,
  silentS: 600,
  sanitizeNext: false,
  chlorine: {
    targetMgL: 50,
    soakS: 4 * 3600,
    latestS: 24 * 3600,
    holdsShare: 0.4,
    limitMgL: 4,
    heater: "by-maker",
    endpoint: "strip",
    bottle: { name: "Household bleach", strength: 0.0525 },
    sourceMgL: 0,
  },
};
