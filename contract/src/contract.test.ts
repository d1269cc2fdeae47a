import { describe, expect, it } from "vitest";
import {
  newRunSchema,
  newVisitSchema,
  problemSchema,
  sendEventsSchema,
  signInSchema,
} from "./index.ts";

const id = "00000000-0000-4000-8000-000000000001";
const setup = {
  method: "antifreeze",
  winterLowC: -18,
  marginC: 5,
  basis: "by-part",
  product: { name: "Antifreeze", strength: 0.5, jugM3: 0.005 },
  trapDoseM3: 0.0005,
};
const run = { id, unitId: id, visitId: null, mapRevision: 1, setup };
const said = (result: { success: boolean; error?: { issues: { message: string }[] } }): string =>
  result.error?.issues.map((i) => i.message).join("; ") ?? "";

describe("what travels to the server", () => {
  it("a run's setup is taken within the tables, and refused outside them in words", () => {
    expect(newRunSchema.safeParse(run).success).toBe(true);
    const withSetup = (more: object) =>
      newRunSchema.safeParse({ ...run, setup: { ...setup, ...more } });
    expect(said(withSetup({ winterLowC: -60 }))).toContain("no antifreeze table reaches");
    expect(said(withSetup({ winterLowC: 4 }))).toContain("at or below freezing");
    expect(said(withSetup({ product: { name: "x", strength: 0.9, jugM3: 0.005 } }))).toContain(
      "the tables end at 60 %",
    );
    expect(withSetup({ method: "hope" }).success).toBe(false);
    expect(newRunSchema.safeParse({ ...run, mapRevision: 0 }).success).toBe(false);
  });

  it("events come in a batch that is neither empty nor endless, each with a sound id and time", () => {
    const event = {
      id,
      seq: 1,
      at: "2025-10-14T08:00:00.000Z",
      body: { type: "note", text: "rain" },
    };
    const send = (events: unknown[]) => sendEventsSchema.safeParse({ events }).success;
    expect(send([event])).toBe(true);
    expect(send([])).toBe(false);
    expect(send(Array.from({ length: 501 }, () => event))).toBe(false);
    expect(send([{ ...event, id: "1" }])).toBe(false);
    expect(send([{ ...event, at: "yesterday" }])).toBe(false);
    expect(send([{ ...event, seq: 0 }])).toBe(false);
    expect(send([{ ...event, body: { type: "note", text: "" } }])).toBe(false);
    expect(send([{ ...event, by: "somebody else" }])).toBe(false);
  });

  it("a visit may leave out bay and words, but not what is asked for", () => {
    const visit = {
      id,
      unitId: id,
      startsAt: "2026-11-02T09:00:00Z",
      minutes: 90,
      asked: "Winterize",
    };
    expect(newVisitSchema.parse(visit)).toMatchObject({ bay: "", ownerSaid: "" });
    expect(newVisitSchema.safeParse({ ...visit, asked: " " }).success).toBe(false);
  });

  it("a sign-in is a name and a password, and says which is missing", () => {
    expect(said(signInSchema.safeParse({ name: "", password: "" }))).toBe(
      "give your sign-in name; give your password",
    );
  });

  it("every refusal has a code and a message", () => {
    expect(
      problemSchema.safeParse({ error: { code: "conflict", message: "Taken." } }).success,
    ).toBe(true);
    expect(problemSchema.safeParse({ error: {} }).success).toBe(false);
  });
});
