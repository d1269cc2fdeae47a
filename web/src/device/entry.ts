import type {
  InUse,
  NewFindingEntry,
  NewLook,
  NewNote,
  NewPicture,
  NewReading,
  NewSnapshot,
  NewSpringLook,
  NewTestEntry,
} from "@uppershed/contract";
import {
  inUseSchema,
  newFindingEntrySchema as findingSchema,
  newLooksSchema,
  newNoteSchema,
  newPictureSchema,
  newReadingsSchema,
  newSnapshotSchema,
  newSpringLookSchema,
  newTestEntrySchema,
} from "@uppershed/contract";
import { type NewRunEvent, newRunEventSchema } from "@uppershed/core/procedure";
import { z } from "zod";

/** What waits on this device for the server: each thing that a person made, with its body as the contract has it. */

export interface OutboxBodies {
  readonly "run-event": NewRunEvent;
  readonly looks: { readonly looks: readonly NewLook[] };
  readonly finding: NewFindingEntry;
  readonly picture: NewPicture & { readonly width: number; readonly height: number };
  readonly snapshot: NewSnapshot;
  readonly reading: { readonly readings: readonly NewReading[] };
  readonly spring: NewSpringLook;
  readonly "in-use": InUse;
  readonly note: NewNote;
  readonly test: NewTestEntry;
}

export type OutboxKind = keyof OutboxBodies;

/** The contract's schema of each kind; a picture goes as bytes, and what is said of it stands in its address. */
export const BODY_SCHEMAS: { readonly [K in OutboxKind]: z.ZodType } = {
  "run-event": newRunEventSchema,
  looks: newLooksSchema,
  finding: findingSchema,
  picture: newPictureSchema.extend({ width: z.number(), height: z.number() }),
  snapshot: newSnapshotSchema,
  reading: newReadingsSchema,
  spring: newSpringLookSchema,
  "in-use": inUseSchema,
  note: newNoteSchema,
  test: newTestEntrySchema,
};

export interface Refusal {
  readonly why: string;
  readonly code?: string;
}

interface Common {
  /** Id of what is sent: the same thing is put aside once. */
  readonly id: string;
  /** The device's own count: what was made later has a higher one, whatever the clock says. */
  readonly order: number;
  /** Whose workshop it is made in; empty where an earlier version put it aside. */
  readonly workshopId: string;
  readonly personId: string;
  readonly personName: string;
  /** Their role as they made it. */
  readonly role?: string;
  readonly unitId: string;
  /** Run that it belongs to. */
  readonly runId?: string;
  /** Finding that it speaks of. */
  readonly findingId?: string;
  /** Pressure test that it belongs to. */
  readonly testId?: string;
  /** Address below /api. */
  readonly url: string;
  /** Bytes instead of a body. */
  readonly bytes?: ArrayBuffer;
  readonly type?: string;
  /** In words, so that what is refused can be written down again by hand. */
  readonly what: string;
  readonly at: string;
  /** Form of run entries: from 2 on plans are entries and every entry says what the unit holds. */
  readonly form?: number;
  /** How often the server failed on it, on it alone. */
  readonly failures?: number;
  /** Why the server did not take it; it stays until a person has decided what becomes of it. */
  readonly refused?: Refusal;
}

export type OutboxEntry = {
  [K in OutboxKind]: Common & { readonly kind: K; readonly body: OutboxBodies[K] };
}[OutboxKind];
export type EntryOf<K extends OutboxKind> = Extract<OutboxEntry, { kind: K }>;

type WithoutOrder<E> = E extends OutboxEntry ? Omit<E, "order" | "refused" | "failures"> : never;
/** An entry before it has its place. */
export type NewEntry = WithoutOrder<OutboxEntry>;
