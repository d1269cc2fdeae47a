import "fake-indexeddb/auto";
import type { RunEvent } from "@uppershed/core";
import { describe, expect, it } from "vitest";
import { putAside, takeOut, waitingFor } from "./outbox.ts";
import { uuid } from "./uuid.ts";

const event = (seq: number): RunEvent => ({
  id: uuid(),
  seq,
  at: new Date().toISOString(),
  body: { type: "note", text: `note ${seq}` },
  by: { id: uuid(), name: "R. Amadi", role: "technician" },
});

describe("the outbox", () => {
  it("keeps entries in the order in which they were made, by run, until they are taken out", async () => {
    const [first, second, other] = [event(1), event(2), event(1)];
    await putAside("run a", first);
    await putAside("run a", second);
    await putAside("run b", other);
    expect((await waitingFor("run a")).map((e) => e.id)).toEqual([first.id, second.id]);
    await putAside("run a", second);
    expect(await waitingFor("run a")).toHaveLength(2);
    await takeOut([first.id]);
    expect((await waitingFor("run a")).map((e) => e.id)).toEqual([second.id]);
    expect(await waitingFor("run b")).toHaveLength(1);
  });
});

describe("entries made in one moment", () => {
  it("go out in the order in which they were made", async () => {
    const made = Array.from({ length: 40 }, (_, i) => event(i + 1));
    await Promise.all(made.map((e) => putAside("run c", e)));
    expect((await waitingFor("run c")).map((e) => e.seq)).toEqual(made.map((e) => e.seq));
  });
});

describe("ids", () => {
  it("are random version 4 ids, also where the page is not served securely", () => {
    const own = Object.getOwnPropertyDescriptor(crypto, "randomUUID");
    Object.defineProperty(crypto, "randomUUID", { value: undefined, configurable: true });
    const ids = Array.from({ length: 50 }, uuid);
    if (own) Object.defineProperty(crypto, "randomUUID", own);
    expect(new Set(ids).size).toBe(50);
    for (const id of ids) expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/u);
  });
});
