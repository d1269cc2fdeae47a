import { newRunEventSchema } from "@uppershed/core/procedure";
import { describe, expect, it } from "vitest";
import { noteEntry, runNote } from "../testing/device.ts";
import { BODY_SCHEMAS, type NewEntry, type OutboxEntry } from "./entry.ts";
import { asNote, correctable } from "./mend-entry.ts";

const refused = (entry: NewEntry, why = "At most 2,000 letters."): OutboxEntry => ({
  ...entry,
  order: 4,
  refused: { why },
});
const corrected = (entry: OutboxEntry, words: string): NewEntry => {
  const made = correctable(entry)?.as(words, "metric");
  if (!made || "problem" in made) throw new Error(made?.problem ?? "not correctable");
  return made.entry;
};

describe("an entry that was not taken", () => {
  it("is sent with other words as a new one, in the run that it belongs to", () => {
    const old = refused(runNote("x".repeat(2001)));
    const next = corrected(old, " shorter ");
    expect(next).toMatchObject({
      kind: "run-event",
      runId: old.runId,
      body: { body: { type: "note", text: "shorter" } },
    });
    expect(next.id).not.toBe(old.id);
    expect(next.body).toMatchObject({ id: next.id });
    expect(next).not.toHaveProperty("refused");
    expect(newRunEventSchema.safeParse(next.body).success).toBe(true);
  });

  it("a reading is read again in its unit, and what is no figure is said", () => {
    const note = runNote("");
    const reading = refused({
      ...note,
      body: {
        ...note.body,
        body: { type: "reading", stepId: "s", ask: "recovered:heater", si: 0.09, typed: "90 L" },
      },
    });
    expect(corrected(reading, "9 L").body).toMatchObject({
      body: { si: expect.closeTo(0.009, 9), typed: "9 L" },
    });
    expect(correctable(reading)?.as("some", "metric")).toHaveProperty("problem");
  });

  it("a finding gets an address of its own, so that the one that was refused is not found in its place", () => {
    const base = noteEntry("");
    const old = refused({
      ...base,
      kind: "finding",
      url: `/units/${base.unitId}/findings/${base.id}`,
      body: {
        id: base.id,
        at: base.at,
        visitId: null,
        mapRevision: 1,
        body: { type: "found", what: "weeps", severity: "wears" },
      },
    });
    const next = corrected(old, "weeps at the union");
    expect(next.url).toBe(`/units/${base.unitId}/findings/${next.id}`);
    expect(BODY_SCHEMAS.finding.safeParse(next.body).success).toBe(true);
  });

  it.each(["e\u0301", "👩‍🔧", "🛁", "a"])(
    "kept as a note is whole letters of %s, and never longer than a note may be",
    (letter) => {
      const note = asNote(refused({ ...noteEntry(""), what: letter.repeat(1500) }));
      const text = note?.kind === "note" ? note.body.text : "";
      expect(text.length).toBeGreaterThan(1000);
      expect(BODY_SCHEMAS.note.safeParse(note?.body).success).toBe(true);
      expect(text.isWellFormed()).toBe(true);
    },
  );

  it("of a run it becomes a note of the run", () => {
    expect(asNote(refused(runNote("words")))).toMatchObject({
      kind: "run-event",
      body: { body: { type: "note", text: expect.stringContaining("At most 2,000 letters.") } },
    });
  });
});
