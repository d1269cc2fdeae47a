import { useSyncExternalStore } from "react";
import { deviceStore, type Errand, nextOrder } from "./db.ts";

/** What is put aside on this device and sent when it can be: looks, findings, pictures, snapshots. Each goes out once, in order. */

interface Held extends Errand {
  /** When the server took it; it is shown from here until what it changed has been fetched again. */
  readonly sentAt?: number;
}

let held: readonly Held[] = [];
let pending: readonly Errand[] = [];
let loaded = false;
const listeners = new Set<() => void>();

const tell = (next: readonly Held[]): void => {
  held = next;
  pending = next.filter((e) => e.sentAt === undefined);
  for (const listener of listeners) listener();
};

export const loadErrands = async (): Promise<readonly Errand[]> => {
  if (typeof indexedDB === "undefined") return pending;
  const rows = (await (await deviceStore()).getAll("errands")).toSorted((x, y) => x.order - y.order);
  loaded = true;
  tell([...held.filter((e) => e.sentAt !== undefined && !rows.some((r) => r.id === e.id)), ...rows]);
  return rows;
};

export type NewErrand = Omit<Errand, "order" | "refused">;

export const putErrand = async (errand: NewErrand): Promise<void> => {
  const row: Errand = { ...errand, order: nextOrder() };
  await (await deviceStore()).put("errands", row);
  tell([...held.filter((e) => e.id !== row.id), row]);
};

export const dropErrand = async (id: string): Promise<void> => {
  await (await deviceStore()).delete("errands", id);
  tell(held.filter((e) => e.id !== id));
};

/** The server has it: off the device's store, but shown until its own answer shows it. */
const sent = async (id: string): Promise<void> => {
  await (await deviceStore()).delete("errands", id);
  tell(held.map((e) => (e.id === id ? { ...e, sentAt: Date.now() } : e)));
};

/** Lets go of what was sent longer ago than that. */
export const forgetSent = (olderThanMs: number): void => {
  const until = Date.now() - olderThanMs;
  if (held.some((e) => e.sentAt !== undefined && e.sentAt <= until)) tell(held.filter((e) => e.sentAt === undefined || e.sentAt > until));
};

export const refuseErrand = async (errand: Errand, why: string): Promise<void> => {
  const row = { ...errand, refused: why };
  await (await deviceStore()).put("errands", row);
  tell(held.map((e) => (e.id === row.id ? row : e)));
};

/** Once more what was refused. */
export const tryAgain = async (errand: Errand): Promise<void> => {
  const { refused: _refused, ...row } = errand;
  await (await deviceStore()).put("errands", row);
  tell(held.map((e) => (e.id === row.id ? row : e)));
};

const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener);
  if (!loaded) void loadErrands();
  return () => listeners.delete(listener);
};

/** Everything that waits on this device, oldest first. */
export const useErrands = (): readonly Errand[] => useSyncExternalStore(subscribe, () => pending);

/** What waits, and what was sent a moment ago. */
export const useHeld = (): readonly Errand[] => useSyncExternalStore(subscribe, () => held);

type Outcome = "kept" | "signed out" | "no answer" | { readonly refused: string };

/** Sends one errand; a server that is busy or away is asked again later, whatever else it says is its last word. */
const send = async (errand: Errand): Promise<Outcome> => {
  try {
    const reply = await fetch(`/api${errand.url}`, {
      method: "POST",
      headers: { "content-type": errand.bytes ? (errand.type ?? "application/octet-stream") : "application/json" },
      body: errand.bytes ?? JSON.stringify(errand.body),
    });
    if (reply.ok) return "kept";
    if (reply.status === 401) return "signed out";
    if (reply.status === 429 || reply.status >= 500) return "no answer";
    const problem = (await reply.json().catch(() => undefined)) as { error?: { message?: string } } | undefined;
    return { refused: problem?.error?.message ?? "The server did not take it." };
  } catch {
    return "no answer";
  }
};

let sending: Promise<Sent> | undefined;

export interface Sent {
  readonly kinds: ReadonlySet<Errand["kind"]>;
  readonly reached: boolean;
  readonly signedOut: boolean;
}

const run = async (personId: string): Promise<Sent> => {
  const kinds = new Set<Errand["kind"]>();
  for (;;) {
    // An entry goes out under the name of whoever made it, or not at all.
    const next = (await loadErrands()).find((e) => e.refused === undefined && e.personId === personId);
    if (!next) return { kinds, reached: true, signedOut: false };
    const outcome = await send(next);
    if (outcome === "no answer" || outcome === "signed out") return { kinds, reached: false, signedOut: outcome === "signed out" };
    kinds.add(next.kind);
    if (outcome === "kept") await sent(next.id);
    else await refuseErrand(next, outcome.refused);
  }
};

/** Sends what waits; one sending at a time. */
export const sendErrands = (personId: string): Promise<Sent> =>
  (sending ??= run(personId).finally(() => {
    sending = undefined;
  }));
