import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { OutboxEntry } from "./entry.ts";

/** What this device keeps: what the server has not yet said it has, and what has been seen, for when the signal goes. */

export interface DeviceDb extends DBSchema {
  outbox: { key: string; value: OutboxEntry };
  /** Replies, by person and address. */
  seen: {
    key: string;
    value: { key: string; at: number; reply: unknown };
    indexes: { at: number };
  };
  /** The device's count, who is signed in, what is owed. */
  meta: { key: string; value: { key: string; value: unknown } };
}

// A name of its own: a tab of an earlier version holds its store open, and would keep this one waiting for ever.
const DEVICE_DB = "upper-shed-device";
const VERSION = 1;
// A store that does not open in this time will not open while another tab has it.
const OPEN_WITHIN_MS = 5_000;

export const storePossible = (): boolean => typeof indexedDB !== "undefined";

let opened: Promise<IDBPDatabase<DeviceDb>> | undefined;

const open = (): Promise<IDBPDatabase<DeviceDb>> =>
  openDB<DeviceDb>(DEVICE_DB, VERSION, {
    upgrade: (db, from) => {
      if (from < 1) {
        db.createObjectStore("outbox", { keyPath: "id" });
        db.createObjectStore("seen", { keyPath: "key" }).createIndex("at", "at");
        db.createObjectStore("meta", { keyPath: "key" });
      }
    },
    // A newer version in another tab wants to change the store: let it, and open anew when it is next needed.
    blocking: (_now, _wanted, event) => {
      (event.target as IDBDatabase).close();
      opened = undefined;
    },
    terminated: () => {
      opened = undefined;
    },
  });

const within = async <T>(work: Promise<T>, ms: number): Promise<T> => {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_, fail) => {
    timer = setTimeout(
      () => fail(new Error("This device's store does not open: close other tabs of Upper Shed.")),
      ms,
    );
  });
  try {
    return await Promise.race([work, late]);
  } finally {
    clearTimeout(timer);
  }
};

export const deviceDb = async (): Promise<IDBPDatabase<DeviceDb>> => {
  opened ??= open();
  try {
    return await within(opened, OPEN_WITHIN_MS);
  } catch (error) {
    opened = undefined;
    throw error;
  }
};

/** What is noted under a name; nothing where the store does not open. */
export const readMeta = async <T>(key: string): Promise<T | undefined> => {
  if (!storePossible()) return undefined;
  try {
    return (await (await deviceDb()).get("meta", key))?.value as T | undefined;
  } catch {
    return undefined;
  }
};

export const writeMeta = async (key: string, value: unknown): Promise<void> => {
  if (!storePossible()) return;
  const db = await deviceDb();
  if (value === undefined) await db.delete("meta", key);
  else await db.put("meta", { key, value });
};
