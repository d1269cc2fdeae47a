import type { Run } from "@uppershed/contract";
import type { RunEvent } from "@uppershed/core";
import { type DBSchema, type IDBPDatabase, openDB } from "idb";

/** What this device has done and the server has not yet said it has kept; and the runs it has seen, for when the signal goes. */

interface Store extends DBSchema {
  outbox: { key: string; value: { id: string; runId: string; order: number; event: RunEvent }; indexes: { run: string } };
  runs: { key: string; value: Run };
}

let opened: Promise<IDBPDatabase<Store>> | undefined;

const store = (): Promise<IDBPDatabase<Store>> =>
  (opened ??= openDB<Store>("upper-shed", 1, {
    upgrade: (db) => {
      db.createObjectStore("outbox", { keyPath: "id" }).createIndex("run", "runId");
      db.createObjectStore("runs", { keyPath: "id" });
    },
  }));

let lastOrder = 0;

/** A whole number that only grows: two entries of one millisecond keep the order in which they were made, also after a reload. */
const nextOrder = (): number => {
  lastOrder = Math.max(Date.now() * 1000, lastOrder + 1);
  return lastOrder;
};

export const putAside = async (runId: string, event: RunEvent): Promise<void> => {
  const order = nextOrder();
  await (await store()).put("outbox", { id: event.id, runId, order, event });
};

export const waitingFor = async (runId: string): Promise<RunEvent[]> => {
  const rows = await (await store()).getAllFromIndex("outbox", "run", runId);
  return rows.sort((a, b) => a.order - b.order).map((row) => row.event);
};

export const takeOut = async (ids: readonly string[]): Promise<void> => {
  const tx = (await store()).transaction("outbox", "readwrite");
  await Promise.all([...ids.map((id) => tx.store.delete(id)), tx.done]);
};

/** How many entries of all runs this device still keeps. */
export const waitingInAll = async (): Promise<number> => (await store()).count("outbox");

export const rememberRun = async (run: Run): Promise<void> => {
  await (await store()).put("runs", run);
};

export const rememberedRun = async (id: string): Promise<Run | undefined> => (await store()).get("runs", id);
