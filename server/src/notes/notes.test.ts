import type { Note } from "@uppershed/contract";
import { eq } from "drizzle-orm";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { notes } from "../schema/index.ts";
import { openTestServer, type TestServer, type TestWorkshop } from "../testing/bench.ts";

let server: TestServer;
let home: TestWorkshop;
let me: Awaited<ReturnType<TestWorkshop["as"]>>;
beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
  me = await home.as("technician");
});
afterAll(() => server.close());

const TRIED = {
  mapRevision: 1,
  start: "in use",
  lineup: { v7: "open" },
  actions: [
    { do: "turn", control: "galley:hot", to: "open" },
    { do: "wait", seconds: 60 },
  ],
};
const keep = (more: object) => keepAs({ id: randomUUID(), ...more });
const keepAs = (payload: object) =>
  me({ method: "POST", url: `/api/units/${home.unitId}/notes`, payload });
const list = async (): Promise<Note[]> =>
  (await me({ url: `/api/units/${home.unitId}/notes` })).json<{ notes: Note[] }>().notes;

describe("notes on a unit", () => {
  it("are kept with who and when, newest first, and carry what was tried", async () => {
    const first = await keep({ text: "Key hangs in the galley." });
    expect(first.statusCode).toBe(201);
    expect(first.json<Note>()).toMatchObject({
      text: "Key hangs in the galley.",
      by: "T. Ech",
      tried: null,
    });
    const second = (await keep({ text: "Lukewarm with V7 open", tried: TRIED })).json<Note>();
    expect(second.tried).toEqual(TRIED);
    expect((await list()).map((n) => n.id)).toEqual([second.id, first.json<Note>().id]);
  });

  it("say where a sequence is kept that this version cannot read", async () => {
    const { id } = (await keep({ text: "Of a later day", tried: TRIED })).json<Note>();
    await server.database.db
      .update(notes)
      .set({ tried: { ...TRIED, actions: [{ do: "sing" }] } as never })
      .where(eq(notes.id, id));
    const note = (await list()).find((n) => n.id === id);
    expect(note).toMatchObject({
      text: "Of a later day",
      tried: null,
      triedUnread: expect.stringContaining("cannot read it"),
    });
    expect((await list()).filter((n) => n.id !== id).some((n) => n.triedUnread !== undefined)).toBe(
      false,
    );
  });

  it("touch nothing of the unit's record", async () => {
    const before = (await me({ url: `/api/units/${home.unitId}` })).json<unknown>();
    await keep({ text: "Tried", tried: TRIED });
    expect((await me({ url: `/api/units/${home.unitId}` })).json<unknown>()).toEqual(before);
    expect(
      (await me({ url: `/api/units/${home.unitId}/runs` })).json<{ runs: unknown[] }>().runs,
    ).toEqual([]);
  });

  it.each([
    ["nothing in it", { text: "  " }, 400],
    [
      "an action that is not known",
      { text: "x", tried: { ...TRIED, actions: [{ do: "sing" }] } },
      400,
    ],
    [
      "a thousand actions",
      {
        text: "x",
        tried: { ...TRIED, actions: Array.from({ length: 1000 }, () => TRIED.actions[1]) },
      },
      400,
    ],
    ["a field that is not known", { text: "x", colour: "red" }, 400],
    ["a revision that there is not", { text: "x", tried: { ...TRIED, mapRevision: 99 } }, 404],
  ])("with %s are refused, and nothing is kept", async (_, payload, status) => {
    const before = await list();
    expect((await keep(payload)).statusCode).toBe(status);
    expect(await list()).toEqual(before);
  });

  it("of another workshop's unit are neither read nor written", async () => {
    const away = await server.workshop("away");
    expect((await me({ url: `/api/units/${away.unitId}/notes` })).statusCode).toBe(404);
    expect(
      (
        await me({
          method: "POST",
          url: `/api/units/${away.unitId}/notes`,
          payload: { id: randomUUID(), text: "x" },
        })
      ).statusCode,
    ).toBe(404);
    expect((await me({ url: `/api/units/${randomUUID()}/notes` })).statusCode).toBe(404);
  });
});
