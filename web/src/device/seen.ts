import { deviceStore } from "./db.ts";

/** Replies that this device has seen, so that what was open once can be read where there is no signal. */

const MOST = 600;
const DROP = 100;

const possible = (): boolean => typeof indexedDB !== "undefined";

export const remember = async (key: string, reply: unknown): Promise<void> => {
  if (!possible()) return;
  const db = await deviceStore();
  await db.put("seen", { key, at: Date.now(), reply });
  if ((await db.count("seen")) <= MOST) return;
  const tx = db.transaction("seen", "readwrite");
  let cursor = await tx.store.index("at").openCursor();
  for (let i = 0; cursor && i < DROP; i++) {
    await cursor.delete();
    cursor = await cursor.continue();
  }
  await tx.done;
};

export const remembered = async (key: string): Promise<unknown> =>
  possible() ? (await (await deviceStore()).get("seen", key))?.reply : undefined;

/** When somebody signs out, nothing that they have seen stays here. */
export const forgetAll = async (): Promise<void> => {
  if (!possible()) return;
  const db = await deviceStore();
  await db.clear("seen");
  await db.clear("runs");
};
