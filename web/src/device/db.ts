import type { ProcedureRun } from "@uppershed/contract";
import type { RunEvent } from "@uppershed/core";
import { type DBSchema, type IDBPDatabase, openDB } from "idb";

/** What this device keeps: what the server has not yet said it has, and what has been seen, for when the signal goes. */

export interface Errand {
  /** Id of what is sent: the same thing is put aside once. */
  readonly id: string;
  readonly order: number;
  readonly personId: string;
  readonly personName: string;
  readonly unitId: string;
  readonly kind: "looks" | "finding" | "picture" | "snapshot" | "reading" | "spring";
  /** Address below /api. */
  readonly url: string;
  readonly body: unknown;
  /** Bytes instead of a body. */
  readonly bytes?: ArrayBuffer;
  readonly type?: string;
  /** In words, so that what is refused can be written down again by hand. */
  readonly what: string;
  readonly at: string;
  /** Why the server did not take it; it stays until a person has read that. */
  readonly refused?: string;
}

export interface DeviceStore extends DBSchema {
  outbox: { key: string; value: { id: string; runId: string; order: number; event: RunEvent }; indexes: { run: string } };
  runs: { key: string; value: ProcedureRun };
  errands: { key: string; value: Errand };
  seen: { key: string; value: { key: string; at: number; reply: unknown }; indexes: { at: number } };
}

let opened: Promise<IDBPDatabase<DeviceStore>> | undefined;
export const deviceStore = (): Promise<IDBPDatabase<DeviceStore>> =>
  (opened ??= openDB<DeviceStore>("upper-shed", 2, {
    upgrade: (db, from) => {
      if (from < 1) {
        db.createObjectStore("outbox", { keyPath: "id" }).createIndex("run", "runId");
        db.createObjectStore("runs", { keyPath: "id" });
      }
      if (from < 2) {
        db.createObjectStore("errands", { keyPath: "id" });
        db.createObjectStore("seen", { keyPath: "key" }).createIndex("at", "at");
      }
    },
  }));

let lastOrder = 0;

/** A whole number that only grows: two entries of one millisecond keep the order in which they were made, also after a reload. */
export const nextOrder = (): number => {
  lastOrder = Math.max(Date.now() * 1000, lastOrder + 1);
  return lastOrder;
};
