import { useSyncExternalStore } from "react";
import { oldEntries } from "./adopt.ts";
import { deviceDb, storePossible } from "./db.ts";
import { BODY_SCHEMAS, type NewEntry, type OutboxEntry, type Refusal } from "./entry.ts";
import { forgetLate, lateEntries, noteLate } from "./late.ts";
import { dropSeen } from "./seen.ts";

/**
 * The one outbox of this device: everything that a person makes is put aside here first, in the order in which it was made, and taken out
 * when the server has said that it keeps it. What the screens show of it stands in memory; other tabs are told of every change.
 */

export type Held = OutboxEntry & {
  /** When the server took it; it is shown from here until what it changed has been fetched again. */
  readonly sentAt?: number;
  /** On its way into this device's store. */
  readonly saving?: boolean;
  /** This device's store is full or does not open: it stands in this tab alone, and is sent from here. */
  readonly unsaved?: boolean;
  /** It rests on entries of somebody else who has to sign in first. */
  readonly waitsFor?: string;
};

let held: readonly Held[] = [];
let pending: readonly Held[] = [];
let loading: Promise<void> | undefined;
const listeners = new Set<() => void>();
const vanishedListeners = new Set<(entries: readonly Sent[]) => void>();

const tell = (next: readonly Held[]): void => {
  held = next.toSorted((a, b) => a.order - b.order);
  pending = held.filter((e) => e.sentAt === undefined);
  for (const listener of listeners) listener();
};

const channel =
  typeof BroadcastChannel === "undefined" ? undefined : new BroadcastChannel("upper-shed-outbox");
/** What other tabs have to know of an entry that has been sent: they may never have seen it in the store. */
type Sent = Pick<Held, "id" | "kind" | "runId">;

const tellOthers = (sent: readonly Sent[] = []): void => {
  const told =
    sent.length === 0
      ? "changed"
      : { sent: sent.map(({ id, kind, runId }) => ({ id, kind, runId })) };
  // Between tabs of one origin there is none to name.
  // oxlint-disable-next-line unicorn/require-post-message-target-origin
  channel?.postMessage(told);
};
channel?.addEventListener(
  "message",
  ({ data }: MessageEvent<"changed" | { readonly sent: readonly Sent[] }>) => {
    void reload(data === "changed" ? [] : data.sent);
  },
);
// In the tests of the screens a channel must not keep the process.
(channel as unknown as { unref?: () => void } | undefined)?.unref?.();

/**
 * Reads the store again. What has gone from it was sent by another tab, and is shown until its answer has come.
 * @param sent what another tab says that it has sent: put aside and sent between two looks, it was never seen here
 */
const reload = async (sent: readonly Sent[] = []): Promise<void> => {
  if (!storePossible()) return;
  const rows = await (await deviceDb()).getAll("outbox");
  const there = new Map(rows.map((r) => [r.id, r]));
  const gone = held.filter(
    (e) => !there.has(e.id) && e.sentAt === undefined && !e.unsaved && !e.saving,
  );
  tell([
    ...held
      .filter((e) => !there.has(e.id))
      .map((e) => (gone.includes(e) ? { ...e, sentAt: Date.now() } : e)),
    ...rows,
  ]);
  const noticed = new Set(held.map((e) => e.id));
  const all = [...gone, ...sent.filter((e) => !noticed.has(e.id))];
  if (all.length > 0) for (const listener of vanishedListeners) listener(all);
};

/** Tells when another tab has sent something. */
export const onSentElsewhere = (listener: (entries: readonly Sent[]) => void): (() => void) => {
  vanishedListeners.add(listener);
  return () => vanishedListeners.delete(listener);
};

const COUNT = "count";

/** Writes entries with the next numbers of the device's own count, all of them or none. */
const write = async (entries: readonly NewEntry[]): Promise<OutboxEntry[]> => {
  const db = await deviceDb();
  const tx = db.transaction(["outbox", "meta"], "readwrite");
  const meta = tx.objectStore("meta");
  const store = tx.objectStore("outbox");
  let count = ((await meta.get(COUNT))?.value as number | undefined) ?? 0;
  const rows: OutboxEntry[] = [];
  for (const entry of entries) {
    const known = await store.get(entry.id);
    const row = { ...entry, order: known?.order ?? ++count } as OutboxEntry;
    rows.push(row);
    await store.put(row);
  }
  await meta.put({ key: COUNT, value: count });
  await tx.done;
  return rows;
};

const adoptLate = async (): Promise<void> => {
  try {
    const late = lateEntries();
    if (late.length === 0) return;
    await write(late);
    forgetLate(late);
  } catch {
    // They stay noted, and are looked for at the next start.
  }
};

const adopt = async (): Promise<void> => {
  await adoptLate();
  try {
    const { entries, takeOut } = await oldEntries();
    if (entries.length === 0) return;
    await write(entries);
    await takeOut();
  } catch {
    // What an earlier version keeps stays where it is, and is looked for at the next start.
  }
};

/** Reads what waits on this device, once; what an earlier version put aside comes in with it. */
export const loadOutbox = (): Promise<void> =>
  (loading ??= (async () => {
    if (!storePossible()) return;
    await adopt();
    await reload();
  })().catch(() => {
    loading = undefined;
  }));

// Far beyond what a device counts to in its life: the store's own count goes on from where it was before this page was opened.
let inMemory = 2 ** 40;

/** The count of entries that only this tab has: after everything that is in the store, in the order in which they were made. */
const nextInMemory = (): number => ++inMemory;

/** An entry that stands in this page alone, as it was when it was made. */
const withoutPlace = ({
  order: _order,
  unsaved: _unsaved,
  saving: _saving,
  sentAt: _sent,
  waitsFor: _waits,
  ...entry
}: Held): NewEntry => entry;

globalThis.addEventListener?.("pagehide", () => {
  noteLate(held.filter((e) => (e.saving || e.unsaved) && e.sentAt === undefined).map(withoutPlace));
});

/** In development and in the tests nothing is put aside that the server would refuse for its form. */
const asAgreed = (entries: readonly NewEntry[]): void => {
  if (import.meta.env.PROD) return;
  for (const { kind, body, form, what } of entries) {
    if (form === 1) continue;
    const read = BODY_SCHEMAS[kind].safeParse(body);
    if (!read.success) throw new Error(`${kind} (${what}) is not as agreed: ${read.error.message}`);
  }
};

/** Entries on their way into the store, with whoever waits to hear whether they are safe. */
interface Waiting {
  readonly entries: readonly NewEntry[];
  readonly told: (safe: boolean) => void;
}
let waiting: Waiting[] = [];
let writing = false;

/** What the store said of entries; what was sent meanwhile has gone from here. */
const settle = (rows: readonly Held[]): void => {
  const of = new Map(rows.map((r) => [r.id, r]));
  tell(held.map((e) => (e.sentAt === undefined ? (of.get(e.id) ?? e) : e)));
};

/** Writes entries after those that found no room before, so that the order stays that in which they were made. */
const writeAfterLate = async (entries: readonly NewEntry[]): Promise<OutboxEntry[]> => {
  if (!storePossible()) throw new Error("no store");
  const ids = new Set(entries.map((e) => e.id));
  const late = held.filter((e) => e.unsaved && e.sentAt === undefined && !ids.has(e.id));
  try {
    return await write([...late.map(withoutPlace), ...entries]);
  } catch {
    // What was only read goes before anything that was made; a large picture that finds no room keeps nothing else out.
    await dropSeen();
    return write([...late.filter((e) => !e.bytes).map(withoutPlace), ...entries]);
  }
};

/** One writing at a time, of everything that has come by then: what is made later must not be in the store before what was made earlier. */
const writeAll = async (): Promise<void> => {
  if (writing) return;
  writing = true;
  try {
    while (waiting.length > 0) {
      const now = waiting;
      waiting = [];
      const safe = await writeTogether(now.flatMap((w) => w.entries));
      for (const { told } of now) told(safe);
    }
  } finally {
    writing = false;
  }
};

const writeTogether = async (entries: readonly NewEntry[]): Promise<boolean> => {
  try {
    settle(await writeAfterLate(entries));
    tellOthers();
    return true;
  } catch {
    const ids = new Set(entries.map((e) => e.id));
    settle(
      held
        .filter((e) => ids.has(e.id))
        .map(({ saving: _saving, ...e }) => ({ ...e, unsaved: true })),
    );
    return false;
  }
};

/**
 * Puts entries aside. They are on the screen at once; the promise tells whether they are safe on this device.
 * @returns whether this device's store has them; where not, they stand in this tab and are sent from here
 */
export const putEntries = (entries: readonly NewEntry[]): Promise<boolean> => {
  asAgreed(entries);
  const ids = new Set(entries.map((e) => e.id));
  tell([
    ...held.filter((e) => !ids.has(e.id)),
    ...entries.map((e) => ({ ...e, order: nextInMemory(), saving: true })),
  ]);
  return new Promise((told) => {
    waiting.push({ entries, told });
    void writeAll();
  });
};

const rewrite = async (id: string, change: (e: Held) => Held): Promise<void> => {
  tell(held.map((e) => (e.id === id ? change(e) : e)));
  const now = held.find((e) => e.id === id);
  if (!now || now.unsaved || !storePossible()) return;
  const { sentAt: _sent, saving: _saving, waitsFor: _waits, unsaved: _unsaved, ...row } = now;
  await (await deviceDb()).put("outbox", row);
  tellOthers();
};

/** The server has them: off the store, but shown until its own answer shows them. */
export const markSent = async (ids: readonly string[]): Promise<void> => {
  const all = new Set(ids);
  const sent = held.filter((e) => all.has(e.id));
  tell(held.map((e) => (all.has(e.id) ? { ...e, sentAt: Date.now() } : e)));
  if (!storePossible()) return;
  const tx = (await deviceDb()).transaction("outbox", "readwrite");
  await Promise.all([...ids.map((id) => tx.store.delete(id)), tx.done]);
  tellOthers(sent);
};

export const refuseEntry = (id: string, refused: Refusal): Promise<void> =>
  rewrite(id, (e) => ({ ...e, refused }));
export const failEntry = (id: string, failures: number): Promise<void> =>
  rewrite(id, (e) => ({ ...e, failures }));
export const holdFor = (id: string, waitsFor: string): void =>
  tell(held.map((e) => (e.id === id ? { ...e, waitsFor } : e)));

/** Once more what was refused. */
export const tryAgain = (id: string): Promise<void> =>
  rewrite(id, ({ refused: _refused, failures: _failures, waitsFor: _waits, ...e }) => e);

export const dropEntry = async (id: string): Promise<void> => {
  tell(held.filter((e) => e.id !== id));
  if (!storePossible()) return;
  await (await deviceDb()).delete("outbox", id);
  tellOthers();
};

/**
 * Lets go of what was sent: those named, or all that was sent longer ago than that by this device's clock. A clock jumps where a tablet was
 * locked: the entries of a run go by their names alone, when the run itself shows them, or its sheet would fall back by a step or two.
 */
export const forgetSent = (which: readonly string[] | { readonly olderThanMs: number }): void => {
  const named = "olderThanMs" in which ? undefined : new Set(which);
  const until = "olderThanMs" in which ? Date.now() - which.olderThanMs : 0;
  const over = (e: Held): boolean =>
    e.sentAt !== undefined &&
    (named ? named.has(e.id) : e.kind !== "run-event" && e.sentAt <= until);
  if (held.some(over)) tell(held.filter((e) => !over(e)));
};

export const pendingNow = (): readonly Held[] => pending;

const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener);
  void loadOutbox();
  return () => listeners.delete(listener);
};

/** Everything that waits on this device, in the order in which it was made. */
export const usePending = (): readonly Held[] => useSyncExternalStore(subscribe, () => pending);

/** What waits, and what was sent a moment ago. */
export const useHeld = (): readonly Held[] => useSyncExternalStore(subscribe, () => held);

/** For the tests: as after a new start of the page. */
export const forgetMemory = (): void => {
  loading = undefined;
  tell([]);
};
