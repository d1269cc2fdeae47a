import "fake-indexeddb/auto";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { emptyDevice, json, noteEntry, OTHER, problem, runNote } from "../testing/device.ts";
import { ME } from "../testing/house.tsx";
import { forgetMemory, loadOutbox, pendingNow, putEntries } from "./outbox.ts";
import { type Sent, sendOutbox } from "./sender.ts";

const WHO = { personId: ME.person.id, workshopId: ME.workshop.id };
interface SentEvent {
  readonly id: string;
  readonly body: { readonly type: string; readonly text?: string };
}

/** A server that keeps what it is sent, but for what a test says. */
const serve = (
  own: (
    url: string,
    body: { events?: SentEvent[]; text?: string },
  ) => Response | Promise<Response> | undefined,
) => {
  const kept: string[] = [];
  const posts: string[] = [];
  vi.stubGlobal("fetch", async (url: string, init: RequestInit): Promise<Response> => {
    const body = JSON.parse(init.body as string) as {
      events?: SentEvent[];
      id?: string;
      text?: string;
    };
    posts.push(url);
    const said = await own(url, body);
    if (said) return said;
    if (!body.events) {
      if (!kept.includes(body.text ?? "")) kept.push(body.text ?? "");
      return json(201, {});
    }
    const outcomes = body.events.map((e) => {
      const again = kept.includes(e.body.text ?? "");
      if (!again) kept.push(e.body.text ?? "");
      return { id: e.id, outcome: again ? "already kept" : "kept" };
    });
    return json(200, { outcomes, count: kept.length, summary: SUMMARY });
  });
  return { kept, posts };
};
const SUMMARY = {
  phase: "steps",
  stepTitle: null,
  stepsDone: 0,
  stepsInAll: 1,
  holdsToC: 0,
  weakestPart: null,
  cannotTell: [],
  waterInLinesM3: 0,
  antifreezeUsedM3: 0,
  clocks: [],
};
const left = (): string[] => pendingNow().map((e) => e.what);

beforeEach(emptyDevice);
afterEach(() => {
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

describe("the sender", () => {
  it("sends in the order in which things were made, a run's entries together, and lets go of what was taken", async () => {
    const { kept, posts } = serve(() => undefined);
    await putEntries([runNote("a"), runNote("b")]);
    await putEntries([noteEntry("c")]);
    await putEntries([runNote("d")]);
    const sent = await sendOutbox(WHO);
    expect(kept).toEqual(["a", "b", "d", "c"]);
    expect(posts).toHaveLength(2);
    expect(sent).toMatchObject({ reached: true, signedOut: false });
    expect([...sent.kinds].toSorted()).toEqual(["note", "run-event"]);
    expect(left()).toEqual([]);
  });

  it("sends two things made in one breath in their order, on a device that has counted far before this page was opened", async () => {
    const { kept } = serve(() => undefined);
    for (let i = 0; i < 40; i++) await putEntries([noteEntry(`before ${i}`)]);
    await sendOutbox(WHO);
    kept.length = 0;
    forgetMemory();
    await loadOutbox();
    const first = putEntries([runNote("as left")]);
    const second = putEntries([runNote("signature")]);
    await first;
    await sendOutbox(WHO);
    await second;
    await sendOutbox(WHO);
    expect(kept).toEqual(["as left", "signature"]);
    expect(left()).toEqual([]);
  });

  it("keeps everything where there is no line, and sends it once when there is", async () => {
    let cut = true;
    const { kept } = serve(() => (cut ? Promise.reject(new TypeError("no line")) : undefined));
    await putEntries([runNote("a"), noteEntry("b")]);
    expect(await sendOutbox(WHO)).toMatchObject({ reached: false });
    expect(left()).toHaveLength(2);
    cut = false;
    await sendOutbox(WHO);
    expect(kept).toEqual(["a", "b"]);
  });

  it("an answer that is lost on the way doubles nothing", async () => {
    let lose = true;
    const { kept } = serve((_url, body) => {
      if (!lose) return undefined;
      lose = false;
      // The server has kept it, and the line breaks before its answer.
      kept.push(...(body.events ?? []).map((e) => e.body.text ?? ""));
      throw new TypeError("line cut");
    });
    await putEntries([runNote("a"), runNote("b")]);
    await sendOutbox(WHO);
    expect(left()).toHaveLength(2);
    await sendOutbox(WHO);
    expect(kept).toEqual(["a", "b"]);
    expect(left()).toEqual([]);
  });

  it("sets the one entry aside that can never be taken, with its reason; the others go on", async () => {
    const { kept } = serve((_url, body) =>
      body.events?.some((e) => e.body.text === "poison") || body.text === "poison"
        ? problem(400, "events.1.body.text: at most 2,000 letters")
        : undefined,
    );
    await putEntries([
      runNote("a"),
      runNote("poison"),
      runNote("c"),
      noteEntry("poison"),
      noteEntry("d"),
    ]);
    await sendOutbox(WHO);
    expect(kept).toEqual(["a", "c", "d"]);
    expect(pendingNow()).toMatchObject([
      { kind: "run-event", refused: { why: expect.stringContaining("2,000 letters") } },
      { kind: "note", refused: { why: expect.stringContaining("2,000 letters") } },
    ]);
    // It is not sent again by itself.
    await sendOutbox(WHO);
    expect(pendingNow()).toHaveLength(2);
  });

  it("keeps an entry that the run does not take, with the reason of the server", async () => {
    serve((_url, body) =>
      body.events
        ? json(200, {
            outcomes: body.events.map((e) => ({
              id: e.id,
              outcome: "refused",
              code: "already-signed",
              problem: "This step is signed already.",
            })),
            count: 9,
            summary: SUMMARY,
          })
        : undefined,
    );
    await putEntries([runNote("a")]);
    await sendOutbox(WHO);
    expect(pendingNow()).toMatchObject([
      { refused: { why: "This step is signed already.", code: "already-signed" } },
    ]);
  });

  it("gives a server that fails on one entry its chances, then sets it aside and goes on", async () => {
    const { kept } = serve((_url, body) =>
      body.text === "bad" ? problem(500, "It failed.", "internal") : undefined,
    );
    await putEntries([noteEntry("bad"), noteEntry("good")]);
    await sendOutbox(WHO);
    expect(kept).toEqual(["good"]);
    expect(pendingNow()[0]?.refused).toBeUndefined();
    for (let i = 0; i < 3; i++) await sendOutbox(WHO);
    expect(pendingNow()).toMatchObject([{ what: "note: bad", refused: { code: "failed" } }]);
  });

  it("does not count a busy server, a proxy or a restart against an entry", async () => {
    let busy = true;
    const { kept } = serve(() => (busy ? problem(503, "Busy.") : undefined));
    await putEntries([noteEntry("a")]);
    for (let i = 0; i < 6; i++) expect((await sendOutbox(WHO)).reached).toBe(false);
    busy = false;
    await sendOutbox(WHO);
    expect(kept).toEqual(["a"]);
  });

  it("a session that has ended keeps everything and says so", async () => {
    serve(() => problem(401, "Sign in first.", "not-signed-in"));
    await putEntries([runNote("a"), noteEntry("b")]);
    const sent: Sent = await sendOutbox(WHO);
    expect(sent).toMatchObject({ signedOut: true });
    expect(left()).toHaveLength(2);
  });

  it("sends nobody's entries under another's name, and does not let one's queue hold back the other's", async () => {
    const { kept } = serve(() => undefined);
    await putEntries([runNote("theirs", OTHER), runNote("mine")]);
    await sendOutbox(WHO);
    expect(kept).toEqual(["mine"]);
    expect(left()).toEqual(["note “theirs”"]);
  });

  it("an entry that rests on somebody else's unsent ones waits for them and is not called refused", async () => {
    serve((_url, body) => {
      const outcomes = (body.events ?? []).map((e) => ({
        id: e.id,
        outcome: "refused",
        code: "out-of-order",
        problem: "First: the other step.",
      }));
      return json(200, { outcomes, count: 0, summary: SUMMARY });
    });
    await putEntries([runNote("theirs", OTHER), runNote("mine")]);
    await sendOutbox(WHO);
    expect(pendingNow()[1]).toMatchObject({ waitsFor: OTHER.name });
    expect(pendingNow()[1]?.refused).toBeUndefined();
  });

  it("a request that is never answered lets go in time", async () => {
    const timeout = vi
      .spyOn(AbortSignal, "timeout")
      .mockImplementation(() => AbortSignal.abort(new DOMException("late", "TimeoutError")));
    vi.stubGlobal(
      "fetch",
      (_url: string, init: RequestInit) =>
        new Promise((_, fail) => {
          if (init.signal?.aborted) fail(init.signal.reason as Error);
        }),
    );
    await putEntries([noteEntry("a")]);
    expect(await sendOutbox(WHO)).toMatchObject({ reached: false });
    expect(timeout).toHaveBeenCalledWith(30_000);
    expect(left()).toHaveLength(1);
  });

  it("two tabs do not send at the same time", async () => {
    const { posts } = serve(() => undefined);
    vi.stubGlobal("navigator", {
      locks: {
        request: (_name: string, _how: unknown, work: (lock: unknown) => unknown) =>
          Promise.resolve(work(null)),
      },
    });
    await putEntries([noteEntry("a")]);
    await sendOutbox(WHO);
    // The other tab has the lock and sends.
    expect(posts).toEqual([]);
    expect(left()).toHaveLength(1);
  });

  it("what another workshop's person made is left alone", async () => {
    const { kept } = serve(() => undefined);
    await putEntries([
      { ...noteEntry("elsewhere"), workshopId: "00000000-0000-4000-8000-0000000000ab" },
      noteEntry("here"),
    ]);
    await sendOutbox(WHO);
    expect(kept).toEqual(["here"]);
  });
});
