import { openDB } from "idb";
import type { NewEntry } from "./entry.ts";
import { runEntryInWords } from "./words.ts";

/** What an earlier version of the application put aside on this device and never sent: it goes out by the new outbox. */

const OLD_DB = "upper-shed";

interface OldRunRow {
  readonly id: string;
  readonly runId: string;
  readonly order: number;
  readonly event: {
    id: string;
    seq: number;
    at: string;
    body: { type: string };
    by: { id: string; name: string };
  };
}
interface OldErrand {
  readonly id: string;
  readonly order: number;
  readonly personId: string;
  readonly personName: string;
  readonly unitId: string;
  readonly kind: NewEntry["kind"];
  readonly url: string;
  readonly body: unknown;
  readonly bytes?: ArrayBuffer;
  readonly type?: string;
  readonly what: string;
  readonly at: string;
}

const ofRun = ({ id, runId, event }: OldRunRow): NewEntry => {
  const { by, ...body } = event;
  return {
    id,
    kind: "run-event",
    workshopId: "",
    personId: by.id,
    personName: by.name,
    unitId: "",
    runId,
    url: `/runs/${runId}/events`,
    body: body as never,
    what: runEntryInWords(event.body as never),
    at: event.at,
    form: 1,
  };
};

// Then the finding stood in the address alone.
const findingOf = (errand: OldErrand): string | undefined =>
  errand.kind === "finding" ? /\/findings\/([^/]+)$/u.exec(errand.url)?.[1] : undefined;

const ofErrand = ({ order: _order, ...errand }: OldErrand): NewEntry => {
  const findingId = findingOf({ order: _order, ...errand });
  return {
    ...errand,
    workshopId: "",
    ...(findingId === undefined ? {} : { findingId }),
  } as NewEntry;
};

/** The old store's rows in the order in which they were made, and a way to take them out once they are safe. */
export const oldEntries = async (): Promise<{
  entries: NewEntry[];
  takeOut: () => Promise<void>;
}> => {
  const nothing = { entries: [], takeOut: async () => undefined };
  // Opening a store that is not there would make it.
  const there = typeof indexedDB.databases === "function" ? await indexedDB.databases() : [];
  if (!there.some((db) => db.name === OLD_DB)) return nothing;
  const db = await openDB(OLD_DB);
  const has = (name: string): boolean => db.objectStoreNames.contains(name);
  const runRows = has("outbox") ? ((await db.getAll("outbox")) as OldRunRow[]) : [];
  const errands = has("errands") ? ((await db.getAll("errands")) as OldErrand[]) : [];
  const rows = [
    ...runRows.map((row) => ({ order: row.order, entry: ofRun(row) })),
    ...errands.map((row) => ({ order: row.order, entry: ofErrand(row) })),
  ].toSorted((a, b) => a.order - b.order);
  return {
    entries: rows.map((r) => r.entry),
    takeOut: async () => {
      for (const row of runRows) await db.delete("outbox", row.id);
      for (const row of errands) await db.delete("errands", row.id);
      db.close();
    },
  };
};
