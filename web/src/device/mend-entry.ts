import { type NewRunEvent } from "@uppershed/core/procedure";
import {
  type Dimension,
  parseQuantity,
  type UnitSystem,
  wholeLetters,
} from "@uppershed/core/quantity";
import type { NewEntry, OutboxEntry } from "./entry.ts";
import { uuid } from "./uuid.ts";

/** What can become of an entry that the server did not take: said otherwise and sent anew, or kept as a note. */

export interface Correctable {
  /** What is asked for: "The note", "What was read". */
  readonly label: string;
  readonly words: string;
  /** Longest that is taken. */
  readonly most: number;
  readonly long: boolean;
  /** The entry with other words, as a new one; or what is wrong with them. */
  readonly as: (
    words: string,
    system: UnitSystem,
  ) => { readonly entry: NewEntry } | { readonly problem: string };
}

/** The entry without its place and without what became of it, under an id of its own. */
const anew = <E extends OutboxEntry>(entry: E): { entry: E; id: string } => {
  const { order: _order, refused: _refused, failures: _failures, ...rest } = entry;
  const id = uuid();
  return { entry: { ...rest, id } as unknown as E, id };
};

const READ_AS: readonly Dimension[] = ["fraction", "volume", "temperature", "pressure", "length"];

const readAgain = (
  before: string,
  words: string,
  system: UnitSystem,
): { si: number; typed: string } | { problem: string } => {
  const dimension = READ_AS.find((d) => parseQuantity(before, d, system).ok) ?? "volume";
  const read = parseQuantity(words, dimension, system);
  return read.ok ? { si: read.quantity.si, typed: words.trim() } : { problem: read.problem };
};

const ofRun = (entry: Extract<OutboxEntry, { kind: "run-event" }>): Correctable | undefined => {
  const { body } = entry.body;
  const made = (next: NewRunEvent["body"]): { entry: NewEntry } => {
    const fresh = anew(entry);
    // What the engine said belonged to the entry that was not taken; the server says it anew.
    const { said: _said, ...event } = entry.body;
    return { entry: { ...fresh.entry, body: { ...event, id: fresh.id, body: next } } };
  };
  if (body.type === "note" || body.type === "noticed")
    return {
      label: "The note",
      words: body.text,
      most: 2000,
      long: true,
      as: (text) => made({ ...body, text: text.trim() }),
    };
  if (body.type === "step-cannot")
    return {
      label: "Why it can't be done",
      words: body.reason,
      most: 2000,
      long: true,
      as: (reason) => made({ ...body, reason: reason.trim() }),
    };
  if (body.type === "reading" || body.type === "corrected")
    return {
      label: "What was read",
      words: body.typed,
      most: 60,
      long: false,
      as: (words, system) => {
        const read = readAgain(body.typed, words, system);
        return "problem" in read ? read : made({ ...body, ...read });
      },
    };
  return undefined;
};

/** How an entry can be said otherwise, or nothing where it has no words or figure to change. */
export const correctable = (entry: OutboxEntry): Correctable | undefined => {
  if (entry.kind === "run-event") return ofRun(entry);
  if (entry.kind === "looks") {
    const [look, ...more] = entry.body.looks;
    if (!look || more.length > 0) return undefined;
    return {
      label: "The note at this point",
      words: look.note ?? "",
      most: 1000,
      long: true,
      as: (note) => {
        const fresh = anew(entry);
        return {
          entry: {
            ...fresh.entry,
            body: { looks: [{ ...look, id: fresh.id, note: note.trim() }] },
          } as NewEntry,
        };
      },
    };
  }
  if (entry.kind === "finding" && entry.body.body.type === "found") {
    const { body } = entry.body;
    return {
      label: "What was found",
      words: body.what,
      most: 300,
      long: true,
      as: (what) => {
        const fresh = anew(entry);
        const url = `/units/${entry.unitId}/findings/${fresh.id}`;
        return {
          entry: {
            ...fresh.entry,
            findingId: fresh.id,
            url,
            body: { ...entry.body, id: fresh.id, body: { ...body, what: what.trim() } },
          } as NewEntry,
        };
      },
    };
  }
  if (entry.kind === "note")
    return {
      label: "The note",
      words: entry.body.text,
      most: 2000,
      long: true,
      as: (text) => {
        const fresh = anew(entry);
        return {
          entry: {
            ...fresh.entry,
            body: { ...entry.body, id: fresh.id, text: text.trim() },
          } as NewEntry,
        };
      },
    };
  return undefined;
};

const MOST_NOTE = 2000;

/** A note in place of an entry: what it was, and why it was not taken. Of a run it stands on the run's record, else on the unit. */
export const asNote = (entry: OutboxEntry): NewEntry | undefined => {
  const text = wholeLetters(
    `Not taken by the server: ${entry.what}. ${entry.refused?.why ?? ""}`,
    MOST_NOTE,
  );
  const { workshopId, personId, personName, unitId } = entry;
  const id = uuid();
  const common = { id, workshopId, personId, personName, unitId, what: text, at: entry.at };
  if (entry.runId !== undefined)
    return {
      ...common,
      kind: "run-event",
      runId: entry.runId,
      url: `/runs/${entry.runId}/events`,
      body: { id, seq: 1, at: entry.at, body: { type: "note", text } },
      form: 2,
    };
  return unitId === ""
    ? undefined
    : { ...common, kind: "note", url: `/units/${unitId}/notes`, body: { id, text } };
};
