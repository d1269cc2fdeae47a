import "fake-indexeddb/auto";
import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import {
  type AskedBody,
  type NewRunEvent,
  replayRun,
  type RunEvent,
  rowsOf,
  type RunState,
  type Step,
  summarize,
} from "@uppershed/core/procedure";
import { buildNetwork } from "@uppershed/core/watermap";
import { RunDevice } from "@uppershed/core/testing";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { deviceDb } from "../device/db.ts";
import { loadOutbox, pendingNow, putEntries } from "../device/outbox.ts";
import { nowHere } from "../device/seen.ts";
import { useSender } from "../sending/use-sender.ts";
import { emptyDevice, json, OTHER, problem, runNote } from "../testing/device.ts";
import { inHouse, mapOf, ME, RUN_ID, runOf, SETUP } from "../testing/house.tsx";
import { useRun } from "./use-run.ts";

const map = mapOf("plover");
const network = buildNetwork(map);

/** A server that folds as the real one does, whose line can be cut. */
const makeServer = () => {
  const server = {
    cut: false,
    signedOut: false,
    kept: [] as RunEvent[],
    posts: 0,
    /** Answers to what the run is are held up, as it was when it was asked for. */
    slow: undefined as { asked: number; go: Promise<void> } | undefined,
  };
  const post = (sent: NewRunEvent[]): Response => {
    const outcomes = sent.map((one) => {
      if (server.kept.some((e) => e.id === one.id)) return { id: one.id, outcome: "already kept" };
      const tried = replayRun({
        network,
        setup: SETUP,
        events: [...server.kept, { ...one, by: ME.person }],
      });
      const why = tried.whole ? undefined : tried.astray.find((a) => a.entry.id === one.id);
      if (why) return { id: one.id, outcome: "refused", code: why.code, problem: why.problem };
      server.kept.push({ ...one, by: ME.person });
      return { id: one.id, outcome: "kept" };
    });
    return json(200, { outcomes, count: server.kept.length, summary: runOf(map).summary });
  };
  vi.stubGlobal("fetch", (input: string | Request, init?: RequestInit): Promise<Response> => {
    if (server.cut) return Promise.reject(new TypeError("no line"));
    const url = typeof input === "string" ? input : input.url;
    if (init?.method === "POST") {
      server.posts += 1;
      if (server.signedOut) return Promise.resolve(problem(401, "Sign in first.", "not-signed-in"));
      return Promise.resolve(
        post((JSON.parse(init.body as string) as { events: NewRunEvent[] }).events),
      );
    }
    if (url.endsWith(`/api/runs/${RUN_ID}`)) {
      const asAsked = runOf(map, [...server.kept]);
      if (!server.slow) return Promise.resolve(json(200, asAsked));
      server.slow.asked += 1;
      return server.slow.go.then(() => json(200, { ...asAsked, unitNameNow: "Asked before" }));
    }
    if (url.endsWith("/api/me"))
      return Promise.resolve(
        server.signedOut ? problem(401, "Sign in first.", "not-signed-in") : json(200, ME),
      );
    return Promise.resolve(problem(404, "nothing", "not-found"));
  });
  return server;
};

let server: ReturnType<typeof makeServer>;
beforeEach(async () => {
  server = makeServer();
  await emptyDevice();
  await nowHere({ personId: ME.person.id, workshopId: ME.workshop.id });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

/** The sheet open under the shell, which sends; or on a device whose shell does not send now. */
const open = async (sends = true) => {
  /** What the sheet has said of its entries, at every painting of it. */
  const said: { waiting: number; saving: number; unsaved: number }[] = [];
  const hook = renderHook(
    () => {
      const run = useRun(RUN_ID);
      if (run.live) said.push(run.live);
      return { sender: sends ? useSender() : undefined, ...run };
    },
    { wrapper: await inHouse() },
  );
  await waitFor(() => expect(hook.result.current.live).toBeDefined());
  const add = async (body: AskedBody): Promise<string | undefined> => {
    let no: string | undefined;
    await act(async () => {
      no = await hook.result.current.live?.add(body);
    });
    return no;
  };
  /** Written down as found, and planned. */
  const begin = async (lineup: Record<string, string> = {}): Promise<void> => {
    expect(await add({ type: "as-found", lineup })).toBeUndefined();
    await waitFor(() => expect(hook.result.current.live?.state.phase).toBe("steps"));
  };
  /** Does the step in hand as asked, and signs it. */
  const sign = async (): Promise<void> => {
    const step = hook.result.current.live?.state.todo[0];
    if (!step) throw new Error("nothing to do");
    const done = new RunDevice(network, SETUP);
    done.state = hook.result.current.live?.state ?? done.state;
    for (const ask of step.asks)
      if (ask.required)
        await add({
          type: "reading",
          stepId: step.id,
          ask: ask.key,
          si: ask.expected ?? 20,
          typed: "20",
        });
    for (const [i, action] of step.actions.entries()) {
      const row = `${i}:${action.type}`;
      const no = await add({ type: "row-ticked", stepId: step.id, row, done: true });
      if (no && !no.includes("no such row")) throw new Error(no);
    }
    expect(await add({ type: "step-signed", stepId: step.id })).toBeUndefined();
  };
  return { hook, add, begin, sign, said, live: () => hook.result.current.live };
};
const types = (): string[] => server.kept.map((e) => e.body.type);
const stored = async (): Promise<number> => (await deviceDb()).count("outbox");

describe("a run on a device", () => {
  it("shows at once what was done with the plan that it calls for, and has both kept by the server", async () => {
    const { begin, live } = await open();
    await begin();
    expect(live()?.state.phase).toBe("steps");
    await waitFor(() => expect(types()).toEqual(["as-found", "planned"]));
    await waitFor(() => expect(live()?.waiting).toBe(0));
    expect(live()?.state.phase).toBe("steps");
    expect(await stored()).toBe(0);
  });

  it("refuses what cannot be before it goes anywhere, in words", async () => {
    const { add, begin, live } = await open();
    expect(await add({ type: "step-signed", stepId: "drain:heater" })).toContain(
      "how the valves were found first",
    );
    await begin();
    expect(
      await add({
        type: "reading",
        stepId: "drain:heater",
        ask: "recovered:heater",
        si: 0.09,
        typed: "90 L",
      }),
    ).toBe("It holds only 15.0 L.");
    await waitFor(() => expect(live()?.waiting).toBe(0));
    expect(types()).toEqual(["as-found", "planned"]);
  });

  it("goes on without a signal, says so, and sends everything once when it is back", async () => {
    const { hook, add, begin, live } = await open();
    server.cut = true;
    await begin();
    await add({ type: "note", text: "rain" });
    await waitFor(() => expect(live()).toMatchObject({ waiting: 3, saving: 0 }));
    await waitFor(() => expect(hook.result.current.sender?.reached).toBe(false));
    expect(live()?.state.notes).toHaveLength(1);
    server.cut = false;
    act(() => void window.dispatchEvent(new Event("online")));
    await waitFor(() => expect(live()).toMatchObject({ waiting: 0 }));
    expect(types()).toEqual(["as-found", "planned", "note"]);
    expect(live()?.astray).toEqual([]);
  });

  it("keeps what it did since, when an answer comes that was asked for before", async () => {
    const { add, begin, live } = await open();
    await begin();
    await waitFor(() => expect(live()?.waiting).toBe(0));
    let go = (): void => undefined;
    const slow = { asked: 0, go: new Promise<void>((resolve) => (go = resolve)) };
    server.slow = slow;
    const other = new BroadcastChannel("upper-shed-outbox");
    // oxlint-disable-next-line unicorn/require-post-message-target-origin
    other.postMessage({ sent: [{ id: "of another tab", kind: "run-event", runId: RUN_ID }] });
    await waitFor(() => expect(slow.asked).toBe(1));
    await add({ type: "note", text: "rain" });
    await waitFor(() => expect(types()).toEqual(["as-found", "planned", "note"]));
    await waitFor(() => expect(live()?.waiting).toBe(0));
    server.slow = undefined;
    act(() => go());
    await waitFor(() => expect(live()?.run.unitNameNow).toBe("Asked before"));
    expect(live()?.run.events.map((e) => e.body.type)).toEqual(["as-found", "planned", "note"]);
    expect(live()?.state.notes).toHaveLength(1);
    other.close();
  });

  it("does two things for a key pressed twice while what went before is still on its way", async () => {
    const { hook, begin, sign, live } = await open();
    await begin();
    const inHand = (): Step => live()?.state.todo[0] as Step;
    while (rowsOf(inHand()).length < 2) await sign();
    const step = inHand();
    const tick = (so: RunState): AskedBody | undefined => {
      const row = rowsOf(step).find((r) => !so.ticked.includes(r.key));
      return row && { type: "row-ticked", stepId: step.id, row: row.key, done: true };
    };
    let no: string | undefined;
    await act(async () => {
      const now = hook.result.current.live;
      // Refused, and only when the engine beside the screen has been asked.
      [no] = await Promise.all([
        now?.add({ type: "step-signed", stepId: step.id }),
        now?.addNext(tick),
        now?.addNext(tick),
      ]);
    });
    expect(no).toBeDefined();
    expect(live()?.state.ticked).toHaveLength(2);
    await waitFor(() => expect(live()).toMatchObject({ waiting: 0, saving: 0 }));
  });

  it("opened again without a signal shows the run that it has seen, with its own entries", async () => {
    const first = await open();
    server.cut = true;
    await first.begin({ v1: "b" });
    await waitFor(async () => expect(await stored()).toBe(2));
    first.hook.unmount();
    const again = await open();
    expect(again.live()?.state.asFound?.lineup["v1"]).toBe("b");
    expect(again.live()).toMatchObject({ waiting: 2, state: { phase: "steps" } });
  });

  it("is never called saved before this device's store has it", async () => {
    const { begin, said, live } = await open(false);
    vi.spyOn(IDBObjectStore.prototype, "put").mockImplementation(() => {
      throw new DOMException("no room", "QuotaExceededError");
    });
    await begin();
    await waitFor(() => expect(live()).toMatchObject({ saving: 0, unsaved: 2 }));
    expect(said.filter((s) => s.waiting > 0 && s.saving + s.unsaved < s.waiting)).toEqual([]);
    expect(said.some((s) => s.saving > 0)).toBe(true);
    // The work goes on all the same.
    expect(live()?.state.phase).toBe("steps");
  });

  it("keeps what the server did not take with its reason, and shows the run as the server has it", async () => {
    const { begin, live } = await open();
    // Somebody else has written the lineup and signed a step meanwhile.
    const theirs = new RunDevice(network, SETUP, 500);
    theirs.do({ type: "as-found", lineup: {} });
    theirs.doStep();
    server.kept.push(...theirs.events);
    await begin({ v1: "b" });
    await waitFor(() => expect(live()?.refused).toHaveLength(1));
    expect(live()?.refused[0]).toMatchObject({
      what: expect.stringContaining("the lineup as found"),
      refused: { why: expect.stringMatching(/^Work has begun/u) },
    });
    await waitFor(() => expect(live()?.state.done).toHaveLength(1));
    // The plan that belonged to it was nobody's work, and goes.
    await waitFor(() => expect(pendingNow()).toHaveLength(1));
    expect(await stored()).toBe(1);
  });

  it("a plan that never came is made by whoever opens the run", async () => {
    const theirs = new RunDevice(network, SETUP, 500);
    theirs.do({ type: "as-found", lineup: {} });
    server.kept.push(...theirs.events.filter((e) => e.body.type === "as-found"));
    const { live } = await open();
    await waitFor(() => expect(live()?.state.phase).toBe("steps"));
    await waitFor(() => expect(types()).toEqual(["as-found", "planned"]));
  });

  it("does not send one person's entries under another's name, and says whom they wait for", async () => {
    await putEntries([runNote("mine", OTHER)]);
    const { live } = await open();
    await waitFor(() => expect(live()?.heldFor).toBe("T. Brookes"));
    expect(server.posts).toBe(0);
    expect(live()?.state.notes.map((n) => n.text)).toEqual(["mine"]);
  });

  it("keeps entries when the session has ended", async () => {
    const { begin } = await open();
    server.signedOut = true;
    await begin();
    await waitFor(() => expect(server.posts).toBeGreaterThan(0));
    await waitFor(async () => expect(await stored()).toBe(2));
  });

  it("with the clock set back and a new start loses no signed step", async () => {
    const { hook, begin, sign, live } = await open();
    await begin();
    server.cut = true;
    await sign();
    await sign();
    vi.spyOn(Date.prototype, "toISOString").mockReturnValue("2025-01-01T00:00:00.000Z");
    await sign();
    await sign();
    vi.restoreAllMocks();
    await waitFor(() => expect(live()?.saving).toBe(0));
    hook.unmount();
    await loadOutbox();
    server.cut = false;
    const again = await open();
    await waitFor(() => expect(again.live()).toMatchObject({ waiting: 0 }));
    expect(types().filter((t) => t === "step-signed")).toHaveLength(4);
    expect(again.live()?.state.done).toHaveLength(4);
    expect(summarize(again.live()?.state as never).stepsDone).toBe(4);
  });
});
