import type { Me, SecondFactor, SecondFactorBegun } from "@uppershed/contract";
import { and, eq, or, isNull, lt, sql } from "drizzle-orm";
import { Secret, TOTP } from "otpauth";
import type { Db } from "../db.ts";
import { Refused } from "../errors.ts";
import { people } from "../schema/index.ts";
import { type Scope, scopeFor } from "../scope.ts";
import { digestOf, newCode } from "./codes.ts";
import { checkPassword } from "./passwords.ts";

/**
 * A second factor: the code of an authenticator that follows RFC 6238 (six digits, thirty seconds, SHA-1, as they all do), and recovery
 * codes, each good once. No code is good twice.
 */

const ISSUER = "Upper Shed";
const PERIOD_S = 30;
// A clock half a minute off is still let in.
const WINDOW = 1;
const RECOVERY_CODES = 8;

type Row = typeof people.$inferSelect;

const totpOf = (secret: string, label: string): TOTP =>
  new TOTP({ issuer: ISSUER, label, secret: Secret.fromBase32(secret), period: PERIOD_S });

/** By which time step a code is the authenticator's, or nothing. */
const stepOf = (secret: string, code: string, now: number): number | undefined => {
  const token = code.replaceAll(/\s/gu, "");
  if (!/^\d{6}$/u.test(token)) return undefined;
  const delta = totpOf(secret, "").validate({ token, timestamp: now, window: WINDOW });
  return delta === null ? undefined : Math.floor(now / 1000 / PERIOD_S) + delta;
};

/** Uses a code up: the authenticator's, or a recovery code. @returns whether it was good */
export const spendCode = async (
  db: Pick<Db, "update">,
  person: Row,
  code: string,
  now = Date.now(),
): Promise<boolean> => {
  if (person.totpSecret === null) return false;
  const step = stepOf(person.totpSecret, code, now);
  if (step !== undefined) {
    // Of two who use the same code at once, one is let in.
    const used = await db
      .update(people)
      .set({ totpStep: step })
      .where(and(eq(people.id, person.id), or(isNull(people.totpStep), lt(people.totpStep, step))))
      .returning({ id: people.id });
    return used.length > 0;
  }
  const hash = digestOf(code).toString("base64url");
  if (!person.recovery.includes(hash)) return false;
  const used = await db
    .update(people)
    .set({ recovery: sql`${people.recovery} - ${hash}::text` })
    .where(and(eq(people.id, person.id), sql`${people.recovery} ? ${hash}`))
    .returning({ id: people.id });
  return used.length > 0;
};

const WRONG_PASSWORD = "That is not the password of now. Nothing was changed.";
const WRONG_CODE =
  "That is not the code of now: wait for the next one, and see whether the telephone's clock is right. Nothing was changed.";

const own = async (scope: Scope, me: Me): Promise<Row> => {
  const person = await scope.first(people, eq(people.id, me.person.id));
  if (!person) throw new Error("a session without its person");
  return person;
};

export const secondFactorOf = async (scope: Scope, me: Me): Promise<SecondFactor> => {
  const { totpSince, recovery } = await own(scope, me);
  return { since: totpSince?.toISOString() ?? null, recoveryLeft: totpSince ? recovery.length : 0 };
};

/** Makes a secret for an authenticator; it is asked for only when a code of it has been typed. */
export const beginSecondFactor = async (
  db: Db,
  me: Me,
  password: string,
): Promise<SecondFactorBegun> => {
  const scope = scopeFor(db, me.workshop.id);
  const person = await own(scope, me);
  if (!(await checkPassword(person.passwordHash, password)))
    throw new Refused("wrong-sign-in", WRONG_PASSWORD);
  if (person.totpSince)
    throw new Refused("conflict", "It is asked for already. Take it off first, then begin anew.");
  const secret = new Secret({ size: 20 }).base32;
  await scope.change(people, { totpSecret: secret, totpStep: null }, eq(people.id, person.id));
  return { secret, uri: totpOf(secret, person.signInName).toString() };
};

/** From here on it is asked for. @returns the recovery codes, told once */
export const proveSecondFactor = async (db: Db, me: Me, code: string): Promise<string[]> => {
  const scope = scopeFor(db, me.workshop.id);
  const person = await own(scope, me);
  if (person.totpSince || person.totpSecret === null)
    throw new Refused("conflict", "Nothing was begun that could be proved. Begin anew.");
  if (!(await spendCode(db, person, code))) throw new Refused("wrong-sign-in", WRONG_CODE);
  const codes = Array.from({ length: RECOVERY_CODES }, newCode);
  await scope.change(
    people,
    {
      totpSince: new Date(),
      recovery: codes.map((c) => digestOf(c).toString("base64url")),
    },
    eq(people.id, person.id),
  );
  return codes;
};

/** What is kept of somebody's second factor, taken away. */
export const NO_SECOND_FACTOR = {
  totpSecret: null,
  totpSince: null,
  totpStep: null,
  recovery: [],
} as const satisfies Partial<Row>;

export const endSecondFactor = async (
  db: Db,
  me: Me,
  given: { password: string; code: string },
): Promise<void> => {
  const scope = scopeFor(db, me.workshop.id);
  const person = await own(scope, me);
  if (!(await checkPassword(person.passwordHash, given.password)))
    throw new Refused("wrong-sign-in", WRONG_PASSWORD);
  if (person.totpSince && !(await spendCode(db, person, given.code)))
    throw new Refused("wrong-sign-in", WRONG_CODE);
  await scope.change(people, NO_SECOND_FACTOR, eq(people.id, person.id));
};
