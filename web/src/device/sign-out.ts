import { readMeta, storePossible, writeMeta } from "./db.ts";
import { forgetAll, type Who } from "./seen.ts";
import { sendOutbox } from "./sender.ts";

/** Signing out holds here and now; the server is told as soon as it can be reached, after what that person made has been sent. */

const OWED = "sign-out owed";

export const signOutOwed = (): Promise<Who | undefined> => readMeta<Who>(OWED);

const TELL_WITHIN_MS = 10_000;

const tellServer = async (): Promise<boolean> => {
  try {
    const reply = await fetch("/api/sign-out", { method: "POST", signal: AbortSignal.timeout(TELL_WITHIN_MS) });
    return reply.ok;
  } catch {
    return false;
  }
};

/** Ends the session on this device, and on the server if it answers. */
export const signOutHere = async (who: Who): Promise<void> => {
  if (storePossible()) await writeMeta(OWED, who);
  await forgetAll();
  await settleSignOut();
};

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
    if (!(await tellServer())) return false;
    await writeMeta(OWED, undefined);
    return true;
  })().finally(() => {
    settling = undefined;
  }));
