import "fake-indexeddb/auto";
import type { Me, ProcedureRun } from "@uppershed/contract";
import { type AskedBody, enter, type RunEvent, rowsOf, startRun } from "@uppershed/core/procedure";
import { buildNetwork, readWaterMap } from "@uppershed/core/watermap";
import { randomUUID } from "node:crypto";
import { setTimeout as sleep } from "node:timers/promises";
import type { NewEntry } from "../../web/src/device/entry.ts";
import { loadOutbox, pendingNow, putEntries } from "../../web/src/device/outbox.ts";
import { sendOutbox } from "../../web/src/device/sender.ts";
import { chance } from "./random.ts";

/**
 * One device of a technician at a unit, as a process of its own: the application's own outbox and sender over a store in memory. It makes
 * entries of every kind, faster than anybody works, and sends them whenever it can; it is told to stop, sends the rest, and says what it
 * made, in its order.
 */

interface Orders {
  readonly url: string;
  readonly cookie: string;
  readonly me: Me;
  readonly unitId: string;
  readonly runId: string;
  /** A run in which every device writes. */
  readonly sharedRunId: string;
  readonly seed: number;
}

export interface Made {
  readonly kind: string;
  readonly id: string;
  readonly runId: string | null;
}

const orders = JSON.parse(process.env["ORDERS"] ?? "") as Orders;
const { url, cookie, me, unitId, runId, sharedRunId } = orders;
const { next, below } = chance(orders.seed);

// The application asks its own server; here that has an address.
const plain = globalThis.fetch;
globalThis.fetch = (address, init) =>
  plain(`${url}${address as string}`, {
    ...init,
    headers: { ...(init?.headers as object), cookie },
  });

// One tab: there are no locks to be had, and none are needed.
if (typeof navigator === "undefined") Object.assign(globalThis, { navigator: {} });

const made: Made[] = [];
const put = async (
  entry: Omit<NewEntry, "workshopId" | "personId" | "personName" | "unitId" | "at" | "what">,
): Promise<void> => {
  const at = new Date().toISOString();
  made.push({ kind: entry.kind, id: entry.id, runId: entry.runId ?? null });
  const whose = {
    workshopId: me.workshop.id,
    personId: me.person.id,
    personName: me.person.name,
    role: me.person.role,
  };
  await putEntries([{ ...entry, ...whose, unitId, at, what: entry.kind } as NewEntry]);
};

const event = (id: string, of: string, body: unknown, rest: object = {}): Promise<void> =>
  put({
    id,
    kind: "run-event",
    runId: of,
    url: `/runs/${of}/events`,
    form: 2,
    body: { id, seq: 1, at: new Date().toISOString(), body, ...rest },
  } as never);

let partId = "";
const thing = async (): Promise<void> => {
  const [id, at] = [randomUUID(), new Date().toISOString()];
  switch (below(5)) {
    case 0:
      return put({
        id,
        kind: "note",
        url: `/units/${unitId}/notes`,
        body: { id, text: `note ${made.length}` },
      } as never);
    case 1: {
      const look = {
        id,
        key: `${partId}/mounts-firm`,
        partId,
        pointId: "mounts-firm",
        point: "Mounts firm",
        mark: "good",
        at,
      };
      return put({
        id,
        kind: "looks",
        url: `/units/${unitId}/looks`,
        body: { looks: [look] },
      } as never);
    }
    case 2: {
      const reading = {
        id,
        spot: "supply",
        kind: "still",
        label: "Still",
        dimension: "pressure",
        value: 3e5,
        typed: "3 bar",
        at,
      };
      return put({
        id,
        kind: "reading",
        url: `/units/${unitId}/readings`,
        body: { readings: [reading] },
      } as never);
    }
    case 3: {
      const body = { type: "found", what: `found ${made.length}`, severity: "wears", partId };
      return put({
        id,
        kind: "finding",
        url: `/units/${unitId}/findings/${id}`,
        body: { id, at, mapRevision: 1, body },
      } as never);
    }
    default:
      return event(id, sharedRunId, { type: "note", text: `shared ${made.length}` });
  }
};

/** Entries of a whole winterizing, one after another, with the plans that they call for. */
const work = async (): Promise<() => Promise<boolean>> => {
  let reply: Response | undefined;
  while (!reply?.ok) {
    reply = await globalThis.fetch(`/api/runs/${runId}`).catch(() => undefined);
    if (!reply?.ok) await sleep(200);
  }
  const run = (await reply.json()) as ProcedureRun;
  const map = readWaterMap(run.map);
  if (!map.ok) throw new Error("the map is not sound");
  partId = map.map.parts[0]?.id ?? "";
  let state = startRun(buildNetwork(map.map), run.setup, run.begins ?? undefined);
  const enterNow = async (body: AskedBody): Promise<void> => {
    const entered = enter(state, body, (of, said) => ({
      id: randomUUID(),
      seq: state.events.length + 1,
      at: new Date().toISOString(),
      body: of,
      by: me.person,
      ...(said ? { said } : {}),
    }));
    if (!entered.ok) throw new Error(entered.problem);
    state = entered.state;
    for (const { by: _by, id, body: of, ...rest } of entered.events as RunEvent[])
      await event(id, runId, of, rest);
  };
  return async () => {
    if (!state.asFound) {
      await enterNow({ type: "as-found", lineup: {} });
      return true;
    }
    const step = state.todo[0];
    if (!step) return false;
    const ask = step.asks.find(
      (a) => a.required && !state.readings.some((r) => r.stepId === step.id && r.ask === a.key),
    );
    const row = rowsOf(step).find((r) => !state.ticked.includes(r.key));
    if (ask)
      await enterNow({
        type: "reading",
        stepId: step.id,
        ask: ask.key,
        si: ask.expected ?? 20,
        typed: "as expected",
      });
    else if (row) await enterNow({ type: "row-ticked", stepId: step.id, row: row.key, done: true });
    else await enterNow({ type: "step-signed", stepId: step.id });
    return true;
  };
};

const told = { stop: false };
process.on("message", () => {
  told.stop = true;
});
const who = { personId: me.person.id, workshopId: me.workshop.id };
const SEND_EVERY_MS = 150;
const LAST_S = 180;

await loadOutbox();
const sending = (async () => {
  while (!told.stop) {
    await sendOutbox(who);
    await sleep(SEND_EVERY_MS);
  }
})();
const doNext = await work();
let more = true;
while (!told.stop) {
  if (more && next() < 0.6) more = await doNext();
  else await thing();
  await sleep(100 + below(500));
}
await sending;
for (let i = 0; i < LAST_S && pendingNow().some((e) => e.refused === undefined); i++) {
  await sendOutbox(who);
  await sleep(1000);
}
const refused = pendingNow().flatMap((e) =>
  e.refused ? [{ what: e.url, why: e.refused.why }] : [],
);
const waiting = pendingNow().filter((e) => e.refused === undefined).length;
process.send?.({ made, refused, waiting }, () => process.exit(0));
