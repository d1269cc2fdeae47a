import { AS_HEADER, sentEventsSchema } from "@uppershed/contract";
import type { EntryOf, OutboxKind } from "./entry.ts";
import {
  dropEntry,
  failEntry,
  type Held,
  holdFor,
  loadOutbox,
  markSent,
  pendingNow,
  refuseEntry,
} from "./outbox.ts";
import type { Who } from "./seen.ts";

/** Sends what waits on this device: one sender in all tabs, in the device's own order, under the name of whoever made it. */

export interface Sent {
  /** What the server took, by kind. */
  readonly kinds: ReadonlySet<OutboxKind>;
  /** Entries of runs that the server took now, and how many it has of that run in all. */
  readonly runs: ReadonlyMap<
    string,
    { readonly entries: readonly Held[]; readonly count: number | undefined }
  >;
  readonly reached: boolean;
  readonly signedOut: boolean;
}

type Answer =
  | { readonly is: "reply"; readonly status: number; readonly body: unknown }
  | { readonly is: "signed out" }
  /** Away, busy, or no answer in time: to be asked again, whatever was sent. */
  | { readonly is: "no answer" };

// A request that is never answered must not hold the outbox; a picture may take longer on a poor line.
const ANSWER_WITHIN_MS = 30_000;
const PICTURE_WITHIN_MS = 180_000;
const MOST_AT_ONCE = 200;
const MOST_BYTES_AT_ONCE = 600_000;
// A server that fails on one entry this often has been given its chances: the entry is set aside, the others go on.
const FAILS_UNTIL_SET_ASIDE = 4;

const BUSY: ReadonlySet<number> = new Set([408, 425, 429, 502, 503, 504]);

const ask = async (url: string, init: RequestInit, withinMs: number): Promise<Answer> => {
  try {
    const reply = await fetch(`/api${url}`, {
      ...init,
      method: "POST",
      signal: AbortSignal.timeout(withinMs),
    });
    if (reply.status === 401) return { is: "signed out" };
    if (BUSY.has(reply.status)) return { is: "no answer" };
    return { is: "reply", status: reply.status, body: await reply.json().catch(() => undefined) };
  } catch {
    return { is: "no answer" };
  }
};

const problemIn = (body: unknown): { why: string; code?: string } => {
  const said = (body as { error?: { message?: string; code?: string } } | undefined)?.error;
  return {
    why: said?.message ?? "The server did not take it.",
    ...(said?.code ? { code: said.code } : {}),
  };
};

interface Round {
  readonly who: Who;
  readonly kinds: Set<OutboxKind>;
  readonly runs: Map<string, { entries: Held[]; count: number | undefined }>;
  /** Entries that are left alone for this round. */
  readonly passed: Set<string>;
  /** Runs whose entries go one by one, to find the one that cannot be taken. */
  readonly oneByOne: Set<string>;
}

type Step = "on" | "stop" | "signed out";

const isMine = (who: Who, e: Held): boolean =>
  e.personId === who.personId &&
  (e.workshopId === who.workshopId || e.workshopId === "") &&
  e.refused === undefined;

const postThing = async (round: Round, entry: Held): Promise<Step> => {
  const answer = await ask(
    entry.url,
    {
      headers: {
        [AS_HEADER]: entry.personId,
        "content-type": entry.bytes
          ? (entry.type ?? "application/octet-stream")
          : "application/json",
      },
      body: entry.bytes ?? JSON.stringify(entry.body),
    },
    entry.bytes ? PICTURE_WITHIN_MS : ANSWER_WITHIN_MS,
  );
  if (answer.is === "signed out") return "signed out";
  if (answer.is === "no answer") return "stop";
  if (answer.status >= 200 && answer.status < 300) {
    round.kinds.add(entry.kind);
    await markSent([entry.id]);
    return "on";
  }
  return failed(round, entry, answer);
};

/** What becomes of an entry that the server answered with something else than keeping it. */
const failed = async (
  round: Round,
  entry: Held,
  answer: { status: number; body: unknown },
): Promise<Step> => {
  if (answer.status < 500) {
    await refuseEntry(entry.id, problemIn(answer.body));
    return "on";
  }
  const failures = (entry.failures ?? 0) + 1;
  if (failures >= FAILS_UNTIL_SET_ASIDE)
    await refuseEntry(entry.id, {
      why: `The server failed on it ${failures} times. It is set aside; the rest goes on.`,
      code: "failed",
    });
  else {
    await failEntry(entry.id, failures);
    // What comes after it in its run may rest on it, and waits with it for the next round.
    round.passed.add(entry.id);
    if (entry.runId)
      for (const e of pendingNow())
        if (e.runId === entry.runId && e.order > entry.order) round.passed.add(e.id);
  }
  return "on";
};

/** The next entries of a run that one person made, as many as go in one request. */
const batchOf = (round: Round, first: Held): EntryOf<"run-event">[] => {
  const batch: EntryOf<"run-event">[] = [];
  let bytes = 0;
  for (const e of pendingNow()) {
    if (
      e.kind !== "run-event" ||
      e.runId !== first.runId ||
      !isMine(round.who, e) ||
      round.passed.has(e.id)
    )
      continue;
    // What is still on its way into the store goes with the next request, and nothing that was made after it goes before it.
    if (e.saving) break;
    if ((e.form ?? 1) !== (first.form ?? 1)) break;
    bytes += JSON.stringify(e.body).length;
    if (
      batch.length > 0 &&
      (bytes > MOST_BYTES_AT_ONCE ||
        batch.length >= MOST_AT_ONCE ||
        round.oneByOne.has(first.runId ?? ""))
    )
      break;
    batch.push(e);
  }
  return batch;
};

/** Who has to sign in here first, where an entry is refused because somebody else's earlier ones have not been sent. */
const restsOn = (round: Round, entry: Held): string | undefined =>
  pendingNow().find(
    (e) =>
      e.runId === entry.runId &&
      e.order < entry.order &&
      e.personId !== round.who.personId &&
      e.refused === undefined,
  )?.personName;

const postRun = async (round: Round, first: Held): Promise<Step> => {
  const runId = first.runId ?? "";
  const batch = batchOf(round, first);
  if (batch.length === 0) {
    round.passed.add(first.id);
    return "on";
  }
  const form = first.form ?? 1;
  const answer = await ask(
    first.url,
    {
      headers: { [AS_HEADER]: first.personId, "content-type": "application/json" },
      body: JSON.stringify({
        ...(form > 1 ? { form } : {}),
        sentAt: new Date().toISOString(),
        events: batch.map((e) => e.body),
      }),
    },
    ANSWER_WITHIN_MS,
  );
  if (answer.is === "signed out") return "signed out";
  if (answer.is === "no answer") return "stop";
  const parsed = sentEventsSchema.safeParse(answer.body);
  if (!parsed.success) {
    // The request as a whole was not taken: one of them is why, and is found by sending them one by one.
    if (batch.length > 1) {
      round.oneByOne.add(runId);
      return "on";
    }
    return failed(round, first, answer);
  }
  const taken = parsed.data.outcomes.filter((o) => o.outcome !== "refused").map((o) => o.id);
  // What is refused was refused because of what the run has come to: its screen is told as well.
  const so = round.runs.get(runId) ?? { entries: [], count: undefined };
  so.entries.push(...batch.filter((e) => taken.includes(e.id)));
  so.count = parsed.data.count;
  round.runs.set(runId, so);
  if (taken.length > 0) {
    round.kinds.add("run-event");
    await markSent(taken);
  }
  const answered = new Set(parsed.data.outcomes.map((o) => o.id));
  for (const { id } of batch) if (!answered.has(id)) round.passed.add(id);
  for (const { id, outcome, problem, code } of parsed.data.outcomes) {
    const entry = batch.find((e) => e.id === id);
    if (outcome !== "refused" || !entry) continue;
    const person = restsOn(round, entry);
    if (person !== undefined) {
      round.passed.add(id);
      holdFor(id, person);
    } else if (entry.body.body.type === "planned")
      // Nobody made it by hand: the run is planned again from what the server has.
      await dropEntry(id);
    else await refuseEntry(id, { why: problem ?? "no reason given", ...(code ? { code } : {}) });
  }
  return "on";
};

const sendAll = async (who: Who): Promise<Sent> => {
  const round: Round = {
    who,
    kinds: new Set(),
    runs: new Map(),
    passed: new Set(),
    oneByOne: new Set(),
  };
  let step: Step = "on";
  for (;;) {
    const next = pendingNow().find((e) => isMine(who, e) && !round.passed.has(e.id) && !e.saving);
    if (!next || step !== "on") break;
    step = next.kind === "run-event" ? await postRun(round, next) : await postThing(round, next);
  }
  return {
    kinds: round.kinds,
    runs: round.runs,
    reached: step === "on",
    signedOut: step === "signed out",
  };
};

const NOTHING_SENT: Sent = { kinds: new Set(), runs: new Map(), reached: true, signedOut: false };
let sending: Promise<Sent> | undefined;

/** Sends what waits of one person; one sending at a time, in all tabs of this device. */
export const sendOutbox = (who: Who): Promise<Sent> =>
  (sending ??= (async () => {
    await loadOutbox();
    const { locks } = navigator as { locks?: LockManager };
    if (!locks) return sendAll(who);
    return locks.request("upper-shed-sender", { ifAvailable: true }, (lock) =>
      lock ? sendAll(who) : NOTHING_SENT,
    );
  })().finally(() => {
    sending = undefined;
  }));
