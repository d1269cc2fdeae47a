import { deviceDb } from "../device/db.ts";
import type { EntryOf, NewEntry } from "../device/entry.ts";
import { forgetMemory } from "../device/outbox.ts";
import { uuid } from "../device/uuid.ts";
import { ME, RUN_ID } from "./house.tsx";

/** A device for tests: what is put aside on it, and what a server says to it. */

export const OTHER = {
  id: "00000000-0000-4000-8000-000000000002",
  name: "T. Brookes",
  role: "apprentice",
};
const UNIT_ID = "00000000-0000-4000-8000-0000000000cc";

interface Maker {
  readonly id: string;
  readonly name: string;
  readonly role: string;
}

export const noteEntry = (text: string, by: Maker = ME.person): NewEntry => {
  const id = uuid();
  return {
    id,
    kind: "note",
    workshopId: ME.workshop.id,
    personId: by.id,
    personName: by.name,
    unitId: UNIT_ID,
    url: `/units/${UNIT_ID}/notes`,
    body: { id, text },
    what: `note: ${text}`,
    at: "2026-11-02T09:00:00.000Z",
  };
};

export const runNote = (
  text: string,
  by: Maker = ME.person,
  at = "2026-11-02T09:00:00.000Z",
): Omit<EntryOf<"run-event">, "order"> => {
  const id = uuid();
  return {
    id,
    kind: "run-event",
    workshopId: ME.workshop.id,
    personId: by.id,
    personName: by.name,
    role: by.role,
    unitId: UNIT_ID,
    runId: RUN_ID,
    url: `/runs/${RUN_ID}/events`,
    body: { id, seq: 1, at, body: { type: "note", text } },
    what: `note “${text}”`,
    at,
    form: 2,
  };
};

/** As after a new start of the page on a device that keeps nothing. */
export const emptyDevice = async (): Promise<void> => {
  const db = await deviceDb();
  for (const store of ["outbox", "seen", "meta"] as const) await db.clear(store);
  localStorage.clear();
  forgetMemory();
};

export const json = (status: number, body: unknown): Response =>
  new Response(JSON.stringify(body), { status, headers: { "content-type": "application/json" } });

export const problem = (status: number, message: string, code = "bad-request"): Response =>
  json(status, { error: { code, message } });
