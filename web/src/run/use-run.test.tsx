import "fake-indexeddb/auto";
import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import { applyEvent, buildNetwork, type NewRunEvent, type RunEvent, startRun } from "@uppershed/core";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { inHouse, mapOf, ME, RUN_ID, runOf, SETUP } from "../testing/house.tsx";
import { putAside, takeOut, waitingFor } from "./outbox.ts";
import { useRun } from "./use-run.ts";
import { uuid } from "../device/uuid.ts";

/** A server that folds as the real one does, whose line can be cut. */
const makeServer = () => {
  const map = mapOf("plover");
  const network = buildNetwork(map);
  const server = { cut: false, signedOut: false, kept: [] as RunEvent[], posts: 0 };
  const reply = (status: number, body: unknown) =>
    new Response(JSON.stringify(body), { status, headers: { "content-type": "application/json" } });
  const post = (sent: NewRunEvent[]): Response => {
    let state = startRun(network, SETUP);
    for (const event of server.kept) {
      const applied = applyEvent(state, event);
      if (applied.ok) state = applied.state;
    }
    const outcomes: object[] = [];
    for (const one of sent) {
      const event = { ...one, by: ME.person };
      const applied = applyEvent(state, event);
      if (!applied.ok) {
        outcomes.push({ id: one.id, outcome: "refused", code: applied.code, problem: applied.problem });
        break;
      }
      if (!server.kept.some((e) => e.id === one.id)) server.kept.push(event);
      state = applied.state;
      outcomes.push({ id: one.id, outcome: "kept" });
    }
    return reply(outcomes.some((o) => "code" in o) ? 409 : 200, { outcomes, summary: runOf(map).summary });
  };
  vi.stubGlobal("fetch", (input: string | Request, init?: RequestInit): Promise<Response> => {
    if (server.cut) return Promise.reject(new TypeError("no line"));
    const url = typeof input === "string" ? input : input.url;
    if (init?.method === "POST") {
      server.posts += 1;
      if (server.signedOut) return Promise.resolve(reply(401, { error: { code: "not-signed-in", message: "Sign in first." } }));
      return Promise.resolve(post((JSON.parse(init.body as string) as { events: NewRunEvent[] }).events));
    }
    if (url.endsWith(`/api/runs/${RUN_ID}`)) return Promise.resolve(reply(200, runOf(map, server.kept)));
    if (url.endsWith("/api/me")) return Promise.resolve(reply(200, ME));
    return Promise.resolve(reply(404, { error: { code: "not-found", message: "nothing" } }));
  });
  return server;
};

let server: ReturnType<typeof makeServer>;
beforeEach(async () => {
  server = makeServer();
  await takeOut((await waitingFor(RUN_ID)).map((e) => e.id));
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const open = async () => {
  const hook = renderHook(() => useRun(RUN_ID), { wrapper: await inHouse() });
  await waitFor(() => expect(hook.result.current.live).toBeDefined());
  const add = (body: RunEvent["body"]): string | undefined => {
    let no: string | undefined;
    act(() => {
      no = hook.result.current.live?.add(body);
    });
    return no;
  };
  return { hook, add, live: () => hook.result.current.live };
};

describe("a run on a device", () => {
  it("shows at once what was done, and has it kept by the server", async () => {
    const { add, live } = await open();
    expect(add({ type: "as-found", lineup: {} })).toBeUndefined();
    expect(live()?.state.phase).toBe("steps");
    await waitFor(() => expect(server.kept).toHaveLength(1));
    await waitFor(() => expect(live()?.waiting).toBe(0));
    expect(await waitingFor(RUN_ID)).toEqual([]);
  });

  it("refuses what cannot be before it goes anywhere, in words", async () => {
    const { add, live } = await open();
    expect(add({ type: "step-signed", stepId: "drain:heater" })).toContain("how the valves were found first");
    add({ type: "as-found", lineup: {} });
    expect(add({ type: "reading", stepId: "drain:heater", ask: "recovered:heater", si: 0.09, typed: "90 L" })).toBe(
      "It holds only 15.0 L.",
    );
    await waitFor(() => expect(live()?.waiting).toBe(0));
    expect(server.kept.map((e) => e.body.type)).toEqual(["as-found"]);
  });

  it("goes on without a signal, says so, and sends everything once when it is back", async () => {
    const { add, live } = await open();
    server.cut = true;
    add({ type: "as-found", lineup: {} });
    add({ type: "note", text: "rain" });
    await waitFor(() => expect(live()).toMatchObject({ waiting: 2, reached: false }));
    expect(live()?.state.notes).toHaveLength(1);
    server.cut = false;
    act(() => void window.dispatchEvent(new Event("online")));
    await waitFor(() => expect(live()).toMatchObject({ waiting: 0, reached: true }));
    expect(server.kept.map((e) => e.body.type)).toEqual(["as-found", "note"]);
  });

  it("opened again without a signal shows the run that it has seen, with its own entries", async () => {
    const first = await open();
    server.cut = true;
    first.add({ type: "as-found", lineup: { v1: "b" } });
    await waitFor(async () => expect(await waitingFor(RUN_ID)).toHaveLength(1));
    first.hook.unmount();
    const again = await open();
    expect(again.live()?.state.asFound?.lineup["v1"]).toBe("b");
    expect(again.live()?.waiting).toBe(1);
  });

  it("tells what the server did not take, and shows the run as the server has it", async () => {
    const { add, live } = await open();
    // Somebody else has written the lineup and signed a step meanwhile.
    const by = { id: uuid(), name: "O. Marchbank", role: "lead" };
    const theirs = (body: RunEvent["body"], seq: number): RunEvent => ({ id: uuid(), seq, at: new Date().toISOString(), body, by });
    server.kept.push(
      theirs({ type: "as-found", lineup: {} }, 1),
      theirs({ type: "row-ticked", stepId: "secure:heater:off", row: "0:confirm", done: true }, 2),
      theirs({ type: "step-signed", stepId: "secure:heater:off" }, 3),
    );
    add({ type: "as-found", lineup: { v1: "b" } });
    await waitFor(() => expect(live()?.refused).toHaveLength(1));
    expect(live()?.refused[0]).toMatch(/^the lineup as found: Work has begun/u);
    await waitFor(() => expect(live()?.state.done).toHaveLength(1));
    expect(await waitingFor(RUN_ID)).toEqual([]);
  });

  it("does not send one person's entries under another's name", async () => {
    const event: RunEvent = {
      id: uuid(),
      seq: 1,
      at: new Date().toISOString(),
      body: { type: "note", text: "mine" },
      by: { id: uuid(), name: "T. Brookes", role: "apprentice" },
    };
    await putAside(RUN_ID, event);
    const { live } = await open();
    await waitFor(() => expect(live()?.heldFor).toBe("T. Brookes"));
    expect(server.posts).toBe(0);
    expect(live()?.state.notes.map((n) => n.text)).toEqual(["mine"]);
  });

  it("keeps entries when the session has ended", async () => {
    const { add } = await open();
    server.signedOut = true;
    add({ type: "as-found", lineup: {} });
    await waitFor(() => expect(server.posts).toBe(1));
    expect(await waitingFor(RUN_ID)).toHaveLength(1);
  });
});
