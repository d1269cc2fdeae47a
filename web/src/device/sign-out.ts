import { AS_HEADER } from "@uppershed/contract";
import { readMeta, storePossible, writeMeta } from "./db.ts";
import { forgetAll, type Who } from "./seen.ts";
import { sendOutbox } from "./sender.ts";

/** Signing out holds here and now; the server is told as soon as it can be reached, after what that person made has been sent. */

const OWED = "sign-out owed";

export const signOutOwed = (): Promise<Who | undefined> => readMeta<Who>(OWED);

const TELL_WITHIN_MS = 10_000;

const tellServer = async ({ personId }: Who): Promise<boolean> => {
  try {
    const headers = { [AS_HEADER]: personId };
    const reply = await fetch("/api/sign-out", {
      method: "POST",
      headers,
      signal: AbortSignal.timeout(TELL_WITHIN_MS),
    });
    return reply.ok;
  } catch {
    return false;
  }
};

// Signing out does not wait for a line that gives no answer: what is owed is done later.
const WAIT_MS = 2_000;

/** Ends the session on this device there and then, and on the server if it answers at once. */
export const signOutHere = async (who: Who): Promise<void> => {
  if (storePossible()) await writeMeta(OWED, who);
  await forgetAll();
  await Promise.race([settleSignOut(), new Promise((done) => setTimeout(done, WAIT_MS))]);
};

/** Nothing is owed any more: somebody has signed in, which ended the session before. */
export const forgiveSignOut = (): Promise<void> => writeMeta(OWED, undefined);

let settling: Promise<boolean> | undefined;

/**
 * Does what is owed: sends what the one who signed out had made, then ends the session on the server.
 * @returns whether nothing is owed any more
 */
export const settleSignOut = (): Promise<boolean> =>
  (settling ??= (async () => {
    const who = await signOutOwed();
    if (!who) return true;
    await sendOutbox(who);
    if (!(await tellServer(who))) return false;
    await writeMeta(OWED, undefined);
    return true;
  })().finally(() => {
    settling = undefined;
  }));
