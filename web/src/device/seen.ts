import { deviceDb, readMeta, storePossible, writeMeta } from "./db.ts";

/**
 * Replies that this device has seen, so that what was open once can be read where there is no signal. They are kept under the person and
 * the workshop that saw them, read by nobody else, and go when a session ends.
 */

export interface Who {
  readonly personId: string;
  readonly workshopId: string;
}

const MOST = 600;
const DROP = 100;

const keyOf = (who: Who, address: string): string => `${who.workshopId}/${who.personId} ${address}`;

const WHO = "who";
export const whoIsHere = (): Promise<Who | undefined> => readMeta<Who>(WHO);

/** Says who is signed in here; what anybody else has seen goes. */
export const nowHere = async (who: Who): Promise<void> => {
  if (!storePossible()) return;
  const before = await whoIsHere();
  if (before?.personId === who.personId && before.workshopId === who.workshopId) return;
  await forgetAll();
  await writeMeta(WHO, who);
};

/** Keeps a reply where there is room; a full store is no reason for a screen not to open. */
export const remember = async (who: Who, address: string, reply: unknown): Promise<void> => {
  if (!storePossible()) return;
  try {
    const db = await deviceDb();
    await db.put("seen", { key: keyOf(who, address), at: Date.now(), reply });
    if ((await db.count("seen")) > MOST) await dropOldest(DROP);
  } catch {
    await dropOldest(DROP).catch(() => undefined);
  }
};

export const remembered = async (who: Who, address: string): Promise<unknown> => {
  if (!storePossible()) return undefined;
  try {
    return (await (await deviceDb()).get("seen", keyOf(who, address)))?.reply;
  } catch {
    return undefined;
  }
};

const dropOldest = async (most: number): Promise<void> => {
  const tx = (await deviceDb()).transaction("seen", "readwrite");
  let cursor = await tx.store.index("at").openCursor();
  for (let i = 0; cursor && i < most; i++) {
    await cursor.delete();
    cursor = await cursor.continue();
  }
  await tx.done;
};

/** What was only read makes room for what was made. */
export const dropSeen = async (): Promise<void> => (await deviceDb()).clear("seen");

/** When a session ends, nothing that was seen in it stays here. */
export const forgetAll = async (): Promise<void> => {
  if (!storePossible()) return;
  const db = await deviceDb();
  await db.clear("seen");
  await db.delete("meta", WHO);
};
