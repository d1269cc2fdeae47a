import { moment, ROLES } from "@uppershed/core/inspection";
import { DATE_STYLES, UNIT_SYSTEMS } from "@uppershed/core/quantity";
import { z } from "zod";
import { personId, workshopId } from "./ids.ts";

const roleSchema = z.enum(ROLES);

export const signInSchema = z.strictObject({
  name: z.string().trim().min(1, "give your sign-in name").max(60),
  password: z.string().min(1, "give your password").max(200),
  /** Of the authenticator, or a recovery code, where somebody has a second factor. */
  code: z.string().trim().max(30).optional(),
});

const workshopSchema = z.object({
  id: workshopId,
  name: z.string(),
  place: z.string(),
  /** How it measures and writes numbers. */
  units: z.enum(UNIT_SYSTEMS),
  dates: z.enum(DATE_STYLES),
  winterLowC: z.number(),
  /** Made up, to look at. */
  isDemo: z.boolean(),
});

const workshopFields = {
  name: z.string().trim().min(1, "give the workshop a name").max(80),
  place: z.string().trim().max(80),
  units: z.enum(UNIT_SYSTEMS),
  dates: z.enum(DATE_STYLES).default("day-month-year"),
  winterLowC: z
    .number()
    .min(-50, "no antifreeze table reaches below −50 °C")
    .max(0, "the winter low is at or below freezing"),
};

/** A change of the workshop's own facts: what it does not name stays as it is. */
export const workshopChangeSchema = z
  .strictObject({ ...workshopFields, dates: z.enum(DATE_STYLES) })
  .partial();

const personName = z.string().trim().min(1, "give a name").max(80);
const signInName = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[a-z0-9][a-z0-9._@-]{1,58}$/u, "two letters or more: small letters, figures, . _ - @");
/** Length does more than odd signs (NIST SP 800-63B, 2017, from memory: eight at least; ten is ours). */
const newPassword = z.string().min(10, "ten letters at least").max(200);

export const setUpSchema = z.union([
  z.strictObject({ code: z.string().trim().min(1).max(40), demo: z.literal(true) }),
  z.strictObject({
    code: z.string().trim().min(1, "give the code that was printed").max(40),
    workshop: z.strictObject(workshopFields),
    lead: z.strictObject({ name: personName, signInName, password: newPassword }),
  }),
]);

export const setUpNeededSchema = z.object({ needed: z.boolean() });
/** A demo that was loaded: by which names one signs in, and the password of all of them. */
const demoLoadedSchema = z.object({
  signInNames: z.array(z.string()),
  password: z.string(),
});

const personOnFileSchema = z.object({
  id: personId,
  name: z.string(),
  signInName: z.string(),
  role: roleSchema,
  leftAt: moment.nullable(),
  secondFactor: z.boolean(),
  /** How many devices are signed in. */
  sessions: z.number().int(),
});

export const inviteSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  role: roleSchema,
  /** Whose password it renews, or null where it lets somebody new in. */
  personId: personId.nullable(),
  by: z.string(),
  expiresAt: moment,
  usedAt: moment.nullable(),
  withdrawnAt: moment.nullable(),
});

/** A link is told once, when it is made. */
export const inviteMadeSchema = inviteSchema.extend({ path: z.string() });

export const peopleSchema = z.object({
  people: z.array(personOnFileSchema),
  invites: z.array(inviteSchema),
});

export const newInviteSchema = z.strictObject({
  id: z.uuid(),
  name: personName,
  role: roleSchema,
  days: z.number().int().min(1).max(30),
});

export const personChangeSchema = z.strictObject({ role: roleSchema, left: z.boolean() }).partial();

/** What whoever has a link is told of it. */
export const joinToldSchema = z.object({
  workshop: z.string(),
  name: z.string(),
  role: roleSchema,
  /** Whose password it renews; nothing where it lets somebody new in. */
  signInName: z.string().nullable(),
});

export const joinSchema = z.strictObject({
  name: personName.optional(),
  signInName: signInName.optional(),
  password: newPassword,
});

export const newPasswordSchema = z.strictObject({
  now: z.string().min(1, "give the password of now").max(200),
  next: newPassword,
});

export const secondFactorSchema = z.object({
  /** Since when it is asked for; null where it is not. */
  since: moment.nullable(),
  recoveryLeft: z.number().int(),
});
export const secondFactorBeginSchema = z.strictObject({ password: z.string().min(1).max(200) });
export const secondFactorBegunSchema = z.object({ secret: z.string(), uri: z.string() });
export const secondFactorProveSchema = z.strictObject({ code: z.string().trim().min(1).max(30) });
/** Told once. */
export const recoveryCodesSchema = z.object({ recovery: z.array(z.string()) });
export const secondFactorEndSchema = z.strictObject({
  password: z.string().min(1, "give your password").max(200),
  code: z.string().trim().max(30),
});

export const sessionsSchema = z.object({
  sessions: z.array(
    z.object({
      id: z.uuid(),
      openedAt: moment,
      expiresAt: moment,
      device: z.string(),
      /** The one that asks. */
      here: z.boolean(),
    }),
  ),
});

/** Header by which a page says whose it is, so that nothing is done in the name of somebody who signed in on the same device since. */
export const AS_HEADER = "x-shed-as";

export const meSchema = z.object({
  person: z.object({ id: personId, name: z.string(), role: roleSchema }),
  workshop: workshopSchema,
});

export const setUpDoneSchema = z.union([meSchema, demoLoadedSchema]);
export const passwordChangedSchema = z.object({ changed: z.boolean() });
export const sessionEndedSchema = z.object({ ended: z.boolean() });
/** The code by which one's own workshop is set up after the demo, where there is no other. */
export const takenAwaySchema = z.object({ code: z.string().nullable() });

export type SignIn = z.infer<typeof signInSchema>;
export type Workshop = z.infer<typeof workshopSchema>;
export type Me = z.infer<typeof meSchema>;
export type SetUp = z.infer<typeof setUpSchema>;
export type WorkshopChange = z.infer<typeof workshopChangeSchema>;
export type DemoLoaded = z.infer<typeof demoLoadedSchema>;
export type Invite = z.infer<typeof inviteSchema>;
export type InviteMade = z.infer<typeof inviteMadeSchema>;
export type People = z.infer<typeof peopleSchema>;
export type NewInvite = z.infer<typeof newInviteSchema>;
export type PersonChange = z.infer<typeof personChangeSchema>;
export type JoinTold = z.infer<typeof joinToldSchema>;
export type Join = z.infer<typeof joinSchema>;
export type NewPassword = z.infer<typeof newPasswordSchema>;
export type SecondFactor = z.infer<typeof secondFactorSchema>;
export type SecondFactorBegun = z.infer<typeof secondFactorBegunSchema>;
export type SecondFactorEnd = z.infer<typeof secondFactorEndSchema>;
export type Sessions = z.infer<typeof sessionsSchema>;
